import { rotationToKeep, type TreePlacement } from '@baumkin/core/bush';
import type { PlacedRotation } from '@baumkin/core/rotation';

import type { BushState } from '$lib/client/bush.svelte.ts';

/**
 * Writes into the book what was planned, where it is anything new: whoever looks at the tree next, on whatever device or list, is
 * named the same holes. Whoever only looks on writes nothing.
 * @returns whether there was anything
 */
export function keepRotation(
  bush: BushState,
  treeId: string,
  { basis, task }: TreePlacement,
  answer: PlacedRotation
): boolean {
  const draft = bush.mayRecord ? rotationToKeep(basis, task.seed, answer) : null;
  if (draft) void bush.record(treeId, draft);
  return draft !== null;
}
