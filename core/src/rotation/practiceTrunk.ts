import { mean, normaliseBearing, seededRng } from '../math/index.ts';
import type { BarkSpot } from '../geometry/index.ts';
import type { ColumnModel } from '../trunk/index.ts';
import { ruleOf } from './compare.ts';
import { HiddenTrunk, type RuleTree } from './rules.ts';
import type { PlacementStrategyId } from './strategies.ts';

/** A trunk to practise on, with its past as it was recorded. */
export interface PracticeTrunk {
  readonly tree: RuleTree;
  readonly past: readonly (BarkSpot & {
    readonly seasonsAgo: number;
    readonly buriedMm: number;
    readonly depthMm: number;
  })[];
}

/** Trunks to practise on: what they went through decides what a careless hole costs. */
export const PRACTICE_KINDS = ['slow', 'yard', 'young'] as const;
export type PracticeKind = (typeof PRACTICE_KINDS)[number];

/** What a kind of trunk went through. */
interface Past {
  /** wood without bark, mm, least and most */
  readonly radiusMm: readonly [number, number];
  readonly ringMm: readonly [number, number];
  readonly seasons: number;
  readonly holesASeason: number;
  /** share of its holes on the sunny side */
  readonly sunny: number;
}
/** What each kind went through. Working assumptions: an old tapped forest tree, one at a house, one that was tapped for a few years. */
const PASTS: Readonly<Record<PracticeKind, Past>> = {
  slow: { radiusMm: [140, 170], ringMm: [0.6, 0.9], seasons: 30, holesASeason: 1, sunny: 0.6 },
  yard: { radiusMm: [210, 250], ringMm: [1, 1.4], seasons: 28, holesASeason: 2, sunny: 0.6 },
  young: { radiusMm: [130, 150], ringMm: [1.4, 2], seasons: 9, holesASeason: 1, sunny: 0.8 }
};

/** Seasons that the practice lasts. */
export const PRACTICE_SEASONS = 10;
/** Depth of all its holes, mm: an inch and a half, which is common practice. */
const PRACTICE_DEPTH_MM = 38.1;

/** A trunk of a kind, tapped by nobody's plan. */
export function practiceTrunk(seed: number, kind: PracticeKind = 'slow'): PracticeTrunk {
  const rng = seededRng(seed);
  const { radiusMm, ringMm: rings, seasons, holesASeason, sunny } = PASTS[kind];
  const between = ([least, most]: readonly [number, number]) => least + (most - least) * rng.uniform();
  const ringMm = between(rings);
  const past = Array.from({ length: seasons * holesASeason }, (_, i) => {
    const seasonsAgo = seasons - Math.floor(i / holesASeason);
    return {
      seasonsAgo,
      bearingDeg: normaliseBearing(rng.uniform() < sunny ? rng.normal(180, 35) : 360 * rng.uniform()),
      heightMm: 700 + 600 * rng.uniform(),
      buriedMm: seasonsAgo * ringMm,
      depthMm: PRACTICE_DEPTH_MM
    };
  });
  const woodRadiusMm = between(radiusMm);
  const where = { lowestMm: 600, highestMm: 1400, taps: 1 };
  return { tree: { woodRadiusMm, ringMm, bitMm: 7.9375, depthMm: PRACTICE_DEPTH_MM, ...where, past }, past };
}

/** The truth of a practice trunk, the same for everybody who drills it. */
export function hiddenTruth({ tree }: PracticeTrunk, model: ColumnModel, seed: number): HiddenTrunk {
  return new HiddenTrunk(tree, model, seededRng(seed + 1));
}

/** Who else drills: somebody who looks at nothing, and the habits and the plan. */
export const PRACTICE_OTHERS = ['sunny', 'anywhere', 'handSpan', 'rotation'] as const;
export type PracticeOther = (typeof PRACTICE_OTHERS)[number];

/** What somebody lost on a practice trunk, in the mean of its seasons, as a share of the paths. */
export function lostBy(other: PracticeOther, practice: PracticeTrunk, model: ColumnModel, seed: number): number {
  const { tree } = practice;
  const hidden = hiddenTruth(practice, model, seed);
  const whim = seededRng(seed + 2);
  const anywhere = () => [
    { bearingDeg: 360 * whim.uniform(), heightMm: tree.lowestMm + (tree.highestMm - tree.lowestMm) * whim.uniform() }
  ];
  const rule =
    other === 'anywhere' ? anywhere : ruleOf(other satisfies PlacementStrategyId, tree, model, PRACTICE_SEASONS);
  const meant: (readonly BarkSpot[])[] = [];
  return mean(
    Array.from({ length: PRACTICE_SEASONS }, (_, season) => {
      const spots = rule(season, tree, meant, whim);
      meant.push(spots);
      const drilled = hidden.drill(season, spots);
      return drilled.reduce((sum, hole) => sum + hole.lost, 0) / Math.max(1, drilled.length);
    })
  );
}

/** What others lost: on one trunk, and on so many of its kind that luck evens out. */
export interface OthersOnPractice {
  readonly id: PracticeOther;
  /** on the trunk that was drilled: luck has a hand in it */
  readonly here: number;
  /** over many trunks, and between which nine of ten of them lie */
  readonly usual: number;
  readonly from: number;
  readonly to: number;
}

/** So many trunks make luck even. Working assumption. */
const MANY = 24;

/**
 * What others would have lost on the same trunk, and over many of its kind.
 * @param onProgress told how far it is, 0 to 1; false stops it
 * @returns null when it was stopped
 */
export function othersOnPractice(
  kind: PracticeKind,
  model: ColumnModel,
  seed: number,
  onProgress: (done: number) => boolean = () => true
): OthersOnPractice[] | null {
  const lost = PRACTICE_OTHERS.map((): number[] => []);
  for (let i = 0; i <= MANY; i++) {
    if (!onProgress(i / (MANY + 1))) return null;
    // The trunk itself first; the others are the same for whoever practises.
    const own = i === 0 ? seed : 1000 + i;
    const trunk = practiceTrunk(own, kind);
    for (const [k, id] of PRACTICE_OTHERS.entries()) lost[k]!.push(lostBy(id, trunk, model, own));
  }
  return PRACTICE_OTHERS.map((id, k) => {
    const [here, ...many] = lost[k]!;
    const sorted = many.sort((a, b) => a - b);
    const at = (share: number) => sorted[Math.round(share * (sorted.length - 1))]!;
    return { id, here: here!, usual: mean(sorted), from: at(0.05), to: at(0.95) };
  });
}
