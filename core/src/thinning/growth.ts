import type { Point } from '../geometry/index.ts';
import type { Rng } from '../math/index.ts';
import type { SpeciesId } from '../identify/index.ts';
import { baseOf, standDensityIndex, type StandTree } from '../stand/index.ts';
import { baseDiameters, bases, edgeCorrection, hegyi, neighbours, type Neighbours } from './competition.ts';
import { deathsAYear } from './mortality.ts';

/**
 * How fast trees grow beside each other: `w = w_open(species) * exp(-c * CI) * room(SDI)`. Hegyi's index alone knows no
 * scale, so that an unthinned stand would grow for ever; the room left in the stand brings it to rest. All numbers are
 * working assumptions unless a source stands beside them; the bush's own readings move them.
 */
export interface GrowthModel {
  /** logarithm of a factor on the growth without competition, one for the bush */
  readonly level: number;
  /** how strongly competition slows growth */
  readonly c: number;
  /** stand density index at which nothing grows any more, stems of 25.4 cm a hectare */
  readonly largestSdi: number;
  /** covariance of level and c: how well the readings fix them */
  readonly varLevel: number;
  readonly varC: number;
  readonly covLevelC: number;
}

/** How far the level of a bush's growth may stray from the default before its readings are seen: a factor of 1.5. */
const LEVEL_SD = 0.4;
/** How far its answer to competition may stray: a third of c. */
const C_SD = 0.08;

/**
 * The default. The largest index is near the 370 stems of 10 in an acre that are told for northern hardwoods (from memory),
 * 900 a hectare.
 */
export const DEFAULT_GROWTH: GrowthModel = {
  level: 0,
  c: 0.22,
  largestSdi: 900,
  varLevel: LEVEL_SD ** 2,
  varC: C_SD ** 2,
  covLevelC: 0
};

/** Ring width of a sugar maple without neighbours, mm a year. */
const OPEN_RING_MM = 2.6;
/** Growth against sugar maple. */
const GROWTH_FACTOR: Partial<Record<SpeciesId, number>> = {
  redMaple: 1.1,
  silverMaple: 1.4,
  boxElder: 1.3,
  stripedMaple: 0.7,
  mountainMaple: 0.5,
  beech: 0.9,
  hophornbeam: 0.6,
  yellowBirch: 0.95,
  whiteAsh: 1.1,
  blackAsh: 0.8,
  basswood: 1.1,
  redOak: 1.2,
  blackCherry: 1.15,
  aspen: 1.3
};

/** Ring width of a tree of the species that stands alone, mm. */
export function openRing(species: SpeciesId | null): number {
  return OPEN_RING_MM * ((species && GROWTH_FACTOR[species]) ?? 1);
}

/**
 * What the density of the whole stand leaves of growth, 0 to 1: all of it to a lone tree, nothing at the largest index.
 * @param relative stand density index over the largest one
 */
export function roomLeft(relative: number): number {
  return Math.max(0, 1 - relative);
}

/** Ring width in a year, mm. Never greater with more competition or a denser stand. */
export function ringWith(
  model: Pick<GrowthModel, 'level' | 'c'>,
  species: SpeciesId | null,
  competition: number,
  relativeDensity: number
): number {
  return openRing(species) * Math.exp(model.level - model.c * competition) * roomLeft(relativeDensity);
}

/** A tree as growth sees it. */
export interface GrowingTree extends StandTree {
  readonly diebackPct: number | null;
  /** growth that its own readings show; null without two readings */
  readonly observed: { readonly ringMm: number; readonly seMm: number } | null;
  /** girdled: it presses on its neighbours until it dies */
  readonly girdled?: boolean;
  /** the ash borer is in this bush */
  readonly borer?: boolean;
}

/** Ground that the trees stand on. */
export interface GrowingArea {
  readonly areaHa: number;
  readonly outlines: readonly (readonly Point[])[];
}

/** Competition of every tree, stems of one base taken as one, corrected for what nobody mapped. */
export function competitionOf(trees: readonly StandTree[], outlines: readonly (readonly Point[])[]): Float64Array {
  return pressedBy(
    whoPresses(trees, outlines),
    trees.map(({ dbhMm }) => dbhMm)
  );
}

/** Who stands near whom: it does not change with the years. */
export interface Pressing {
  /** the base that each stem grows from */
  readonly baseOf: Int32Array;
  /** neighbours by base */
  readonly near: Neighbours;
  /** factor on each base's competition for what lies beyond the map */
  readonly raised: Float64Array;
}

function whoPresses(trees: readonly StandTree[], outlines: readonly (readonly Point[])[]): Pressing {
  const { places, baseOf: own } = bases(
    trees.map((tree) => ({ eastM: tree.eastM, northM: tree.northM, base: baseOf(tree) }))
  );
  return { baseOf: own, near: neighbours(places), raised: edgeCorrection(places, outlines) };
}

/** Competition of every stem. @param alive chance that each still stands; all do when left out */
function pressedBy(
  { baseOf: own, near, raised }: Pressing,
  dbhMm: ArrayLike<number>,
  alive?: Float64Array
): Float64Array {
  const thick = baseDiameters(dbhMm, own, raised.length);
  const index = hegyi(thick, near, undefined, alive && baseDiameters(dbhMm, own, raised.length, alive));
  return Float64Array.from(own, (base) => index[base]! * raised[base]!);
}

/** Stand density index of stems with weights, over the largest. */
export function relativeDensity(
  stems: Iterable<readonly [dbhMm: number, many: number]>,
  areaHa: number,
  largestSdi: number
): number {
  // Summed over diameters, as is usual where they differ widely (Long & Daniel 1990); Reineke's for stems of one size.
  let sdi = 0;
  for (const [dbhMm, many] of stems) sdi += standDensityIndex(many / areaHa, dbhMm);
  return sdi / largestSdi;
}

/** Single trees stray from the model by this much, logarithm: genes, soil, a crown that nobody measured. */
export const TREE_SD = 0.35;
/** Observed rings below this are taken as this, mm: their logarithm would say more than the tape does. */
const MIN_OBSERVED_MM = 0.15;

export interface Calibrated {
  readonly model: GrowthModel;
  /** each tree's own factor: how much faster it grows than the model says, shrunk by how well that is known */
  readonly own: Float64Array;
  /** standard error of its logarithm */
  readonly ownSe: Float64Array;
  /** trees whose readings were used */
  readonly used: number;
}

/**
 * The model moved to the bush's own growth: a regression of the logarithm of the observed over the expected ring on a
 * level and on competition, with the defaults as its prior (normal-normal Bayes); what is left of each tree is its own
 * factor, shrunk in the same way.
 */
export function calibrateGrowth(
  trees: readonly GrowingTree[],
  ground: GrowingArea,
  prior: GrowthModel = DEFAULT_GROWTH
): Calibrated {
  const competition = competitionOf(trees, ground.outlines);
  const relative = relativeDensity(
    trees.map(({ dbhMm }) => [dbhMm, 1] as const),
    ground.areaHa,
    prior.largestSdi
  );
  // Precision matrix of (level, c) and its right-hand side.
  const det0 = prior.varLevel * prior.varC - prior.covLevelC ** 2;
  let p11 = prior.varC / det0;
  let p12 = -prior.covLevelC / det0;
  let p22 = prior.varLevel / det0;
  let b1 = p11 * prior.level + p12 * prior.c;
  let b2 = p12 * prior.level + p22 * prior.c;
  let used = 0;
  const seen = trees.map(({ observed, species }) => {
    if (!observed) return null;
    const ringMm = Math.max(MIN_OBSERVED_MM, observed.ringMm);
    const expected = openRing(species) * Math.max(0.05, roomLeft(relative));
    return { log: Math.log(ringMm / expected), variance: (observed.seMm / ringMm) ** 2 };
  });
  seen.forEach((one, i) => {
    if (!one) return;
    used += 1;
    const weight = 1 / (TREE_SD ** 2 + one.variance);
    const x = -competition[i]!;
    p11 += weight;
    p12 += weight * x;
    p22 += weight * x * x;
    b1 += weight * one.log;
    b2 += weight * x * one.log;
  });
  const det = p11 * p22 - p12 ** 2;
  const model: GrowthModel = {
    level: (p22 * b1 - p12 * b2) / det,
    // Competition that helped growth would be an accident of few readings.
    c: Math.max(0, (p11 * b2 - p12 * b1) / det),
    largestSdi: prior.largestSdi,
    varLevel: p22 / det,
    varC: p11 / det,
    covLevelC: -p12 / det
  };
  const own = new Float64Array(trees.length).fill(1);
  const ownSe = new Float64Array(trees.length).fill(TREE_SD);
  seen.forEach((one, i) => {
    if (!one) return;
    const trust = TREE_SD ** 2 / (TREE_SD ** 2 + one.variance);
    own[i] = Math.exp(trust * (one.log - model.level + model.c * competition[i]!));
    ownSe[i] = Math.sqrt(trust * one.variance);
  });
  return { model, own, ownSe, used };
}

/** Crowns and roots fill what a cut gives them over so many seasons. */
export const RESPONSE_SEASONS = 3;
/** Above this share of the largest index, trees die for want of room. */
const CROWDED = 0.85;
/** Stems that come up a year on a hectare with all its room free. */
const INGROWTH_PER_HA = 8;
/** Their diameter when they count, mm. */
const INGROWTH_MM = 100;
/** Young stems stand under others: their competition against the stand's mean. */
const YOUNG_COMPETITION = 1.5;

/** What the projection follows of each tree. */
export interface GrownYear {
  /** years from now */
  readonly year: number;
  /** by tree: diameter, mm; chance that it still stands, 0 once it was taken; ring of the year to come, mm */
  readonly dbhMm: Float64Array;
  readonly alive: Float64Array;
  readonly ringMm: Float64Array;
  /** competition as the tree feels it, the mean of its last seasons */
  readonly felt: Float64Array;
  /** stems that came up since, by diameter, mm, and how many */
  readonly young: readonly { readonly dbhMm: number; readonly many: number }[];
  readonly relativeDensity: number;
}

export interface GrowOptions {
  readonly years: number;
  /** indices of the trees taken before the growth of a year */
  readonly entries?: ReadonlyMap<number, ReadonlySet<number>>;
  /** logarithm of a factor on all growth: other weather, other years */
  readonly drift?: number;
  /** each tree's own factor; all 1 when left out */
  readonly own?: Float64Array;
}

/** A stand made ready to be grown. */
export interface GrowingStand {
  readonly trees: readonly GrowingTree[];
  readonly ground: GrowingArea;
  readonly pressing: Pressing;
}

/** A stand made ready to be grown many times: who presses on whom is worked out once. */
export function prepareStand(trees: readonly GrowingTree[], ground: GrowingArea): GrowingStand {
  return { trees, ground, pressing: whoPresses(trees, ground.outlines) };
}

/**
 * The stand year by year. Trees are not killed by lot: each carries the chance that it still stands, and presses on its
 * neighbours by that much, so that the same stand always gives the same answer.
 * @yields the stand before the growth of each year, from year 0 to the last
 */
export function* growStand(
  { trees, ground, pressing }: GrowingStand,
  model: Pick<GrowthModel, 'level' | 'c' | 'largestSdi'>,
  { years, entries = new Map(), drift = 0, own }: GrowOptions
): Generator<GrownYear> {
  const n = trees.length;
  const dbhMm = Float64Array.from(trees, (tree) => tree.dbhMm);
  const alive = Float64Array.from(trees, ({ diebackPct }) => ((diebackPct ?? 0) >= 100 ? 0 : 1));
  const deaths = Float64Array.from(trees, deathsAYear);
  const moved = { ...model, level: model.level + drift };
  // What a tree feels is the mean of the last seasons: it answers a cut over some years.
  const past = Array.from({ length: RESPONSE_SEASONS }, () => new Float64Array(n));
  const pastDensity = new Float64Array(RESPONSE_SEASONS);
  let young: { dbhMm: number; many: number }[] = [];
  const density = () => relativeDensity(stemsOf(dbhMm, alive, young), ground.areaHa, model.largestSdi);
  const first = pressedBy(pressing, dbhMm, alive);
  for (const season of past) season.set(first);
  pastDensity.fill(density());
  for (let year = 0; year <= years; year++) {
    for (const i of entries.get(year) ?? []) alive[i] = 0;
    const now = pressedBy(pressing, dbhMm, alive);
    past[year % RESPONSE_SEASONS]!.set(now);
    const relative = density();
    pastDensity[year % RESPONSE_SEASONS] = relative;
    const felt = pastDensity.reduce((a, b) => a + b, 0) / RESPONSE_SEASONS;
    const pressed = now.map((_, i) => past.reduce((sum, season) => sum + season[i]!, 0) / RESPONSE_SEASONS);
    const ringMm = Float64Array.from(
      trees,
      ({ species }, i) => ringWith(moved, species, pressed[i]!, felt) * (own?.[i] ?? 1)
    );
    yield {
      year,
      dbhMm: dbhMm.slice(),
      alive: alive.slice(),
      ringMm,
      felt: pressed,
      young: [...young],
      relativeDensity: relative
    };
    const mean = meanOf(now, alive);
    const crowded = relative > CROWDED ? 1 - CROWDED / relative : 0;
    for (let i = 0; i < n; i++) {
      dbhMm[i] = dbhMm[i]! + 2 * ringMm[i]!;
      // Those that are pressed most die first where room runs out.
      const share = mean > 0 ? now[i]! / mean : 1;
      alive[i] = alive[i]! * (1 - deaths[i]!) * Math.exp(-crowded * share);
    }
    const grows = 2 * ringWith(moved, 'sugarMaple', YOUNG_COMPETITION * mean, felt);
    young = young.map(({ dbhMm: d, many }) => ({ dbhMm: d + grows, many: many * (1 - 0.01) * (1 - crowded) }));
    const more = INGROWTH_PER_HA * ground.areaHa * roomLeft(relative) ** 2;
    if (more > 0) young.push({ dbhMm: INGROWTH_MM, many: more });
  }
}

function* stemsOf(
  dbhMm: Float64Array,
  alive: Float64Array,
  young: readonly { readonly dbhMm: number; readonly many: number }[]
): Generator<readonly [number, number]> {
  for (let i = 0; i < dbhMm.length; i++) yield [dbhMm[i]!, alive[i]!] as const;
  for (const { dbhMm: d, many } of young) yield [d, many] as const;
}

function meanOf(values: Float64Array, weights: Float64Array): number {
  let sum = 0;
  let all = 0;
  values.forEach((value, i) => {
    sum += value * weights[i]!;
    all += weights[i]!;
  });
  return all > 0 ? sum / all : 0;
}

/** One bush as it may be, given what the readings leave open. */
export function drawGrowth(
  { model, own, ownSe }: Calibrated,
  rng: Rng,
  driftSd: number
): { model: GrowthModel; own: Float64Array; drift: number } {
  // Cholesky of the two-by-two covariance.
  const l11 = Math.sqrt(Math.max(0, model.varLevel));
  const l21 = l11 > 0 ? model.covLevelC / l11 : 0;
  const l22 = Math.sqrt(Math.max(0, model.varC - l21 ** 2));
  const [a, b] = [rng.normal(0, 1), rng.normal(0, 1)];
  return {
    model: { ...model, level: model.level + l11 * a, c: Math.max(0, model.c + l21 * a + l22 * b) },
    own: own.map((factor, i) => factor * Math.exp(rng.normal(0, ownSe[i]!))),
    drift: rng.normal(0, driftSd)
  };
}
