import type { UnitSystem } from './length.ts';

/** 1 acre = 4046.8564224 m2 exactly (international foot). */
export const M2_PER_ACRE = 4046.8564224;
/** Square metres in a hectare. */
export const M2_PER_HECTARE = 10_000;
/** 1 ft2 = 0.09290304 m2 exactly. */
export const M2_PER_SQUARE_FOOT = 0.09290304;

/** Basal area of a tree or stand for people. @param m2 square metres */
export function formatBasalArea(m2: number, system: UnitSystem): string {
  return system === 'metric' ? `${m2.toFixed(2)} m²` : `${(m2 / M2_PER_SQUARE_FOOT).toFixed(1)} ft²`;
}

/** Basal area per area of ground. @param m2PerHa square metres per hectare */
export function formatBasalAreaDensity(m2PerHa: number, system: UnitSystem): string {
  if (system === 'metric') return `${m2PerHa.toFixed(1)} m²/ha`;
  const ft2PerAcre = (m2PerHa / M2_PER_SQUARE_FOOT / M2_PER_HECTARE) * M2_PER_ACRE;
  return `${ft2PerAcre.toFixed(0)} ft²/ac`;
}

/** A patch of ground. @param m2 square metres */
export function formatPatch(m2: number, system: UnitSystem): string {
  return system === 'metric' ? `${Math.round(m2)} m²` : `${Math.round(m2 / M2_PER_SQUARE_FOOT)} ft²`;
}

/** Stems, taps or the like per area of ground; thousands are said in three figures. @param perHa per hectare */
export function formatPerGround(perHa: number, system: UnitSystem): string {
  const shown = system === 'metric' ? perHa : (perHa * M2_PER_ACRE) / M2_PER_HECTARE;
  const said = shown < 1000 ? Math.round(shown) : Number(shown.toPrecision(3));
  return `${said.toLocaleString('en')} ${system === 'metric' ? 'per ha' : 'per acre'}`;
}

/** Ground area. @param ha hectares */
export function formatGround(ha: number, system: UnitSystem): string {
  return system === 'metric' ? `${ha.toFixed(1)} ha` : `${((ha * M2_PER_HECTARE) / M2_PER_ACRE).toFixed(1)} ac`;
}
