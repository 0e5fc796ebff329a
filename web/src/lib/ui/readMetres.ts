import { parseLength, UnreadableLength, type LengthUnit } from '@baumkin/core/units';

import { preferences } from '$lib/client/preferences.svelte.ts';

/** Unit of a bare number typed for a distance on the ground. */
export const groundUnit = (): LengthUnit => (preferences.units === 'metric' ? 'm' : 'ft');

/** A distance on the ground as somebody wrote it, metres; null where nothing is written, a sentence where it is none. */
export function readMetres(text: string): number | null | string {
  if (text.trim() === '') return null;
  try {
    return parseLength(text, groundUnit()).valueMm / 1000;
  } catch (error) {
    if (error instanceof UnreadableLength) return error.message;
    throw error;
  }
}

/** Metres from the bush's origin, negative to the west or south of it; null and sentences as in `readMetres`. */
export function readCoordinate(text: string): number | null | string {
  const [, minus, size] = /^\s*([-−–]?)(.*)$/s.exec(text)!;
  const metres = readMetres(size!);
  return typeof metres === 'number' && minus !== '' ? -metres : metres;
}
