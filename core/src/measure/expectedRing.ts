import { pool, toldApart } from '../math/index.ts';
import type { ObservedRing } from './rings.ts';

export type CrownClass = 'dominant' | 'codominant' | 'intermediate' | 'suppressed' | 'open';

/** Mean ring width of a crown class and how far single trees stray from it, mm. */
export type RingPriors = Readonly<Record<CrownClass, { readonly meanMm: number; readonly sdMm: number }>>;

/**
 * Ring width to expect of a crown class before any reading, and how far single trees stray from it (mm, mm).
 * Working assumptions around the 0.1 to 0.2 in of diameter a year reported from sugarbushes (ring 1.3 to 2.5 mm).
 */
export const RING_PRIOR: RingPriors = {
  open: { meanMm: 2.2, sdMm: 0.7 },
  dominant: { meanMm: 1.7, sdMm: 0.6 },
  codominant: { meanMm: 1.4, sdMm: 0.55 },
  intermediate: { meanMm: 0.9, sdMm: 0.4 },
  suppressed: { meanMm: 0.5, sdMm: 0.3 }
};

/** Whom a tree is like, as far as its growth goes. */
export interface RingKin {
  /** null counts as codominant */
  readonly crownClass: CrownClass | null;
  readonly standId?: string | null;
  /** null or left out: not settled */
  readonly species?: string | null;
}

/** A tree whose own readings or rings say something of its growth. */
export type MeasuredTree = RingKin & ObservedRing;

/** What to expect of the growth of a bush's trees. */
export interface RingExpectation {
  readonly classes: RingPriors;
  /** by how much trees of a stand or species lay more (above 0) or less than others, as a share of what is usual of their class */
  readonly stands: Readonly<Record<string, number>>;
  readonly species: Readonly<Record<string, number>>;
  /** how far stands and species stray of which too little is known: the same shares, 1 sd; 0 where none are told apart */
  readonly standSd: number;
  readonly speciesSd: number;
}

/** What is expected where nothing was measured. */
export const USUAL_RINGS: RingExpectation = {
  classes: RING_PRIOR,
  stands: {},
  species: {},
  standSd: 0,
  speciesSd: 0
};

/** A trunk without measurable growth still lays some wood; no tree is planned with less than this. */
export const MIN_RING_MM = 0.1;

/** What a tree's ring is expected to be before it says anything itself, mm. */
export function ringPrior(expects: RingExpectation, tree: RingKin): { readonly meanMm: number; readonly sdMm: number } {
  const crownClass = tree.crownClass ?? 'codominant';
  const { meanMm, sdMm } = expects.classes[crownClass];
  const stand = expects.stands[tree.standId ?? ''];
  const species = expects.species[tree.species ?? ''];
  const usual = RING_PRIOR[crownClass].meanMm;
  const unknown = Math.hypot(stand === undefined ? expects.standSd : 0, species === undefined ? expects.speciesSd : 0);
  const more = (stand ?? 0) + (species ?? 0);
  return {
    meanMm: Math.max(MIN_RING_MM, meanMm + usual * more),
    sdMm: Math.hypot(straying(more) * sdMm, usual * unknown)
  };
}

/** Trees that lay more than others of their class stray more, too, in proportion; those that lay nothing still do. */
const straying = (more: number) => Math.max(0.2, 1 + more);

/** How far a whole bush may stray from the defaults, mm: soil, climate, age. Working assumption. */
const BUSH_SD_MM = 0.5;
/** How far a bush's stands, and its species, stray from each other, as a share of a ring. Working assumption. */
const KIN_SD = 0.15;
/** A stand or species is told apart from so many measured trees on, and where there are two such. Working assumption. */
export const KIN_FROM = 5;

const CLASSES = Object.keys(RING_PRIOR) as CrownClass[];

/**
 * What to expect of the trees in this bush: the defaults of their crown classes, moved towards the bush's own measured trees; by
 * stand and by species where enough were measured (partial pooling, see `pool`). Each tree counts by how well it was measured. Crown
 * classes share what is learned of the spread, as a factor on what is usual of each; a handful of trees moves little.
 */
export function expectedRings(measured: readonly MeasuredTree[]): RingExpectation {
  if (measured.length === 0) return USUAL_RINGS;
  const stands = toldApart(
    measured.map(({ standId }) => standId),
    KIN_FROM
  );
  const species = toldApart(
    measured.map(({ species: its }) => its),
    KIN_FROM
  );
  const [standsFrom, speciesFrom] = [CLASSES.length, CLASSES.length + stands.length];
  const standAt = new Map(stands.map((id, i) => [id, standsFrom + i]));
  const speciesAt = new Map(species.map((id, i) => [id, speciesFrom + i]));
  const { effects, spread, spreads } = pool(
    measured.map((tree) => {
      const crownClass = tree.crownClass ?? 'codominant';
      const { meanMm, sdMm } = RING_PRIOR[crownClass];
      const kin = [standAt.get(tree.standId ?? ''), speciesAt.get(tree.species ?? '')];
      return {
        value: tree.ringMm - meanMm,
        variance: tree.seMm ** 2,
        sd: sdMm,
        of: [
          { effect: CLASSES.indexOf(crownClass), times: 1 },
          ...kin.flatMap((effect) => (effect === undefined ? [] : { effect, times: meanMm }))
        ]
      };
    }),
    [
      { many: CLASSES.length, sd: BUSH_SD_MM, learned: false },
      { many: stands.length, sd: KIN_SD, learned: true },
      { many: species.length, sd: KIN_SD, learned: true }
    ],
    {
      learnsSpread: true,
      strayingOf: (moved) => {
        const usualMm = RING_PRIOR[CLASSES[moved[0]!.effect]!].meanMm;
        return straying(moved.slice(1).reduce((sum, { by }) => sum + by, 0) / usualMm);
      }
    }
  );
  const shares = (ids: readonly string[], from: number) =>
    Object.fromEntries(ids.map((id, i) => [id, effects[from + i]!]));
  return {
    classes: Object.fromEntries(
      CLASSES.map((crownClass, i) => {
        const { meanMm, sdMm } = RING_PRIOR[crownClass];
        return [crownClass, { meanMm: Math.max(MIN_RING_MM, meanMm + effects[i]!), sdMm: sdMm * spread }];
      })
    ) as RingPriors,
    stands: shares(stands, standsFrom),
    species: shares(species, speciesFrom),
    standSd: stands.length > 0 ? KIN_SD * spreads[1]! : 0,
    speciesSd: species.length > 0 ? KIN_SD * spreads[2]! : 0
  };
}
