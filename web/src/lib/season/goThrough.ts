import { thinningsDone, type LivedTree, type ThinningDone } from '@baumkin/core/bush';
import { effectiveRecords, otherSapOfTree, type WorkRecord } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';

/** Holes whose shavings were looked at, and those in which they were brown. */
export interface ShavingsSeen {
  readonly seen: number;
  readonly brown: number;
}
const NONE: ShavingsSeen = { seen: 0, brown: 0 };
const oneMore = ({ seen, brown }: ShavingsSeen, isBrown: boolean): ShavingsSeen => ({
  seen: seen + 1,
  brown: brown + (isBrown ? 1 : 0)
});

/** What all lives of a bush tell of its years. */
export interface YearsTold {
  /** by season: holes in maples whose shavings were looked at, and those in which they were brown, in all and by stand */
  readonly shavings: ReadonlyMap<number, ShavingsSeen & { readonly byStand: ReadonlyMap<string | null, ShavingsSeen> }>;
  readonly thinnings: readonly ThinningDone[];
}

/** What of a life tells whether a thinning worked. */
const TELLING: readonly WorkRecord['kind'][] = ['reading', 'cut', 'closing', 'taphole'];

/**
 * Goes through all trees once.
 * @throws UserFacingError where not all of it is on this device
 */
export async function goThroughYears(bush: BushState): Promise<YearsTold> {
  const shavings = new Map<number, ShavingsSeen & { byStand: Map<string | null, ShavingsSeen> }>();
  const trees: LivedTree[] = [];
  for await (const { tree, records } of bush.lives()) {
    const held = effectiveRecords(records);
    const seasonOf = new Map(
      held.flatMap((record) => (record.kind === 'taphole' ? [[record.id, record.season] as const] : []))
    );
    for (const record of held) {
      if (record.kind !== 'shavings' || record.seen === 'dry' || otherSapOfTree(tree) !== null) continue;
      const season = seasonOf.get(record.tapholeId);
      if (season === undefined) continue;
      const isBrown = record.seen !== 'pale';
      const sum = shavings.get(season) ?? { ...NONE, byStand: new Map<string | null, ShavingsSeen>() };
      sum.byStand.set(tree.standId, oneMore(sum.byStand.get(tree.standId) ?? NONE, isBrown));
      shavings.set(season, { ...oneMore(sum, isBrown), byStand: sum.byStand });
    }
    trees.push({ tree, records: held.filter(({ kind }) => TELLING.includes(kind)) });
  }
  return { shavings, thinnings: thinningsDone(trees, bush.today) };
}
