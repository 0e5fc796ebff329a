import {
  basalArea,
  crownRadius,
  seededRng,
  shortWalk,
  type CrownClass,
  type Rng,
  type SiteFeature,
  type SpeciesId,
  type Stand
} from '@baumkin/core';
import { competitionOf } from '@baumkin/core/thinning';

type Mix = readonly (readonly [SpeciesId, number])[];

export interface StandPlan {
  readonly name: string;
  readonly purpose: Stand['purpose'];
  readonly note: string;
  readonly wetness: Stand['wetness'];
  readonly outline: readonly (readonly [east: number, north: number])[];
  readonly box: readonly [west: number, south: number, east: number, north: number];
  readonly trees: number;
  readonly clumps: number;
  readonly mix: Mix;
  readonly tappedSince: number | null;
}

export const STANDS: readonly StandPlan[] = [
  {
    name: 'Upper Bush',
    purpose: 'syrup',
    note: '',
    wetness: 'dry',
    outline: [
      [-4, 89],
      [60, 91],
      [132, 91],
      [231, 93],
      [233, 150],
      [229, 209],
      [140, 211],
      [62, 207],
      [-5, 208]
    ],
    box: [0, 90, 230, 205],
    trees: 232,
    clumps: 26,
    mix: [
      ['sugarMaple', 0.81],
      ['redMaple', 0.04],
      ['beech', 0.05],
      ['yellowBirch', 0.03],
      ['whiteAsh', 0.03],
      ['basswood', 0.02],
      ['hophornbeam', 0.02]
    ],
    tappedSince: 1998
  },
  {
    name: 'Brook Bottom',
    purpose: 'mixed',
    note: 'Red maple for late sap; ash is let go, elm stays where it lives.',
    wetness: 'wet',
    outline: [
      [-5, -4],
      [90, -5],
      [180, -3],
      [233, -4],
      [234, 60],
      [228, 82],
      [130, 79],
      [60, 82],
      [-5, 81]
    ],
    box: [0, 0, 230, 80],
    trees: 108,
    clumps: 14,
    mix: [
      ['redMaple', 0.46],
      ['sugarMaple', 0.25],
      ['whiteAsh', 0.1],
      ['yellowBirch', 0.09],
      ['elm', 0.05],
      ['silverMaple', 0.03],
      ['basswood', 0.02]
    ],
    tappedSince: 2014
  },
  {
    name: 'North Ledge',
    purpose: 'wildlife',
    note: 'Beech nuts, oak mast and dens. Nothing is felled here but what hangs over the footpath.',
    wetness: 'moist',
    outline: [
      [238, 58],
      [290, 55],
      [335, 62],
      [336, 140],
      [333, 209],
      [285, 211],
      [239, 207],
      [241, 120]
    ],
    box: [240, 60, 330, 205],
    trees: 64,
    clumps: 10,
    mix: [
      ['beech', 0.32],
      ['sugarMaple', 0.3],
      ['redOak', 0.14],
      ['hophornbeam', 0.1],
      ['blackCherry', 0.07],
      ['aspen', 0.04],
      ['stripedMaple', 0.03]
    ],
    tappedSince: null
  }
];

/** In the south-west, where the footpath comes in. */
const WAY_IN = { eastM: 0, northM: 90 };

/** Brook, footpath, shed and the way in. The path and the shed lie in the gaps between the stands. */
export const LANDSCAPE: readonly Omit<SiteFeature, 'id'>[] = [
  {
    kind: 'water',
    name: 'Corran Brook',
    points: [
      [338, 52],
      [300, 47],
      [262, 38],
      [228, 43],
      [196, 34],
      [170, 38],
      [142, 27],
      [108, 30],
      [80, 20],
      [48, 24],
      [20, 13],
      [-10, 15]
    ]
  },
  {
    kind: 'path',
    name: 'Footpath to the ledge',
    points: [
      [-10, 87],
      [30, 84],
      [74, 86],
      [108, 82],
      [140, 82],
      [190, 86],
      [226, 85],
      [234, 100],
      [235, 150],
      [236, 212]
    ]
  },
  {
    kind: 'building',
    name: 'Sap shed',
    points: [
      [118, 84],
      [126, 84],
      [126, 89],
      [118, 89]
    ]
  },
  { kind: 'entrance', name: 'Way in', points: [[WAY_IN.eastM, WAY_IN.northM]] }
];

/** What is true of an invented tree, whether anybody has recorded it or not. */
export interface TrueTree {
  readonly stand: number;
  readonly species: SpeciesId;
  readonly eastM: number;
  readonly northM: number;
  /** diameter in autumn 2026, mm */
  readonly dbhMm: number;
  readonly ringMm: number;
  readonly crownClass: CrownClass;
}

/** A stem before its neighbours are known. */
type Stem = Omit<TrueTree, 'crownClass' | 'ringMm'>;

/** The trees of the wood: those with a tag in walking order, and those between them in the Upper Bush that have none. */
export function growTrees(rng: Rng): { tagged: TrueTree[]; between: TrueTree[] } {
  const tagged = inWalkingOrder(byGround(growWood(rng)));
  const between = growBetween(tagged, seededRng(BETWEEN_SEED));
  const grown = amongTheirNeighbours([...tagged, ...between]);
  return { tagged: grown.slice(0, tagged.length), between: grown.slice(tagged.length) };
}

/** Who stands between the tagged trees of the Upper Bush, how many of a hundred, and how thick, mm. */
const BETWEEN = [
  ['beech', 30, 210],
  ['sugarMaple', 26, 190],
  ['hophornbeam', 14, 140],
  ['yellowBirch', 13, 250],
  ['basswood', 9, 260],
  ['whiteAsh', 8, 270]
] as const;
const MANY_BETWEEN = 1200;
const BETWEEN_SEED = 1802;

/** What has no tag, but takes light: it fills what the tagged trees leave. */
function growBetween(tagged: readonly Stem[], rng: Rng): Stem[] {
  const [west, south, east, north] = STANDS[0]!.box;
  const standing = tagged.filter(({ stand }) => stand === 0);
  const between: Stem[] = [];
  for (let tries = 0; between.length < MANY_BETWEEN && tries < 60_000; tries++) {
    const eastM = west + 1 + rng.uniform() * (east - west - 2);
    const northM = south + 2 + rng.uniform() * (north - south - 3);
    let left = 100 * rng.uniform();
    const [species, , usual] = BETWEEN.find(([, many]) => (left -= many) < 0) ?? BETWEEN[0];
    const dbhMm = Math.max(80, Math.round(rng.logNormal(usual, 0.32) / 10) * 10);
    const stem = { stand: 0, species, eastM: Number(eastM.toFixed(2)), northM: Number(northM.toFixed(2)), dbhMm };
    if (
      [...standing, ...between].some(
        (o) => Math.hypot(o.eastM - eastM, o.northM - northM) < 2 + (o.dbhMm + dbhMm) / 700
      )
    )
      continue;
    between.push(stem);
  }
  return between;
}

const WET_GROUND: readonly SpeciesId[] = ['redMaple', 'silverMaple', 'elm'];
const BANK_M = 2;

/** Wet-ground species go nearest to the brook of their stand, with some that did not read the book; none stands in it. */
function byGround(wood: readonly Stem[]): Stem[] {
  const settled = [...wood];
  STANDS.forEach((plan, stand) => {
    if (plan.purpose !== 'mixed') return;
    const here = wood.flatMap((tree, i) => (tree.stand === stand ? [i] : []));
    const odd = (i: number) => 30 * Math.abs(Math.sin(wood[i]!.eastM * 3.7 + wood[i]!.northM * 9.1));
    const fromBrook = (i: number) => Math.abs(wood[i]!.northM - brookNorth(wood[i]!.eastM)) + odd(i);
    const places = [...here].sort((a, b) => fromBrook(a) - fromBrook(b));
    const wet = here.filter((i) => WET_GROUND.includes(wood[i]!.species));
    const dry = here.filter((i) => !wet.includes(i));
    [...wet, ...dry].forEach((from, rank) => {
      const { eastM, northM } = wood[places[rank]!]!;
      const brook = brookNorth(eastM);
      const bank = northM < brook ? Math.min(northM, brook - BANK_M) : Math.max(northM, brook + BANK_M);
      settled[places[rank]!] = { ...wood[from]!, eastM, northM: bank };
    });
  });
  return settled;
}

/** How far north the brook runs at a distance east, metres. */
function brookNorth(eastM: number): number {
  const { points } = LANDSCAPE.find(({ kind }) => kind === 'water')!;
  const i = points.findIndex(([east]) => east <= eastM);
  const [[ax, ay], [bx, by]] = [points[Math.max(1, i) - 1]!, points[Math.max(1, i)]!];
  return ay + ((eastM - ax) / (bx - ax)) * (by - ay);
}

/** Stems in clumps, each with room for its own trunk; diameters by species and ground. */
function growWood(rng: Rng): Stem[] {
  const wood: Stem[] = [];
  STANDS.forEach((plan, stand) => {
    const [west, south, east, north] = plan.box;
    const clumps = Array.from({ length: plan.clumps }, () => ({
      eastM: west + 12 + rng.uniform() * (east - west - 24),
      northM: south + 8 + rng.uniform() * (north - south - 16)
    }));
    let placed = 0;
    for (let tries = 0; placed < plan.trees && tries < 20_000; tries++) {
      const clump = clumps[Math.floor(rng.uniform() * clumps.length)]!;
      const eastM = clump.eastM + rng.normal(0, 11);
      const northM = clump.northM + rng.normal(0, 9);
      if (eastM < west || eastM > east || northM < south || northM > north) continue;
      const species = pick(plan.mix, rng);
      const dbhMm = diameterOf(species, rng);
      const crowded = wood.some((o) => Math.hypot(o.eastM - eastM, o.northM - northM) < 1.6 + (o.dbhMm + dbhMm) / 330);
      if (crowded) continue;
      wood.push({ stand, species, eastM, northM, dbhMm });
      placed += 1;
    }
  });
  return wood;
}

function diameterOf(species: SpeciesId, rng: Rng): number {
  const [mean, sd] =
    species === 'sugarMaple'
      ? [375, 110]
      : species === 'hophornbeam' || species === 'stripedMaple'
        ? [170, 40]
        : [320, 90];
  return Math.min(820, Math.max(95, rng.normal(mean, sd)));
}

function inWalkingOrder(wood: readonly Stem[]): Stem[] {
  const order = shortWalk(
    wood.map((tree, i) => ({ ...tree, id: String(i), standId: String(tree.stand) })),
    WAY_IN
  );
  return order.map((id) => wood[Number(id)]!);
}

/** Ring of a tree of this wood that stands alone, mm, and how much a neighbour takes of it. */
const ALONE_MM = 2.05;
const TAKEN = 0.5;
const MIN_MM = 0.35;

/** Crown classes and ring widths from how trees stand among their neighbours. */
function amongTheirNeighbours(wood: readonly Stem[]): TrueTree[] {
  const pressed = competitionOf(
    wood.map(({ eastM, northM, dbhMm, species }, i) => ({
      id: String(i),
      tag: '',
      species,
      dbhMm,
      eastM,
      northM,
      positionQuality: 'surveyed' as const,
      heightM: null,
      crownRadiiM: null
    })),
    STANDS.map(({ outline }) => outline)
  );
  return wood.map((tree, i) => {
    // A tree's own vigour, from its place: the same tree is always as vigorous.
    const vigour = 0.85 + 0.3 * Math.abs(Math.sin(tree.eastM * 12.9 + tree.northM * 78.2));
    const ringMm = Math.max(MIN_MM, ALONE_MM * Math.exp(-TAKEN * pressed[i]!) * vigour);
    return { ...tree, crownClass: crownClassOf(tree, wood), ringMm };
  });
}

function crownClassOf(tree: Stem, wood: readonly Stem[]): CrownClass {
  const reach = crownRadius(tree.dbhMm, tree.species);
  const near = wood.filter(
    (o) =>
      o !== tree &&
      Math.hypot(o.eastM - tree.eastM, o.northM - tree.northM) < reach + crownRadius(o.dbhMm, o.species) + 1
  );
  const taller = near.reduce((sum, o) => sum + Math.max(0, basalArea(o.dbhMm) / basalArea(tree.dbhMm) - 0.6), 0);
  return near.length === 0
    ? 'open'
    : taller < 0.5
      ? 'dominant'
      : taller < 2.2
        ? 'codominant'
        : taller < 6
          ? 'intermediate'
          : 'suppressed';
}

function pick(mix: Mix, rng: Rng): SpeciesId {
  let u = rng.uniform() * mix.reduce((sum, [, share]) => sum + share, 0);
  for (const [species, share] of mix) if ((u -= share) < 0) return species;
  return mix[0]![0];
}
