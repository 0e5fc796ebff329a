import { mean, quantiles, seededRng } from '../math/index.ts';
import { Chain } from './chain.ts';
import type { ColumnModel } from './defaults.ts';
import { columnsWithin, drawTruth, type TrunkDraw, type TrunkTruth } from './draws.ts';
import type { SeenShavings } from './shavings.ts';
import type { Trunk } from './trunk.ts';

/** What a tree's shavings say about its grain and columns. */
export interface Learned {
  /** holes whose shavings were looked at */
  readonly looked: number;
  /** lean of the grain, degrees; above 0 it leans to the left going up, as one faces the trunk */
  readonly leanMeanDeg: number;
  readonly leanSdDeg: number;
  /** 80 % interval */
  readonly leanFromDeg: number;
  readonly leanToDeg: number;
  /** factor on the volume of its columns against other trees */
  readonly sizeFactor: number;
  /**
   * how deep sap is carried in this tree as its shavings tell it, mm: the depth that it is as likely to end before as behind, and
   * the one that it reaches in eight of ten
   */
  readonly sapwoodMm: { readonly middle: number; readonly surely: number } | null;
  /** by hole: how far from its recorded place it seems to lie, mm */
  readonly shifts: readonly { readonly leftMm: number; readonly upMm: number }[];
}

export interface LearnedTrunk {
  /** columns as today's trunk holds them, equally likely */
  readonly draws: readonly TrunkDraw[];
  readonly learned: Learned;
}

export interface LearnOptions {
  /** how many possible truths to return */
  readonly draws: number;
  /** of the hole that is to be judged: columns that lie deeper are left out */
  readonly depthMm: number;
  readonly seed: number;
  /** relative uncertainty of the growth that buried the holes */
  readonly ringCv?: number;
}

/*
 * These two, and how far apart the truths are that a chain keeps, are chosen by the spread over seeds of the chance of clear
 * wood at one spot (test/posterior.test.ts).
 */
/** Chains of the sampler, which start far from each other. */
const CHAINS = 12;
/** Sweeps that each takes before its first truth is kept. */
const WARM_UP = 15;

/**
 * Possible truths about a trunk, as likely as the shavings of its logged holes make them. Metropolis chains walk through
 * the truths: the grain's lean, the size of the tree's columns, its growth, and each hole's own place and column are changed in turn,
 * and a change stays by how much better or worse it explains what was seen (Metropolis et al. 1953; Hastings 1970).
 *
 * Without shavings the draws are the model's own. One tree's few shavings say little: the intervals stay wide.
 */
export function learnTrunk(
  trunk: Trunk,
  seen: readonly SeenShavings[],
  model: ColumnModel,
  { draws, depthMm, seed, ringCv = 0 }: LearnOptions
): LearnedTrunk {
  const rng = seededRng(seed);
  const truths: TrunkTruth[] = [];
  const sapwoods: number[] = [];
  if (seen.length === 0) for (let i = 0; i < draws; i++) truths.push(drawTruth(trunk, model, rng, ringCv));
  else {
    const each = Math.ceil(draws / CHAINS);
    for (let chain = 0; chain < CHAINS; chain++) {
      const walk = new Chain(trunk, seen, model, { rng, ringCv });
      for (let i = 0; i < WARM_UP; i++) walk.sweep();
      for (let i = 0; i < each && truths.length < draws; i++) {
        for (let k = 0; k < walk.between; k++) walk.sweep();
        truths.push(walk.truth());
        sapwoods.push(walk.sapwoodMm);
      }
    }
  }
  return {
    draws: truths.map((truth) => columnsWithin(trunk, truth, depthMm)),
    learned: summary(trunk, truths, sapwoods, seen.length)
  };
}

function summary(trunk: Trunk, truths: readonly TrunkTruth[], sapwoods: readonly number[], looked: number): Learned {
  const meanOf = (of: (truth: TrunkTruth) => number) => mean(truths.map(of));
  const leans = truths.map(({ leanDeg }) => leanDeg);
  const leanMeanDeg = mean(leans);
  const [leanFromDeg, leanToDeg] = quantiles(leans, [0.1, 0.9]);
  const [surely, middle] = quantiles(sapwoods, [0.2, 0.5]);
  return {
    looked,
    leanMeanDeg,
    leanSdDeg: Math.sqrt(meanOf(({ leanDeg }) => (leanDeg - leanMeanDeg) ** 2)),
    leanFromDeg,
    leanToDeg,
    sizeFactor: Math.exp(meanOf(({ logSize }) => logSize)),
    sapwoodMm: sapwoods.length === 0 ? null : { middle, surely },
    shifts: trunk.holes.map((_, i) => ({
      leftMm: meanOf((p) => p.holes[i]!.leftMm),
      upMm: meanOf((p) => p.holes[i]!.upMm)
    }))
  };
}
