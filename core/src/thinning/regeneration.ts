/** Height classes in which seedlings are counted. */
export const SEEDLING_CLASSES = ['knee', 'waist', 'above'] as const;
export type SeedlingClass = (typeof SEEDLING_CLASSES)[number];
/** Who stands there. */
export const SEEDLING_GROUPS = ['maple', 'beech', 'other', 'invasive'] as const;
export type SeedlingGroup = (typeof SEEDLING_GROUPS)[number];

/** A plot on which seedlings were counted. */
export interface SeedlingPlot {
  readonly radiusM: number;
  /** many by group and height class: up to the knee (50 cm), up to the waist (1.2 m), above it and still thin */
  readonly counts: Readonly<Record<SeedlingGroup, Readonly<Record<SeedlingClass, number>>>>;
  /** share of the maples whose tips are bitten off, 0 to 1; null where nobody looked */
  readonly browsed: number | null;
  readonly fenced: boolean;
}

export interface SeedlingMetrics {
  readonly plots: number;
  /** by group, stems a hectare of all heights */
  readonly perHa: Readonly<Record<SeedlingGroup, number>>;
  /** maples above the knee, out of the worst of shade and grass, a hectare */
  readonly establishedMaplesPerHa: number;
  /** share of the plots with a maple above the knee */
  readonly stocked: number;
  /** mean share of bitten maples; null where nobody looked */
  readonly browsed: number | null;
}

/** Figures of seedling plots. @throws RangeError without plots */
export function seedlingMetrics(plots: readonly SeedlingPlot[]): SeedlingMetrics {
  if (plots.length === 0) throw new RangeError('No seedling plot was counted.');
  const areaHa = plots.reduce((sum, { radiusM }) => sum + Math.PI * radiusM ** 2, 0) / 10_000;
  const count = (group: SeedlingGroup, classes: readonly SeedlingClass[]) =>
    plots.reduce((sum, plot) => sum + classes.reduce((n, each) => n + plot.counts[group][each], 0), 0);
  const looked = plots.flatMap(({ browsed }) => browsed ?? []);
  return {
    plots: plots.length,
    perHa: Object.fromEntries(
      SEEDLING_GROUPS.map((group) => [group, count(group, SEEDLING_CLASSES) / areaHa])
    ) as Record<SeedlingGroup, number>,
    establishedMaplesPerHa: count('maple', ['waist', 'above']) / areaHa,
    stocked: plots.filter(({ counts }) => counts.maple.waist + counts.maple.above > 0).length / plots.length,
    browsed: looked.length === 0 ? null : looked.reduce((a, b) => a + b, 0) / looked.length
  };
}

/**
 * Share of the plots with a maple above the knee from which openings fill by themselves: many stems on one spot leave the
 * others bare. Working assumption after the usual stocking surveys.
 */
export const STOCKED_ENOUGH = 0.6;
/** Maples of any height a hectare below which hardly any come up. Working assumption. */
const HARDLY_ANY_PER_HA = 500;
/** More bitten maples than this, and deer decide what grows. Working assumption. */
export const HEAVY_BROWSING = 0.3;
/** A share of beech or invasive shrubs from which they take over what opens. Working assumption. */
const TAKES_OVER = 0.4;
/** Too few plots say little. */
const FEW_PLOTS = 5;

export type RegenerationAdvice = 'enough' | 'fence' | 'clearFirst' | 'invasives' | 'plant' | 'wait' | 'morePlots';

/** What to do about the next generation, most pressing first. */
export function regenerationAdvice(figures: SeedlingMetrics): RegenerationAdvice[] {
  const { perHa, browsed, stocked, plots } = figures;
  const all = Object.values(perHa).reduce((a, b) => a + b, 0);
  const advice: RegenerationAdvice[] = [];
  if (perHa.invasive > 0.1 * Math.max(1, all)) advice.push('invasives');
  if (all > 0 && perHa.beech > TAKES_OVER * all) advice.push('clearFirst');
  if (browsed !== null && browsed > HEAVY_BROWSING) advice.push('fence');
  if (stocked >= STOCKED_ENOUGH) advice.push('enough');
  else if (perHa.maple < HARDLY_ANY_PER_HA) advice.push('plant');
  else if (!advice.includes('fence')) advice.push('wait');
  if (plots < FEW_PLOTS) advice.push('morePlots');
  return advice;
}

export interface Fence {
  /** metres round */
  readonly lengthM: number;
  /** mesh to buy, with what overlaps and ties cost */
  readonly meshM: number;
  readonly posts: number;
  readonly heightM: number;
}

/** Deer jump less than this. Common practice: about 2.4 m (8 ft). */
export const FENCE_HEIGHT_M = 2.4;
/** Into a small plot they do not jump: there this serves (common practice; up to which size: working assumption). */
export const SMALL_FENCE_HEIGHT_M = 1.5;
/** A plot up to this size is small, m2. Working assumption. */
const SMALL_PLOT_M2 = 60;
/** A fence has a post every so many metres. Common practice. */
const POST_EVERY_M = 4;
/** Mesh is bought with so much more than the fence is long. Common practice. */
const MESH_OVERLAP = 1.05;
/** A gate has two posts of its own. */
const GATE_POSTS = 2;

/**
 * What a fence round an area needs.
 * @param areaM2 of ground, above 0
 * @param longer how many times longer than broad it is; 1 for a square
 */
export function fenceFor(areaM2: number, longer = 1): Fence {
  if (!(areaM2 > 0)) throw new RangeError('The area must be more than none.');
  const breadth = Math.sqrt(areaM2 / longer);
  const sides = [breadth, breadth * longer];
  const lengthM = 2 * (sides[0]! + sides[1]!);
  const posts = 2 * sides.reduce((sum, side) => sum + Math.ceil(side / POST_EVERY_M - 1e-9), 0) + GATE_POSTS;
  return {
    lengthM,
    meshM: lengthM * MESH_OVERLAP,
    posts,
    heightM: areaM2 <= SMALL_PLOT_M2 ? SMALL_FENCE_HEIGHT_M : FENCE_HEIGHT_M
  };
}

/** Years from a seedling above the knee to a trunk that bears a taphole. Common practice: forty and more. */
export const YEARS_TO_TAPPING = 40;
