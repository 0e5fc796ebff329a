import type { Rng } from '../math/index.ts';
import { stainedShare, type OldHole, type Overlap } from './column.ts';

/** What came out of a hole. */
export interface SeenShavings {
  /** which of the trunk's holes */
  readonly hole: number;
  readonly seen: 'pale' | 'partly' | 'brown' | 'dry';
  /** share of brown shavings where partly brown; null where it was not said */
  readonly brownShare: number | null;
  /** depth at which they turned brown, mm; null where nobody looked */
  readonly brownFromMm: number | null;
  /** how well sap ran that day, 0 to 1: as far as it did, a dry hole tells of stain; of other shavings it says nothing */
  readonly ran?: number;
}

/** Where nobody said how the others ran, a dry hole is taken to have been drilled on a day that ran half. Working assumption. */
export const UNSAID_RAN = 0.5;

/**
 * How people read shavings of a path with a given stained share: working assumptions. Little stain is overlooked, a share
 * is told to about an eighth, the depth of the change to about a quarter inch, and a hole may stay dry for other reasons
 * than stain.
 */
export const READING = {
  overlooked: 0.08,
  shareSd: 0.12,
  allBrownFrom: 0.8,
  depthSdMm: 6,
  dry: 0.02,
  dryByStain: 0.15
} as const;

/** Chances that a path is read as each kind, given its stained share. They add up to 1. */
export function readingChances(stained: number, hitShare: number): Record<SeenShavings['seen'], number> {
  const dry = READING.dry + READING.dryByStain * stained;
  const pale = 0.01 + 0.96 * Math.exp(-Math.max(0, stained - hitShare) / READING.overlooked);
  const allBrown = 1 / (1 + Math.exp(-(stained - READING.allBrownFrom) / 0.05));
  return {
    dry,
    pale: (1 - dry) * pale,
    brown: (1 - dry) * (1 - pale) * allBrown,
    partly: (1 - dry) * (1 - pale) * (1 - allBrown)
  };
}

/** What somebody says of a path, drawn: for practice and for tests. */
export function readShavings(stained: number, hitShare: number, rng: Rng): Pick<SeenShavings, 'seen' | 'brownShare'> {
  const chances = readingChances(stained, hitShare);
  let left = rng.uniform();
  const seen = (['pale', 'partly', 'brown'] as const).find((kind) => (left -= chances[kind]) < 0) ?? 'dry';
  const share = Math.min(0.95, Math.max(0.05, rng.normal(stained, READING.shareSd)));
  return { seen, brownShare: seen === 'partly' ? share : null };
}

/** Share of a path that was stained, as its shavings tell it; a dry hole gives nothing, whatever the cause. */
export function stainedOf({ seen, brownShare }: Pick<SeenShavings, 'seen' | 'brownShare'>): number {
  switch (seen) {
    case 'pale':
      return 0;
    case 'partly':
      return brownShare ?? 0.5;
    case 'brown':
    case 'dry':
      return 1;
  }
}

/** Chance of what was said of shavings, the depth of the change aside, given how much of the path was stained. */
export function saidChance(look: Omit<SeenShavings, 'hole'>, stained: number, hitShare: number): number {
  const chance = readingChances(stained, hitShare)[look.seen];
  // Where no sap ran, any hole stays dry.
  if (look.seen === 'dry') return 1 - (look.ran ?? UNSAID_RAN) * (1 - chance);
  return look.seen === 'partly' && look.brownShare !== null
    ? chance * bell(look.brownShare - stained, READING.shareSd)
    : chance;
}

/** How well the depth from which they were said to be brown fits where the stain begins; 1 where nobody said. */
export function turnedAt({ brownFromMm }: Pick<SeenShavings, 'brownFromMm'>, fromMm: number): number {
  return brownFromMm === null ? 1 : bell(brownFromMm - fromMm, READING.depthSdMm);
}

/** Not even what nobody expects is impossible. */
const FLOOR = 1e-6;

/** Logarithm of the chance of an observation, given what its path meets. */
export function logChance(
  look: Omit<SeenShavings, 'hole'>,
  overlaps: readonly Overlap[],
  { bitMm, depthMm }: Pick<OldHole, 'bitMm' | 'depthMm'>,
  hitShare: number
): number {
  let chance = saidChance(look, stainedShare(overlaps, bitMm, depthMm), hitShare);
  if (look.brownFromMm !== null) chance *= turnedAt(look, Math.min(depthMm, ...overlaps.map((o) => o.from)));
  return Math.log(chance + FLOOR);
}

/** A bell with a floor: people now and then misread wholly. */
function bell(off: number, sd: number): number {
  return 0.02 + Math.exp(-0.5 * (off / sd) ** 2);
}
