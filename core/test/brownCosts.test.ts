import { describe, expect, it } from 'vitest';

import { shortOrLong } from '../../testing/long.ts';
import {
  drilledHoles,
  hourSavedCosts,
  paceOf,
  stainedPlaces,
  type DrilledHole,
  type PacedHole
} from '../src/bush/index.ts';
import { logistic, seededRng } from '../src/math/index.ts';
import { DEFAULT_BUSH_SETTINGS } from '../src/records/index.ts';
import { ownLoss, runShare, courseOf, USUAL_LOSS, yearOf, HOLE_LIVES, LITRES_AT_FULL } from '../src/season/index.ts';
import type { StainedPlace } from '../src/season/index.ts';
import { recordMaker } from './makeRecord.ts';
import { id, knownOn, told, type Told } from './seasonBush.ts';

/* What brown wood costs a bush by its own litres, and whether haste meets more of it. */

describe('a logistic regression', () => {
  it('tells hours of study and passing as textbooks do (the example of twenty students that is widely reprinted, from memory)', () => {
    const hours = [0.5, 0.75, 1, 1.25, 1.5, 1.75, 1.75, 2, 2.25, 2.5, 2.75, 3, 3.25, 3.5, 4, 4.25, 4.5, 4.75, 5, 5.5];
    const passed = [0, 0, 0, 0, 0, 0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 1, 1, 1, 1, 1];
    const { effects, doubts } = logistic(
      hours.map((times, i) => ({
        happened: passed[i] === 1,
        offset: 0,
        of: [
          { effect: 0, times: 1 },
          { effect: 1, times }
        ]
      })),
      [Infinity, Infinity]
    );
    expect(effects[0]).toBeCloseTo(-4.0777, 3);
    expect(effects[1]).toBeCloseTo(1.5046, 3);
    expect(doubts[0]).toBeCloseTo(1.761, 2);
    expect(doubts[1]).toBeCloseTo(0.6287, 3);
  });
  it('says so where one side of an effect has all, and stays near to what is usual where that is known', () => {
    const apart = [-2, -1, 1, 2].map((times) => ({
      happened: times > 0,
      offset: 0,
      of: [{ effect: 0, times }]
    }));
    expect(() => logistic(apart, [Infinity])).toThrow(RangeError);
    expect(logistic(apart, [1]).effects[0]).toBeGreaterThan(0.5);
  });
});

describe('what stained wood costs a bush', () => {
  const place = (n: number, fields: Partial<StainedPlace>): StainedPlace => ({
    place: `tree ${n}`,
    season: 2027,
    taps: 1,
    stained: 0,
    came: 1,
    ...fields
  });
  /** Taps of a made bush: some brown in part, each tree and season with its own strength. */
  function made(loss: number, seed: number, trees: number, seasons: number): StainedPlace[] {
    const rng = seededRng(seed);
    const years = Array.from({ length: seasons }, () => rng.normal(0, 0.25));
    const level = rng.normal(0, 0.5);
    return Array.from({ length: trees }, (_, n) => {
      const own = rng.normal(0, 0.25);
      return years.map((year, i) => {
        const stained = rng.uniform() < 0.6 ? 0 : rng.uniform();
        const came = (1 - loss * stained) * Math.exp(level + own + year + rng.normal(0, 0.35));
        return place(n, { season: 2020 + i, stained, came });
      });
    }).flat();
  }

  it('is what practice says until single taps with brown wood and with clear are logged', () => {
    const none = ownLoss([]);
    expect([none.verdict, none.told, none.brown]).toEqual(['tooFew', 0, 0]);
    expect(none.high).toBeGreaterThan(0.95);
    expect(ownLoss([1, 2, 3, 4].map((n) => place(n, { stained: 1, came: 0.1 }))).verdict).toBe('tooFew');
  });
  it('is all of a path where holes lose 70 to 75 % that are stained for seven tenths (common practice: one small trial)', () => {
    const trial = (stained: number) =>
      ownLoss(
        Array.from({ length: 20 }, (_, n) =>
          place(n, {
            stained: n < 10 ? stained : 0,
            came: (n < 10 ? 0.275 : 1) * (n % 2 === 0 ? 1.2 : 0.8)
          })
        )
      );
    expect(trial(0.7).verdict).toBe('told');
    expect(trial(0.7).share).toBeGreaterThan(0.9);
    // Were they brown all through, the same litres would say three quarters.
    expect(trial(1).share).toBeGreaterThan(0.68);
    expect(trial(1).share).toBeLessThan(0.78);
    expect(trial(1).low).toBeLessThan(0.7);
    expect(trial(1).high).toBeGreaterThan(0.75);
  });
  it('is learned away from what practice says where the bush shows otherwise (self-consistency)', () => {
    const [mild, hard] = [ownLoss(made(0.25, 1, 40, 3)), ownLoss(made(0.98, 2, 40, 3))];
    expect(mild.high).toBeLessThan(0.5);
    expect(hard.low).toBeGreaterThan(0.85);
  });
  it('lies in its interval in about 80 of 100 made bushes (self-consistency)', () => {
    const rng = seededRng(44);
    const many = shortOrLong(40, 300);
    let held = 0;
    for (let seed = 0; seed < many; seed++) {
      let loss = 2;
      while (!(loss > 0 && loss < 1)) loss = rng.normal(USUAL_LOSS.share, USUAL_LOSS.sd);
      const { low, high } = ownLoss(made(loss, 100 + seed, 12, 2));
      if (loss >= low - 0.01 && loss <= high + 0.01) held += 1;
    }
    expect(held / many).toBeGreaterThan(0.68);
    expect(held / many).toBeLessThan(0.92);
  });
});

describe('places that tell it', () => {
  const weather = knownOn('2027-04-20');
  const { vessel, vacuum } = DEFAULT_BUSH_SETTINGS;
  /** The holes of tree n, drilled on the first of March, and what was said of each. */
  function holes(n: number, ...said: readonly (readonly ('pale' | 'partly' | 'brown' | 'dry')[])[]): DrilledHole[] {
    const make = recordMaker(id(n));
    return drilledHoles(
      said.flatMap((seen, i) => {
        const hole = make({
          kind: 'taphole',
          on: '2027-03-01',
          season: 2027,
          bearingDeg: 90 * i,
          heightMm: 1000,
          bitMm: 7.94,
          depthMm: 38
        });
        return [
          hole,
          ...seen.map((each) => make({ kind: 'shavings', on: '2027-03-01', tapholeId: hole.id, seen: each }))
        ];
      })
    );
  }
  const bucket = (n: number) =>
    told({
      kind: 'collectingPlace',
      on: '2027-02-20',
      name: `Tree ${n}`,
      vessel: 'bucket',
      litres: 13,
      carrier: 'hand',
      treeIds: [id(n)]
    } as Told);
  const emptied = (placeId: string, on: string, taps: number, litres: number, more: object = {}) =>
    told({ kind: 'collection', on, placeId, hour: 17, litres, taps, drilledOn: '2027-03-01', ...more } as Told);
  const all = (of: Record<number, DrilledHole[]>) =>
    new Map(Object.entries(of).map(([n, each]) => [id(Number(n)), each]));

  it('are those all of whose holes were looked at, by their own litres against weather and age', () => {
    const [one, two, three, four] = [bucket(1), bucket(2), bucket(3), bucket(4)];
    const records = [one, two, three, four].flatMap(({ id: placeId }, i) => [
      emptied(placeId, '2027-03-20', i === 1 ? 2 : 1, 10),
      emptied(placeId, '2027-04-02', i === 1 ? 2 : 1, 6)
    ]);
    const found = stainedPlaces(
      [one, two, three, four, ...records],
      all({
        // Brown first, then dry: what it was drilled into was brown.
        1: holes(1, ['brown', 'dry']),
        2: holes(2, ['pale'], ['partly']),
        // Nobody looked; and of the last only that it stayed dry is known.
        3: holes(3, []),
        4: holes(4, ['dry'])
      }),
      weather,
      { vessel, vacuum }
    );
    expect(found.map(({ place, taps, stained }) => [place, taps, stained])).toEqual([
      [one.id, 1, 1],
      [two.id, 2, 0.25]
    ]);
    const course = courseOf(yearOf(2027, weather.past), { species: null, sunny: false }, [], 120)!;
    const { share } = runShare(course, { drilled: 59, after: 58, until: 91 }, HOLE_LIVES.bucket);
    expect(found[0]!.came).toBeCloseTo(16 / (share * LITRES_AT_FULL), 6);
    expect(found[1]!.came).toBeCloseTo(8 / (share * LITRES_AT_FULL), 6);
  });
  it('leave out what ran over, and days on which more or fewer taps ran into them', () => {
    const one = bucket(1);
    const told = (records: ReturnType<typeof emptied>[]) =>
      stainedPlaces([one, ...records], all({ 1: holes(1, ['pale']) }), weather, { vessel, vacuum });
    expect(told([emptied(one.id, '2027-03-20', 2, 10)])).toEqual([]);
    expect(told([emptied(one.id, '2027-03-20', 1, 13, { ranOver: true })])).toEqual([]);
  });
});

describe('haste', () => {
  /** Holes of some days: each takes its minutes, and is brown with a chance that grows by so much in log odds where the time is halved. */
  function rounds(
    { halving, days, seed }: { readonly halving: number; readonly days: number; readonly seed: number },
    people = ['ann', 'bo']
  ): PacedHole[] {
    const rng = seededRng(seed);
    const make = recordMaker(id(1));
    return people.flatMap((authorId, person) =>
      Array.from({ length: days }, (_, day) => {
        let at = Date.UTC(2027, 2, 1 + day, 8);
        return Array.from({ length: 25 }, (): PacedHole => {
          const minutes = (person === 0 ? 2 : 5) * Math.exp(rng.normal(0, 0.5));
          at += 60_000 * Math.max(0.6, minutes);
          const chance = 0.05 + 0.25 * rng.uniform();
          const odds =
            Math.log(chance / (1 - chance)) - halving * Math.log2(Math.max(0.6, minutes) / (person === 0 ? 2 : 5));
          const on = new Date(at).toISOString().slice(0, 10);
          const hole = make({
            kind: 'taphole',
            on,
            season: 2027,
            bearingDeg: 0,
            heightMm: 1000,
            bitMm: 7.94,
            depthMm: 38,
            predictedClear: 1 - chance
          });
          const seen = rng.uniform() < 1 / (1 + Math.exp(-odds)) ? 'brown' : 'pale';
          const said = make({ kind: 'shavings', on, tapholeId: hole.id, seen });
          const [{ hole: drilled, shavings }] = drilledHoles([hole, said]) as [DrilledHole];
          return { hole: { ...drilled, recordedAt: new Date(at).toISOString(), authorId }, shavings, at: null };
        });
      }).flat()
    );
  }

  it('costs where it does, and nothing where it does not, and is not told by a few holes (self-consistency)', () => {
    const costs = paceOf(rounds({ halving: 0.8, days: 12, seed: 1 }))!;
    expect(costs.verdict).toBe('hurryCosts');
    expect(costs.halved.low).toBeGreaterThan(costs.asUsual);
    const free = paceOf(rounds({ halving: 0, days: 40, seed: 2 }))!;
    expect(free.verdict).toBe('hurryCostsNothing');
    expect(paceOf(rounds({ halving: 0.8, days: 1, seed: 3 }))!.verdict).toBe('tooFew');
    expect(paceOf(rounds({ halving: 0.1, days: 3, seed: 4 }))!.verdict).toBe('cannotTell');
  });
  it('costs litres by the hour that it saves: holes times what more of them are brown, times what those lose', () => {
    const pace = {
      holes: 100,
      brown: 20,
      usualMinutes: 4,
      asUsual: 0.1,
      halved: { share: 0.2, low: 0.05, high: 0.3 },
      stained: 0.5,
      verdict: 'hurryCosts'
    } as const;
    // Thirty holes in an hour, three more of them brown, each of which loses half of 38 litres.
    expect(hourSavedCosts(pace, 1)).toEqual({ litres: expect.closeTo(57, 6), low: 0, high: expect.closeTo(114, 6) });
    expect(hourSavedCosts(pace, 0.5).litres).toBeCloseTo(28.5, 6);
  });
  it('is told in the right size: its interval holds what is so in about 80 of 100 (self-consistency)', () => {
    let held = 0;
    const many = shortOrLong(40, 200);
    for (let seed = 0; seed < many; seed++) {
      const halving = seededRng(900 + seed).normal(0, 0.7);
      const { asUsual, halved } = paceOf(rounds({ halving, days: 4, seed }))!;
      const logOdds = (chance: number) => Math.log(chance / (1 - chance));
      const base = 0.175;
      const of = (chance: number) => logOdds(chance) - logOdds(asUsual);
      const truth = of(asUsual) + logOdds(1 / (1 + Math.exp(-(logOdds(base) + halving)))) - logOdds(base);
      // Shares are means over places of several chances: nearly, not exactly, moved by as much.
      if (truth >= of(halved.low) - 0.08 && truth <= of(halved.high) + 0.08) held += 1;
    }
    expect(held / many).toBeGreaterThan(0.68);
    expect(held / many).toBeLessThan(0.97);
  });
  it('is no slow hand, no rest, no way, and no entry that was made or mended afterwards', () => {
    const holes = rounds({ halving: 0, days: 3, seed: 5 });
    const found = paceOf(holes)!;
    // Between the two: each is held against their own pace.
    expect(found.usualMinutes).toBeGreaterThan(2);
    expect(found.usualMinutes).toBeLessThan(5);
    const typed = holes.map((each, i) => ({
      ...each,
      hole: { ...each.hole, recordedAt: new Date(Date.UTC(2027, 2, 9, 20, 0, i)).toISOString() }
    }));
    expect(paceOf(typed)).toBeNull();
    const mended = holes.map((each, i) => ({
      ...each,
      hole: { ...each.hole, correctsId: i % 2 === 0 ? id(7) : null }
    }));
    expect(paceOf(mended)).toBeNull();
    // Ninety metres away is two minutes' walk.
    const [first, second] = holes as [PacedHole, PacedHole];
    const walked = [
      { ...first, hole: { ...first.hole, recordedAt: '2027-03-01T08:00:00.000Z' }, at: [0, 0] as const },
      { ...second, hole: { ...second.hole, recordedAt: '2027-03-01T08:05:00.000Z' }, at: [90, 0] as const }
    ];
    expect(paceOf(walked)!.usualMinutes).toBeCloseTo(3, 6);
  });
});
