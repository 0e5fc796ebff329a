import type { SpeciesId } from '../identify/index.ts';
import { MM_PER_FOOT, MM_PER_INCH } from '../units/index.ts';

/** Crown width of a forest-grown tree over that of an open-grown one. Working assumption. */
export const FOREST_GROWN_FACTOR = 0.75;

/**
 * Open-grown crown width of sugar maple, mm: in feet `0.868 + 4.150 * D_in^0.7514` (Ek 1974, Wisconsin; from memory).
 * @param dbhMm diameter outside bark, mm
 */
export function openGrownCrownWidth(dbhMm: number): number {
  return (0.868 + 4.15 * (dbhMm / MM_PER_INCH) ** 0.7514) * MM_PER_FOOT;
}

/** Crown breadth against sugar maple of the same diameter. Working assumptions. */
const CROWN_FACTOR: Partial<Record<SpeciesId, number>> = {
  beech: 1.05,
  basswood: 0.95,
  whiteAsh: 0.85,
  blackAsh: 0.8,
  yellowBirch: 1,
  blackCherry: 0.9,
  aspen: 0.7,
  hophornbeam: 0.95,
  paperBirch: 0.85,
  stripedMaple: 0.8,
  mountainMaple: 0.75
};

/** Crown radius of a forest-grown tree from its diameter, metres, where none was measured. */
export function crownRadius(dbhMm: number, species: SpeciesId | null): number {
  const factor = (species && CROWN_FACTOR[species]) ?? 1;
  return (openGrownCrownWidth(dbhMm) * FOREST_GROWN_FACTOR * factor) / 2000;
}

/**
 * Height from diameter, metres, where none was taken: a saturating curve through 1.3 m with 26 m as the stand's top.
 * Working assumption for northern hardwoods; calibrate with your own clinometer readings.
 */
export function defaultHeight(dbhMm: number): number {
  return 1.3 + 24.7 * (1 - Math.exp(-0.0052 * dbhMm));
}
