import { describe, expect, it } from 'vitest';

import { shortOrLong } from '../../testing/long.ts';
import { whatIsMissing, type MissingTask } from '../src/lines/index.ts';
import { mean, seededRng } from '../src/math/index.ts';
import {
  inTurn,
  lookedAfter,
  LOOKING_DAYS,
  simulatedSeason,
  whatDroppedMost,
  type Looked,
  type Place,
  type Policy
} from './simulatedLines.ts';

/** So many looks somebody has time for each week. */
const LOOKS = 6;

/** Nothing came, and no gauge was read. */
const NOTHING_READ = { came: [], together: [], gauges: [], asked: [] } as const;

/** Those that are likeliest to bring most, by the program. */
const byChances: Policy = (season, day, looks) => {
  const task = season.taskOn(day);
  const told = whatIsMissing(task, seededRng(day));
  const places: { place: Place; chance: number; worth: number }[] = [
    ...told.taps.map(({ dry, notSet }, tap) => ({
      place: { tap },
      chance: dry + notSet,
      worth: notSet + 0.2 * dry
    })),
    ...told.sites.map(({ leaks, share }, site) => ({
      place: { site },
      chance: leaks,
      worth: leaks * share * task.taps.filter(({ path }) => path.includes(site)).length
    }))
  ];
  return places
    .filter(({ chance }) => chance > 0.1)
    .sort((a, b) => b.worth - a.worth)
    .slice(0, looks)
    .map(({ place }) => place);
};

describe('what is missing behind mixed lines', () => {
  /* Every way in which three taps may be, weighed by hand: Bayes' rule over all of them. */
  it('has the chances that all ways together give, where they can be gone through', () => {
    const chances = [
      { dry: 0.1, notSet: 0.02 },
      { dry: 0.3, notSet: 0.01 },
      { dry: 0.05, notSet: 0.2 }
    ];
    const weights = [1, 0.8, 1.3];
    const came = [
      { taps: [0, 1, 2], litres: 1.9 },
      { taps: [0, 1, 2], litres: 2.3 },
      { taps: [1, 2], litres: 1.5 }
    ];
    const sd = 0.2;
    const task: MissingTask = {
      taps: weights.map((weight, i) => ({ weight, path: [], chances: chances[i]! })),
      sites: [],
      came: came.map(({ taps, litres }) => ({
        taps,
        besides: 0,
        through: new Set<number>(),
        day: 70,
        litres,
        usualLitres: 1,
        sd,
        with: []
      })),
      together: [],
      gauges: [],
      today: 75,
      asked: [{ taps: [0, 1, 2], through: new Set() }]
    };
    const gives = [1, 0.1, 0];
    const dry = [0, 0, 0];
    let all = 0;
    for (let way = 0; way < 27; way++) {
      const states = [way % 3, Math.floor(way / 3) % 3, Math.floor(way / 9)];
      let chance = 1;
      for (const [tap, state] of states.entries()) {
        const { dry: d, notSet } = chances[tap]!;
        chance *= [1 - d - notSet, d, notSet][state]!;
      }
      for (const { taps, litres } of came) {
        const whole = taps.reduce((sum, tap) => sum + weights[tap]!, 0);
        const usual = taps.reduce(
          (sum, tap) => sum + weights[tap]! * (1 - 0.9 * chances[tap]!.dry - chances[tap]!.notSet),
          0
        );
        const given = taps.reduce((sum, tap) => sum + weights[tap]! * gives[states[tap]!]!, 0);
        const strays = Math.log(((litres * usual) / whole + 0.02) / (given + 0.02));
        chance *= Math.exp(-0.5 * (strays / sd) ** 2);
      }
      all += chance;
      for (const tap of dry.keys()) if (states[tap] === 1) dry[tap]! += chance;
    }
    const draws = Array.from({ length: 20 }, (_, seed) => whatIsMissing(task, seededRng(seed)));
    for (const tap of dry.keys())
      expect(mean(draws.map(({ taps }) => taps[tap]!.dry))).toBeCloseTo(dry[tap]! / all, 1.3);
  });

  it('says nothing that it was not told: without any sap the chances are those of before', () => {
    const told = whatIsMissing(
      {
        taps: Array.from({ length: 40 }, () => ({ weight: 1, path: [0], chances: { dry: 0.05, notSet: 0.02 } })),
        sites: [{ chance: 0.1, from: 50, until: Infinity }],
        ...NOTHING_READ,
        today: 60
      },
      seededRng(1)
    );
    expect(mean(told.taps.map(({ dry }) => dry))).toBeCloseTo(0.05, 2);
    expect(mean(told.taps.map(({ notSet }) => notSet))).toBeCloseTo(0.02, 2);
    expect(told.sites[0]!.leaks).toBeCloseTo(0.1, 0.9);
  });

  it('believes what was found today, and not mended', () => {
    const told = whatIsMissing(
      {
        taps: [{ weight: 1, path: [0], chances: { dry: 0.05, notSet: 0.02 } }],
        sites: [{ chance: 0.999, from: 60, until: Infinity }],
        ...NOTHING_READ,
        today: 60
      },
      seededRng(1)
    );
    expect(told.sites[0]!.leaks).toBeGreaterThan(0.95);
  });

  it('finds by gauges on which stretch air gets in', () => {
    const way = [0, 50, 100, 150];
    const site = (at: number) => way.map((gauge) => Math.min(gauge, at));
    const [stretches, taps] = [[25, 75, 125], 12];
    const told = whatIsMissing(
      {
        taps: Array.from({ length: taps }, (_, i) => ({
          weight: 1,
          path: stretches.flatMap((_, k) => (k <= Math.floor(i / 4) ? k : [])),
          chances: { dry: 0.03, notSet: 0.01 }
        })),
        sites: stretches.map(() => ({ chance: 0.05, from: 50, until: Infinity })),
        came: [],
        together: [],
        // It falls off evenly to the middle of the second stretch, and no farther.
        gauges: [76, 68, 63, 63].map((kPa, i) => ({
          kPa,
          day: 60,
          occasion: 0,
          distanceM: way[i]!,
          sharedM: stretches.map((at) => site(at)[i]!)
        })),
        today: 61,
        asked: []
      },
      seededRng(3)
    );
    expect(told.sites[1]!.leaks).toBeGreaterThan(0.6);
    expect(told.sites[2]!.leaks).toBeLessThan(0.35);
    expect(told.sites[0]!.leaks).toBeLessThan(0.35);
  });

  const seedsOf = (many: number) => Array.from({ length: many }, (_, i) => i + 1);

  it('tells chances that come true, in seasons of another law than its own', () => {
    const told: { chance: number; is: boolean; leak: boolean }[] = [];
    for (const seed of seedsOf(shortOrLong(3, 40))) {
      const season = simulatedSeason(seed);
      for (const day of LOOKING_DAYS.filter((_, i) => i % 3 === 1)) {
        const { sites, taps } = whatIsMissing(season.taskOn(day), seededRng(seed));
        sites.forEach(({ leaks }, site) =>
          told.push({
            chance: leaks,
            is: season.leaks.some((leak) => leak.site === site && leak.day <= day),
            leak: true
          })
        );
        taps.forEach(({ dry, notSet }, tap) =>
          told.push({ chance: dry + notSet, is: season.faults.some((fault) => fault.tap === tap), leak: false })
        );
      }
    }
    for (const leak of [true, false]) {
      const of = told.filter((each) => each.leak === leak);
      const brier = mean(of.map(({ chance, is }) => (chance - Number(is)) ** 2));
      const usual = mean(of.map(({ is }) => Number(is)));
      // Far better than saying of each what is so of all.
      expect(brier).toBeLessThan((leak ? 0.45 : 0.85) * usual * (1 - usual));
      const likely = of.filter(({ chance }) => chance > (leak ? 0.6 : 0.3));
      const share = mean(likely.map(({ is }) => Number(is)));
      expect(Math.abs(share - mean(likely.map(({ chance }) => chance)))).toBeLessThan(shortOrLong(0.25, 0.12));
    }
  });

  it('finds more, sooner and with fewer looks in vain than going in turn, or to what dropped most', () => {
    const all = (policy: () => Policy) =>
      seedsOf(shortOrLong(5, 20))
        .map((seed) => lookedAfter(seed, policy(), LOOKS))
        .reduce((sum, each) => {
          const added = { ...sum };
          for (const key of Object.keys(sum) as (keyof Looked)[]) added[key] += each[key];
          return added;
        });
    const ways = { chances: all(() => byChances), inTurn: all(inTurn), dropped: all(() => whatDroppedMost) };
    for (const other of [ways.inTurn, ways.dropped]) {
      // A few seasons have some ten of each.
      expect(ways.chances.leaksInAWeek).toBeGreaterThan(other.leaksInAWeek - shortOrLong(1, 0));
      expect(ways.chances.leaksInAWeek + ways.chances.unsetFound).toBeGreaterThan(
        other.leaksInAWeek + other.unsetFound
      );
      expect(ways.chances.inVain).toBeLessThan(other.inVain);
    }
    expect(ways.chances.leaksInAWeek / ways.chances.leaks).toBeGreaterThan(0.5);
  });
});
