import { describe, expect, it } from 'vitest';

import { ageSpan, shownBush, type VisitorRow } from '../src/bush/index.ts';

const row = (tag: string, change: Partial<VisitorRow> = {}): VisitorRow => ({
  tag,
  tagged: true,
  species: 'sugarMaple',
  verdict: 'settled',
  dbhMm: 460,
  ringMm: 1.5,
  decidedTaps: null,
  drilled: 0,
  lastTappedSeason: null,
  cut: null,
  ...change
});

describe('what visitors are told', () => {
  it('is of maples that bear holes or bore some, and how many others are left alone', () => {
    const shown = shownBush(
      [
        row('1', { drilled: 2, decidedTaps: 2, lastTappedSeason: 2026 }),
        row('2', { decidedTaps: 1, species: null, verdict: 'mapleOpen' }),
        row('3', { decidedTaps: 0, lastTappedSeason: 2024 }),
        row('4'),
        row('5', { species: 'beech', verdict: 'settled' }),
        row('6', { tagged: false, drilled: 1 }),
        row('7', { drilled: 1, cut: 'felled' as never })
      ],
      2027
    );
    expect(shown).toMatchObject({ season: 2027, maples: 5, tapped: 2, holes: 3, without: 3 });
    expect(
      shown.trees.map(({ tag, species, holes, isDrilled, lastTapped }) => [tag, species, holes, isDrilled, lastTapped])
    ).toEqual([
      ['1', 'sugarMaple', 2, true, 2026],
      ['2', null, 1, false, null],
      ['3', 'sugarMaple', 0, false, 2024]
    ]);
  });

  it('says of an age no more than a span that holds what is known', () => {
    // An 18 in sugar maple is often a hundred to a hundred and fifty years old (common practice).
    const [from, to] = ageSpan(457, 1.5);
    expect(from).toBeLessThanOrEqual(100);
    expect(to).toBeGreaterThan(150);
    expect([from % 10, to % 10]).toEqual([0, 0]);
  });
});
