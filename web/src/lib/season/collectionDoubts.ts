import type { PlaceNow } from '@baumkin/core/bush';
import type { CollectionRecord, SapKind, SapLook } from '@baumkin/core/records';
import { OTHER_SAP_FACTS } from '@baumkin/core/season';

import { preferences } from '$lib/client/preferences.svelte.ts';
import { hourWords, shortDay } from '$lib/labels/season.ts';

/** What sap has of sugar, per cent, and more than which was concentrated, or is none. Common practice. */
const SUGAR: Readonly<Record<SapKind, { readonly low: number; readonly high: number; readonly most: number }>> = {
  maple: { low: 1, high: 4, most: 6 },
  birch: { ...OTHER_SAP_FACTS.birch.brix, most: 2.5 },
  walnut: { ...OTHER_SAP_FACTS.walnut.brix, most: 5 }
};
/** So much more than its vessels hold may be in a place: they are filled to the brim. */
const TO_THE_BRIM = 1.1;

/** What somebody is about to write down of a place. */
export interface CollectionDraft {
  readonly on: string;
  readonly hour: number;
  readonly litres: number;
  readonly brix: number | null;
  readonly look: SapLook;
}

/** What has to be asked about a collection before it is written down, each in a sentence. None where nothing is odd. */
export function collectionDoubts(
  { place, holdsLitres, taps, last }: Pick<PlaceNow, 'place' | 'holdsLitres' | 'taps' | 'last'>,
  { on, hour, litres, brix, look }: CollectionDraft
): string[] {
  const doubts: string[] = [];
  if (litres > TO_THE_BRIM * holdsLitres)
    doubts.push(
      `${place.name} holds ${preferences.volume(holdsLitres)}, and ${preferences.volume(litres)} came out of it?`
    );
  if (taps === 0) doubts.push(`No hole that runs into ${place.name} is written down for this season.`);
  if (last && isBefore({ on, hour }, last))
    doubts.push(
      `${place.name} was emptied later than that already, on ${shortDay(last.on)} at ${hourWords(last.hour)}: is the hour right?`
    );
  const { low, high, most } = SUGAR[place.of];
  if (brix !== null && brix > most)
    doubts.push(
      `${brix} % is more sugar than ${place.of === 'maple' ? '' : `${place.of} `}sap has, which has ${low} to ${high}: is it that of a concentrate, or of syrup?`
    );
  if (look === 'yellow' || look === 'ropy')
    doubts.push('Yellow or ropy sap has turned: it is poured away, not boiled.');
  return doubts;
}

const isBefore = (draft: { on: string; hour: number }, last: Pick<CollectionRecord, 'on' | 'hour'>): boolean =>
  draft.on < last.on || (draft.on === last.on && draft.hour < last.hour);
