import type { SpeciesId } from '@baumkin/core/identify';
import { seededRng, type Rng } from '@baumkin/core/math';
import type { CrownClass } from '@baumkin/core/measure';
import { basalArea, crownRadius, shortWalk } from '@baumkin/core/stand';
import { competitionOf } from '@baumkin/core/thinning';

import { LANDSCAPE, STANDS, WAY_IN, type Mix } from './landscape.ts';

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
