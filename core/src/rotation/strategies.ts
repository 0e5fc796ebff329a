import type { BarkSpot } from '../geometry/index.ts';
import { compassPoint, toDegrees, wrapDegrees, type Rng } from '../math/index.ts';
import { alongSurface, shorterWay, type Trunk } from '../trunk/index.ts';
import { haphazard, pattern, sunnySide, type PlacementRule, type RuleTree } from './rules.ts';
import { SIDEWAYS_APART_MM } from './plan.ts';

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

/** A way of placing holes: as it is taught, as a rule against a place, and as a rule to live through. */
export interface PlacementStrategy {
  readonly id: PlacementStrategyId;
  readonly name: string;
  /** as one says it */
  readonly says: string;
  /** what it is good for and what it leaves out, in a sentence */
  readonly judged: string;
  /** why it speaks against a place on this trunk; null where it does not */
  readonly against: (spot: BarkSpot, trunk: Trunk, depthMm: number) => string | null;
  /** null for the rotation, which is planned for a trunk and not a rule of thumb */
  readonly rule: PlacementRule | null;
}

/** A grown hand from thumb to little finger, mm. Common practice. */
export const HAND_SPAN_MM = 200;

const INCH = 25.4;
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
function stepFromLast(sidesMm: readonly [number, number], upsMm: readonly [number, number], words: string) {
  const off = (value: number, [from, to]: readonly [number, number]) =>
    Math.abs(value) < from - NEAR_MM || Math.abs(value) > to + NEAR_MM;
  return (spot: BarkSpot, trunk: Trunk, depthMm: number): string | null => {
    const all = offsets(spot, trunk, depthMm);
    if (all.length === 0) return null;
    const last = newestOf(all);
    return last.every(({ sideMm, upMm }) => off(sideMm, sidesMm) || off(upMm, upsMm))
      ? `not ${words} from the last hole, of ${last[0]!.season}`
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
    for (let i = 0; i < tree.taps; i++) chosen.push(bestOfTries([...seen, ...chosen], radius, tree, rng, room));
    return chosen;
  };
}

function bestOfTries(
  seen: readonly BarkSpot[],
  radius: number,
  tree: RuleTree,
  rng: Rng,
  room: (sideMm: number, upMm: number) => number
): BarkSpot {
  let best: BarkSpot | null = null;
  let most = -Infinity;
  for (let i = 0; i < 40; i++) {
    const spot = {
      bearingDeg: 360 * rng.uniform(),
      heightMm: tree.lowestMm + rng.uniform() * (tree.highestMm - tree.lowestMm)
    };
    const least = Math.min(
      1,
      ...seen.map((other) =>
        room(
          Math.abs((wrapDegrees(spot.bearingDeg - other.bearingDeg) * Math.PI * radius) / 180),
          Math.abs(spot.heightMm - other.heightMm)
        )
      )
    );
    if (least > most) [best, most] = [spot, least];
    if (most >= 1) break;
  }
  return best!;
}

const spanRoom = (side: number, up: number) =>
  side < NEAR_MM ? side / NEAR_MM / 2 : Math.hypot(side, up) / HAND_SPAN_MM;
const overAndUpRoom = (side: number, up: number) => Math.min(side / SIDEWAYS_APART_MM, up / (12 * INCH));

/** The main schools, as common practice tells them (no published source), and our own. */
export const PLACEMENT_STRATEGIES: readonly PlacementStrategy[] = [
  {
    id: 'rotation',
    name: 'Best clear wood, planned ahead',
    says: 'Each hole where clear wood is almost certain, and so that the coming 25 seasons find clear wood too.',
    judged:
      'Our default: it knows every old hole that was written down, doubts what is doubtful, and loses least over fifty seasons.',
    against: () => null,
    rule: null
  },
  {
    id: 'handSpan',
    name: 'A hand span off',
    says: 'A hand span from any old hole, and never straight above or below one.',
    judged: 'Easy to keep with no tool but a hand, as long as the old holes can be seen.',
    against: (spot, trunk, depthMm) => {
      const all = offsets(spot, trunk, depthMm);
      const near = all.find(({ sideMm, upMm }) => Math.hypot(sideMm, upMm) < HAND_SPAN_MM);
      if (near) return `less than a hand span from the hole of ${near.season}`;
      const inLine = all.find(({ sideMm }) => Math.abs(sideMm) < NEAR_MM);
      return inLine ? `straight ${inLine.upMm > 0 ? 'above' : 'below'} the hole of ${inLine.season}` : null;
    },
    rule: lookingAbout(spanRoom)
  },
  {
    id: 'sixOverTwelve',
    name: '15 cm over, 30 cm up or down',
    says: 'At least 15 cm (6 in) sideways and 30 cm (12 in) up or down from old holes.',
    judged: 'Safe beside each hole, but on a small trunk no place is left after a few seasons.',
    against: (spot, trunk, depthMm) => {
      const near = offsets(spot, trunk, depthMm).find(
        ({ sideMm, upMm }) => Math.abs(sideMm) < SIDEWAYS_APART_MM && Math.abs(upMm) < 12 * INCH
      );
      return near ? `within 15 cm (6 in) over and 30 cm (12 in) up or down of the hole of ${near.season}` : null;
    },
    rule: lookingAbout(overAndUpRoom)
  },
  {
    id: 'sixAndSix',
    name: '15 cm up and 15 cm over',
    says: '15 cm (6 in) up and 15 cm over from the last hole.',
    judged: 'Needs the last hole alone; it comes round again before new wood has covered the old.',
    against: stepFromLast([6 * INCH, 6 * INCH], [6 * INCH, 6 * INCH], '15 cm (6 in) up or down and 15 cm over'),
    rule: stepping(6 * INCH, 6 * INCH, false)
  },
  {
    id: 'sixAndTwentyFour',
    name: '15 cm over, 60 cm up or down',
    says: '15 cm (6 in) over and 60 cm (24 in) up or down by turns.',
    judged: 'Well clear of the last hole; the two heights fill up as fast as the girth allows.',
    against: stepFromLast(
      [6 * INCH, 6 * INCH],
      [20 * INCH, 24 * INCH],
      '15 cm (6 in) over and 60 cm (24 in) up or down'
    ),
    rule: stepping(6 * INCH, 24 * INCH, true)
  },
  {
    id: 'pattern',
    name: 'A small step round the trunk',
    says: 'A fixed small step, always the same way round, well above and below by turns: about 4 cm (1 1/2 in) over and 23 cm (9 in) up or down.',
    judged: 'The best that can be kept without a plan, if the step fits the girth and nobody misses a turn.',
    against: stepFromLast(
      [1 * INCH, 2 * INCH],
      [8 * INCH, 10 * INCH],
      'a small step of 2.5 to 5 cm (1 to 2 in) over and 20 to 25 cm (8 to 10 in) up or down'
    ),
    rule: pattern
  },
  {
    id: 'sunny',
    name: 'The sunny side',
    says: 'On the south side, under a big limb or over a big root, where it runs first.',
    judged: 'Runs a little earlier, and crowds all holes into one patch: stained wood within a few years.',
    against: ({ bearingDeg }) =>
      Math.abs(wrapDegrees(bearingDeg - 180)) > 60
        ? `on the ${compassPoint(bearingDeg)} side, not the sunny one`
        : null,
    rule: sunnySide
  },
  {
    id: 'haphazard',
    name: 'Wherever it looks clear',
    says: 'Anywhere that no scar is seen.',
    judged: 'Better than a patch, but old holes cannot be seen for long, and gaps are left that fit nothing.',
    against: () => null,
    rule: haphazard
  }
];

export function placementStrategyById(id: PlacementStrategyId): PlacementStrategy {
  return PLACEMENT_STRATEGIES.find((strategy) => strategy.id === id)!;
}
