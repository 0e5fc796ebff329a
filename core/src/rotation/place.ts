import type { BarkSpot } from '../geometry/index.ts';
import { seededRng, toDegrees, toRadians } from '../math/index.ts';
import type { DefectKind } from '../taps/index.ts';
import {
  type DrawnTrunk,
  alongPath,
  alongSurface,
  columnBearing,
  crossSection,
  drawHole,
  gridFor,
  heatMap,
  judgeSpot,
  learnTrunk,
  lengthwise,
  rowHeight,
  shorterWay,
  type ColumnModel,
  type CutColumn,
  type DrillPractice,
  type HeatMap,
  type Learned,
  type LearnedTrunk,
  type LengthwiseSection,
  type SeenShavings,
  type SpotOutlook,
  type Trunk,
  type TrunkDraw,
  type TrunkFeatureKind
} from '../trunk/index.ts';
import { kernelFor, type GrainBelief, type LossKernel } from './kernel.ts';
import { CELL_REACH_MM, SIDEWAYS_APART_MM } from './board.ts';
import { planRotation, seasonsToPlan, type PastHole, type PlannedHole } from './plan.ts';
import { placementStrategyById, type PlacementStrategyId, type StrategyObjection } from './strategies.ts';

/** A place on the trunk that a hole keeps away from: a wound, seam, limb or root. */
export interface Defect extends BarkSpot {
  readonly marginMm: number;
  /** what it is; a defect of some kind where nobody said */
  readonly what?: DefectKind | TrunkFeatureKind;
}

/** A proposed hole. */
export interface Proposal extends BarkSpot {
  readonly outlook: SpotOutlook;
  /** part of the planned rotation, or another clear place */
  readonly planned: boolean;
}

/** Where a drop line hangs from, and how far a spout can be from there. */
export interface DropLine extends BarkSpot {
  readonly lengthMm: number;
}

/** A place is worth a hole when its chance of clear wood is at least this. Working assumption; the steward may ask less. */
export const CLEAR_ENOUGH = 0.9;

/** Places whose chances differ by less than this count as equally clear. */
const EQUALLY_CLEAR = 0.02;

/** A drop line needs this much to spare, mm. Working assumption. */
const SLACK_MM = 100;

/** What a placement is computed from: plain data, so that it travels to a worker. */
export interface PlacementTask {
  readonly trunk: Trunk;
  readonly practice: DrillPractice;
  readonly model: ColumnModel;
  readonly seed: number;
  /** possible truths that every place is judged against */
  readonly draws: number;
  readonly cellMm: number;
  readonly ringMm: number;
  /** relative uncertainty of the ring width */
  readonly ringCv: number;
  /** holes to propose */
  readonly wanted: number;
  /** holes of a season, those that are drilled already included; 0 where none is to be planned */
  readonly taps: number;
  /** this season's holes that are drilled already: new ones keep their distance from them */
  readonly taken?: readonly BarkSpot[];
  readonly keepOff?: readonly Defect[];
  readonly line?: DropLine | null;
  readonly seen?: readonly SeenShavings[];
  readonly strategy?: PlacementStrategyId;
  /** sides, bearings in degrees, that are liked better between equally clear places */
  readonly favoured?: readonly number[];
  /** seasons of the plan to give back; 0 when none is wanted */
  readonly seasonsAhead?: number;
}

/** Everything the Place station shows of a trunk, from one seed. */
export interface Placement {
  readonly map: HeatMap;
  readonly proposals: readonly Proposal[];
  /** the coming seasons, this one first; empty where none was asked for */
  readonly plan: readonly PlannedHole[];
  readonly learned: Learned;
}

/** One spot with all that is known of it. */
export interface SpotAnswer {
  readonly outlook: SpotOutlook;
  /** what speaks against it, beside stained wood */
  readonly objections: readonly Objection[];
  readonly cut: readonly CutColumn[];
  /** stained share of the bit's width by millimetre of depth */
  readonly along: Float32Array;
  readonly lengthwise: LengthwiseSection;
}

/** A trunk with its possible truths drawn once: map, plan and every asked spot rest on the same ones. */
export class PlacedTrunk {
  readonly #task: PlacementTask;
  readonly #known: LearnedTrunk;
  #deep: readonly TrunkDraw[] | null = null;

  constructor(task: PlacementTask) {
    this.#task = task;
    const { trunk, model, draws, practice, seed, ringCv, seen = [] } = task;
    this.#known = learnTrunk(trunk, seen, model, { draws, depthMm: practice.depthMm, seed, ringCv });
  }

  place(): Placement {
    const task = this.#task;
    const { trunk, practice, cellMm, strategy = 'rotation', taken = [] } = task;
    const grid = gridFor(trunk, practice.lowestMm, practice.highestMm, cellMm);
    const map = heatMap(this.#drawn, grid);
    const planned = strategy === 'rotation' && task.taps > 0 && (task.seasonsAhead ?? 0) > 0;
    const plan = planned ? rotationOf(task, this.#known.learned) : [];
    const proposals: Proposal[] = plan
      .filter(({ season }) => season === 0)
      .slice(0, Math.max(0, task.taps - taken.length))
      .map((hole) => ({ ...this.#judged(hole), planned: true }));
    const others = clearPlaces(task, map, task.wanted - proposals.length, [...taken, ...proposals]);
    return {
      map,
      proposals: [...proposals, ...others.map((spot) => ({ ...this.#judged(spot), planned: false }))],
      plan,
      learned: this.#known.learned
    };
  }

  ask(spot: BarkSpot): SpotAnswer {
    const { trunk, practice } = this.#task;
    this.#deep ??= this.#drawnDeep();
    return {
      outlook: this.#judged(spot).outlook,
      objections: objections(this.#task, spot),
      cut: crossSection(trunk, this.#deep, spot.heightMm),
      along: alongPath(this.#drawn, spot),
      lengthwise: lengthwise(trunk, this.#deep, spot.bearingDeg, {
        lowestMm: spot.heightMm - SECTION_MM,
        highestMm: spot.heightMm + SECTION_MM,
        depthMm: Math.min(trunk.woodRadiusMm, Math.max(90, practice.depthMm + 40)),
        stepMm: 2
      })
    };
  }

  /** Sections show wood behind the hole too. */
  #drawnDeep(): readonly TrunkDraw[] {
    const { trunk, model, seed, ringCv, seen = [] } = this.#task;
    return learnTrunk(trunk, seen, model, { draws: 200, depthMm: trunk.woodRadiusMm, seed, ringCv }).draws;
  }

  #judged({ bearingDeg, heightMm }: BarkSpot): Omit<Proposal, 'planned'> {
    return { bearingDeg, heightMm, outlook: judgeSpot(this.#drawn, { bearingDeg, heightMm }) };
  }

  get #drawn(): DrawnTrunk {
    const { trunk, practice: path, model } = this.#task;
    return { trunk, draws: this.#known.draws, path, model };
  }
}

/** How far above and below a hole the lengthwise section reaches, mm. */
const SECTION_MM = 120;

/** Map, proposals and plan in one go: the same task always gives the same answer. */
export function placeHoles(task: PlacementTask): Placement {
  return new PlacedTrunk(task).place();
}

/** What speaks against a place: the chosen strategy, what stands on the trunk, the line's reach, this season's holes. */
export type Objection =
  | { readonly why: 'nearDefect'; readonly what: DefectKind | TrunkFeatureKind | null }
  | { readonly why: 'lineReach' | 'outsideBand' | 'crowded' }
  | StrategyObjection;

/** Everything that speaks against a place beside stained wood. */
export function objections(task: PlacementTask, spot: BarkSpot): Objection[] {
  const { trunk, practice, keepOff = [], line, taken = [], strategy = 'rotation' } = task;
  const against: Objection[] = keepOff
    .filter((defect) => apart(trunk, spot, defect) < defect.marginMm)
    .map(({ what }) => ({ why: 'nearDefect', what: what ?? null }));
  if (line && outOfReach(trunk, spot, line)) against.push({ why: 'lineReach' });
  if (spot.heightMm < practice.lowestMm || spot.heightMm > practice.highestMm) against.push({ why: 'outsideBand' });
  if (taken.some((other) => crowded(trunk, practice, spot, other))) against.push({ why: 'crowded' });
  const rule = placementStrategyById(strategy).against(spot, trunk, practice.depthMm);
  if (rule) against.push(rule);
  return against;
}

const sideways = (trunk: Trunk, a: BarkSpot, b: BarkSpot) =>
  Math.abs(shorterWay(alongSurface(trunk, a.bearingDeg - b.bearingDeg), 2 * Math.PI * trunk.woodRadiusMm));
const apart = (trunk: Trunk, a: BarkSpot, b: BarkSpot) => Math.hypot(sideways(trunk, a, b), a.heightMm - b.heightMm);
const crowded = (trunk: Trunk, { spacingMm }: Pick<DrillPractice, 'spacingMm'>, a: BarkSpot, b: BarkSpot) =>
  sideways(trunk, a, b) < SIDEWAYS_APART_MM || apart(trunk, a, b) < spacingMm;

/** Sap runs down a drop line: the spout is above the tubing and no farther than the line is long. */
function outOfReach(trunk: Trunk, spot: BarkSpot, line: DropLine, spareMm = 0): boolean {
  return spot.heightMm < line.heightMm + spareMm || apart(trunk, spot, line) > line.lengthMm - SLACK_MM - spareMm;
}

/** How near a side is to one that is liked better, 0..1; 1 where none is. */
function liking(favoured: readonly number[], bearingDeg: number): number {
  if (favoured.length === 0) return 1;
  return Math.max(...favoured.map((side) => (1 + Math.cos(toRadians(bearingDeg - side))) / 2));
}

/**
 * Clear places with nothing against them: the clearest first; of equally clear ones those on a favoured side, then those
 * nearest to the middle of the band.
 */
function clearPlaces(task: PlacementTask, map: HeatMap, wanted: number, others: readonly BarkSpot[]): BarkSpot[] {
  const middle = (map.lowestMm + map.highestMm) / 2;
  const half = (map.highestMm - map.lowestMm) / 2;
  const cells = Array.from(map.pClear, (p, cell) => {
    const spot = {
      bearingDeg: columnBearing(map, cell % map.columns),
      heightMm: rowHeight(map, Math.floor(cell / map.columns))
    };
    const off = Math.abs(spot.heightMm - middle) / (1.01 * half);
    const unliked = 1 - liking(task.favoured ?? [], spot.bearingDeg);
    return { spot, score: Math.floor(p / EQUALLY_CLEAR) - 0.3 * off - 0.69 * unliked };
  }).sort((a, b) => b.score - a.score);
  const chosen: BarkSpot[] = [];
  for (const { spot } of cells) {
    if (chosen.length >= wanted) break;
    if ([...others, ...chosen].some((other) => crowded(task.trunk, task.practice, spot, other))) continue;
    if (objections(task, spot).length === 0) chosen.push(spot);
  }
  return chosen;
}

function rotationOf(task: PlacementTask, learned: Learned): PlannedHole[] {
  const { trunk, practice, model, ringMm, keepOff = [], line, taken = [], seasonsAhead = 25 } = task;
  // In coarse steps, so that trees share their kernels.
  const belief: GrainBelief = {
    leanMeanDeg: 2 * Math.round(learned.leanMeanDeg / 2),
    leanSdDeg: Math.max(1, Math.round(learned.leanSdDeg)),
    sizeFactor: Math.round(5 * learned.sizeFactor) / 5
  };
  const plan = planRotation({
    woodRadiusMm: trunk.woodRadiusMm,
    ringMm,
    ringCv: task.ringCv,
    practice,
    kernel: kernelFor(practice.bitMm, practice.bitMm, model, belief),
    past: pastOf(task, learned, (bitMm) => kernelFor(bitMm, practice.bitMm, model, belief)),
    taps: Array<number>(seasonsToPlan(practice.depthMm, ringMm)).fill(task.taps),
    taken,
    allowed: (spot) =>
      keepOff.every((defect) => apart(trunk, spot, defect) >= defect.marginMm + CELL_REACH_MM) &&
      !(line && outOfReach(trunk, spot, line, CELL_REACH_MM)),
    unhandy: (spot) => unhandiness(task, spot),
    seed: task.seed
  });
  return plan.filter(({ season }) => season < seasonsAhead);
}

/**
 * Between places that are as clear as each other, as far as the model can tell, the handier is taken: what the least handy
 * place of a trunk costs against the handiest, as a share of a path. A plan pays at most so much for handiness in the mean of
 * its holes. Working assumption.
 */
const HANDINESS = 0.0003;
/** Chest height, as a share of the way up the band within reach: 120 cm of the usual 60 to 150. Common practice. */
const CHEST = 2 / 3;
/** What the side counts for, of all handiness, where the bush likes some. Working assumption. */
const LIKED_SIDE = 0.4;
/** And where it does not say: the warm side, a little. Working assumption. */
const ANY_SIDE = 0.3;
/** North of the equator the sun thaws the south side first, and snow lies longest on the north side. Common practice. */
const WARM_DEG = 180;

function unhandiness({ practice: { lowestMm, highestMm }, favoured = [] }: PlacementTask, spot: BarkSpot): number {
  const off = Math.abs((spot.heightMm - lowestMm) / (highestMm - lowestMm) - CHEST) / CHEST;
  const side = favoured.length > 0 ? LIKED_SIDE : ANY_SIDE;
  const unliked = 1 - liking(favoured.length > 0 ? favoured : [WARM_DEG], spot.bearingDeg);
  return HANDINESS * ((1 - side) * off + side * unliked);
}

/** Old holes where they seem to lie; a scar of unknown place stands for several places at once. */
function pastOf(
  { trunk, model, seed }: PlacementTask,
  learned: Learned,
  kernel: (bitMm: number) => LossKernel
): PastHole[] {
  const rng = seededRng(seed);
  const shifted = (bearingDeg: number, leftMm: number) => bearingDeg + toDegrees(leftMm / trunk.woodRadiusMm);
  return trunk.holes.flatMap((hole, i): PastHole[] => {
    const { bearingDeg, heightMm, buriedMm, depthMm, bitMm } = hole;
    if (!hole.unsure) {
      const shift = learned.shifts[i]!;
      const place = { bearingDeg: shifted(bearingDeg, shift.leftMm), heightMm: heightMm + shift.upMm };
      return [{ ...place, buriedMm, depthMm, kernel: kernel(bitMm) }];
    }
    return Array.from({ length: PLACES_OF_A_SCAR }, () => {
      const { leftMm, upMm, buriedMm: under } = drawHole(hole, model, rng);
      const place = { bearingDeg: shifted(bearingDeg, leftMm), heightMm: heightMm + upMm };
      return { ...place, buriedMm: under, depthMm, kernel: kernel(bitMm), weight: 1 / PLACES_OF_A_SCAR };
    });
  });
}
/** A hole of the past is tried at so many of the places where it may be. */
const PLACES_OF_A_SCAR = 16;
