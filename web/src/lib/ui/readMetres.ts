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

/** Ways along an axis: the one that counts up, and the one that counts down. */
const WAYS = {
  east: [/\s*(?<![a-z])(?:e|east)\.?$/i, /\s*(?<![a-z])(?:w|west)\.?$/i],
  north: [/\s*(?<![a-z])(?:n|north)\.?$/i, /\s*(?<![a-z])(?:s|south)\.?$/i]
} as const;

/**
 * Metres from the bush's origin along an axis, negative to the west or south of it: `-12.5`, `12.5 m west`, `40 ft S`. Null and
 * sentences as in `readMetres`.
 */
export function readCoordinate(text: string, axis: 'east' | 'north'): number | null | string {
  const [, minus, rest] = /^\s*([-−–]?)(.*?)\s*$/s.exec(text)!;
  const [up, down] = WAYS[axis];
  const metres = readMetres(rest!.replace(up, '').replace(down, ''));
  const back = (minus !== '') !== down.test(rest!);
  return typeof metres === 'number' && back && metres !== 0 ? -metres : metres;
}
