import type { WeatherDay } from './weather.ts';

type Temperatures = Pick<WeatherDay, 'minC' | 'maxC'>;

/** Does sap run: a night that freezes before a day that thaws? Both strictly, as days are counted. Common practice. */
export const isRunDay = ({ minC, maxC }: Temperatures): boolean => minC < 0 && maxC > 0;

/** The most run days in a row. @param days one after the other */
export function longestRun(days: readonly Temperatures[]): number {
  let [longest, now] = [0, 0];
  for (const day of days) {
    now = isRunDay(day) ? now + 1 : 0;
    longest = Math.max(longest, now);
  }
  return longest;
}

/**
 * How warm a day is above a threshold, in degree-days: the mean over 24 hours of what lies above it, where the air goes from the
 * lowest to the highest as a sine (Baskerville & Emin 1969, from memory).
 * @returns °C, 0 or more
 */
export function warmthAbove(thresholdC: number, { minC, maxC }: Temperatures): number {
  const middle = (minC + maxC) / 2 - thresholdC;
  const half = (maxC - minC) / 2;
  if (middle <= -half) return 0;
  if (middle >= half) return middle;
  return (middle * Math.acos(-middle / half) + Math.sqrt(half * half - middle * middle)) / Math.PI;
}

/** How sharp the edge of freezing is in a place where no two trees stand in the same air, °C. Working assumption. */
const EDGE_C = 0.6;
/** Frost by which the wood is filled to two thirds overnight, °C below freezing. Working assumption: best from -4 to -1 °C. */
const FILLS_C = 1.8;
/** Warmth by which two thirds run out of it, degree-days above freezing. Working assumption: best from +4 to +10 °C. */
const EMPTIES_C = 1.6;
/** Where the day is warmer than this the run slackens by half, °C. Working assumption. */
const SLACKENS_C = 17;
/** How gradually it does, °C. Working assumption. */
const SLACKENS_OVER_C = 2.5;

/** Zero well below, the value itself well above, and smooth between. */
const above = (value: number, edge: number): number =>
  value > 30 * edge ? value : edge * Math.log1p(Math.exp(value / edge));

/**
 * How well sap runs on a day, from 0 to 1: how far the night filled the wood, times how far the day lets it run. 1 is never
 * reached. Smooth at its edges: a degree of frost at the station is none in the one tree and two in the other.
 */
export function runIndex(day: Temperatures): number {
  const filled = 1 - Math.exp(-above(-day.minC, EDGE_C) / FILLS_C);
  const freed = 1 - Math.exp(-warmthAbove(0, day) / EMPTIES_C);
  const slack = 1 / (1 + Math.exp((day.maxC - SLACKENS_C) / SLACKENS_OVER_C));
  return filled * freed * slack;
}

/** Why sap runs on a day or does not. */
export type RunReason = 'runs' | 'runsWeakly' | 'noFrost' | 'noThaw' | 'hardFrost' | 'tooWarm';

/** From this index on a day is one worth walking for. Working assumption. */
export const RUNS_FROM = 0.15;
/** From this one on it runs well. Working assumption. */
const RUNS_WELL_FROM = 0.45;
/** After a colder night the wood thaws late, °C. Working assumption. */
const HARD_FROST_C = -9;

/** The reason of a day: what is missing where it is dry. */
export function runReason(day: Temperatures): RunReason {
  const index = runIndex(day);
  if (index >= RUNS_WELL_FROM) return 'runs';
  if (index >= RUNS_FROM) return 'runsWeakly';
  if (day.maxC <= 1) return 'noThaw';
  if (day.minC <= HARD_FROST_C) return 'hardFrost';
  return day.maxC > SLACKENS_C && day.minC < 0 ? 'tooWarm' : 'noFrost';
}

/** On a day that stays colder than this the wood is frozen hard, and splits at the spout, °C. From memory. */
const FROZEN_HARD_C = -4;

/** Can a tree be drilled on a day, as far as frost goes? */
export const isDrillable = ({ maxC }: Temperatures): boolean => maxC >= FROZEN_HARD_C;
