import { normaliseBearing, toRadians, type Rng } from '../math/index.ts';
import { bearingTo, distanceBetween } from '../geometry/index.ts';
import {
  CLEARLY_SHORTER,
  crownSides,
  heightOf,
  reachToward,
  SIDES,
  sideOf,
  TOUCHING_M,
  type Side,
  type StandTree
} from './sides.ts';

/*
 * Practice in looking at crowns: which sides are free, and how much of the fine branches is dead.
 */

/** A crown among its neighbours. */
export interface CrownScene {
  readonly subject: StandTree;
  readonly others: readonly StandTree[];
  /** fine branches that are dead, per cent, in steps of five */
  readonly diebackPct: number;
}

/** What somebody said of it. */
export interface CrownSaid {
  readonly blocked: readonly Side[];
  readonly diebackPct: number;
}

/** Why a side is free or blocked. */
export type SideWhy =
  /** a crown touches, or nearly */
  | { readonly why: 'touches'; readonly gapM: number; readonly tag: string }
  /** a crown is near, and far too low to take light */
  | { readonly why: 'shorter'; readonly tag: string }
  /** the nearest crown on that side leaves room */
  | { readonly why: 'apart'; readonly gapM: number; readonly tag: string }
  | { readonly why: 'nobody' };

/** What came of it. */
export interface CrownJudgement {
  readonly sides: readonly {
    readonly side: Side;
    readonly blocked: boolean;
    readonly right: boolean;
    readonly because: SideWhy;
  }[];
  readonly freeSides: number;
  /** by how much the dieback was said too high, per cent of the crown */
  readonly diebackOff: number;
  /** within what is asked of people who do this for a living */
  readonly diebackNear: boolean;
}

/**
 * Dieback is written down in classes of five per cent, and two classes off is within tolerance (US Forest Service, FIA field guide, crowns:
 * ± 10 %, from memory).
 */
export const DIEBACK_NEAR_PCT = 10;
/** Dieback is written down in classes of this width, per cent (FIA field guide, crowns). */
export const DIEBACK_STEP_PCT = 5;

/** How often nobody stands on a side. Working assumption. */
const NOBODY = 0.2;
/** How often somebody does who is too short to matter. Working assumption. */
const SHORT = 0.25;

/** Draws a crown among neighbours: some touch, some leave room, and some are near and far below. */
export function drawCrown(rng: Rng): CrownScene {
  const between = (least: number, most: number) => least + (most - least) * rng.uniform();
  const at = (id: string, [eastM, northM]: readonly [number, number], heightM: number, reachM: number): StandTree => ({
    id,
    tag: id,
    species: null,
    dbhMm: 300,
    eastM,
    northM,
    positionQuality: 'surveyed',
    heightM,
    crownRadiiM: [reachM, reachM, reachM, reachM].map((r) => r * between(0.85, 1.15)) as [
      number,
      number,
      number,
      number
    ]
  });
  const subject = at('0', [0, 0], between(17, 23), between(3, 4.5));
  const others = SIDES.flatMap((_, i): StandTree[] => {
    if (rng.uniform() < NOBODY) return [];
    const isShort = rng.uniform() < SHORT;
    const height =
      subject.heightM! * (isShort ? between(0.45, CLEARLY_SHORTER - 0.08) : between(CLEARLY_SHORTER + 0.06, 1.1));
    const reach = isShort ? between(1.5, 2.5) : between(2.2, 4);
    // Near enough to touch, or clearly apart: half a metre either way is not asked of anybody.
    const touches = isShort || rng.uniform() < 0.55;
    const gap = touches ? between(-0.8, TOUCHING_M - 0.5) : between(TOUCHING_M + 0.6, TOUCHING_M + 2.5);
    const bearing = toRadians(90 * i + between(-28, 28));
    const away = 1.15 * Math.max(...subject.crownRadiiM!) * 0.87 + reach + gap;
    return [at(String(i + 1), [away * Math.sin(bearing), away * Math.cos(bearing)], height, reach)];
  });
  const diebackPct = DIEBACK_STEP_PCT * Math.round(between(0, 1) ** 2 * 14);
  return { subject, others: others.filter((each) => isClear(subject, each)), diebackPct };
}

/** Room between two crowns, metres; negative where they overlap. */
function gapBetween(subject: StandTree, other: StandTree): number {
  const bearing = bearingTo(subject, other);
  return (
    distanceBetween(subject, other) -
    reachToward(subject, bearing) -
    reachToward(other, normaliseBearing(bearing + 180))
  );
}

/** Crowns this near the edge of touching, metres, are asked of nobody. Working assumption. */
const PLAIN_M = 0.3;

/** Is it plain whether the two touch? */
function isClear(subject: StandTree, other: StandTree): boolean {
  return Math.abs(gapBetween(subject, other) - TOUCHING_M) > PLAIN_M;
}

/** Holds what was said of a crown against what is there. */
export function judgeCrown({ subject, others, diebackPct }: CrownScene, said: CrownSaid): CrownJudgement {
  const { blocked, freeSides } = crownSides(subject, others, new Set());
  const tall = others.map((tree) => ({ ...tree, heightM: heightOf(subject) }));
  // As if all were tall: who is near, and how near, whatever its height.
  const near = crownSides(subject, tall, new Set()).competitors;
  const sides = SIDES.map((side) => {
    const isBlocked = blocked[side].length > 0;
    return { side, blocked: isBlocked, right: said.blocked.includes(side) === isBlocked, because: whyOf(side) };
  });
  const diebackOff = said.diebackPct - diebackPct;
  return { sides, freeSides, diebackOff, diebackNear: Math.abs(diebackOff) <= DIEBACK_NEAR_PCT };

  function whyOf(side: Side): SideWhy {
    const [touching] = blocked[side];
    if (touching) return { why: 'touches', gapM: touching.gapM, tag: touching.tree.tag };
    const [short] = near.filter((each) => each.side === side);
    if (short) return { why: 'shorter', tag: short.tree.tag };
    const first = others.find((tree) => sideOf(bearingTo(subject, tree)) === side);
    return first ? { why: 'apart', gapM: gapBetween(subject, first), tag: first.tag } : { why: 'nobody' };
  }
}
