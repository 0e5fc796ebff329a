import type { BarkSpot } from '@baumkin/core/geometry';
import type { Shavings } from '@baumkin/core/records';

/** What a letter says of the shavings; null where nobody looked. */
const SEEN: Readonly<Record<string, Shavings['seen'] | null>> = {
  p: 'pale',
  t: 'partly',
  b: 'brown',
  d: 'dry',
  n: null
};

/** A hole as a card says it. */
export interface CardHole {
  /** where it was drilled; null where it is as planned */
  readonly at: BarkSpot | null;
  readonly seen: Shavings['seen'] | null;
}

/** What a line typed from a card says. */
export interface ReadCard {
  /** the tag that it begins with; null for the card that is next */
  readonly tag: string | null;
  /** hole by hole in the order of the card; null for one that was not drilled */
  readonly holes: readonly (CardHole | null)[];
}

const TOKEN = /^(?:e(\d{1,3})\/(\d{1,3}(?:\.\d)?)([ptbdn])|([ptbdn-]))\s*/;

/**
 * Reads a line that was typed from a card: a tag where the card is not the next one, then a letter a hole: p pale, t partly brown,
 * b brown, d dry, n not looked, - not drilled; e205/118p for one that was drilled elsewhere, by bearing and height, pale.
 * @param heightUnitMm what a height is typed in, mm
 * @param isTag is there such a tree on the round? Tags of letters are told from shavings by it
 * @returns what it says, or a sentence about what cannot be read
 */
export function readCard(
  text: string,
  { heightUnitMm, isTag }: { readonly heightUnitMm: number; readonly isTag: (tag: string) => boolean }
): ReadCard | string {
  const [first = '', ...more] = text.trim().split(/\s+/);
  const tagged = isTag(first) && (more.length > 0 || !/^[ptbdn-]+$/i.test(first));
  if (!tagged && /^\d/.test(first)) return `There is no card of tree ${first} left in this round.`;
  let rest = (tagged ? more.join(' ') : text.trim()).toLowerCase();
  const holes: (CardHole | null)[] = [];
  while (rest !== '') {
    const found = TOKEN.exec(rest);
    if (!found) return `“${rest.slice(0, 12)}” is none of p, t, b, d, n, - or e with bearing/height.`;
    const [all, bearing, height, seenThere, letter] = found;
    if (letter === '-') holes.push(null);
    else if (letter !== undefined) holes.push({ at: null, seen: SEEN[letter]! });
    else {
      if (Number(bearing) > 360) return `A bearing runs from 0 to 360, and ${bearing} does not.`;
      const at = { bearingDeg: Number(bearing) % 360, heightMm: Math.round(Number(height) * heightUnitMm) };
      holes.push({ at, seen: SEEN[seenThere!]! });
    }
    rest = rest.slice(all.length);
  }
  return { tag: tagged ? first : null, holes };
}
