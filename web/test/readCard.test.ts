import { describe, expect, it } from 'vitest';

import { readCard } from '../src/lib/place/readCard.ts';

const read = (text: string, heightUnitMm = 10) =>
  readCard(text, { heightUnitMm, isTag: (tag) => ['41', '57', 'B7', 'b'].includes(tag) });
const planned = (seen: string | null) => ({ at: null, seen });

describe('a line typed from a card', () => {
  it('says a hole a letter, of the next card or of the one that it names', () => {
    expect(read('p')).toEqual({ tag: null, holes: [planned('pale')] });
    expect(read('pb')).toEqual({ tag: null, holes: [planned('pale'), planned('brown')] });
    expect(read(' T d n ')).toEqual({ tag: null, holes: [planned('partly'), planned('dry'), planned(null)] });
    expect(read('57 p-')).toEqual({ tag: '57', holes: [planned('pale'), null] });
    expect(read('B7 p')).toEqual({ tag: 'B7', holes: [planned('pale')] });
    expect(read('57')).toEqual({ tag: '57', holes: [] });
    expect(read('')).toEqual({ tag: null, holes: [] });
    // A tree whose tag is a letter of the shavings is named by it where more follows.
    expect(read('b p')).toEqual({ tag: 'b', holes: [planned('pale')] });
    expect(read('b')).toEqual({ tag: null, holes: [planned('brown')] });
  });

  it('says where a hole was drilled elsewhere, in her units', () => {
    expect(read('e205/118p b')).toEqual({
      tag: null,
      holes: [{ at: { bearingDeg: 205, heightMm: 1180 }, seen: 'pale' }, planned('brown')]
    });
    expect(read('e360/46.5n', 25.4)).toMatchObject({ holes: [{ at: { bearingDeg: 0, heightMm: 1181 }, seen: null }] });
  });

  it('is told what cannot be read', () => {
    expect(read('99 p')).toMatch(/no card of tree 99/);
    expect(read('px')).toMatch(/“x” is none of/);
    expect(read('e205p')).toMatch(/“e205p” is none of/);
    expect(read('e400/118p')).toMatch(/0 to 360/);
  });
});
