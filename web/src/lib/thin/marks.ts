import type { Mark } from '@baumkin/core/records';

import { saved } from '$lib/client/saved.ts';
import type { BushState } from '$lib/client/bush.svelte.ts';

import { MARK_SAID } from '../labels/thinning.ts';

/** Marks each of these trees; one toast takes them all back. @param despite decided although something spoke against it */
export async function markTrees(
  bush: BushState,
  ids: readonly string[],
  purpose: Mark['purpose'],
  { reasonOf = () => '', despite }: { readonly reasonOf?: (id: string) => string; readonly despite?: true } = {}
): Promise<void> {
  const records = await bush.recordAll(
    ids.map((id) => ({
      treeId: id,
      draft: {
        kind: 'mark' as const,
        purpose,
        reason: reasonOf(id).slice(0, 500),
        reviewOn: null,
        leanDeg: bush.byId.get(id)?.leanDeg ?? null,
        ...(despite ? { despite } : {})
      }
    }))
  );
  const said = MARK_SAID[purpose].toLowerCase();
  saved(bush, ids.length === 1 ? `Tree ${bush.tagOf(ids[0]!)}: ${said}.` : `${ids.length} trees: ${said}.`, ...records);
}
