import type { BarkSpot } from '../geometry/index.ts';
import type { DefectKind } from '../taps/index.ts';
import {
  type DrawnTrunk,
  alongPath,
  columnBearing,
  crossSection,
  gridFor,
  heatMap,
  judgeSpot,
  learnTrunk,
  lengthwise,
  rowHeight,
  type CutColumn,
  type HeatMap,
  type Learned,
  type LearnedTrunk,
  type LengthwiseSection,
  type SpotOutlook,
  type TrunkDraw,
  type TrunkFeatureKind
} from '../trunk/index.ts';
import type { Renewed } from './carry.ts';
import { apart, crowded, liking, outOfReach, type PlacementTask } from './placementTask.ts';
import { placementStrategyById, type StrategyObjection } from './strategies.ts';
import { dearestHole, priceOfHole, type HolePrice } from './price.ts';
import { rotationOf, rotationTask } from './trunkRotation.ts';

/** A proposed hole. */
export interface Proposal extends BarkSpot {
  readonly outlook: SpotOutlook;
  /** part of the planned rotation, or another clear place */
  readonly planned: boolean;
}

/** A place is worth a hole when its chance of clear wood is at least this. Working assumption; the steward may ask less. */
export const CLEAR_ENOUGH = 0.9;

/** Places whose chances differ by less than this count as equally clear. */
const EQUALLY_CLEAR = 0.02;

/** The seasons of a trunk, and this one's holes that are still to be drilled. */
export interface PlacedRotation {
  /** null where none was asked for */
  readonly rotation: Renewed | null;
  readonly proposals: readonly Proposal[];
  /** how deep they are drilled, mm of wood: as the bush does, or less where this tree carries no sap so deep */
  readonly depthMm: number;
}

/** Everything the Place station shows of a trunk, from one seed. */
export interface Placement extends PlacedRotation {
  readonly map: HeatMap;
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

/** No hole is made shallower than this, mm: it would hold no spout. Working assumption. */
export const LEAST_DEPTH_MM = 20;

/**
 * How deep holes are drilled in a tree, mm of wood: as the bush does; less where its sapwood ends before, or a hollow begins. Of what
 * shavings tell of that, the depth is taken that the sapwood reaches in eight of ten.
 */
function drillDepth({ practice, model }: PlacementTask, { sapwoodMm }: Learned): number {
  const { depthMm } = practice;
  const told = sapwoodMm && sapwoodMm.middle < depthMm ? sapwoodMm.surely : depthMm;
  const reach = Math.min(told, model.sapwoodMm);
  return reach >= depthMm ? depthMm : Math.max(Math.min(LEAST_DEPTH_MM, depthMm), Math.floor(reach));
}

/** What the wood of a trunk follows from, as a text: as long as it is the same, one `DrawnWood` serves. */
export function woodQuestion({ trunk, practice, model, seed, draws, cellMm, ringCv, seen }: PlacementTask): string {
  return JSON.stringify([trunk, practice, model, seed, draws, cellMm, ringCv, seen]);
}

/** The wood of a trunk with its possible truths drawn once: map, plan and every asked spot rest on the same ones. */
export class DrawnWood {
  readonly known: LearnedTrunk;
  /** with holes as deep as this tree's sapwood lets them be */
  readonly task: PlacementTask;
  #map: HeatMap | null = null;
  #deep: readonly TrunkDraw[] | null = null;

  constructor(task: PlacementTask) {
    this.task = task;
    this.known = this.#learned(task.draws, task.practice.depthMm);
    const depthMm = drillDepth(task, this.known.learned);
    this.task = { ...task, practice: { ...task.practice, depthMm } };
  }

  get drawn(): DrawnTrunk {
    const { trunk, practice: path, model } = this.task;
    return { trunk, draws: this.known.draws, path, model };
  }

  /** The chance of clear wood all over the band. */
  get map(): HeatMap {
    const { trunk, practice, cellMm } = this.task;
    return (this.#map ??= heatMap(this.drawn, gridFor(trunk, practice.lowestMm, practice.highestMm, cellMm)));
  }

  /** Sections show wood behind the hole too. */
  get deep(): readonly TrunkDraw[] {
    return (this.#deep ??= this.#learned(200, this.task.trunk.woodRadiusMm).draws);
  }

  #learned(draws: number, depthMm: number): LearnedTrunk {
    const { trunk, model, seed, ringCv, seen = [] } = this.task;
    return learnTrunk(trunk, seen, model, { draws, depthMm, seed, ringCv });
  }
}

/** Holes, plan and answers about places on a trunk. */
export class PlacedTrunk {
  readonly #task: PlacementTask;
  readonly #wood: DrawnWood;

  /** @param wood of the same `woodQuestion` */
  constructor(task: PlacementTask, wood = new DrawnWood(task)) {
    // Of the same wood more may be asked by now: other holes, another plan.
    this.#task = { ...task, practice: { ...task.practice, depthMm: wood.task.practice.depthMm } };
    this.#wood = wood;
  }

  /** The season's holes alone: planned ones, or by another way of placing the clearest; as `place` has them. */
  plan(): PlacedRotation {
    const { strategy = 'rotation' } = this.#task;
    if (strategy === 'rotation') return this.#rotation();
    const { rotation, proposals, depthMm } = this.place();
    return { rotation, proposals, depthMm };
  }

  #rotation(): PlacedRotation {
    const task = this.#task;
    const { strategy = 'rotation', taps, taken = [], kept } = task;
    const planned = strategy === 'rotation';
    const rotation = planned && taps > 0 ? rotationOf(task, this.#wood.known.learned) : null;
    const named = planned ? (rotation?.plan ?? []) : (kept?.holes ?? []);
    return {
      rotation,
      depthMm: task.practice.depthMm,
      proposals: named
        .filter(({ season }) => season === 0)
        .slice(0, Math.max(0, taps - taken.length))
        .map((hole) => ({ ...this.#judged(hole), planned }))
    };
  }

  /** What one hole more than planned brings this season and costs later; null where there is no plan, or no room for it. */
  price(): HolePrice | null {
    const { rotation } = this.#rotation();
    return rotation && priceOfHole(rotationTask(this.#task, this.#wood.known.learned), rotation.plan);
  }

  /** What the dearest of this season's planned holes brings and costs; null where none is planned. */
  dearest(): HolePrice | null {
    const { rotation } = this.#rotation();
    return rotation && dearestHole(rotationTask(this.#task, this.#wood.known.learned), rotation.plan);
  }

  place(): Placement {
    const task = this.#task;
    const { wanted, taken = [] } = task;
    const { map } = this.#wood;
    const { rotation, proposals, depthMm } = this.#rotation();
    const others = clearPlaces(task, map, wanted - proposals.length, [...taken, ...proposals]);
    return {
      map,
      rotation,
      depthMm,
      proposals: [...proposals, ...others.map((spot) => ({ ...this.#judged(spot), planned: false }))],
      learned: this.#wood.known.learned
    };
  }

  ask(spot: BarkSpot): SpotAnswer {
    const { trunk, practice } = this.#task;
    const { deep, drawn } = this.#wood;
    return {
      outlook: this.#judged(spot).outlook,
      objections: objections(this.#task, spot),
      cut: crossSection(trunk, deep, spot.heightMm),
      along: alongPath(drawn, spot),
      lengthwise: lengthwise(trunk, deep, spot.bearingDeg, {
        lowestMm: spot.heightMm - SECTION_MM,
        highestMm: spot.heightMm + SECTION_MM,
        depthMm: Math.min(trunk.woodRadiusMm, Math.max(90, practice.depthMm + 40)),
        stepMm: 2
      })
    };
  }

  #judged({ bearingDeg, heightMm }: BarkSpot): Omit<Proposal, 'planned'> {
    return { bearingDeg, heightMm, outlook: judgeSpot(this.#wood.drawn, { bearingDeg, heightMm }) };
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
