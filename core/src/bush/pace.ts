import { group } from 'd3-array';

import { chanceOf, logistic, logOddsOf, mean, median, Z_EIGHTY } from '../math/index.ts';
import type { Point } from '../geometry/index.ts';
import { LITRES_A_TAP } from '../sap/index.ts';
import { stainedOf } from '../trunk/index.ts';
import { METRES_A_MINUTE } from './collecting.ts';
import type { DrilledHole } from './drilledHoles.ts';

/** A hole of a round, and where its tree stands. */
export interface PacedHole extends DrilledHole {
  /** metres east and north; null where nobody placed it */
  readonly at: Point | null;
}

/** How brown wood goes with haste. */
export interface Pace {
  /** holes that were drilled one after another, looked at, and timed; and how many of them were brown in part or all */
  readonly holes: number;
  readonly brown: number;
  /** minutes at a tree that are usual, the way to it left aside */
  readonly usualMinutes: number;
  /** share of brown holes at the usual pace, and in half the time with its 80 % interval */
  readonly asUsual: number;
  readonly halved: { readonly share: number; readonly low: number; readonly high: number };
  /** share of its path that is stained where a hole is brown, in the mean */
  readonly stained: number;
  readonly verdict: 'tooFew' | 'cannotTell' | 'hurryCosts' | 'hurryCostsNothing';
}

/** Fewer holes, or fewer brown ones, tell nothing of haste. Working assumptions. */
const LEAST = { holes: 60, brown: 8 } as const;
/** Minutes between two holes that are work: less was written down afterwards, more was a rest. Working assumptions. */
const WORK = { from: 0.5, to: 20 } as const;
/** How far log odds stray: of the whole bush, of one who drills, and by halving the time, 1 sd. Working assumptions. */
const STRAYS = { bush: 1, person: 0.5, halving: 0.7 } as const;
/** No hole is expected to be surer than this, one way or the other. */
const SURE = 0.02;
/** Where half the time makes so much less of a difference to the share of brown holes, at the interval's worse end, haste costs nothing. Working assumption. */
const NO_MATTER = 0.03;

/**
 * Does haste meet more old wood? Holes of a day by the same person, in the order in which they were written down where they were drilled: the
 * minutes since the one before, less the way, against what the shavings showed. What was expected at each place is taken off, and
 * everybody is held against their own usual pace, so that a bad tree and a slow hand are none of it.
 * @returns null where no hole is timed
 */
export function paceOf(holes: readonly PacedHole[]): Pace | null {
  const timed = [...group(holes, ({ hole }) => `${hole.authorId} ${hole.on}`).values()].flatMap(timedOf);
  const usual = new Map(
    [...group(timed, ({ authorId }) => authorId)].map(([id, own]) => [id, median(own.map(({ minutes }) => minutes))])
  );
  const told = timed.filter((each): each is Timed & { readonly stained: number } => each.stained !== null);
  if (told.length === 0) return null;
  const people = [...usual.keys()];
  const met = told.flatMap(({ stained }) => (stained > 0 ? stained : []));
  const brown = met.length;
  const expected = told.map(({ expectedBrown }) => expectedBrown ?? brown / told.length);
  const offsets = expected.map((chance) => logOddsOf(Math.min(1 - SURE, Math.max(SURE, chance))));
  const { effects, doubts } = logistic(
    told.map(({ authorId, minutes, stained }, i) => ({
      happened: stained > 0,
      offset: offsets[i]!,
      of: [
        { effect: 0, times: 1 },
        { effect: 1, times: -Math.log2(minutes / usual.get(authorId)!) },
        { effect: 2 + people.indexOf(authorId), times: 1 }
      ]
    })),
    [STRAYS.bush, STRAYS.halving, ...people.map(() => STRAYS.person)]
  );
  /** The share of brown holes where all take half their time, or all of it. */
  const share = (halving: number) =>
    mean(
      told.map(({ authorId }, i) =>
        chanceOf(offsets[i]! + effects[0]! + halving + effects[2 + people.indexOf(authorId)]!)
      )
    );
  const [middle, doubt] = [effects[1]!, doubts[1]!];
  const [low, high] = [middle - Z_EIGHTY * doubt, middle + Z_EIGHTY * doubt];
  const asUsual = share(0);
  return {
    holes: told.length,
    brown,
    usualMinutes: median(told.map(({ minutes }) => minutes)),
    asUsual,
    halved: { share: share(middle), low: share(low), high: share(high) },
    stained: brown > 0 ? mean(met) : 0,
    verdict:
      told.length < LEAST.holes || brown < LEAST.brown
        ? 'tooFew'
        : low > 0
          ? 'hurryCosts'
          : share(high) - asUsual < NO_MATTER
            ? 'hurryCostsNothing'
            : 'cannotTell'
  };
}

/** Litres of a season's sap that an hour costs which is saved by taking half the time; 0 where haste meets no more brown wood. */
export function hourSavedCosts(
  { usualMinutes, asUsual, halved, stained }: Pace,
  stainLoss: number
): { readonly litres: number; readonly low: number; readonly high: number } {
  const holesAnHour = 60 / (usualMinutes / 2);
  const lost = (share: number) => Math.max(0, share - asUsual) * stained * stainLoss * LITRES_A_TAP * holesAnHour;
  return { litres: lost(halved.share), low: lost(halved.low), high: lost(halved.high) };
}

interface Timed {
  readonly authorId: string;
  /** since the hole before, less the way */
  readonly minutes: number;
  /** share of its path that was stained; null where nobody looked at the shavings */
  readonly stained: number | null;
  /** null where nothing was predicted */
  readonly expectedBrown: number | null;
}

/** Of one person's holes of a day those between which a time can be told. */
function timedOf(holes: readonly PacedHole[]): Timed[] {
  const inOrder = [...holes].sort((a, b) => a.hole.recordedAt.localeCompare(b.hole.recordedAt));
  return inOrder.slice(1).flatMap(({ hole, shavings, at }, i): Timed[] => {
    const before = inOrder[i]!;
    // Whoever mends an entry drills no hole.
    if (hole.correctsId !== null || before.hole.correctsId !== null) return [];
    const way = at && before.at ? Math.hypot(at[0] - before.at[0], at[1] - before.at[1]) / METRES_A_MINUTE : 0;
    const minutes = (Date.parse(hole.recordedAt) - Date.parse(before.hole.recordedAt)) / 60_000 - way;
    if (minutes < WORK.from || minutes > WORK.to) return [];
    const { authorId = '', predictedClear } = hole;
    return [
      {
        authorId,
        minutes,
        stained: shavings && stainedOf(shavings),
        expectedBrown: predictedClear === null ? null : 1 - predictedClear
      }
    ];
  });
}
