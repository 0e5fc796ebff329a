import type { SpeciesId } from '../identify/index.ts';
import { isMaple } from '../identify/index.ts';
import { basalArea, standDensityIndex } from '../stand/index.ts';

/**
 * Cruising: sample plots for those who do not tag every tree. A fixed-radius plot takes every tree on a circle; an angle
 * gauge takes the trees that look wider than the gauge, so that each counts for the same basal area per hectare.
 * Avery & Burkhart, Forest Measurements.
 */

/** How a plot picks its trees. */
export type PlotDesign =
  | { readonly kind: 'fixed'; readonly radiusM: number }
  /** basal area factor: m2/ha that each counted tree stands for */
  | { readonly kind: 'gauge'; readonly bafM2PerHa: number };

/** A tree counted on a plot. */
export interface PlotTree {
  readonly species: SpeciesId | null;
  /** diameter, mm; null where an angle-gauge tree was only counted */
  readonly dbhMm: number | null;
}

export interface Plot {
  readonly design: PlotDesign;
  readonly trees: readonly PlotTree[];
}

/** Figures of one plot or of a whole cruise, per hectare. */
export interface PlotMetrics {
  /** null where a tree was counted without its diameter */
  readonly stemsPerHa: number | null;
  readonly basalAreaM2PerHa: number;
  /** share of the basal area that is maple, 0..1; null on an empty plot */
  readonly mapleShare: number | null;
}

/** Radius of a circular plot from its area. @param areaM2 above 0 */
export function plotRadius(areaM2: number): number {
  return Math.sqrt(areaM2 / Math.PI);
}

/**
 * How far away a tree of a diameter may stand and still be counted with an angle gauge: `D / (2 sqrt(BAF))`, D in cm,
 * BAF in m2/ha, distance in metres.
 */
export function limitingDistanceM(dbhMm: number, bafM2PerHa: number): number {
  return dbhMm / 10 / (2 * Math.sqrt(bafM2PerHa));
}

/** Width of an angle gauge held at a distance from the eye: any one unit of length. */
export function gaugeWidth(reach: number, bafM2PerHa: number): number {
  // The gauge covers the angle under which a trunk at its limiting distance is seen.
  const half = Math.asin(Math.sqrt(bafM2PerHa) / 100);
  return 2 * reach * Math.tan(half);
}

/** Stems per hectare that one counted tree stands for; null for a gauge tree without a diameter. */
export function expansionFactor(design: PlotDesign, tree: PlotTree): number | null {
  if (design.kind === 'fixed') return 10_000 / (Math.PI * design.radiusM ** 2);
  return tree.dbhMm === null ? null : design.bafM2PerHa / basalArea(tree.dbhMm);
}

/** Basal area per hectare that one counted tree stands for, m2; null for a fixed-plot tree without a diameter. */
function basalAreaOf(design: PlotDesign, tree: PlotTree): number | null {
  if (design.kind === 'gauge') return design.bafM2PerHa;
  return tree.dbhMm === null ? null : basalArea(tree.dbhMm) * expansionFactor(design, tree)!;
}

/** Figures of one plot. A fixed-radius plot without diameters has no basal area: those trees count as none. */
export function plotMetrics({ design, trees }: Plot): PlotMetrics {
  let stems: number | null = 0;
  let area = 0;
  let maple = 0;
  for (const tree of trees) {
    const factor = expansionFactor(design, tree);
    stems = factor === null || stems === null ? null : stems + factor;
    const own = basalAreaOf(design, tree) ?? 0;
    area += own;
    if (tree.species !== null && isMaple(tree.species)) maple += own;
  }
  return { stemsPerHa: stems, basalAreaM2PerHa: area, mapleShare: area > 0 ? maple / area : null };
}

/** One diameter class of a cruise, per hectare. */
export interface DiameterClass {
  readonly fromMm: number;
  readonly toMm: number;
  readonly stemsPerHa: number;
  readonly mapleStemsPerHa: number;
}

/** Stems per hectare by diameter class, the mean over the plots; trees without a diameter are left out. */
export function diameterClasses(plots: readonly Plot[], widthMm = 50): DiameterClass[] {
  const classes = new Map<number, { stems: number; maple: number }>();
  for (const { design, trees } of plots)
    for (const tree of trees) {
      const factor = expansionFactor(design, tree);
      if (tree.dbhMm === null || factor === null) continue;
      const index = Math.floor(tree.dbhMm / widthMm);
      const entry = classes.get(index) ?? { stems: 0, maple: 0 };
      entry.stems += factor / plots.length;
      if (tree.species !== null && isMaple(tree.species)) entry.maple += factor / plots.length;
      classes.set(index, entry);
    }
  if (classes.size === 0) return [];
  const [first, last] = [Math.min(...classes.keys()), Math.max(...classes.keys())];
  return Array.from({ length: last - first + 1 }, (_, i) => {
    const entry = classes.get(first + i);
    return {
      fromMm: (first + i) * widthMm,
      toMm: (first + i + 1) * widthMm,
      stemsPerHa: entry?.stems ?? 0,
      mapleStemsPerHa: entry?.maple ?? 0
    };
  });
}

/** Quadratic mean diameter and stand density index over the plots; null where diameters are missing. */
export function cruiseStructure(plots: readonly Plot[]): { qmdMm: number; sdi: number } | null {
  const stems = plots.map((plot) => plotMetrics(plot).stemsPerHa);
  if (plots.length === 0 || stems.includes(null)) return null;
  const perHa = stems.reduce<number>((sum, n) => sum + n!, 0) / plots.length;
  const area = plots.reduce((sum, plot) => sum + plotMetrics(plot).basalAreaM2PerHa, 0) / plots.length;
  if (perHa === 0) return null;
  // The diameter of the tree of mean basal area.
  const qmdMm = 1000 * Math.sqrt((4 * area) / (Math.PI * perHa));
  return { qmdMm, sdi: standDensityIndex(perHa, qmdMm) };
}

/** Share of the basal area that is maple, over all plots taken together; null where nothing stands. */
export function cruiseMapleShare(plots: readonly Plot[]): number | null {
  let all = 0;
  let maple = 0;
  for (const { basalAreaM2PerHa, mapleShare } of plots.map(plotMetrics)) {
    all += basalAreaM2PerHa;
    maple += (mapleShare ?? 0) * basalAreaM2PerHa;
  }
  return all > 0 ? maple / all : null;
}
