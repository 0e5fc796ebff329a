import { parseTrunkLength, UnreadableLength, type LengthUnit } from '@baumkin/core/units';

import { preferences } from '$lib/client/preferences.svelte.ts';

/** Unit of a bare number typed for a distance on the ground. */
export const groundUnit = (): LengthUnit => (preferences.units === 'metric' ? 'm' : 'ft');

/** A distance on the ground as somebody wrote it, metres; null where nothing is written, a sentence where it is none. */
export function readMetres(text: string): number | null | string {
  if (text.trim() === '') return null;
  try {
    return parseTrunkLength(text, groundUnit()).valueMm / 1000;
  } catch (error) {
    if (error instanceof UnreadableLength) return error.message;
    throw error;
  }
}
