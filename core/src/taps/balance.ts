import { normalCdf, Z_EIGHTY } from '../math/index.ts';
import { insideBark } from '../measure/index.ts';
import { DEFAULT_COLUMNS, meanVolumeRatio, type ColumnModel } from '../trunk/index.ts';

/** Long-run stained share of the tapping band that a steward accepts. Working assumption. */
export const DEFAULT_ACCEPTED_SHARE = 0.1;
/** More taps than this are decided on no tree. */
export const MAX_TAPS = 8;
/** How sure the balance must be before it suggests one more tap. */
export const SURE_ENOUGH = 0.7;
/** Taps carried from here on count as a whole one. */
export const NEARLY_ONE = 0.9;

/** What the growth balance is worked out from. Lengths in mm. */
export interface BalanceInput {
  readonly dbhMm: number;
  readonly ringMm: number;
  readonly ringSeMm: number;
  readonly bitMm: number;
  /** depth of the hole in wood */
  readonly depthMm: number;
  /** height of the band that holes are spread over */
  readonly bandMm: number;
  readonly acceptedShare?: number;
  readonly model?: ColumnModel;
}

export interface Balance {
  /** taps a year whose stain new wood replaces, in the long run */
  readonly tapsCarried: number;
  /** an 80 % range of it, from the uncertainty of the growth */
  readonly tapsCarriedLow: number;
  readonly tapsCarriedHigh: number;
  /** long-run stained share of the band at one tap a year, before chance overlap (phi) */
  readonly phiAtOneTap: number;
  /** ring width that carries one tap a year, mm */
  readonly ringForOneMm: number;
  /** taps that the balance suggests; 0 means rest years are needed */
  readonly suggested: number;
  /** with fewer than one tap carried: one tap every so many years */
  readonly restRhythmYears: number;
}

/**
 * Is the tree growing clear wood as fast as holes kill it?
 *
 * One hole stains `A = rho_mean * pi/4 * bit^2` of the tapping surface. It stays in the drill path until rings bury it,
 * in the mean for half of `p / w` years. So k holes a year over a band of height H make up the long-run share
 * `phi = k * A * p / (2 * w * pi * DIB * H)`, and `k* = phi_limit * 2 * w * pi * DIB * H / (A * p)` taps are carried.
 * An idealised band that wraps round, keeps its girth and loses no column over its edge; a real trunk has somewhat less
 * stain. See docs/model.md, "Growth balance".
 */
export function growthBalance(input: BalanceInput): Balance {
  const phiLimit = input.acceptedShare ?? DEFAULT_ACCEPTED_SHARE;
  const perRing = tapsPerRing(input, phiLimit);
  const ring = Math.max(0, input.ringMm);
  const tapsCarried = perRing * ring;
  const spread = Z_EIGHTY * input.ringSeMm;
  const surely = (taps: number) => chanceToCarry(taps, input) >= SURE_ENOUGH;
  let suggested = 0;
  while (suggested < MAX_TAPS && surely(suggested === 0 ? NEARLY_ONE : suggested + 1)) suggested += 1;
  return {
    tapsCarried,
    tapsCarriedLow: perRing * Math.max(0, ring - spread),
    tapsCarriedHigh: perRing * (ring + spread),
    phiAtOneTap: tapsCarried > 0 ? phiLimit / tapsCarried : Infinity,
    ringForOneMm: 1 / perRing,
    suggested,
    restRhythmYears: suggested > 0 ? 1 : tapsCarried > 0 ? Math.max(2, Math.ceil(1 / tapsCarried)) : Infinity
  };
}

/** Long-run share of stained wood once chance overlap is counted: `1 - exp(-phi)`. */
export function longRunStainedShare(balance: Balance, tapsPerYear: number): number {
  return tapsPerYear === 0 ? 0 : 1 - Math.exp(-tapsPerYear * balance.phiAtOneTap);
}

/** Taps carried for each millimetre of ring width. */
function tapsPerRing(input: BalanceInput, phiLimit: number): number {
  const { areaMm2 } = meanStain(input.bitMm, input.model);
  return (phiLimit * 2 * Math.PI * insideBark(input.dbhMm) * input.bandMm) / (areaMm2 * input.depthMm);
}

/**
 * How much of the tapping surface one hole stains on average.
 * @param bitMm its diameter
 * @returns times its own cross-section, and mm2
 */
export function meanStain(bitMm: number, model: ColumnModel = DEFAULT_COLUMNS): { times: number; areaMm2: number } {
  const times = meanVolumeRatio(model);
  return { times, areaMm2: times * (Math.PI / 4) * bitMm ** 2 };
}

/** How likely new wood replaces what so many taps a year kill: `P(k* >= taps)`, given the growth's standard error. */
export function chanceToCarry(taps: number, input: BalanceInput): number {
  const needed = taps / tapsPerRing(input, input.acceptedShare ?? DEFAULT_ACCEPTED_SHARE);
  if (input.ringSeMm <= 0) return input.ringMm >= needed ? 1 : 0;
  return normalCdf((input.ringMm - needed) / input.ringSeMm);
}
