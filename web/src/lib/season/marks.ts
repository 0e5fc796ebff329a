import { collectionsOf } from '@baumkin/core/bush';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { preferences } from '$lib/client/preferences.svelte.ts';
import { counted } from '$lib/labels/counted.ts';

/** What was done on a day of the season: how much of it against the most, and in words. */
type Done = ReadonlyMap<string, { readonly share: number; readonly says: string }>;

function shared(amounts: ReadonlyMap<string, number>, says: (amount: number) => string): Done {
  const most = Math.max(...amounts.values(), 1e-9);
  return new Map([...amounts].map(([on, amount]) => [on, { share: amount / most, says: says(amount) }]));
}

function summed(pairs: Iterable<readonly [on: string, amount: number]>): Map<string, number> {
  const sums = new Map<string, number>();
  for (const [on, amount] of pairs) sums.set(on, (sums.get(on) ?? 0) + amount);
  return sums;
}

/** What the strip of a season marks below its ribbon. */
export function marksOf(bush: BushState, season: number): { row: string; days: Done }[] {
  const of = bush.bushRecords.filter(({ on }) => on.startsWith(String(season)));
  const drilled =
    season === bush.season
      ? bush.rows.flatMap((row) => (row.drilledOn ? [[row.drilledOn, row.drilled] as const] : []))
      : [];
  const collected = collectionsOf(bush.bushRecords, season).map(({ on, litres }) => [on, litres] as const);
  const boiled = of.flatMap((record) =>
    record.kind === 'batch' && record.syrupLitres ? [[record.on, record.syrupLitres] as const] : []
  );
  return [
    { row: 'drilled', days: shared(summed(drilled), (n) => `${counted(n, 'hole')} drilled`) },
    { row: 'collected', days: shared(summed(collected), (litres) => `${preferences.volume(litres)} collected`) },
    { row: 'boiled', days: shared(summed(boiled), (litres) => `${preferences.fewLitres(litres)} of syrup`) }
  ];
}
