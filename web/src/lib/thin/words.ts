import type { Cut, Mark } from '@baumkin/core';
import type { KeptFor, LimitId, TakeReason } from '@baumkin/core/thinning';

export const MARK_SAID: Readonly<Record<Mark['purpose'], string>> = {
  take: 'Marked to take',
  girdle: 'Marked to girdle for wildlife',
  keep: 'Marked to keep',
  watch: 'Marked to watch',
  brace: 'Marked for a brace by a professional',
  none: 'Mark taken off'
};

export const CUT_WORDS: Readonly<Record<Cut['what'], string>> = {
  felled: 'felled',
  fallen: 'fell by itself',
  girdled: 'girdled, left to die standing',
  lying: 'lies, and is alive'
};

export const KEPT_WORDS: Readonly<Record<KeptFor, string>> = {
  home: 'something lives in it',
  lastOfKind: 'one of the last of its kind',
  seed: 'for seed',
  fibre: 'for fibre',
  handles: 'for handles',
  nuts: 'for nuts',
  story: 'for its story',
  other: 'for something else'
};

export const LIMIT_WORDS: Readonly<Record<LimitId, string>> = {
  share: 'the share of basal area that one entry may take',
  residual: 'how much is to stay standing',
  cover: 'the ground that stays under crowns',
  others: 'the share of other species that stays',
  opening: 'the width of openings',
  must: 'what has to go in any case'
};

/** Why a tree is among those taken, in a line. @param tagOf the tag of a crop tree */
export function reasonWords(reasons: readonly TakeReason[], tagOf: (id: string) => string): string {
  const freed = reasons.flatMap((r) => (r.why === 'frees' ? [`the ${r.side} side of ${tagOf(r.crop)}`] : []));
  return [
    ...(freed.length > 0 ? [`frees ${listed(freed)}`] : []),
    ...(reasons.some(({ why }) => why === 'dying') ? ['dying, or counted on to go'] : []),
    ...(reasons.some(({ why }) => why === 'must') ? ['to go in any case'] : [])
  ].join('; ');
}

/** a, b and c */
export function listed(words: readonly string[]): string {
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
}

/** When a tree is to be looked at again, in a sentence. @param today ISO date */
export function lookAgain(reviewOn: string | null, today: string): string {
  if (reviewOn === null) return 'No day is set to look again.';
  return reviewOn <= today ? `Look again now: it was due on ${reviewOn}.` : `Look again by ${reviewOn}.`;
}
