import { sum } from 'd3-array';

import { pool, toldApart } from '../math/index.ts';
import {
  asInBush,
  LARGEST_CORRECTION,
  LEAST_CORRECTION,
  USUAL_BUSH,
  withHands,
  type BushColumns
} from './bushColumns.ts';
import { columnHalfLength } from './column.ts';
import { columnsOf, type ColumnModel } from './defaults.ts';
import { holeSizeSigma, TREE_SIZE_SIGMA } from './draws.ts';
import { learnTrunk } from './learn.ts';
import { Look, loggedHoles, type LoggedTree } from './look.ts';

/** How far a bush's factors, and each hand's, stray from the usual: logarithms, 1 sd. Working assumptions. */
const STRAYS = { size: 0.5, margin: 0.35, position: 0.35, hand: 0.35 } as const;
/**
 * How far the mean lean of a bush strays from upright, and that of a stand or species from its bush's, and how far single trees of one do
 * at least, degrees, 1 sd. Working assumptions.
 */
const LEANS = { bush: 1.5, kin: 2, least: 2.5 } as const;
/** Who drilled so many of the holes that were looked at is told apart; stands and species of so many logged trees. Working assumptions. */
const TOLD_FROM = { holes: 12, trees: 5 } as const;
/** Both ends and the width of a stain on a sawn face are read to about this, as a share, 1 sd. Working assumption. */
const READ_TO = 0.1;
/** And its lean to this, degrees. Working assumption. */
const LEAN_READ_TO_DEG = 1.5;
/** A correction is worth taking when it explains what was seen at least e^2, about seven times, better. */
export const WORTH_CORRECTING = 2;
/** Steps along each factor, in how far bushes stray; each is gone over once a round. */
const ROUNDS = [0.8, 0.6, 0.4] as const;
/** Of the work, the share that the factors take; the grain takes the rest. */
const FACTORS_TAKE = 0.5;

export interface PoolOptions {
  /** of what nobody sees of each trunk */
  readonly draws?: number;
  /** looks that the factors are found by at the most: more would take minutes and say the same */
  readonly most?: number;
  readonly seed?: number;
  /** is told how far it is, 0 to 1, and stops it by answering false */
  readonly onProgress?: (done: number) => boolean;
}

/** What all logged holes and sawn faces of a bush together say. */
export interface PooledColumns {
  readonly bush: BushColumns;
  /** how much better it explains them than what was gone by before, as a logarithm, less what straying from the usual costs */
  readonly gain: number;
  /** holes looked at that had an older one near, and columns on sawn faces */
  readonly looks: number;
  readonly sawn: number;
}

/**
 * What a bush's shavings and sawn faces say of its columns, of each who drills and of its grain, by stand and by species. Little
 * data moves little.
 *
 * The factors are those under which the chance of all that was seen is greatest, given how far bushes stray from the usual
 * (empirical Bayes). The chance of each look is summed over all that nobody sees of its trunk, by the same draws for whatever is
 * tried; looks at one trunk count as if they were of several (a composite likelihood, Varin, Reid & Firth 2011). The grain follows from
 * what each trunk says of its lean by itself (`learnTrunk`), pooled by stand and species.
 * @param before what was gone by until now, which the gain is told against
 * @returns null when it was stopped
 */
export function poolColumns(
  trees: readonly LoggedTree[],
  model: ColumnModel,
  before: BushColumns = USUAL_BUSH,
  { draws = 60, most = 500, seed = 1, onProgress = () => true }: PoolOptions = {}
): PooledColumns | null {
  const logged = trees.flatMap(loggedHoles);
  const every = Math.max(1, Math.ceil(logged.length / most));
  const looks = logged
    .filter((_, i) => i % every === 0)
    .map((hole, i) => new Look(hole, model, draws, seed + i))
    .filter(({ tells }) => tells);
  const factors = factorsOf(looks, { trees, model }, before, (done) => onProgress(FACTORS_TAKE * done));
  if (!factors) return null;
  const telling = new Set(looks.map(({ hole }) => hole.treeId));
  const grain = grainOf(
    trees.filter(({ treeId, sawn }) => telling.has(treeId) || sawn.some(({ leanDeg }) => leanDeg !== null)),
    model,
    factors.bush,
    { seed, goesOn: (done) => onProgress(FACTORS_TAKE + (1 - FACTORS_TAKE) * done) }
  );
  if (!grain) return null;
  const bush = { ...factors.bush, ...grain };
  const explained = (each: BushColumns) =>
    sum(looks, (look) => look.fit(each)) + sum(trees, (tree) => logFit(tree, model, each));
  return {
    bush,
    gain: factors.gain + explained(bush) - explained(factors.bush),
    looks: looks.length,
    sawn: sum(trees, ({ sawn }) => sawn.length)
  };
}

/** One factor that is learned, by its logarithm: 0 where it is as usual. */
interface Knob {
  readonly strays: number;
  readonly read: (bush: BushColumns) => number;
  readonly write: (bush: BushColumns, times: number) => BushColumns;
  /** does it change what a look should have been? */
  readonly moves: (look: Look) => boolean;
}

const factorOf = (name: 'sizeFactor' | 'marginFactor' | 'positionFactor', strays: number): Knob => ({
  strays,
  read: (bush) => bush[name],
  write: (bush, times) => ({ ...bush, [name]: times }),
  moves: () => true
});

/** The factors under which what was seen is likeliest: each in turn is moved to the top of a parabola through three of its values. */
function factorsOf(
  looks: readonly Look[],
  { trees, model }: { readonly trees: readonly LoggedTree[]; readonly model: ColumnModel },
  before: BushColumns,
  goesOn: (done: number) => boolean
): { readonly bush: BushColumns; readonly gain: number } | null {
  const hands = toldApart(
    looks.flatMap(({ drilledBy }) => drilledBy),
    TOLD_FROM.holes
  );
  const knobs: readonly Knob[] = [
    factorOf('sizeFactor', STRAYS.size),
    factorOf('marginFactor', STRAYS.margin),
    factorOf('positionFactor', STRAYS.position),
    ...hands.map((id): Knob => ({
      strays: STRAYS.hand,
      read: (bush) => bush.hands[id] ?? 1,
      write: (bush, times) => ({ ...bush, hands: { ...bush.hands, [id]: times } }),
      moves: ({ drilledBy }) => drilledBy.includes(id)
    }))
  ];
  const within = (log: number) => Math.min(LARGEST_CORRECTION, Math.max(LEAST_CORRECTION, Math.exp(log)));
  const bushAt = (at: readonly number[]) => knobs.reduce((bush, knob, k) => knob.write(bush, within(at[k]!)), before);
  /** how well a bush explains each look and all logs, less how far it is from the usual */
  const explained = (at: readonly number[], fits: readonly number[]) => ({
    at,
    fits,
    sum:
      sum(fits) +
      sum(trees, (tree) => logFit(tree, model, bushAt(at))) -
      sum(at.map((x, k) => (x / knobs[k]!.strays) ** 2 / 2))
  });
  const start = knobs.map((knob) => Math.log(knob.read(before)));
  const first = explained(
    start,
    looks.map((look) => look.fit(before))
  );
  let best = first;
  let done = 0;
  for (const share of ROUNDS)
    for (const [k, knob] of knobs.entries()) {
      if (!goesOn(done++ / (ROUNDS.length * knobs.length))) return null;
      const here = best;
      const tried = (x: number) => {
        const at = here.at.map((own, i) => (i === k ? x : own));
        const bush = bushAt(at);
        return explained(
          at,
          looks.map((look, i) => (knob.moves(look) ? look.fit(bush) : here.fits[i]!))
        );
      };
      const step = share * knob.strays;
      const [low, high] = [tried(here.at[k]! - step), tried(here.at[k]! + step)];
      const bend = low.sum - 2 * here.sum + high.sum;
      const steps = bend < 0 ? Math.max(-2, Math.min(2, (low.sum - high.sum) / (2 * bend))) : 0;
      for (const found of [low, high, tried(here.at[k]! + steps * step)]) if (found.sum > best.sum) best = found;
    }
  return { bush: bushAt(best.at), gain: best.sum - first.sum };
}

/** A trunk that says less of its lean than this says nothing, 1/degrees². */
const LEAST_SAID = 0.003;
/** Truths that a trunk's lean is told from. */
const LEAN_DRAWS = 240;

/** The lean of the grain by stand and species, from what each trunk says of its own. */
function grainOf(
  trees: readonly LoggedTree[],
  model: ColumnModel,
  bush: BushColumns,
  { seed, goesOn }: { readonly seed: number; readonly goesOn: (done: number) => boolean }
): Pick<BushColumns, 'leanDeg' | 'leanStands' | 'leanSpecies' | 'leanSdDeg'> | null {
  if (trees.length === 0) {
    const { leanDeg, leanStands, leanSpecies, leanSdDeg } = bush;
    return { leanDeg, leanStands, leanSpecies, leanSdDeg };
  }
  const stands = toldApart(
    trees.map(({ standId }) => standId),
    TOLD_FROM.trees
  );
  const species = toldApart(
    trees.map(({ species: its }) => its),
    TOLD_FROM.trees
  );
  const at = new Map([...stands, ...species].map((id, i) => [id, 1 + i]));
  // Nothing of one trunk is taken from another before all have spoken.
  const blind = { ...bush, leanDeg: 0, leanStands: {}, leanSpecies: {}, leanSdDeg: USUAL_BUSH.leanSdDeg };
  const observed = [];
  for (const [i, tree] of trees.entries()) {
    if (!goesOn(i / trees.length)) return null;
    const { value, precision } = saidOfLean(tree, model, blind, seed + i);
    const kin = [at.get(tree.standId ?? ''), at.get(tree.species ?? '')].flatMap((effect) => effect ?? []);
    const of = [0, ...kin].map((effect) => ({ effect, times: 1 }));
    observed.push({ value, variance: 1 / precision, sd: USUAL_BUSH.leanSdDeg, of });
  }
  // How far single trees stray is left as usual: shavings tell it from a loose hand too badly.
  const { effects, doubts } = pool(
    observed,
    [
      { many: 1, sd: LEANS.bush, learned: false },
      { many: stands.length, sd: LEANS.kin, learned: false },
      { many: species.length, sd: LEANS.kin, learned: false }
    ],
    { learnsSpread: false }
  );
  const named = (ids: readonly string[]) => Object.fromEntries(ids.map((id) => [id, effects[at.get(id)!]!]));
  // What of the usual spread lies between stands or species is not between trees of one.
  const between = sum(observed, ({ of }) => sum(of.slice(1), ({ effect }) => effects[effect]!) ** 2) / observed.length;
  const withinDeg = Math.sqrt(Math.max(LEANS.least ** 2, USUAL_BUSH.leanSdDeg ** 2 - between));
  const doubtOf = (ids: readonly string[]) =>
    ids.length === 0 ? 0 : sum(ids, (id) => doubts[at.get(id)!]!) / ids.length;
  return {
    leanDeg: effects[0]!,
    leanStands: { ...bush.leanStands, ...named(stands) },
    leanSpecies: { ...bush.leanSpecies, ...named(species) },
    // What is not known of the lean of a stand or species strays for each of its trees.
    leanSdDeg: Math.hypot(withinDeg, doubtOf(stands), doubtOf(species))
  };
}

/** What a trunk says of its lean beyond what was taken beforehand, and how surely, degrees and 1/degrees². */
function saidOfLean(tree: LoggedTree, model: ColumnModel, bush: BushColumns, seed: number) {
  const own = asInBush(columnsOf(tree.species, model), bush, tree);
  const depthMm = Math.max(0, ...tree.trunk.holes.map((hole) => hole.depthMm));
  const { learned } = learnTrunk(withHands(tree.trunk, bush), tree.seen, own, {
    draws: LEAN_DRAWS,
    depthMm,
    seed,
    ringCv: tree.ringCv
  });
  const beforehand = 1 / own.grainSdDeg ** 2;
  const precision = Math.max(LEAST_SAID, 1 / learned.leanSdDeg ** 2 - beforehand);
  const shavings = { value: (learned.leanMeanDeg * (precision + beforehand)) / precision, precision };
  const leans = tree.sawn.flatMap(({ leanDeg }) => leanDeg ?? []);
  const log = {
    value: leans.length > 0 ? sum(leans) / leans.length : 0,
    precision: leans.length / LEAN_READ_TO_DEG ** 2
  };
  const both = shavings.precision + log.precision;
  return { value: (shavings.value * shavings.precision + log.value * log.precision) / both, precision: both };
}

/** Logarithm of how likely the columns on the sawn faces of a tree are in a bush, up to a constant. */
function logFit({ sawn, ...tree }: LoggedTree, usual: ColumnModel, bush: BushColumns): number {
  const model = asInBush(columnsOf(tree.species, usual), bush, tree);
  const margins = sawn.flatMap(({ widthMm, bitMm }) => {
    const margin = (widthMm - bitMm) / 2;
    return margin > 0 ? Math.log(margin / model.sideMarginMedianMm) : [];
  });
  const sizes = sawn.flatMap(({ bitMm, widthMm, lengthMm }) =>
    lengthMm === null ? [] : Math.log(lengthMm / 2 / columnHalfLength(model.volumeRatioMedian, bitMm, widthMm / 2))
  );
  return (
    bell(margins, 0, Math.hypot(model.sideMarginSigma, READ_TO)) +
    bell(sizes, TREE_SIZE_SIGMA, Math.hypot(holeSizeSigma(model), READ_TO))
  );
}

/** Logarithm of the density of values about nought that share one error and have one each. */
function bell(values: readonly number[], shared: number, each: number): number {
  const n = values.length;
  if (n === 0) return 0;
  const middle = sum(values) / n;
  const about = sum(values, (value) => (value - middle) ** 2);
  const ofMean = shared ** 2 + each ** 2 / n;
  return -(about / each ** 2 + 2 * (n - 1) * Math.log(each) + middle ** 2 / ofMean + Math.log(ofMean)) / 2;
}
