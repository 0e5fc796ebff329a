import { describe, expect, it } from 'vitest';

import { HAZARD_WORDS } from '../src/lib/labels/taps.ts';
import { GLOSSARY } from '../src/lib/words/glossary.ts';
import { told } from '../src/lib/words/told.ts';

const terms = (sentence: string) => told(sentence).flatMap(({ term }) => term ?? []);

describe('terms in a sentence', () => {
  it('are found in the words in which they are said, each once, and the sentence stays as it was', () => {
    const sentence =
      'Keys and more keys lie under a hung-up tree; its root plate lifts, conks show, and it was girdled.';
    expect(terms(sentence)).toEqual(['keys', 'hungUp', 'rootPlate', 'conk', 'girdled']);
    expect(
      told(sentence)
        .map(({ text }) => text)
        .join('')
    ).toBe(sentence);
  });

  it('are not found inside other words, nor where there are none', () => {
    expect(terms('Monkeys and turkeys alternately conkered the girders.')).toEqual([]);
    expect(told('')).toEqual([]);
  });

  it('are what every hazard that is no everyday word is told by', () => {
    for (const kind of ['hungUp', 'conks', 'rootPlate', 'includedBark'] as const) {
      const [term] = terms(HAZARD_WORDS[kind]);
      expect(GLOSSARY[term!], kind).toBeDefined();
    }
  });
});
