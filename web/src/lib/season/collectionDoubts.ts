import type { PlaceNow } from '@baumkin/core/bush';
import type { CollectionRecord, SapLook } from '@baumkin/core/records';

import { preferences } from '$lib/client/preferences.svelte.ts';
import { hourWords, shortDay } from '$lib/labels/season.ts';

/** Sap with more sugar than this was concentrated, or is none. Common practice: 1 to 4 per cent. */
const SWEETEST_SAP = 6;
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
  if (brix !== null && brix > SWEETEST_SAP)
    doubts.push(`${brix} % is more sugar than sap has, which has 1 to 4: is it that of a concentrate, or of syrup?`);
  if (look === 'yellow' || look === 'ropy')
    doubts.push('Yellow or ropy sap has turned: it is poured away, not boiled.');
  return doubts;
}

const isBefore = (draft: { on: string; hour: number }, last: Pick<CollectionRecord, 'on' | 'hour'>): boolean =>
  draft.on < last.on || (draft.on === last.on && draft.hour < last.hour);
