import { rollup } from 'd3-array';

import { pool, type EffectKind, type Observed, type Pooled } from '../math/index.ts';

/** A place of which it is known how brown the wood of each of its taps was, over a season. */
export interface StainedPlace {
  readonly place: string;
  readonly season: number;
  /** taps, each of whose shavings were looked at */
  readonly taps: number;
  /** share of their paths that was stained, in the mean, 0..1 */
  readonly stained: number;
  /** litres that came, of what weather and age of the holes let expect of taps in clear wood */
  readonly came: number;
}

/** What stained wood costs, as a bush's own litres show it. */
export interface OwnLoss {
  /** share of its sap that a tap loses whose whole path is stained, 0..1 */
  readonly share: number;
  /** the interval that holds it in 80 of 100 such bushes */
  readonly low: number;
  readonly high: number;
  /** places and seasons that tell it, and those of them with some brown */
  readonly told: number;
  readonly brown: number;
  /** does the bush say more than what is assumed beforehand? */
  readonly verdict: 'tooFew' | 'told';
}

/**
 * What a path loses that is all stained, before a bush tells: all, roughly in proportion to its stain. Common practice: one small trial, in
 * which holes that hit stain lost 70 to 75 %; how far a bush may lie under that, 1 sd, is a working assumption.
 */
export const USUAL_LOSS = { share: 1, sd: 0.3 } as const;
/** So many places with brown wood, and as many with clear, tell a bush's own loss. Working assumption. */
const LEAST_TOLD = 3;
/** From this share of stain on a place counts as one with brown wood. Working assumption. */
const BROWN_FROM = 0.2;
/** How far a bush, a place, a season and a single tap stray from what is expected, as logarithms, 1 sd. Working assumptions. */
const STRAYS = { level: 0.5, place: 0.25, season: 0.25, tap: 0.35 } as const;
/** Of what is expected so little is no more told from none. Working assumption. */
const NEXT_TO_NONE = 0.02;
/** Losses are tried from none to all in so many steps, and read off between them in so many. */
const STEPS = { tried: 20, read: 100 } as const;

/**
 * What stained wood costs a bush: litres of places against the stain of their paths, less in proportion to it. What a bush, a place and a
 * season did besides falls out (a mixed model of logarithms); each loss is as likely as it lets the litres come as they came, times how
 * likely it was beforehand.
 */
export function ownLoss(told: readonly StainedPlace[]): OwnLoss {
  const used = told.filter(({ taps, came }) => taps > 0 && came >= 0);
  const brown = used.filter(({ stained }) => stained >= BROWN_FROM).length;
  const tooFew = brown < LEAST_TOLD || used.length - brown < LEAST_TOLD;
  const strays = tooFew ? null : straysOf(used);
  const tried = Array.from({ length: STEPS.tried + 1 }, (_, i) =>
    strays ? pooledAt(used, i / STEPS.tried, strays, false).logLikely : 0
  );
  const losses = Array.from({ length: STEPS.read + 1 }, (_, i) => i / STEPS.read);
  const chances = losses.map(
    (loss) => between(tried, loss * STEPS.tried) - ((loss - USUAL_LOSS.share) / USUAL_LOSS.sd) ** 2 / 2
  );
  const most = Math.max(...chances);
  const weights = chances.map((each) => Math.exp(each - most));
  const sum = weights.reduce((all, each) => all + each, 0);
  const below = (share: number) => {
    let left = share * sum;
    return losses[weights.findIndex((each) => (left -= each) <= 0)]!;
  };
  return {
    share: weights.reduce((mean, each, i) => mean + each * losses[i]!, 0) / sum,
    low: below(0.1),
    high: below(0.9),
    told: used.length,
    brown,
    verdict: tooFew ? 'tooFew' : 'told'
  };
}

/** What lies between two of them, straight. @param at place among them, 0..length - 1 */
function between(values: readonly number[], at: number): number {
  const from = Math.min(values.length - 2, Math.floor(at));
  return values[from]! + (at - from) * (values[from + 1]! - values[from]!);
}

type Strays = Record<keyof typeof STRAYS, number>;

/** How far places and taps of this bush stray, where some loss lets the litres come likeliest. */
function straysOf(told: readonly StainedPlace[]): Strays {
  const fits = [0, 0.25, 0.5, 0.75, 1].map((loss) => pooledAt(told, loss, STRAYS, true));
  const { spread, spreads } = fits.reduce((best, fit) => (fit.logLikely > best.logLikely ? fit : best));
  return { ...STRAYS, place: STRAYS.place * spreads[1]!, tap: STRAYS.tap * spread };
}

/** The litres where stain costs so much. @param learns how far they stray, beginning with what is said */
function pooledAt(told: readonly StainedPlace[], loss: number, strays: Strays, learns: boolean): Pooled {
  const places = twice(told.map(({ place }) => place));
  const seasons = twice(told.map(({ season }) => season));
  const kinds: EffectKind[] = [
    { many: 1, sd: strays.level, learned: false },
    { many: places.length, sd: strays.place, learned: learns },
    { many: seasons.length, sd: strays.season, learned: false }
  ];
  const observed = told.map(({ place, season, taps, stained, came }): Observed => {
    const [placeAt, seasonAt] = [places.indexOf(place), seasons.indexOf(season)];
    return {
      value: Math.log((came + NEXT_TO_NONE) / (1 - loss * stained + NEXT_TO_NONE)),
      // What is told once only strays by itself.
      variance: (placeAt < 0 ? strays.place ** 2 : 0) + (seasonAt < 0 ? strays.season ** 2 : 0),
      sd: strays.tap / Math.sqrt(taps),
      of: [
        { effect: 0, times: 1 },
        ...(placeAt < 0 ? [] : [{ effect: 1 + placeAt, times: 1 }]),
        ...(seasonAt < 0 ? [] : [{ effect: 1 + places.length + seasonAt, times: 1 }])
      ]
    };
  });
  return pool(observed, kinds, { learnsSpread: learns });
}

/** Those that are named more than once. */
const twice = <T>(of: readonly T[]): T[] =>
  [
    ...rollup(
      of,
      ({ length }) => length,
      (each) => each
    )
  ].flatMap(([each, many]) => (many > 1 ? each : []));
