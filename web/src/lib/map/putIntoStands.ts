import type { TreeRow } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { lineDraft, type Draft } from '$lib/client/recordDraft.ts';

/**
 * Gives trees another stand, or none: each gets an entry in the place of its last.
 * @returns puts them back
 * @throws UserFacingError where not all of the bush is on this device
 */
export async function putIntoStands(
  bush: BushState,
  moves: readonly { readonly row: TreeRow; readonly standId: string | null }[]
): Promise<() => Promise<unknown>> {
  const to = new Map(moves.map(({ row, standId }) => [row.id, standId]));
  const drafts: { treeId: string; draft: Draft }[] = [];
  for await (const { tree, records } of bush.lives(moves.map(({ row }) => row)))
    drafts.push({
      treeId: tree.id,
      draft: { ...lineDraft(tree, bush.stateFrom(records).entry), standId: to.get(tree.id) ?? null }
    });
  await bush.recordAll(drafts);
  const before = moves.map(({ row }) => ({ row, standId: row.standId }));
  return () => putIntoStands(bush, before);
}
