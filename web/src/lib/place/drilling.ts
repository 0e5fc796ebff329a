import { writtenSpot, type BarkSpot } from '@baumkin/core/geometry';
import type { Shavings, Taphole } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';
import type { Draft } from '$lib/client/recordDraft.ts';

/**
 * A hole of this season, as it is written down.
 * @param predictedClear chance of clear wood that was said before; null where nothing was
 * @param asNamed at a place that the bush's way of placing named; any other is placed by eye, whatever the bush goes by
 */
export function drilledHole(
  bush: BushState,
  { bearingDeg, heightMm }: BarkSpot,
  {
    depthMm,
    predictedClear,
    asNamed
  }: { readonly depthMm: number; readonly predictedClear: number | null; readonly asNamed: boolean }
): Extract<Draft, { kind: 'taphole' }> {
  const { bitMm, strategy } = bush.overview!.bush.settings;
  return {
    kind: 'taphole',
    season: bush.season,
    ...writtenSpot({ bearingDeg, heightMm }),
    bitMm,
    depthMm,
    predictedClear,
    strategy: asNamed ? strategy : null
  };
}

/** What came out of a hole, as one touch says it: where it is brown in part, half, until somebody says more. */
export function shavingsSeen(hole: Taphole, seen: Shavings['seen']): Extract<Draft, { kind: 'shavings' }> {
  return {
    kind: 'shavings',
    tapholeId: hole.id,
    seen,
    brownShare: seen === 'partly' ? 0.5 : null,
    brownFromMm: null,
    othersRan: null
  };
}
