import type { GaugeRead, LeakSite, MissingTask, SapThatCame, TapBehind, TapFault } from '../src/lines/index.ts';
import { seededRng, type Rng } from '../src/math/index.ts';

/*
 * Seasons on two tanks with lines, by a law that is not the program's own: leaks of any size that begin on any day, taps that differ
 * from what is known of them, days with heavy tails, air that takes off vacuum by the 1.75th power of what flows.
 */

const [FIRST, LAST] = [60, 110];
const LATERALS = 6;
const TAPS = 5;
const STRETCHES = 3;
const TANKS = 2;
const METRES = { stretch: 40, lateral: 20 };
/** Of ten stretches or laterals one leaks at some time in a season. */
const CHANCE = 0.1;
/** Every so many days the laterals are timed and the gauges read. */
const WEEK = 7;

interface TrueLeak {
  readonly site: number;
  readonly day: number;
  readonly loses: number;
  found: number | null;
}
interface TrueFault {
  readonly tap: number;
  readonly fault: TapFault;
  found: number | null;
}

/** A season as it is, and what of it comes to be known. */
export interface SimulatedSeason {
  readonly leaks: TrueLeak[];
  readonly faults: TrueFault[];
  /** sites of each tap, and the lateral of each */
  readonly lateralOf: readonly number[];
  /** what is known on a day, looks so far included */
  taskOn(day: number): MissingTask;
  /** somebody looks at a tap or a site: what is found is mended */
  lookAt(what: { tap: number } | { site: number }, day: number): boolean;
  /** the laterals' last two timings, litres a tap against all: for those who go by them */
  timings(day: number): readonly { readonly last: number; readonly before: number }[];
}

const heavy = (rng: Rng, sd: number) =>
  rng.normal(0, sd) / Math.sqrt((rng.normal(0, 1) ** 2 + rng.normal(0, 1) ** 2 + rng.normal(0, 1) ** 2 + 1) / 4);

export const LOOKING_DAYS = Array.from({ length: Math.floor((LAST - FIRST) / WEEK) }, (_, i) => FIRST + WEEK * (i + 1));

/** A site's number: the laterals of a tank first, then the stretches of its main line from the upper end. */
const SITES_A_TANK = LATERALS + STRETCHES;
export const isLateral = (site: number) => site % SITES_A_TANK < LATERALS;

export function simulatedSeason(seed: number): SimulatedSeason {
  const rng = seededRng(seed);
  const pathOf = (lateral: number, tank: number) => {
    const joins = Math.floor((lateral * STRETCHES) / LATERALS);
    return [
      tank * SITES_A_TANK + lateral,
      ...Array.from({ length: STRETCHES - joins }, (_, i) => tank * SITES_A_TANK + LATERALS + joins + i)
    ];
  };
  const places = Array.from({ length: TANKS * LATERALS }, (_, i) => ({
    lateral: i % LATERALS,
    tank: Math.floor(i / LATERALS)
  }));
  const known = places.flatMap(({ lateral, tank }) =>
    Array.from({ length: TAPS }, () => {
      const reported = rng.uniform() < 0.9;
      const brown = rng.uniform() < 0.1;
      return {
        weight: rng.logNormal(1, 0.2),
        path: pathOf(lateral, tank),
        chances: { dry: brown ? 0.35 : 0.03, notSet: reported ? 0.01 : 0.15 }
      };
    })
  );
  const lateralOf = places.flatMap(({ lateral, tank }) =>
    Array.from({ length: TAPS }, () => tank * SITES_A_TANK + lateral)
  );
  const gives = known.map(({ weight }) => weight * rng.logNormal(1, 0.2));
  const faults = known.flatMap(({ chances }, tap): TrueFault[] => {
    const u = rng.uniform();
    const fault = u < chances.dry ? 'dry' : u < chances.dry + chances.notSet ? 'notSet' : null;
    return fault ? [{ tap, fault, found: null }] : [];
  });
  const leaks = Array.from({ length: TANKS * SITES_A_TANK }, (_, site) => site).flatMap((site): TrueLeak[] =>
    rng.uniform() < CHANCE
      ? [
          {
            site,
            day: FIRST + Math.floor(rng.uniform() * (LAST - FIRST - WEEK)),
            loses: 0.1 + 0.85 * rng.uniform(),
            found: null
          }
        ]
      : []
  );
  const factors = Array.from({ length: TANKS + 2 }, () => rng.logNormal(1, 0.1));
  const season = rng.logNormal(1, 0.2);
  const share = Array.from({ length: LAST + 1 }, () => (rng.uniform() < 0.45 ? 0.1 + 0.9 * rng.uniform() : 0));
  const shared = share.map(() => Math.exp(heavy(rng, 0.2)));
  const tapOn = (tap: number, day: number, above: ReadonlySet<number>) => {
    const fault = faults.find((each) => each.tap === tap && (each.found === null || day < each.found));
    let sap = gives[tap]! * (fault ? (fault.fault === 'dry' ? 0.07 : 0) : 1);
    for (const { site, day: began, loses, found } of leaks)
      if (above.has(site) && known[tap]!.path.includes(site) && began <= day && (found === null || day < found))
        sap *= 1 - loses;
    return sap;
  };
  const all = new Set(Array.from({ length: TANKS * SITES_A_TANK }, (_, i) => i));
  const tapsOf = (tank: number) =>
    known.flatMap(({ path }, tap) => (Math.floor(path[0]! / SITES_A_TANK) === tank ? tap : []));
  // What comes is written down as it comes, mends until then included.
  const came: SapThatCame[] = [];
  const together: number[] = [0.3, ...factors.map(() => 0.12), ...places.map(() => 0.25 / Math.sqrt(TAPS))];
  const gauges: GaugeRead[] = [];
  const timed: number[][] = [];
  let [until, occasion] = [FIRST - 1, 0];
  const since = factors.map(() => ({ litres: 0, usual: 0, middle: 0 }));
  const goOn = (day: number) => {
    while (until < day) {
      until += 1;
      const today = together.length;
      let emptied = false;
      since.forEach((sum, place) => {
        const sap =
          place < TANKS ? tapsOf(place).reduce((litres, tap) => litres + tapOn(tap, until, all), 0) : 40 * 0.95;
        const usual = 5 * share[until]!;
        sum.litres += usual * shared[until]! * season * factors[place]! * sap;
        sum.middle += usual * until;
        sum.usual += usual;
        if (sum.usual < 2) return;
        emptied = true;
        came.push({
          taps: place < TANKS ? tapsOf(place) : [],
          besides: place < TANKS ? 0 : 40,
          through: all,
          day: sum.middle / sum.usual,
          litres: sum.litres * Math.exp(heavy(rng, 0.1)),
          usualLitres: sum.usual,
          sd: 0.15,
          with: [0, 1 + place, today]
        });
        Object.assign(sum, { litres: 0, usual: 0, middle: 0 });
      });
      if (emptied) together.push(0.2);
      if (LOOKING_DAYS.includes(until)) readAll();
    }
  };
  const readAll = () => {
    const hour = rng.logNormal(1, 0.5);
    timed.push(
      places.map(({ lateral, tank }, i) => {
        const site = tank * SITES_A_TANK + lateral;
        const taps = lateralOf.flatMap((of, tap) => (of === site ? tap : []));
        const sap = taps.reduce((sum, tap) => sum + tapOn(tap, until, new Set([site])), 0);
        const litres = hour * season * factors[tank]! * sap * Math.exp(heavy(rng, 0.12));
        came.push({
          taps,
          besides: 0,
          through: new Set([site]),
          day: until,
          litres,
          usualLitres: 1,
          sd: 0.18,
          with: [0, 1 + tank, 1 + factors.length + i, together.length]
        });
        return litres / taps.length;
      })
    );
    together.push(0.8);
    for (let tank = 0; tank < TANKS; tank++) {
      // At the foot, between the stretches and at the far end.
      for (let k = 0; k <= STRETCHES; k++) {
        const distanceM = k * METRES.stretch;
        const sharedM = Array.from({ length: TANKS * SITES_A_TANK }, (_, site) => {
          if (Math.floor(site / SITES_A_TANK) !== tank) return 0;
          const own = site % SITES_A_TANK;
          const joinsFromFoot =
            own < LATERALS ? STRETCHES - Math.floor((own * STRETCHES) / LATERALS) : STRETCHES - (own - LATERALS) - 0.5;
          return METRES.stretch * Math.min(k, joinsFromFoot);
        });
        const pulled = leaks.reduce(
          (sum, { site, day, loses, found }) =>
            day <= until && (found === null || until < found) ? sum + 0.35 * sharedM[site]! * loses ** 1.75 : sum,
          0
        );
        gauges.push({
          kPa: 75 - 0.012 * distanceM - pulled + heavy(rng, 1),
          day: until,
          occasion: occasion + tank,
          distanceM,
          sharedM
        });
      }
    }
    occasion += TANKS;
  };
  const looks = { taps: new Map<number, number>(), sites: new Map<number, number[]>() };
  const sitesOn = (): LeakSite[] =>
    [...all].map((site) => ({
      chance: CHANCE,
      from: Math.max(FIRST, ...(looks.sites.get(site) ?? [])),
      until: Infinity
    }));
  return {
    leaks,
    faults,
    lateralOf,
    taskOn(day) {
      goOn(day);
      const mended = leaks.filter(({ found }) => found !== null);
      const sites: LeakSite[] = [
        ...sitesOn(),
        ...mended.map(({ found }) => ({ chance: 0.999, from: FIRST, until: found! }))
      ];
      const extra = (site: number) => mended.flatMap((leak, i) => (leak.site === site ? all.size + i : []));
      const taps = known.map((tap, i): TapBehind => {
        const fault = faults.find((each) => each.tap === i && each.found !== null);
        const looked = looks.taps.get(i) ?? 0;
        const slip = 0.1 ** looked;
        return {
          ...tap,
          path: tap.path.flatMap((site) => [site, ...extra(site)]),
          chances: fault ? { dry: 0, notSet: 0 } : { dry: tap.chances.dry * slip, notSet: tap.chances.notSet * slip },
          ...(fault && { mended: { fault: fault.fault, day: fault.found! } })
        };
      });
      const through = (of: ReadonlySet<number>) => new Set([...of, ...[...of].flatMap(extra)]);
      return {
        taps,
        sites,
        came: came.map((each) => ({ ...each, through: through(each.through) })),
        together,
        gauges: gauges.map((each) => ({
          ...each,
          sharedM: [...each.sharedM, ...mended.map(({ site }) => each.sharedM[site]!)]
        })),
        today: day,
        asked: [0, 1].map((tank) => ({ taps: tapsOf(tank), through: through(all) }))
      };
    },
    lookAt(what, day) {
      const sees = rng.uniform() < 0.9;
      if ('tap' in what) {
        const fault = faults.find(({ tap, found }) => tap === what.tap && found === null);
        if (fault && sees) fault.found = day;
        else looks.taps.set(what.tap, (looks.taps.get(what.tap) ?? 0) + 1);
        return Boolean(fault && sees);
      }
      const leak = leaks.find(({ site, day: began, found }) => site === what.site && began <= day && found === null);
      if (leak && sees) leak.found = day;
      if (sees) looks.sites.set(what.site, [day]);
      return Boolean(leak && sees);
    },
    timings(day) {
      goOn(day);
      const [last, before] = [timed.at(-1)!, timed.at(-2)];
      const level = (each: readonly number[]) => each.reduce((sum, one) => sum + one / each.length, 0);
      return last.map((each, i) => ({ last: each / level(last), before: before ? before[i]! / level(before) : 1 }));
    }
  };
}

/** Where somebody looks. */
export type Place = { readonly tap: number } | { readonly site: number };

/** Somebody who decides each week where to look. */
export type Policy = (season: SimulatedSeason, day: number, looks: number) => readonly Place[];

/** Every tap and every part of a line, one after the other. */
export const inTurn = (): Policy => {
  let next = 0;
  const all: Place[] = [
    ...Array.from({ length: TANKS * SITES_A_TANK }, (_, site) => ({ site })),
    ...Array.from({ length: TANKS * LATERALS * TAPS }, (_, tap) => ({ tap }))
  ];
  return (season, day, looks) => {
    season.timings(day);
    return Array.from({ length: looks }, () => all[next++ % all.length]!);
  };
};

/** The lateral that fell off most since the last week against all, and its taps. */
export const whatDroppedMost: Policy = (season, day, looks) => {
  const sites = [...new Set(season.lateralOf)];
  const worst = season
    .timings(day)
    .map(({ last, before }, i) => ({ site: sites[i]!, part: last / before }))
    .sort((a, b) => a.part - b.part);
  return worst
    .flatMap(({ site }): Place[] => [
      { site },
      ...season.lateralOf.flatMap((of, tap) => (of === site ? [{ tap }] : []))
    ])
    .slice(0, looks);
};

/** What becomes of a season under somebody's looks. */
export interface Looked {
  readonly leaks: number;
  readonly leaksInAWeek: number;
  readonly unset: number;
  readonly unsetFound: number;
  readonly inVain: number;
}

export function lookedAfter(seed: number, policy: Policy, looks: number): Looked {
  const season = simulatedSeason(seed);
  let inVain = 0;
  for (const day of LOOKING_DAYS)
    for (const place of policy(season, day, looks)) if (!season.lookAt(place, day)) inVain += 1;
  const unset = season.faults.filter(({ fault }) => fault === 'notSet');
  return {
    leaks: season.leaks.length,
    leaksInAWeek: season.leaks.filter(({ day, found }) => found !== null && found - day <= WEEK).length,
    unset: unset.length,
    unsetFound: unset.filter(({ found }) => found !== null).length,
    inVain
  };
}
