import { effectiveRecords } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';

/** How many holes of each season had their shavings looked at, and in how many these were brown. */
export async function shavingsBySeason(bush: BushState): Promise<Map<number, { seen: number; brown: number }>> {
  const sums = new Map<number, { seen: number; brown: number }>();
  for await (const { records } of bush.lives()) {
    const held = effectiveRecords(records);
    const seasonOf = new Map(
      held.flatMap((record) => (record.kind === 'taphole' ? [[record.id, record.season] as const] : []))
    );
    for (const record of held) {
      if (record.kind !== 'shavings' || record.seen === 'dry') continue;
      const season = seasonOf.get(record.tapholeId);
      if (season === undefined) continue;
      const sum = sums.get(season) ?? { seen: 0, brown: 0 };
      sums.set(season, { seen: sum.seen + 1, brown: sum.brown + (record.seen === 'pale' ? 0 : 1) });
    }
  }
  return sums;
}
