import {
  fractionalYear,
  questionReading,
  type MeasureMethod,
  type NeighbourReading,
  type ReadingQuestion
} from '@baumkin/core/measure';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { besideOnWalk } from '$lib/client/rows.ts';

/** What is to be asked of a new reading of a tree, among its earlier ones, its neighbours on the walk and the bush; null where nothing is. */
export function askedOf(
  bush: BushState,
  treeId: string,
  { dbhMm, method }: { readonly dbhMm: number; readonly method: MeasureMethod }
): ReadingQuestion | null {
  const row = bush.byId.get(treeId)!;
  const neighbours = besideOnWalk(bush.byId.values(), treeId).flatMap((r): NeighbourReading[] =>
    r.lastReading && !r.cut ? [{ tag: r.tag, last: r.lastReading }] : []
  );
  return questionReading({ year: fractionalYear(bush.today), dbhMm, method }, row.lastReading, neighbours, {
    sizes: bush.expects.sizes ?? null,
    tapped: row.tapped
  });
}
