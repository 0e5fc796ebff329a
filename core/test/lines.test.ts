import { describe, expect, it } from 'vitest';

import {
  boreFor,
  fallFindings,
  LEAST_FALL,
  liftsFor,
  litresThrough,
  newtonsAMetre,
  partsFor,
  postsMore,
  profileFrom,
  PULL_N,
  sagSlope,
  stretchesOf,
  suretyOf,
  tapsThrough,
  type LevellingSet,
  type Surety
} from '../src/lines/index.ts';
import { mean, seededRng, type Rng } from '../src/math/index.ts';

const PIPE = { boreMm: 19.1, pullN: PULL_N.wire, spanM: 100 };

describe('the fall of a line', () => {
  it('is what was levelled, with what two readings stray by (by hand)', () => {
    const level: LevellingSet = {
      method: 'level',
      heights: [
        { node: 0, heightM: 312.4 },
        { node: 1, heightM: 312.1 },
        { node: 2, heightM: 312.16 }
      ]
    };
    const profile = profileFrom([0, 10, 20], [level]);
    const [first, second, all] = [profile.fall(0, 1), profile.fall(1, 2), profile.fall(0, 2)];
    expect([first.mean, second.mean, all.mean].map((each) => Number(each.toFixed(3)))).toEqual([0.3, -0.06, 0.24]);
    for (const { sd } of [first, second, all]) expect(sd).toBeCloseTo(0.01 * Math.SQRT2, 3);
  });

  it('is known better by two ways than by one, and not at all where nobody looked', () => {
    const clinometer: LevellingSet = { method: 'clinometer', slopes: [{ from: 0, to: 1, slope: 0.03 }] };
    const one = profileFrom([0, 10, 20], [clinometer]);
    expect(one.fall(0, 1).sd).toBeCloseTo(10 * Math.hypot(0.005, 0.0025), 3);
    expect(one.fall(1, 2).sd).toBeGreaterThan(0.4);
    const both = profileFrom([0, 10, 20], [clinometer, { ...clinometer, slopes: [{ from: 0, to: 1, slope: 0.02 }] }]);
    expect(both.fall(0, 1).sd).toBeCloseTo(one.fall(0, 1).sd / Math.SQRT2, 3);
    expect(both.fall(0, 1).mean).toBeCloseTo(0.25, 2);
    expect(fallFindings(one, PIPE).at(-1)).toMatchObject({ from: 1, surety: 'cannotBeTold' });
  });

  it('has no place for nodes out of order or readings of none', () => {
    expect(() => profileFrom([0, 10, 10], [])).toThrow(RangeError);
    expect(() => profileFrom([0], [])).toThrow(RangeError);
    const beyond: LevellingSet = { method: 'level', heights: [{ node: 3, heightM: 1 }] };
    expect(() => profileFrom([0, 10], [beyond])).toThrow(RangeError);
  });

  it('names a rise over two stretches as one dip, a sag with its posts, and what is under two in a hundred', () => {
    const heights = [10, 9.7, 9.75, 9.8, 9.72, 9.66, 9.15].map((heightM, node) => ({ node, heightM }));
    const atM = [0, 10, 13, 16, 24, 30, 50];
    const found = fallFindings(profileFrom(atM, [{ method: 'level', heights }]), PIPE);
    expect(found.map(({ fault, surety, from, to }) => [fault, surety, from, to])).toEqual([
      ['dip', 'sure', 1, 3],
      ['flat', 'sure', 3, 4],
      ['flat', 'sure', 4, 5],
      ['sag', 'likely', 5, 6]
    ]);
    expect(found[0]!.riseM).toBeCloseTo(0.1, 2);
    expect(found.at(-1)!.posts).toBe(1);
  });
});

describe('a pipe', () => {
  // Manning's tables for full pipes, from memory: a 12 inch pipe of n = 0.013 at one in a hundred carries 3.56 cubic feet a second.
  it('carries full what the tables say', () => {
    const cubicFeet = litresThrough(304.8, 0.01, 1, 0.013) / 3600 / 28.317;
    expect(cubicFeet).toBeCloseTo(3.56, 1);
  });

  // Hydraulic elements of a round pipe (Chow 1959, from memory): share of the full flow by depth.
  it.each([
    [0.2, 0.088],
    [0.4, 0.337],
    [0.5, 0.5],
    [0.8, 0.977],
    [0.938, 1.076]
  ])('full to %f of its bore carries %f of what it does full', (depth, share) => {
    expect(litresThrough(25, 0.02, depth) / litresThrough(25, 0.02, 1)).toBeCloseTo(share, 2);
  });

  it('bears more taps the steeper and wider it is and with a line for the air; the bore follows', () => {
    const pump = { vacuum: true, airLine: false };
    expect(tapsThrough(19.1, 0.02, pump)).toBeGreaterThan(80);
    expect(tapsThrough(19.1, 0.02, pump)).toBeLessThan(400);
    expect(tapsThrough(19.1, 0.08, pump)).toBeCloseTo(2 * tapsThrough(19.1, 0.02, pump), -1);
    expect(tapsThrough(19.1, 0.02, { vacuum: true, airLine: true })).toBeGreaterThan(2 * tapsThrough(19.1, 0.02, pump));
    expect(tapsThrough(19.1, -0.01, pump)).toBe(0);
    const bore = boreFor(300, 0.03, pump)!;
    expect(tapsThrough(bore, 0.03, pump)).toBeGreaterThanOrEqual(300);
    expect(boreFor(1e6, 0.03, pump)).toBeNull();
    expect(() => litresThrough(0, 0.02, 0.5)).toThrow(RangeError);
  });

  it('sags as a parabola does: four times its sag over its length at the end (by hand)', () => {
    const [span, weight] = [10, newtonsAMetre(19.1)];
    // Half full of sap 0.143 kg a metre, the wall 0.12 kg.
    expect(weight).toBeCloseTo(9.81 * 0.263, 1);
    const sagM = (weight * span ** 2) / (8 * 1000);
    expect(sagSlope(span, 19.1, 1000)).toBeCloseTo((4 * sagM) / span, 9);
    expect(postsMore(30, 0.02, PIPE)).toBe(1);
    expect(postsMore(30, 0.02, { ...PIPE, spanM: 10 })).toBe(0);
    expect(postsMore(30, 0, PIPE)).toBe(Infinity);
    expect(sagSlope(15, 19.1, 1000)).toBeLessThan(0.02);
  });
});

describe('lifting a line', () => {
  it('lifts no node more than it has to, tried against all lifts on a grid', () => {
    const rng = seededRng(8);
    const step = 0.05;
    for (let trial = 0; trial < 30; trial++) {
      const lengths = [8, 10, 12];
      const falls = lengths.map((length) => Math.round((length * rng.normal(0.02, 0.04)) / step) * step);
      const { liftsM } = liftsFor(falls, lengths, 0);
      expect(liftsM.at(-1)).toBe(0);
      const grid = Array.from({ length: 40 }, (_, i) => i * step);
      const holds = (lifts: readonly number[]) =>
        falls.every((fall, i) => fall + lifts[i]! - (lifts[i + 1] ?? 0) >= -1e-9);
      const least = [Infinity, Infinity, Infinity];
      for (const a of grid)
        for (const b of grid)
          for (const c of grid)
            if (holds([a, b, c])) [a, b, c].forEach((each, i) => (least[i] = Math.min(least[i]!, each)));
      expect(liftsM.slice(0, 3)).toEqual(least.map((each) => expect.closeTo(each, 6)));
    }
  });
});

/* Made valleys: ground by a law that the computation does not know (Student's t, slopes that go on), read with errors of heavier tails. */

interface Valley {
  readonly atM: number[];
  readonly heightM: number[];
}

/** Student's t of three degrees of freedom. */
const heavy = (rng: Rng) => rng.normal(0, 1) / Math.sqrt(mean([0, 0, 0].map(() => rng.normal(0, 1) ** 2)));

function valley(rng: Rng): Valley {
  const [atM, heightM] = [[0], [50]];
  let slope = 0.04;
  for (let i = 0; i < 18; i++) {
    const length = 6 + 8 * rng.uniform();
    slope = 0.035 + 0.4 * (slope - 0.035) + 0.02 * heavy(rng);
    atM.push(atM[i]! + length);
    heightM.push(heightM[i]! - length * Math.max(-0.2, Math.min(0.3, slope)));
  }
  return { atM, heightM };
}

const WAYS = {
  level: ({ heightM }: Valley, rng: Rng): LevellingSet => ({
    method: 'level',
    heights: heightM.map((each, node) => ({ node, heightM: each + 0.008 * heavy(rng) }))
  }),
  clinometer: ({ atM, heightM }: Valley, rng: Rng): LevellingSet => {
    const off = 0.005 * (rng.uniform() - 0.5);
    const slopes = atM.slice(1).map((at, i) => {
      const read = (heightM[i]! - heightM[i + 1]!) / (at - atM[i]!) + off + 0.003 * heavy(rng);
      return { from: i, to: i + 1, slope: Math.round(200 * read) / 200 };
    });
    return { method: 'clinometer', slopes };
  },
  map: ({ heightM }: Valley, rng: Rng): LevellingSet => ({
    method: 'map',
    heights: heightM.map((each, node) => ({ node, heightM: each + 0.6 * heavy(rng) }))
  })
};

describe.each(['level', 'clinometer', 'map'] as const)('200 made valleys, read by %s', (way) => {
  const rng = seededRng(18);
  const rows = Array.from({ length: 200 }, () => {
    const made = valley(rng);
    const set = WAYS[way](made, rng);
    const profile = profileFrom(made.atM, [set]);
    return stretchesOf(profile, PIPE).map(({ from, lengthM, slope, chance }) => {
      const truly = (made.heightM[from]! - made.heightM[from + 1]!) / lengthM;
      return { chance, read: slope.mean, dips: truly * lengthM < -0.00955, flat: truly < LEAST_FALL };
    });
  }).flat();

  it.each(['dip', 'flat'] as const)('%s: missed, invented and unknown are told as what they are', (fault) => {
    const isSo = (row: (typeof rows)[number]) => (fault === 'dip' ? row.dips : row.flat);
    const reads = (row: (typeof rows)[number]) => (fault === 'dip' ? row.read < 0 : row.read < LEAST_FALL);
    const brier = mean(rows.map((row) => (row.chance[fault] - Number(isSo(row))) ** 2));
    const exact = mean(rows.map((row) => (Number(reads(row)) - Number(isSo(row))) ** 2));
    const of = (surety: Surety | null) => rows.filter((row) => suretyOf(row.chance[fault]) === surety);
    const share = (some: typeof rows) => (some.length > 0 ? mean(some.map((row) => Number(isSo(row)))) : NaN);
    const classes = (['sure', 'likely', 'cannotBeTold', null] as const).map((surety) => of(surety));
    const [sure, likely, open, none] = classes.map(share) as [number, number, number, number];
    const says = classes.map((some) => `${some.filter(isSo).length} of ${some.length}`).join(', ');
    console.info(
      `${way}, ${fault}: so of sure, likely, cannot be told, right: ${says}; Brier ${brier.toFixed(4)}, as read ${exact.toFixed(4)}`
    );
    expect(brier).toBeLessThan(exact);
    if (classes[0]!.length > 20) expect(sure).toBeGreaterThan(0.93);
    expect(likely).toBeGreaterThan(0.5);
    expect(open).toBeGreaterThan(0.03);
    expect(open).toBeLessThan(0.5);
    if (classes[3]!.length > 20) expect(none).toBeLessThan(0.02);
  });
});

describe('what lines are put together from', () => {
  it('is added up by bore, with spares (by hand)', () => {
    const plain = { bends: 0, jumper: false, releaser: false, crossings: [] };
    const lateral = { ...plain, use: 'lateral', boreMm: 7.9, wire: false, joins: true } as const;
    const parts = partsFor([
      { ...plain, use: 'main', boreMm: 19.1, lengthM: 100, wire: true, spanM: 8, joins: false, dropsMm: [] },
      { ...lateral, lengthM: 22.4, spanM: 4, dropsMm: [750, 750, 900] },
      { ...lateral, lengthM: 17.6, spanM: 4, dropsMm: [750] }
    ]);
    expect(parts.map(({ what, boreMm, needed, withSpares }) => [what, boreMm, needed, withSpares])).toEqual([
      ['pipe', 19.1, 100, 105],
      ['pipe', 7.9, 40, 42],
      ['wire', null, 100, 105],
      ['posts', null, 12, 14],
      ['tees', 7.9, 4, 5],
      ['fittings', 7.9, 2, 3],
      ['ends', 19.1, 1, 2],
      ['ends', 7.9, 2, 3],
      ['dropTube', 7.9, 4, 5],
      ['spouts', null, 4, 5]
    ]);
  });
  it('has what bends, crossings, pumps and air lines ask for (by hand)', () => {
    const wire = { use: 'spur', boreMm: 12.7, lengthM: 10, wire: true, spanM: 10, dropsMm: [] } as const;
    const parts = partsFor([
      {
        ...wire,
        bends: 3,
        joins: true,
        jumper: true,
        releaser: false,
        crossings: [
          { how: 'overhead', insulated: false },
          { how: 'overhead', insulated: true }
        ]
      },
      {
        ...wire,
        bends: 0,
        joins: false,
        jumper: false,
        releaser: true,
        crossings: [{ how: 'culvert', insulated: true }]
      }
    ]);
    expect(Object.fromEntries(parts.map(({ what, needed }) => [what, needed]))).toMatchObject({
      sideTies: 3,
      tallPosts: 4,
      culvert: 5,
      sleeve: 14,
      releasers: 1,
      jumpers: 1,
      fittings: 1
    });
    // What is drawn tight by hand is tied to trees.
    const byHand = partsFor([
      { ...wire, wire: false, bends: 3, joins: false, jumper: false, releaser: false, crossings: [] }
    ]);
    expect(byHand.map(({ what }) => what)).not.toContain('sideTies');
  });
});
