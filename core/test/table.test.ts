import { describe, expect, it } from 'vitest';
import {
  CHARACTERS,
  ClueTable,
  judge,
  lookSeasonOf,
  nextBestLook,
  nextLooks,
  sapMeaning,
  SHIPPED_TABLE,
  SPECIES,
  type Evidence
} from '../src/identify/index.ts';
import { sapToSyrup } from '../src/sap/index.ts';
import { MAPLE_SPECIMENS } from './specimens.ts';
import { sum } from './identifySupport.ts';

describe('the table', () => {
  it('holds the species and characters of the trade', () => {
    expect(SPECIES.length).toBe(42);
    expect(CHARACTERS.length).toBeGreaterThanOrEqual(20);
    expect(SPECIES.reduce((sum, s) => sum + s.regionalShare, 0)).toBeCloseTo(100, 9);
  });

  it('gives every species 100 per cent over the states of every character', () => {
    for (const character of CHARACTERS) {
      const known = character.states.map((s) => s.id);
      for (const { id } of SPECIES) {
        const shares = character.seen[id];
        if (shares) {
          expect([character.id, id, sum(Object.values(shares))]).toEqual([character.id, id, 100]);
          expect(known).toEqual(expect.arrayContaining(Object.keys(shares)));
        }
        expect(sum(known.map((state) => SHIPPED_TABLE.likelihood(character, state, id)))).toBeCloseTo(1, 9);
      }
      // A strong clue says something of every species, or has nothing to be seen on it (no lobes, no notch).
      if (character.strength === 'strong' && character.id !== 'leafNotch')
        expect([character.id, Object.keys(character.seen).length]).toEqual([character.id, SPECIES.length]);
    }
  });

  it('can be adjusted for a bush, and nothing else changes', () => {
    const smooth = new ClueTable({ barkGrown: { sugarMaple: { smooth: 60, oneEdge: 40 } } });
    const seen: Evidence = { arrangement: 'opposite', barkGrown: 'smooth' };
    const share = (table: ClueTable) =>
      judge(seen, 'grown', { table }).candidates.find((c) => c.species === 'sugarMaple')!.probability;
    expect(share(smooth)).toBeGreaterThan(share(SHIPPED_TABLE));
    const other: Evidence = { arrangement: 'opposite', budShape: 'domed' };
    expect(judge(other, 'grown', { table: smooth })).toEqual(judge(other, 'grown'));
  });
});

describe('the next best look', () => {
  it('begins with the branching when there are no leaves', () => {
    for (const season of ['bare', 'swelling'] as const)
      expect(nextBestLook({}, 'grown', season)!.character).toBe('arrangement');
  });

  it('asks no leaf in winter, and the leaf first in summer', () => {
    const leafy = CHARACTERS.filter((c) => c.block === 'leaf' || c.id === 'milkySap').map((c) => c.id);
    expect(nextLooks({ arrangement: 'opposite' }, 'grown', 'bare').some((l) => leafy.includes(l.character))).toBe(
      false
    );
    for (const seen of [{}, { arrangement: 'opposite' }])
      expect(leafy).toContain(nextBestLook(seen, 'grown', 'leaf')!.character);
  });

  it('has nothing to ask once a tree is settled beyond doubt', () => {
    const { seen, age } = MAPLE_SPECIMENS[0]!;
    expect(nextBestLook(seen, age, 'bare')).toBeNull();
    expect(nextBestLook({ arrangement: 'opposite' }, age, 'bare')!.gainBits).toBeGreaterThan(0.1);
  });

  it.each([
    ['2026-11-23', 'bare'],
    ['2027-02-10', 'bare'],
    ['2027-04-10', 'swelling'],
    ['2027-07-01', 'leaf'],
    ['2027-10-05', 'fall']
  ])('on %s the woods are %s', (day, season) => {
    expect(lookSeasonOf(day)).toBe(season);
  });
});

describe('what it means for the sugarhouse', () => {
  it.each([
    // Jones 1946, Vermont Agricultural Experiment Station: 86 divided by the sugar per cent.
    [2, 43],
    [2.5, 34.4],
    [3, 28.7]
  ])('%d %% sugar takes %d of sap to one of syrup', (sugar, ratio) => {
    expect(sapToSyrup(sugar)).toBeCloseTo(ratio, 1);
  });

  it('sugar maple is sweetest, red and silver break bud first (common practice, no source)', () => {
    const [sugar, red, silver, elder] = (['sugarMaple', 'redMaple', 'silverMaple', 'boxElder'] as const).map((id) =>
      sapMeaning(id)!
    );
    expect(sugar!.sugarPct).toEqual([2, 2.5]);
    expect(sugar!.openGrownPct).toEqual([3, 4]);
    expect(sugar!.ratio[1]).toBeCloseTo(43, 1);
    expect(red!.sugarPct[1]).toBeLessThanOrEqual(2);
    expect(elder!.sugarPct[0]).toBeLessThan(red!.sugarPct[0]);
    expect(red!.budBreakDays).toBeLessThan(0);
    expect(silver!.budBreakDays).toBeLessThan(0);
    expect(sapMeaning('whiteAsh')).toBeNull();
    expect(() => sapToSyrup(0)).toThrow(RangeError);
  });
});
