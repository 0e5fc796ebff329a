import type { SpeciesId } from '../identify/index.ts';
import { normalCdf } from '../math/index.ts';
import { SIGN_ODDS, type SeasonSignKind } from './signs.ts';

/** The warmth by which the buds of a species swell: then its sap turns, whatever the nights do. */
export interface BudNeed {
  /** degree-days above `BUD_BASE_C` since `BUD_START` */
  readonly degreeDays: number;
  /** from tree to tree and year to year, 1 sd */
  readonly sd: number;
}

/** Buds feel warmth above this, °C. Working assumption. */
export const BUD_BASE_C = 5;
/** They feel it from this day of the year on: month and day. Working assumption. */
export const BUD_START = '-02-01';

/** Sugar and black maple. Working assumption. */
const LATE: BudNeed = { degreeDays: 75, sd: 22 };
/** Red and silver maple swell ten days to a fortnight before. Common practice; the figure is a working assumption. */
const EARLY: BudNeed = { degreeDays: 38, sd: 16 };

/** When the buds of a species swell. @param species null where it is open: as the sugar maple's */
export function budNeedOf(species: SpeciesId | null): BudNeed {
  return species === 'redMaple' || species === 'silverMaple' || species === 'boxElder' ? EARLY : LATE;
}

/** A year, or a bush, is unlike all that is expected with such a chance: then the need is spread so many times as wide. Working assumption. */
const UNLIKE = { chance: 0.1, wider: 2 } as const;

/** Student's t of three degrees of freedom: what is unlike the rest has no end that is surely never reached. */
const farCdf = (t: number) => {
  const x = t / Math.sqrt(3);
  return 0.5 + (x / (1 + x * x) + Math.atan(x)) / Math.PI;
};

/** A sign that somebody saw at the trees of a species, by the warmth that their buds had had. */
export interface BudLook {
  readonly degreeDays: number;
  readonly sign: SeasonSignKind;
}

/**
 * How likely the season of a species is over by its buds, given what was seen: what they need is weighed by how often each sign is
 * seen before and after it.
 * @returns the chance by the degree-days that the buds had, 0..1
 */
export function overByBuds(need: BudNeed, looks: readonly BudLook[] = []): (degreeDays: number) => number {
  const by = (value: number) => {
    const z = (value - need.degreeDays) / need.sd;
    return (1 - UNLIKE.chance) * normalCdf(z) + UNLIKE.chance * farCdf(z / UNLIKE.wider);
  };
  const told = looks
    .flatMap(({ degreeDays, sign }) => ({ degreeDays, odds: Math.log(SIGN_ODDS[sign] ?? 1) }))
    .sort((a, b) => a.degreeDays - b.degreeDays);
  // Between two looks all needs weigh the same; against the heaviest, since a season may have hundreds of looks.
  const heavy = told.map((_, i) => told.slice(i).reduce((sum, { odds }) => sum + odds, 0)).concat(0);
  const heaviest = Math.max(...heavy);
  let [from, chance] = [0, 0];
  const steps = heavy.map((each, i) => {
    const until = told[i]?.degreeDays ?? Infinity;
    const step = { until, from, below: chance, weight: Math.exp(each - heaviest) };
    const to = until === Infinity ? 1 : by(until);
    chance += step.weight * (to - from);
    from = to;
    return step;
  });
  return (degreeDays) => {
    const { from, below, weight } = steps.find(({ until }) => degreeDays < until) ?? steps.at(-1)!;
    return (below + weight * (by(degreeDays) - from)) / chance;
  };
}
