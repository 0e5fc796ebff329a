import type { Clue } from './clues.ts';
import { conflicting } from './conflicts.ts';
import { isMaple, OPPOSITE_LOOK_ALIKES, sistersOf } from './species.ts';
import { SHRUB_GROWN, SPECIES, type AgeClass, type SpeciesId } from './table.ts';

/**
 * The arithmetic under a judgement, on plain arrays in the order of SPECIES: it is run thousands of times to find the
 * next best look.
 */

export type Verdict = 'settled' | 'mapleOpen' | 'lookAgain' | 'notMaple';

/** A verdict needs at least this probability. */
export const SETTLED_AT = 0.95;
/** ... and at least this one under a flat prior, so that no maple-rich stand settles a tree by itself. */
export const FLAT_PRIOR_AT = 0.9;
/** Where two clues exclude each other, a maple verdict needs this. */
export const CONFLICT_SETTLED_AT = 0.99;
/** All weak clues together may shift the odds between any two species by no more than this factor. */
export const WEAK_CLUES_CAP = 2;
/** A strong clue separates a maple from a look-alike when it is this many times as likely on the maple. */
export const SEPARATES_AT = 3;
/**
 * How much a further clue of the same block adds, against an independent one. Working assumption: bark plates, their
 * tone and the rub test, or shape, colour and grouping of buds, are looks at much the same thing.
 */
export const SAME_BLOCK_WEIGHT = 0.6;

export const MAPLE = SPECIES.map((s) => isMaple(s.id));
const INDEX = new Map<SpeciesId, number>(SPECIES.map((s, i) => [s.id, i]));
/** Its place in SPECIES. */
export const indexOf = (id: SpeciesId): number => INDEX.get(id)!;
const LOOK_ALIKES = OPPOSITE_LOOK_ALIKES.map(indexOf);
const SHRUB = SPECIES.map((s) => s.shrub === true);
const SISTERS = SPECIES.map((s) => sistersOf(s.id).map(indexOf));

/**
 * log P(all clues and bark of this age | species). Of each block the clue that parts the species most counts whole, the others by
 * SAME_BLOCK_WEIGHT; weak clues are capped together. The order of the clues does not matter.
 */
export function logLikelihoods(clues: readonly Clue[], age: AgeClass): Float64Array {
  const total = Float64Array.from(SHRUB, (shrub) => (shrub && age !== 'young' ? Math.log(SHRUB_GROWN) : 0));
  const weak = new Float64Array(SPECIES.length);
  let anyWeak = false;
  for (const clue of clues) {
    if (clue.strength === 'weak') {
      anyWeak = true;
      add(weak, clue.logs, 1);
    } else add(total, clue.logs, leadsItsBlock(clue, clues) ? 1 : SAME_BLOCK_WEIGHT);
  }
  if (anyWeak) {
    const range = Math.max(...weak) - Math.min(...weak);
    add(total, weak, Math.min(1, Math.log(WEAK_CLUES_CAP) / Math.max(range, 1e-12)));
  }
  return total;
}

function leadsItsBlock(clue: Clue, clues: readonly Clue[]): boolean {
  const { block, id } = clue.character;
  if (block === null) return true;
  return clues.every(
    (other) =>
      other === clue ||
      other.character.block !== block ||
      other.strength === 'weak' ||
      other.range < clue.range ||
      (other.range === clue.range && id < other.character.id)
  );
}

function add(to: Float64Array, from: Float64Array, weight: number): void {
  for (let i = 0; i < to.length; i++) to[i]! += weight * from[i]!;
}

/**
 * A flat prior, under which no maple-rich stand counts. Species rarer than this share of the region's trees (per cent)
 * weigh less in proportion: a hedge plant met once in a thousand trees is no even match for an ash. Working assumption.
 */
const EVEN_FROM_PCT = 0.5;
const FLAT = SPECIES.map(({ regionalShare }) => Math.min(1, regionalShare / EVEN_FROM_PCT));

/** Probabilities from log likelihoods and prior weights. @param prior null for a flat one */
export function posterior(logs: Float64Array, prior: readonly number[] | null): Float64Array {
  const top = Math.max(...logs);
  const result = Float64Array.from(logs, (log, i) => (prior ?? FLAT)[i]! * Math.exp(log - top));
  const total = result.reduce((sum, p) => sum + p, 0);
  return total > 0 ? result.map((p) => p / total) : result.fill(1 / SPECIES.length);
}

/** The probability that it is a maple of whatever kind, 0 to 1. @param probabilities of all species, in the order of the table */
export function mapleShare(probabilities: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < probabilities.length; i++) if (MAPLE[i]) sum += probabilities[i]!;
  return sum;
}

/** Index of the greatest probability. */
export function leader(probabilities: Float64Array): number {
  let best = 0;
  for (let i = 1; i < probabilities.length; i++) if (probabilities[i]! > probabilities[best]!) best = i;
  return best;
}

/** Why a tree stays open. */
export type Open =
  'nothing' | 'conflict' | 'gateAlternate' | 'gateBeside' | 'gateUnseen' | 'lookAlikes' | 'mapleButWhat' | 'unsure';

export interface Ruling {
  readonly verdict: Verdict;
  readonly open: Open | null;
}

/**
 * The rule of the verdicts.
 * @param stand probabilities under the stand's prior
 * @param flat probabilities under a flat prior
 */
export function rule(clues: readonly Clue[], age: AgeClass, stand: Float64Array, flat: Float64Array): Ruling {
  if (!clues.some((clue) => clue.strength !== 'weak'))
    return { verdict: 'lookAgain', open: seenBeside(clues) ? 'gateBeside' : 'nothing' };
  const pMaple = mapleShare(stand);
  const flatMaple = mapleShare(flat);
  if (pMaple <= 1 - SETTLED_AT && flatMaple <= 1 - FLAT_PRIOR_AT) return { verdict: 'notMaple', open: null };
  const conflict = conflicting(clues);
  const needed = conflict ? CONFLICT_SETTLED_AT : SETTLED_AT;
  const gate = clues.find((clue) => clue.strength === 'gate')?.state;
  const maple = leadingMaple(stand);
  const told = lookAlikesOf(age).every((other) => separating(clues, maple, other) !== null);
  if (gate === 'opposite' && told && pMaple >= needed && flatMaple >= FLAT_PRIOR_AT) {
    const first = leader(stand);
    const withSisters = SISTERS[first]!.reduce((sum, i) => sum + flat[i]!, 0);
    return stand[first]! >= needed && withSisters >= FLAT_PRIOR_AT
      ? { verdict: 'settled', open: null }
      : { verdict: 'mapleOpen', open: 'mapleButWhat' };
  }
  return { verdict: 'lookAgain', open: whatIsMissing(gate, seenBeside(clues), told, conflict) };
}

/** The branching was seen, but on twigs that may be a neighbour's. */
function seenBeside(clues: readonly Clue[]): boolean {
  return clues.some((clue) => clue.character.strength === 'gate' && clue.strength === 'weak');
}

function whatIsMissing(gate: string | undefined, beside: boolean, told: boolean, conflict: boolean): Open {
  if (conflict) return 'conflict';
  if (gate !== 'opposite') return gate ? 'gateAlternate' : beside ? 'gateBeside' : 'gateUnseen';
  return told ? 'unsure' : 'lookAlikes';
}

/** What a trunk with bark of this age has to be told from: a shrub bears none that looks grown. */
function lookAlikesOf(age: AgeClass): readonly number[] {
  return age === 'young' ? LOOK_ALIKES : LOOK_ALIKES.filter((i) => !SHRUB[i]);
}

function leadingMaple(stand: Float64Array): number {
  let best = -1;
  for (let i = 0; i < stand.length; i++) if (MAPLE[i] && (best < 0 || stand[i]! > stand[best]!)) best = i;
  return best;
}

/** The strong clue that tells a maple best from a look-alike; null while none does. */
function separating(clues: readonly Clue[], maple: number, other: number): Clue | null {
  let best: Clue | null = null;
  let most = Math.log(SEPARATES_AT);
  for (const clue of clues) {
    const apart = clue.logs[maple]! - clue.logs[other]!;
    if (clue.strength !== 'strong' || apart < most) continue;
    best = clue;
    most = apart;
  }
  return best;
}

/** The opposite look-alikes that no strong clue tells the leading maple from, by their places in SPECIES, and that maple. */
export function lookAlikesLeft(
  clues: readonly Clue[],
  age: AgeClass,
  stand: Float64Array
): { readonly maple: number; readonly others: readonly number[] } {
  const maple = leadingMaple(stand);
  return { maple, others: lookAlikesOf(age).filter((other) => separating(clues, maple, other) === null) };
}

/** The strong clues that tell the leading maple from every opposite look-alike. */
export function separatingClues(clues: readonly Clue[], age: AgeClass, stand: Float64Array): readonly Clue[] {
  const maple = leadingMaple(stand);
  return [...new Set(lookAlikesOf(age).flatMap((other) => separating(clues, maple, other) ?? []))];
}
