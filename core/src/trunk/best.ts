import { seededRng } from '../random/index.ts';
import { columnHalfLength } from './column.ts';
import { meanVolumeRatio, type ColumnModel, type DrillPractice } from './defaults.ts';
import { drawTrunks, type TrunkDraw } from './draws.ts';
import { columnBearing, gridFor, heatMap, rowHeight, type HeatMap } from './heatmap.ts';
import { judgeSpot, shorterWay, type SpotOutlook } from './spot.ts';
import { alongSurface, type Trunk } from './trunk.ts';

/** A place that the steward ruled out: a wound, seam, limb or root, with the margin to keep. */
export interface Defect {
  readonly bearingDeg: number;
  readonly heightMm: number;
  readonly marginMm: number;
}

/** A place on the trunk's surface. */
interface Place {
  readonly bearingDeg: number;
  readonly heightMm: number;
}

/** A proposed hole. */
export interface Proposal extends Place {
  readonly outlook: SpotOutlook;
}

/** A place is worth a hole when its chance of clear wood is at least this. Working assumption; the steward may ask less. */
export const CLEAR_ENOUGH = 0.9;

/** Places whose chances differ by less than this count as equally clear; then the packing decides. */
const EQUALLY_CLEAR = 0.02;

/** Holes of one season are never set closer than this sideways: not one above the other. Six inches, common practice. */
export const SIDEWAYS_APART_MM = 152.4;

export interface BestHolesOptions {
  readonly wanted: number;
  readonly defects?: readonly Defect[];
  /** this season's holes that are drilled already: new ones keep the practice's spacing from them */
  readonly taken?: readonly Place[];
}

/**
 * The best holes of this season: clear wood first; among equally clear places the one that lies closest to old wood,
 * so that the wide clear stretches stay whole for later seasons; then the one nearest the middle of the band.
 * @returns fewer than wanted when the trunk has no more room that keeps the spacing
 */
export function bestHoles(
  trunk: Trunk,
  draws: readonly TrunkDraw[],
  map: HeatMap,
  practice: DrillPractice,
  model: ColumnModel,
  options: BestHolesOptions
): Proposal[] {
  const chosen: Place[] = [];
  const taken = [...(options.taken ?? [])];
  const round = 2 * Math.PI * trunk.woodRadiusMm;
  const sideways = (a: Place, b: Place) =>
    Math.abs(shorterWay(alongSurface(trunk, a.bearingDeg - b.bearingDeg), round));
  const apart = (a: Place, b: Place) => Math.hypot(sideways(a, b), a.heightMm - b.heightMm);
  const tooClose = (a: Place, b: Place) => sideways(a, b) < SIDEWAYS_APART_MM || apart(a, b) < practice.spacingMm;
  const packing = packingDistance(trunk, practice, model, round);
  const middle = (map.lowestMm + map.highestMm) / 2;
  const half = (map.highestMm - map.lowestMm) / 2;

  while (chosen.length < options.wanted) {
    let best: Place | undefined;
    let bestScore = -Infinity;
    for (let row = 0; row < map.rows; row++) {
      const heightMm = rowHeight(map, row);
      for (let column = 0; column < map.columns; column++) {
        const spot = { bearingDeg: columnBearing(map, column), heightMm };
        const p = map.pClear[row * map.columns + column]!;
        const steps = Math.floor(p / EQUALLY_CLEAR);
        if (steps + 1 <= Math.floor(bestScore)) continue;
        if ([...taken, ...chosen].some((other) => tooClose(spot, other))) continue;
        if (options.defects?.some((defect) => apart(spot, defect) < defect.marginMm)) continue;
        const height = 1 - Math.abs(heightMm - middle) / half;
        const score = steps + 0.8 * packing(spot) + 0.19 * height;
        if (score > bestScore) {
          bestScore = score;
          best = spot;
        }
      }
    }
    if (!best) break;
    chosen.push(best);
  }
  return chosen
    .map((spot) => ({ ...spot, outlook: judgeSpot(trunk, draws, practice, model, spot.bearingDeg, spot.heightMm) }))
    .sort((a, b) => b.outlook.pClear - a.outlook.pClear);
}

/** How snugly a spot sits beside old wood, 0 (far from any) to 1 (right beside it). */
function packingDistance(trunk: Trunk, practice: DrillPractice, model: ColumnModel, round: number) {
  const near = trunk.holes.filter((hole) => hole.buriedMm < practice.depthMm);
  const typicalHalf = practice.bitMm / 2 + model.sideMarginMedianMm;
  const typicalLength = columnHalfLength(meanVolumeRatio(model), practice.bitMm, typicalHalf);
  return (spot: Place): number => {
    let snug = 0;
    for (const hole of near) {
      const up = Math.abs(spot.heightMm - hole.heightMm) / (2 * typicalLength);
      if (up >= 1) continue;
      const sideways = Math.abs(shorterWay(alongSurface(trunk, spot.bearingDeg - hole.bearingDeg), round));
      snug = Math.max(snug, (1 - up) * Math.exp(-sideways / 60));
    }
    return snug;
  };
}

/** Everything the Place station shows of a trunk, from one seed. */
export interface Placement {
  readonly map: HeatMap;
  readonly proposals: Proposal[];
}

/** What a placement is computed from. */
export interface PlacementTask extends BestHolesOptions {
  readonly trunk: Trunk;
  readonly practice: DrillPractice;
  readonly model: ColumnModel;
  readonly seed: number;
  readonly draws: number;
  readonly cellMm: number;
  /** relative uncertainty of the ring width */
  readonly ringCv: number;
}

/** Heat map and best holes in one go: the same task always gives the same answer. */
export function placeHoles(task: PlacementTask): Placement {
  const { trunk, practice, model } = task;
  const draws = drawTrunks(trunk, practice, model, task.draws, seededRng(task.seed), task.ringCv);
  const grid = gridFor(trunk, practice.lowestMm, practice.highestMm, task.cellMm);
  const map = heatMap(trunk, draws, practice, model, grid);
  return { map, proposals: bestHoles(trunk, draws, map, practice, model, task) };
}

/** One spot judged with the same draws as `placeHoles` would use. */
export function askSpot(task: PlacementTask, bearingDeg: number, heightMm: number): SpotOutlook {
  const draws = drawTrunks(task.trunk, task.practice, task.model, task.draws, seededRng(task.seed), task.ringCv);
  return judgeSpot(task.trunk, draws, task.practice, task.model, bearingDeg, heightMm);
}
