import { normalCdf, type Rng } from '../math/index.ts';
import type { LeakSite } from './missingTask.ts';

/**
 * What a leak may leave of what runs through it: so many steps, each so much less than the one before, as a logarithm: nearly all of
 * it, down to a fifteenth. What is lost is as likely to be little as much. Working assumption.
 */
export const LEAVES = { steps: 9, apart: 0.3 } as const;
/** Of the steps every third is tried at a time. */
export const CLASSES = 3;
/** How much vacuum its air takes off on a metre of pipe, kPa, and 1 sd of it. Working assumption: up to some 40 on a hundred metres. */
const PULLS_DOWN = { mean: 0.12, sd: 0.15 } as const;
/** What the steps weigh together. */
export const WEIGHT_OF_STEPS = Array.from({ length: LEAVES.steps }, (_, i) =>
  Math.exp(-LEAVES.apart * (i + 0.5))
).reduce((sum, each) => sum + each, 0);
/** A leak: the day of the year by which it began, its step of `LEAVES`, and what its air takes off, kPa a metre. */
export interface Leak {
  readonly began: number;
  readonly step: number;
  readonly pulls: number;
}

/** What gauges say of the air of a leak, kPa a metre: the middle, what it strays by, and how likely all of it is, as a logarithm. */
interface Pulls {
  readonly mean: number;
  readonly sd: number;
  readonly log: number;
}

/** Air that a leak lets in only ever takes vacuum off: a normal cut off at nought, before gauges were read and after. */
export function pullsFrom({ along, against }: { readonly along: number; readonly against: number }): Pulls {
  const precision = against + 1 / PULLS_DOWN.sd ** 2;
  const mean = (along + PULLS_DOWN.mean / PULLS_DOWN.sd ** 2) / precision;
  const sd = 1 / Math.sqrt(precision);
  const log =
    (mean ** 2 * precision - (PULLS_DOWN.mean / PULLS_DOWN.sd) ** 2) / 2 +
    Math.log(sd / PULLS_DOWN.sd) +
    Math.log(Math.max(1e-12, normalCdf(mean / sd)) / normalCdf(PULLS_DOWN.mean / PULLS_DOWN.sd));
  return { mean, sd, log };
}

/** A way in which a site may be, and how likely it makes what came, as a logarithm. */
export interface Choice {
  readonly leak: Leak | null;
  readonly pulls?: Pulls;
  readonly log: number;
}

export const withAir = ({ leak, pulls }: Choice, rng: Rng): Leak | null =>
  leak && pulls ? { ...leak, pulls: positive(pulls, rng) } : null;

/** Tries at drawing what is above nought; then it is taken to lie just above. */
const TRIES = 30;

function positive({ mean, sd }: Pulls, rng: Rng): number {
  for (let i = 0; i < TRIES; i++) {
    const pulls = rng.normal(mean, sd);
    if (pulls > 0) return pulls;
  }
  return sd / TRIES;
}

/** What begins within a day weighs so much at the least, days. */
const LEAST_WEIGHT = 1e-6;

/** Days by which a leak may have begun: those on which something was read, and today; each as likely as there are days since the last. */
export function beginningsOf({ from, until }: LeakSite, days: readonly number[], today: number) {
  const end = Math.min(until, today);
  const all = [...new Set([...days.filter((day) => day > from && day < end), end])].sort((a, b) => a - b);
  const weights = all.map((began, i) => Math.max(LEAST_WEIGHT, began - (all[i - 1] ?? from)));
  const sum = weights.reduce((a, b) => a + b, 0);
  return all.map((began, i) => ({ began, weight: weights[i]! / sum }));
}
