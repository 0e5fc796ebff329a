import type { Term } from './glossary.ts';

/** How a term is said in a sentence, where that is not its name in the glossary. */
const SAID: Partial<Record<Term, string>> = {
  keys: 'keys|winged seeds?',
  opposite: 'opposite',
  alternate: 'alternate',
  hungUp: 'hung[- ]up',
  includedBark: '(?:tight )?forks? with (?:included bark|bark grown in)',
  conk: 'conks?',
  girdled: 'girdled?|girdling',
  rootPlate: 'root plates?',
  basalArea: 'basal area',
  cropTree: 'crop trees?',
  dropLine: 'drop lines?',
  qmd: 'quadratic mean diameter',
  liveCrown: 'live crown',
  windthrow: 'windthrow'
};

/** Terms that may be told in any sentence: their words mean nothing else there. */
const TELLING = Object.keys(SAID) as Term[];
const ANY = new RegExp(`\\b(?:${TELLING.map((term) => `(${SAID[term]})`).join('|')})\\b`, 'gi');

/** A stretch of a sentence; `term` where it names something that the glossary explains. */
export interface Told {
  readonly text: string;
  readonly term: Term | null;
}

/** A sentence cut at the terms of the trade in it, each at its first mention. Joined again it is the sentence. */
export function told(sentence: string): Told[] {
  const parts: Told[] = [];
  const said = new Set<Term>();
  let from = 0;
  for (const match of sentence.matchAll(ANY)) {
    const term = TELLING[match.slice(1).findIndex((group) => group !== undefined)]!;
    if (said.has(term)) continue;
    said.add(term);
    if (match.index > from) parts.push({ text: sentence.slice(from, match.index), term: null });
    parts.push({ text: match[0], term });
    from = match.index + match[0].length;
  }
  if (from < sentence.length) parts.push({ text: sentence.slice(from), term: null });
  return parts;
}
