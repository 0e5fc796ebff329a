import type { BarkSpot } from '../geometry/index.ts';
import { toDegrees, wrapDegrees, type Rng } from '../math/index.ts';
import { alongSurface, shorterWay, type Trunk } from '../trunk/index.ts';
import { haphazard, pattern, sunnySide, type PlacementRule, type RuleTree } from './rules.ts';
import { SIDEWAYS_APART_MM } from './board.ts';
import { MM_PER_INCH } from '../units/index.ts';

/** The ways in which stewards place holes, by name. */
export const PLACEMENT_STRATEGY_IDS = [
  'rotation',
  'handSpan',
  'sixOverTwelve',
  'sixAndSix',
  'sixAndTwentyFour',
  'pattern',
  'sunny',
  'haphazard'
] as const;
export type PlacementStrategyId = (typeof PLACEMENT_STRATEGY_IDS)[number];

/** What a strategy says against a place. */
export type StrategyObjection =
  | { readonly why: 'withinSpan' | 'straightAbove' | 'straightBelow' | 'overAndUp'; readonly season: number }
  | { readonly why: 'offStep'; readonly strategy: PlacementStrategyId; readonly season: number }
  | { readonly why: 'notSunny'; readonly bearingDeg: number };

/** A way of placing holes: as it is taught, as a rule against a place, and as a rule to live through. */
export interface PlacementStrategy {
  readonly id: PlacementStrategyId;
  /** why it speaks against a place on this trunk; null where it does not */
  readonly against: (spot: BarkSpot, trunk: Trunk, depthMm: number) => StrategyObjection | null;
  /** null for the rotation, which is planned for a trunk and not a rule of thumb */
  readonly rule: PlacementRule | null;
}

/** A grown hand from thumb to little finger, mm. Common practice. */
export const HAND_SPAN_MM = 200;

/** A hand does not hit a measured place more exactly than this, mm. */
const NEAR_MM = 30;

interface Offset {
  readonly season: number;
  readonly sideMm: number;
  readonly upMm: number;
}

/** Where a place lies from each hole whose wood a new one could still meet: what older holes did, rules need not mind. */
function offsets(spot: BarkSpot, trunk: Trunk, depthMm: number): Offset[] {
  const round = 2 * Math.PI * trunk.woodRadiusMm;
  return trunk.holes
    .filter(({ buriedMm, unsure }) => !unsure && buriedMm < depthMm)
    .map(({ season, bearingDeg, heightMm }) => ({
      season,
      sideMm: shorterWay(alongSurface(trunk, spot.bearingDeg - bearingDeg), round),
      upMm: spot.heightMm - heightMm
    }));
}

const newestOf = (all: readonly Offset[]) => {
  const newest = Math.max(...all.map(({ season }) => season));
  return all.filter(({ season }) => season === newest);
};

/** A rule that wants a place at set offsets from a hole of the last season, sideways either way and up or down. */
function stepFromLast(
  strategy: PlacementStrategyId,
  sidesMm: readonly [number, number],
  upsMm: readonly [number, number]
): PlacementStrategy['against'] {
  const off = (value: number, [from, to]: readonly [number, number]) =>
    Math.abs(value) < from - NEAR_MM || Math.abs(value) > to + NEAR_MM;
  return (spot, trunk, depthMm) => {
    const all = offsets(spot, trunk, depthMm);
    if (all.length === 0) return null;
    const last = newestOf(all);
    return last.every(({ sideMm, upMm }) => off(sideMm, sidesMm) || off(upMm, upsMm))
      ? { why: 'offStep', strategy, season: last[0]!.season }
      : null;
  };
}

/** A rule that follows its last hole by fixed steps; at the band's end it turns back. */
function stepping(sideMm: number, upMm: number, byTurns: boolean): PlacementRule {
  return (season, tree, earlier) => {
    const { lowestMm, highestMm, taps } = tree;
    const band = highestMm - lowestMm;
    const radius = tree.woodRadiusMm + season * tree.ringMm;
    const last = earlier.filter((spots) => spots.length > 0).at(-1)?.[0];
    const turn = toDegrees(sideMm / radius);
    const lift = Math.min(upMm, band);
    let heightMm = last ? last.heightMm + lift : lowestMm;
    if (last && byTurns) heightMm = season % 2 ? last.heightMm + lift : last.heightMm - lift;
    if (heightMm > highestMm + 1) heightMm = lowestMm + ((heightMm - lowestMm) % Math.max(1, band));
    const bearingDeg = last ? last.bearingDeg + turn : 180;
    return Array.from({ length: taps }, (_, i) => ({
      bearingDeg: bearingDeg + (i * 360) / taps,
      heightMm: Math.max(lowestMm, heightMm)
    }));
  };
}

/** How many seasons back holes can be told on the bark. Working assumption: paint and scars fade. */
const REMEMBERED = 10;

/** A rule that looks about for a place that its rule allows, and settles for the best of its tries. */
function lookingAbout(room: (sideMm: number, upMm: number) => number): PlacementRule {
  return (season, tree, earlier, rng) => {
    const radius = tree.woodRadiusMm + season * tree.ringMm;
    const seen = earlier.slice(-REMEMBERED).flat();
    const chosen: BarkSpot[] = [];
    const roomAt = (spot: BarkSpot) =>
      Math.min(
        1,
        ...[...seen, ...chosen].map((other) =>
          room(
            Math.abs((wrapDegrees(spot.bearingDeg - other.bearingDeg) * Math.PI * radius) / 180),
            Math.abs(spot.heightMm - other.heightMm)
          )
        )
      );
    for (let i = 0; i < tree.taps; i++) chosen.push(bestOfTries(tree, rng, roomAt));
    return chosen;
  };
}

function bestOfTries(tree: RuleTree, rng: Rng, roomAt: (spot: BarkSpot) => number): BarkSpot {
  let best: BarkSpot | null = null;
  let most = -Infinity;
  for (let i = 0; i < 40; i++) {
    const spot = {
      bearingDeg: 360 * rng.uniform(),
      heightMm: tree.lowestMm + rng.uniform() * (tree.highestMm - tree.lowestMm)
    };
    const least = roomAt(spot);
    if (least > most) [best, most] = [spot, least];
    if (most >= 1) break;
  }
  return best!;
}

const spanRoom = (side: number, up: number) =>
  side < NEAR_MM ? side / NEAR_MM / 2 : Math.hypot(side, up) / HAND_SPAN_MM;
const overAndUpRoom = (side: number, up: number) => Math.min(side / SIDEWAYS_APART_MM, up / (12 * MM_PER_INCH));

/** The main schools, as common practice tells them (no published source), and our own. */
export const PLACEMENT_STRATEGIES: readonly PlacementStrategy[] = [
  {
    id: 'rotation',
    against: () => null,
    rule: null
  },
  {
    id: 'handSpan',
    against: (spot, trunk, depthMm) => {
      const all = offsets(spot, trunk, depthMm);
      const near = all.find(({ sideMm, upMm }) => Math.hypot(sideMm, upMm) < HAND_SPAN_MM);
      if (near) return { why: 'withinSpan', season: near.season };
      const inLine = all.find(({ sideMm }) => Math.abs(sideMm) < NEAR_MM);
      return inLine ? { why: inLine.upMm > 0 ? 'straightAbove' : 'straightBelow', season: inLine.season } : null;
    },
    rule: lookingAbout(spanRoom)
  },
  {
    id: 'sixOverTwelve',
    against: (spot, trunk, depthMm) => {
      const near = offsets(spot, trunk, depthMm).find(
        ({ sideMm, upMm }) => Math.abs(sideMm) < SIDEWAYS_APART_MM && Math.abs(upMm) < 12 * MM_PER_INCH
      );
      return near ? { why: 'overAndUp', season: near.season } : null;
    },
    rule: lookingAbout(overAndUpRoom)
  },
  {
    id: 'sixAndSix',
    against: stepFromLast('sixAndSix', [6 * MM_PER_INCH, 6 * MM_PER_INCH], [6 * MM_PER_INCH, 6 * MM_PER_INCH]),
    rule: stepping(6 * MM_PER_INCH, 6 * MM_PER_INCH, false)
  },
  {
    id: 'sixAndTwentyFour',
    against: stepFromLast('sixAndTwentyFour', [6 * MM_PER_INCH, 6 * MM_PER_INCH], [20 * MM_PER_INCH, 24 * MM_PER_INCH]),
    rule: stepping(6 * MM_PER_INCH, 24 * MM_PER_INCH, true)
  },
  {
    id: 'pattern',
    against: stepFromLast('pattern', [1 * MM_PER_INCH, 2 * MM_PER_INCH], [8 * MM_PER_INCH, 10 * MM_PER_INCH]),
    rule: pattern
  },
  {
    id: 'sunny',
    against: ({ bearingDeg }) =>
      Math.abs(wrapDegrees(bearingDeg - 180)) > 60 ? { why: 'notSunny', bearingDeg } : null,
    rule: sunnySide
  },
  {
    id: 'haphazard',
    against: () => null,
    rule: haphazard
  }
];

/** A way of placing by its name. */
export function placementStrategyById(id: PlacementStrategyId): PlacementStrategy {
  return PLACEMENT_STRATEGIES.find((strategy) => strategy.id === id)!;
}
