import { describe, expect, it } from 'vitest';

import { firstStepOf, knownOf, lacksOf, wishHeld } from '../src/bush/index.ts';
import { DEFAULT_BUSH_SETTINGS, hasComeTo, isOutstanding, STATIONS, type TreeRow } from '../src/records/index.ts';
import { syrupFrom, SYRUP_SPREAD, tapsForSyrup } from '../src/sap/index.ts';
import { tree } from './seasonBush.ts';

/* The first hour: what comes next for a tree, and how many taps a wish for syrup takes. */

describe('a wish for syrup', () => {
  it('takes a tap for each quart or so (common practice: a tap gives about a quart of syrup in a season)', () => {
    const quart = 0.946;
    const { usual, low, high } = syrupFrom(1);
    expect(low).toBeLessThan(quart);
    expect(high).toBeGreaterThan(quart);
    expect(usual).toBeCloseTo(38 / 43, 6);
    // Ten gallons of syrup are some forty taps and more.
    expect(tapsForSyrup(37.85)).toEqual({ usual: 43, low: 27, high: 69 });
  });
  it('takes one tap at the least, and none is no wish', () => {
    expect(tapsForSyrup(0.2)).toEqual({ usual: 1, low: 1, high: 1 });
    expect(() => tapsForSyrup(0)).toThrow(RangeError);
    const { usual, low, high } = syrupFrom(3);
    expect([usual / low, high / usual]).toEqual([expect.closeTo(SYRUP_SPREAD, 9), expect.closeTo(SYRUP_SPREAD, 9)]);
  });
  it('is held against what trees bear, not against what could be drilled', () => {
    const rows = [1, 2].map((n) => tree(n, { taps: 1 }).row);
    const at = { settings: DEFAULT_BUSH_SETTINGS, season: 2027, today: '2027-02-20' };
    const held = (litres: number, of = rows) => wishHeld(litres, of, () => null, at);
    expect(held(1.5)).toMatchObject({ bears: 2, open: 0, verdict: 'enough' });
    expect(held(2.6).verdict).toBe('perhaps');
    expect(held(8).verdict).toBe('notWithoutHarm');
    const unknown = { ...rows[0]!, dbhMm: null, decidedTaps: null };
    expect(held(8, [unknown])).toMatchObject({ bears: 0, open: 1, verdict: 'notKnown' });
  });
});

describe('the next step of a tree', () => {
  const row = tree(1, { taps: 1 }).row;
  const here = { stand: null, today: '2027-02-20', settings: DEFAULT_BUSH_SETTINGS };
  const step = (of: TreeRow, at = here) => firstStepOf(of, at);
  it('goes from what it is to its size, its count and its holes, and ends', () => {
    expect(step({ ...row, species: null, verdict: null })).toBe('identify');
    expect(step({ ...row, dbhMm: null, decidedTaps: null })).toBe('measure');
    expect(step({ ...row, decidedTaps: null })).toBe('count');
    expect(step({ ...row, drilled: 0 })).toBe('place');
    expect(step({ ...row, drilled: 1 })).toBe('done');
    expect(step({ ...row, decidedTaps: 0, drilled: 0 })).toBe('done');
  });
  it('of a tree that gives no sap is to leave it', () => {
    expect(step({ ...row, species: 'beech', verdict: 'notMaple' })).toBe('left');
    const birch = { ...row, species: 'paperBirch', verdict: 'notMaple', decidedTaps: null } as const;
    expect(step(birch)).toBe('left');
    expect(step(birch, { ...here, settings: { ...DEFAULT_BUSH_SETTINGS, alsoTaps: ['birch'] } })).toBe('count');
  });
  it('of one that is banned is none, and of one that fares worse since it was decided is to decide anew', () => {
    expect(step({ ...row, tapBan: { reasons: ['septic'], until: null } } as unknown as TreeRow)).toBe('left');
    expect(step({ ...row, lookedSinceDecided: true, diebackPct: 90, lookedOn: '2027-02-10' } as TreeRow)).toBe('count');
  });
});

describe('what a book knows, and lacks', () => {
  const sugar = tree(1, { taps: 1 }).row;
  const beech = { ...sugar, species: 'beech' as const, verdict: 'notMaple' as const, decidedTaps: null };
  const open = { ...sugar, species: null, verdict: null, dbhMm: null, decidedTaps: null };
  const today = '2027-02-20';
  it('asks of no tree what is wanted of maples, and of none twice', () => {
    const known = knownOf([sugar, beech, open], today);
    expect(known).toMatchObject({ trees: 3, settled: 2, measured: 2, maples: 2, decided: 1, placed: 3, lookedAt: 0 });
    const lacks = new Map(lacksOf([sugar, beech, open], today).map(({ what, trees }) => [what, trees]));
    // The beech is settled and wants nothing; the open tree may be a maple.
    expect([...lacks]).toEqual([
      ['settle', 1],
      ['measure', 1],
      ['past', 2],
      ['lookUp', 2]
    ]);
    expect(lacksOf([beech], today)).toEqual([]);
  });
  it('grows with the trees, and is never told as nothing to do', () => {
    const [one, many] = [1, 100].map((n) =>
      lacksOf(
        Array.from({ length: n }, () => open),
        today
      )
    );
    expect(many!.map(({ hours }, i) => hours / one![i]!.hours)).toEqual(one!.map(() => expect.closeTo(100, 6)));
  });
});

describe('a station that asks for nothing', () => {
  it('is done only where the tree came so far: one that nobody has looked at is done nowhere', () => {
    const { row } = tree(1, { taps: 1 });
    const nobodyLooked: TreeRow = {
      ...row,
      ...{ species: null, verdict: null, dbhMm: null, lastReadingOn: null, decidedTaps: null, drilled: 0, mark: null }
    };
    const came = (of: TreeRow) => STATIONS.filter((station) => hasComeTo(station, of));
    const asks = (of: TreeRow) => STATIONS.filter((station) => isOutstanding(station, of, '2027-02-20'));
    expect(asks(nobodyLooked)).toEqual(['identify', 'measure']);
    expect(came(nobodyLooked)).toEqual([]);
    expect(came(row)).toEqual(['identify', 'measure', 'count']);
    expect(came({ ...row, drilled: 1 })).toEqual(['identify', 'measure', 'count', 'place', 'season']);
    expect(came({ ...row, mark: 'keep' })).toContain('thin');
  });
});
