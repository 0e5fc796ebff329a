import { thinningsDone, type LivedTree, type ThinningDone } from '@baumkin/core/bush';
import { effectiveRecords, type WorkRecord } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';

/** What all lives of a bush tell of its years. */
export interface YearsTold {
  /** by season: holes whose shavings were looked at, and those in which they were brown */
  readonly shavings: ReadonlyMap<number, { readonly seen: number; readonly brown: number }>;
  readonly thinnings: readonly ThinningDone[];
}

/** What of a life tells whether a thinning worked. */
const TELLING: readonly WorkRecord['kind'][] = ['reading', 'cut', 'closing', 'taphole'];

/**
 * Goes through all trees once.
 * @throws UserFacingError where not all of it is on this device
 */
export async function goThroughYears(bush: BushState): Promise<YearsTold> {
  const shavings = new Map<number, { seen: number; brown: number }>();
  const trees: LivedTree[] = [];
  for await (const { tree, records } of bush.lives()) {
    const held = effectiveRecords(records);
    const seasonOf = new Map(
      held.flatMap((record) => (record.kind === 'taphole' ? [[record.id, record.season] as const] : []))
    );
    for (const record of held) {
      if (record.kind !== 'shavings' || record.seen === 'dry') continue;
      const season = seasonOf.get(record.tapholeId);
      if (season === undefined) continue;
      const sum = shavings.get(season) ?? { seen: 0, brown: 0 };
      shavings.set(season, { seen: sum.seen + 1, brown: sum.brown + (record.seen === 'pale' ? 0 : 1) });
    }
    trees.push({ tree, records: held.filter(({ kind }) => TELLING.includes(kind)) });
  }
  return { shavings, thinnings: thinningsDone(trees, bush.today) };
}
