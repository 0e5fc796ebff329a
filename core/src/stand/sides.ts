import { bearingTo, distanceBetween } from '../geometry/index.ts';
import { normaliseBearing, toRadians } from '../math/index.ts';
import type { SpeciesId } from '../identify/index.ts';
import { basalArea } from './basal.ts';
import { crownRadius, defaultHeight } from './crown.ts';

/**
 * Crown sides after the crown-touching method: a crop tree is free to grow when no competitor's crown touches its own on
 * at least three of four sides (Perkey, Wilkins & Smith 1993, NA-TP-19-93).
 */

export type PositionQuality = 'surveyed' | 'paced' | 'phone';

/** One standard deviation of a position, metres. Working assumptions. */
export const POSITION_SD_M: Readonly<Record<PositionQuality, number>> = { surveyed: 0.2, paced: 1, phone: 5 };

/** Reach of a crown to the north, east, south and west, metres. */
export type CrownRadii = readonly [north: number, east: number, south: number, west: number];

/** A tree on the map. East and north in metres from the bush's origin. */
export interface StandTree {
  readonly id: string;
  readonly tag: string;
  readonly species: SpeciesId | null;
  readonly dbhMm: number;
  readonly eastM: number;
  readonly northM: number;
  readonly positionQuality: PositionQuality;
  /** one standard deviation as the instrument gave it, metres */
  readonly positionAccuracyM?: number | null;
  /** the tree whose base this stem shares */
  readonly stemOf?: string | null;
  /** measured, where it was */
  readonly heightM?: number | null;
  readonly crownRadiiM?: CrownRadii | null;
}

/** One standard deviation of a tree's position, metres: as the instrument gave it, or as its quality says. */
export function positionSd(tree: Pick<StandTree, 'positionQuality' | 'positionAccuracyM'>): number {
  return tree.positionAccuracyM ?? POSITION_SD_M[tree.positionQuality];
}

/** The base that a stem grows from: stems of one base share a crown and do not compete. */
export function baseOf(tree: Pick<StandTree, 'id' | 'stemOf'>): string {
  return tree.stemOf ?? tree.id;
}

/** The four sides on which a crown is looked at. */
export const SIDES = ['north', 'east', 'south', 'west'] as const;
export type Side = (typeof SIDES)[number];

/** Crowns this close count as touching, metres. */
export const TOUCHING_M = 1.5;
/** A neighbour shorter than this share of the crop tree's height does not take its light from the side. */
export const CLEARLY_SHORTER = 0.8;
/** Positions rougher than this say nothing about whose crowns touch, metres. */
export const ROUGHEST_POSITION_M = 2;
/** Sides that are the aim of a release. */
export const SIDES_WANTED = 3;

export interface Competitor {
  readonly tree: StandTree;
  readonly side: Side;
  readonly distanceM: number;
  readonly bearingDeg: number;
  /** gap between the crowns, metres; negative where they overlap */
  readonly gapM: number;
}

export interface CrownSides {
  /** false where the positions are too rough to tell whose crowns touch */
  readonly known: boolean;
  readonly competitors: readonly Competitor[];
  /** competitors by side, marked ones left out */
  readonly blocked: Readonly<Record<Side, readonly Competitor[]>>;
  readonly freeSides: number;
}

/** Mean radius of a crown, metres: measured, or from the diameter. */
export function radiusOf(tree: Pick<StandTree, 'dbhMm' | 'species' | 'crownRadiiM'>): number {
  if (tree.crownRadiiM) return tree.crownRadiiM.reduce((sum, r) => sum + r, 0) / 4;
  return crownRadius(tree.dbhMm, tree.species);
}

/**
 * How far a crown reaches in a direction, metres. Between two measured directions its edge is a quarter of an ellipse.
 * @param bearingDeg degrees clockwise from north
 */
export function reachToward(tree: StandTree, bearingDeg: number): number {
  if (!tree.crownRadiiM) return radiusOf(tree);
  const [north, east, south, west] = tree.crownRadiiM;
  const angle = toRadians(bearingDeg);
  const [n, e] = [Math.cos(angle), Math.sin(angle)];
  const [along, across] = [n >= 0 ? north : south, e >= 0 ? east : west];
  if (along === 0 || across === 0) return Math.abs(n) > 0.999 ? along : Math.abs(e) > 0.999 ? across : 0;
  return 1 / Math.hypot(n / along, e / across);
}

/** Height of a tree, metres: measured, or what its diameter lets expect. */
export function heightOf(tree: StandTree): number {
  return tree.heightM ?? defaultHeight(tree.dbhMm);
}

/** The side of a crown that a bearing falls on: each side is a quarter, centred on its compass point. */
export function sideOf(bearingDeg: number): Side {
  return SIDES[Math.round(bearingDeg / 90) % 4]!;
}

/**
 * What blocks each side of a tree's crown.
 * @param taken ids of trees marked to come down: they block nothing any more
 */
export function crownSides(subject: StandTree, others: readonly StandTree[], taken: ReadonlySet<string>): CrownSides {
  const competitors: Competitor[] = [];
  let known = positionSd(subject) <= ROUGHEST_POSITION_M;
  const height = heightOf(subject);
  for (const tree of others) {
    if (baseOf(tree) === baseOf(subject)) continue;
    const distanceM = distanceBetween(tree, subject);
    const bearingDeg = bearingTo(subject, tree);
    const gapM = distanceM - reachToward(subject, bearingDeg) - reachToward(tree, normaliseBearing(bearingDeg + 180));
    if (gapM > TOUCHING_M || heightOf(tree) < CLEARLY_SHORTER * height) continue;
    if (positionSd(tree) > ROUGHEST_POSITION_M) known = false;
    competitors.push({ tree, side: sideOf(bearingDeg), distanceM, bearingDeg, gapM });
  }
  competitors.sort((a, b) => a.gapM - b.gapM);
  const blocked = Object.fromEntries(
    SIDES.map((side) => [side, competitors.filter((c) => c.side === side && !taken.has(c.tree.id))])
  ) as Record<Side, Competitor[]>;
  return { known, competitors, blocked, freeSides: SIDES.filter((side) => blocked[side].length === 0).length };
}

/** Share of basal area that one entry may take at the most. Common practice: a quarter to a third. */
export const REMOVAL_LIMIT = 0.3;

export interface Removal {
  readonly trees: number;
  readonly basalAreaM2: number;
  /** share of the stand's basal area, 0..1 */
  readonly share: number;
  readonly overLimit: boolean;
}

/** What the marks take out of a stand. */
export function removal(stand: readonly { id: string; dbhMm: number }[], taken: ReadonlySet<string>): Removal {
  let all = 0;
  let out = 0;
  let trees = 0;
  for (const tree of stand) {
    const area = basalArea(tree.dbhMm);
    all += area;
    if (!taken.has(tree.id)) continue;
    out += area;
    trees += 1;
  }
  const share = all > 0 ? out / all : 0;
  return { trees, basalAreaM2: out, share, overLimit: share > REMOVAL_LIMIT };
}

/** A place that hangs on another is at best as good as the worse of both. */
export function rougher(a: PositionQuality, b: PositionQuality): PositionQuality {
  return POSITION_SD_M[a] >= POSITION_SD_M[b] ? a : b;
}
