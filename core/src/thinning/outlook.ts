import { seededRng } from '../math/index.ts';
import { speciesById, type SpeciesId } from '../identify/index.ts';
import { LITRES_A_TAP, sapToSyrup } from '../sap/index.ts';
import { basalArea, radiusOf } from '../stand/index.ts';
import { columnsOf } from '../trunk/index.ts';
import {
  banded,
  BUSH_DRIFT_SD,
  stainedShareBehind,
  tapsUnder,
  type Banded,
  type BuriedTaps,
  type TapPolicy
} from '../taps/index.ts';
import {
  calibrateGrowth,
  drawGrowth,
  growStand,
  prepareStand,
  type Calibrated,
  type GrowingArea,
  type GrowingTree,
  type GrownYear
} from './growth.ts';

/** A tree of the outlook: it grows, and some are tapped. */
export interface OutlookTree extends GrowingTree {
  /** a maple of a stand for syrup, that may be tapped */
  readonly tappable: boolean;
  readonly crop: boolean;
  readonly conditionTaps: number;
  /** holes in the trunk */
  readonly holes: readonly { readonly season: number; readonly bitMm: number; readonly depthMm: number }[];
  /** ring width to go by for the wood over old holes, mm */
  readonly ringMm: number;
}

/** A stand in a year to come. */
export interface StandYear {
  readonly year: number;
  readonly stems: number;
  readonly basalAreaPerHa: number;
  /** mean diameter of the crop trees that stand, mm; 0 without any */
  readonly cropDbhMm: number;
  /** mean ring of them, mm */
  readonly cropRingMm: number;
  /** mean crown radius of them by their diameters, metres */
  readonly cropCrownM: number;
  /** taps that growth, size and condition carry */
  readonly taps: number;
  /** share of a new hole's path in stained wood, placed without looking, by tap */
  readonly stained: number;
  /** litres of sap */
  readonly sap: number;
  /** litres of syrup: freer crowns make sweeter sap */
  readonly syrup: number;
}

const STAND_FIGURES = [
  'stems',
  'basalAreaPerHa',
  'cropDbhMm',
  'cropRingMm',
  'cropCrownM',
  'taps',
  'stained',
  'sap',
  'syrup'
] as const satisfies readonly (keyof StandYear)[];
export type StandFigure = (typeof STAND_FIGURES)[number];
export type BandedYear = { readonly year: number } & { readonly [K in StandFigure]: Banded };

export interface OutlookOptions {
  readonly season: number;
  readonly years: number;
  /** ids taken, by the year of the entry from now */
  readonly entries: ReadonlyMap<number, ReadonlySet<string>>;
  readonly policy: TapPolicy;
  readonly draws: number;
  readonly seed: number;
  /** told after each draw, 0 to 1; false ends the work */
  readonly onProgress?: (done: number) => boolean;
}

export interface Outlook {
  readonly without: readonly BandedYear[];
  readonly with: readonly BandedYear[];
  /** how many years from now the thinned stand gives more syrup for good, in the middle of the draws; null where not */
  readonly overtakes: Banded | null;
  /** share of the draws in which it does within the years */
  readonly overtakesIn: number;
  readonly calibrated: Pick<Calibrated, 'model' | 'used'>;
}

/**
 * The stand with and without its entries, many times over: each draw takes the growth model and every tree's own factor
 * anew within what the readings leave open, the same for both ways.
 * @returns null where it was ended before its time
 */
export function standOutlook(
  trees: readonly OutlookTree[],
  ground: GrowingArea,
  { season, years, entries, policy, draws, seed, onProgress }: OutlookOptions
): Outlook | null {
  const stand = prepareStand(trees, ground);
  const calibrated = calibrateGrowth(trees, ground);
  const rng = seededRng(seed);
  const indexOf = new Map(trees.map(({ id }, i) => [id, i]));
  const taken = new Map(
    [...entries].map(([year, ids]) => [year, new Set([...ids].flatMap((id) => indexOf.get(id) ?? []))] as const)
  );
  const all = { without: [] as StandYear[][], with: [] as StandYear[][] };
  const crossed: number[] = [];
  for (let draw = 0; draw < draws; draw++) {
    const world = draws === 1 ? { ...calibrated, drift: 0 } : drawGrowth(calibrated, rng, BUSH_DRIFT_SD);
    const run = (at: ReadonlyMap<number, ReadonlySet<number>>) =>
      lived(trees, [...growStand(stand, world.model, { years, entries: at, drift: world.drift, own: world.own })], {
        areaHa: ground.areaHa,
        policy,
        season
      });
    const [left, thinned] = [run(new Map()), run(taken)];
    all.without.push(left);
    all.with.push(thinned);
    const year = overtaking(left, thinned);
    if (year !== null) crossed.push(year);
    if (onProgress && !onProgress((draw + 1) / draws)) return null;
  }
  const bands = (runs: StandYear[][]): BandedYear[] =>
    Array.from({ length: years + 1 }, (_, year) => ({
      year,
      ...(Object.fromEntries(
        STAND_FIGURES.map((figure) => [figure, banded(runs.map((run) => run[year]![figure]))])
      ) as { [K in StandFigure]: Banded })
    }));
  return {
    without: bands(all.without),
    with: bands(all.with),
    overtakes: crossed.length > draws / 2 ? banded(crossed) : null,
    overtakesIn: crossed.length / draws,
    calibrated: { model: calibrated.model, used: calibrated.used }
  };
}

/** The first year from which the thinned stand gives more syrup in every year to come; null where it never does. */
function overtaking(left: readonly StandYear[], thinned: readonly StandYear[]): number | null {
  let year: number | null = null;
  for (let y = left.length - 1; y >= 0 && thinned[y]!.syrup > left[y]!.syrup + 1e-9; y--) year = y;
  return year;
}

/** Sugar in the sap of a sugar maple in a crowd, per cent: 2 to 2.5 in the forest (common practice). */
export const CROWDED_SUGAR_PCT = 2;
/** The same under a crown that stands open, per cent: 3 to 4 (common practice). */
export const OPEN_SUGAR_PCT = 3.5;
/** What other maples have of a sugar maple's sugar (common practice). */
const OTHER_SUGAR_SHARE = 0.75;

/** Sugar in the sap, per cent. How it falls with competition is a working assumption. */
export function sugarPct(species: SpeciesId | null, competition: number): number {
  const sweet = CROWDED_SUGAR_PCT + (OPEN_SUGAR_PCT - CROWDED_SUGAR_PCT) * Math.exp(-0.5 * competition);
  return species && speciesById(species).sap === 'sweet' ? sweet : OTHER_SUGAR_SHARE * sweet;
}

/** A hole of the outlook; every year's ring buries it deeper. */
type Buried = { -readonly [K in keyof BuriedTaps]: BuriedTaps[K] };

/** What a grown stand bears, year by year, when it is tapped as the policy says. */
function lived(
  trees: readonly OutlookTree[],
  grown: readonly GrownYear[],
  { areaHa, policy, season }: Pick<OutlookOptions, 'policy' | 'season'> & { readonly areaHa: number }
): StandYear[] {
  // Holes of the past lie as deep as the rings to date have buried them.
  const holes = trees.map(({ holes: past, ringMm, tappable }): Buried[] =>
    tappable
      ? past.map(({ season: drilled, bitMm, depthMm }) => ({
          buriedMm: ringMm * (season - drilled),
          bitMm,
          depthMm,
          taps: 1
        }))
      : []
  );
  return grown.map(({ year, dbhMm, alive, ringMm, felt, young }): StandYear => {
    const crop = { many: 0, dbh: 0, ring: 0, crown: 0 };
    let [stems, area, taps, stained, syrup] = [0, 0, 0, 0, 0];
    trees.forEach((tree, i) => {
      const stands = alive[i]!;
      stems += stands;
      area += stands * basalArea(dbhMm[i]!);
      if (tree.crop) {
        crop.many += stands;
        crop.dbh += stands * dbhMm[i]!;
        crop.ring += stands * ringMm[i]!;
        crop.crown += stands * radiusOf({ dbhMm: dbhMm[i]!, species: tree.species, crownRadiiM: null });
      }
      if (tree.tappable && stands > 0.01) {
        const set = tapsUnder(policy, {
          dbhMm: dbhMm[i]!,
          ringMm: ringMm[i]!,
          ringSeMm: 0,
          conditionTaps: tree.conditionTaps,
          species: tree.species
        });
        if (set > 0) {
          const own = holes[i]!;
          const lost = stainedShareBehind(dbhMm[i]!, own, policy, columnsOf(tree.species, policy.model));
          taps += stands * set;
          stained += stands * set * lost;
          syrup +=
            (stands * set * LITRES_A_TAP * (1 - policy.stainLoss * lost)) /
            sapToSyrup(sugarPct(tree.species, felt[i]!));
          own.push({ buriedMm: 0, bitMm: policy.bitMm, depthMm: policy.depthMm, taps: set });
        }
      }
      for (const hole of holes[i]!) hole.buriedMm += ringMm[i]!;
      // Columns deeper than a bit reaches are dropped.
      if (holes[i]!.length > 0 && holes[i]![0]!.buriedMm >= policy.depthMm)
        holes[i] = holes[i]!.filter(({ buriedMm }) => buriedMm < policy.depthMm);
    });
    const youngStems = young.reduce((sum, { many }) => sum + many, 0);
    const youngArea = young.reduce((sum, { dbhMm: d, many }) => sum + many * basalArea(d), 0);
    const share = taps > 0 ? stained / taps : 0;
    const mean = (value: number) => (crop.many > 0 ? value / crop.many : 0);
    return {
      year,
      stems: stems + youngStems,
      basalAreaPerHa: (area + youngArea) / areaHa,
      cropDbhMm: mean(crop.dbh),
      cropRingMm: mean(crop.ring),
      cropCrownM: mean(crop.crown),
      taps,
      stained: share,
      sap: taps * LITRES_A_TAP * (1 - policy.stainLoss * share),
      syrup
    };
  });
}

/**
 * The stand as it will most likely be in so many years, for planning the next entry: trees that surely stand, with their
 * diameters of then.
 */
export function standIn<T extends OutlookTree>(
  trees: readonly T[],
  ground: GrowingArea,
  years: number,
  entries: ReadonlyMap<number, ReadonlySet<string>>
): T[] {
  const indexOf = new Map(trees.map(({ id }, i) => [id, i]));
  const taken = new Map(
    [...entries].map(([year, ids]) => [year, new Set([...ids].flatMap((id) => indexOf.get(id) ?? []))] as const)
  );
  const { model, own } = calibrateGrowth(trees, ground);
  const last = [...growStand(prepareStand(trees, ground), model, { years, entries: taken, own })].at(-1)!;
  return trees.flatMap((tree, i) =>
    last.alive[i]! < 0.5 ? [] : [{ ...tree, dbhMm: last.dbhMm[i]!, heightM: null, crownRadiiM: null }]
  );
}
