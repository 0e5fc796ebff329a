import type { BarkSpot } from '../geometry/index.ts';
import type { SpeciesId } from '../identify/index.ts';
import { normalSteps, seededRng, toRadians, type Rng } from '../math/index.ts';
import { asInBush, withHands, type BushColumns } from './bushColumns.ts';
import { overlapOf, stainedShare, type OldHole, type Overlap } from './column.ts';
import { columnsOf, type BitPath, type ColumnModel } from './defaults.ts';
import { columnOf, drawTruth, placeErrors, widenedSince } from './draws.ts';
import { readingChances, saidChance, turnedAt, type SeenShavings } from './shavings.ts';
import { beyondSapwood, shorterWay } from './spot.ts';
import { alongSurface, type Trunk } from './trunk.ts';

/** A hole's column as the sawn faces of its tree showed it. */
export interface SawnFace {
  readonly bitMm: number;
  /** across the stain where it is widest, and from its upper to its lower end, mm; null where it was not sawn open */
  readonly widthMm: number;
  readonly lengthMm: number | null;
  /** degrees, above 0 to the left going up; null where nobody looked */
  readonly leanDeg: number | null;
}

/** A tree some of whose holes were looked at: their shavings, or their columns once it was felled. */
export interface LoggedTree {
  readonly treeId: string;
  /** null where it is not settled */
  readonly species: SpeciesId | null;
  readonly standId: string | null;
  /** of today */
  readonly trunk: Trunk;
  /** relative uncertainty of the growth that buried its holes */
  readonly ringCv: number;
  readonly seen: readonly SeenShavings[];
  readonly sawn: readonly SawnFace[];
}

/** A hole whose shavings were looked at, with the trunk as it was before it was drilled. */
export interface LoggedHole extends Omit<LoggedTree, 'seen' | 'sawn'>, Omit<SeenShavings, 'hole'>, BarkSpot, BitPath {
  readonly authorId: string | null;
}

/** The trunk that stood before a hole of its own: older holes alone, under the wood that had grown by then. */
export function trunkBefore(trunk: Trunk, index: number): Trunk {
  const { season, buriedMm } = trunk.holes[index]!;
  const back = (mm: number) => Math.max(0, mm - buriedMm);
  return {
    woodRadiusMm: Math.max(20, trunk.woodRadiusMm - buriedMm),
    barkRadiusMm: Math.max(25, trunk.barkRadiusMm - buriedMm),
    holes: trunk.holes
      .filter((hole) => hole.season < season)
      .map((hole) => ({
        ...hole,
        buriedMm: back(hole.buriedMm),
        ...(hole.unsure && {
          unsure: {
            ...hole.unsure,
            buriedFromMm: back(hole.unsure.buriedFromMm),
            buriedToMm: back(hole.unsure.buriedToMm)
          }
        })
      }))
  };
}

/** The holes of a tree whose shavings were looked at. */
export function loggedHoles({ seen, sawn: _, trunk, ...tree }: LoggedTree): LoggedHole[] {
  return seen.map(({ hole, ...said }) => {
    const { bearingDeg, heightMm, bitMm, depthMm, authorId = null } = trunk.holes[hole]!;
    return { ...tree, ...said, trunk: trunkBefore(trunk, hole), bearingDeg, heightMm, bitMm, depthMm, authorId };
  });
}

/** Older holes farther off than this sideways have no part in what was seen, mm. */
const NEAR_MM = 150;

/**
 * Where a hole may be sideways of a column, in standard deviations: summed over and not drawn, for whether a path meets a column hangs
 * on nothing as much, and chances of seldom things are rough when drawn.
 */
const ASIDE = normalSteps(8, 0.7);

/** Steps of the stained share by which it is looked up what follows from it. */
const SHARES = 200;
const byShare = (of: (stained: number) => number) =>
  Float64Array.from({ length: SHARES + 1 }, (_, i) => of(i / SHARES));

const slope = (deg: number) => Math.tan(toRadians(deg));

/** A hole whose shavings were looked at, with draws of what nobody sees: the same whatever bush is tried. */
export class Look {
  readonly hole: LoggedHole;
  /** does it tell of any column? */
  readonly tells: boolean;
  /** of its own hole and of the older ones near it */
  readonly drilledBy: readonly string[];
  readonly #trunk: Trunk;
  readonly #own: OldHole;
  readonly #model: ColumnModel;
  readonly #draws: number;
  readonly #rng: Replay;
  #saidAt: Float64Array | null = null;

  constructor(hole: LoggedHole, model: ColumnModel, draws: number, seed: number) {
    const { trunk, bearingDeg, heightMm, bitMm, depthMm, authorId } = hole;
    const round = 2 * Math.PI * trunk.woodRadiusMm;
    const here = alongSurface(trunk, bearingDeg);
    const near = trunk.holes.filter((old) => {
      const sideways = Math.abs(shorterWay(alongSurface(trunk, old.bearingDeg) - here, round));
      return old.buriedMm < depthMm && sideways < NEAR_MM + 2 * (old.unsure?.sidewaysMm ?? 0);
    });
    this.hole = hole;
    this.tells = near.length > 0;
    this.drilledBy = [authorId, ...near.map((old) => old.authorId)].flatMap((id) => id ?? []);
    this.#trunk = { ...trunk, holes: near };
    this.#own = { season: 0, bearingDeg, heightMm, bitMm, depthMm, buriedMm: 0 };
    this.#model = columnsOf(hole.species, model);
    this.#draws = draws;
    this.#rng = new Replay(seededRng(seed));
  }

  /** Logarithm of the chance of what was seen in a bush. */
  fit(bush: BushColumns): number {
    const { hole } = this;
    this.#saidAt ??= byShare((stained) => saidChance(hole, stained, this.#model.hitShare));
    return Math.log(this.#mean(bush, this.#saidAt, (fromMm) => turnedAt(hole, fromMm)));
  }

  /** Chance that the shavings of a hole that gives sap read brown, wholly or in part. */
  brown(bush: BushColumns): number {
    const brownAt = byShare((stained) => {
      const { pale, dry } = readingChances(stained, this.#model.hitShare);
      return 1 - pale / (1 - dry);
    });
    return this.#mean(bush, brownAt, () => 1);
  }

  /**
   * The mean over all that nobody sees of the trunk.
   * @param at what follows from the stained share of the path, in `SHARES` steps from none to all
   * @param from a factor that follows from the depth at which the stain begins, mm
   */
  #mean(bush: BushColumns, at: Float64Array, from: (fromMm: number) => number): number {
    const { hole } = this;
    const model = asInBush(this.#model, bush, hole);
    const trunk = withHands(this.#trunk, bush);
    const own = placeErrors({ ...this.#own, hand: bush.hands[hole.authorId ?? ''] ?? 1 }, model);
    const errors = trunk.holes.map((each) => placeErrors(each, model));
    const [leanMean, leanSd] = [slope(model.grainMeanDeg), slope(model.grainSdDeg)];
    const round = 2 * Math.PI * trunk.woodRadiusMm;
    const here = alongSurface(trunk, hole.bearingDeg);
    const tooDeep = beyondSapwood(trunk, hole, model);
    this.#rng.rewind();
    const always = tooDeep ? [tooDeep] : [];
    const { bitMm, depthMm } = hole;
    const of = (overlaps: readonly Overlap[]) => {
      const stained = stainedShare(overlaps, bitMm, depthMm);
      return at[Math.round(stained * SHARES)]! * from(Math.min(depthMm, ...overlaps.map((o) => o.from)));
    };
    const clear = of(always);
    let all = 0;
    for (let i = 0; i < this.#draws; i++) {
      const truth = drawTruth(trunk, model, this.#rng, hole.ringCv);
      const heightMm = hole.heightMm + this.#rng.normal(0, own.upMm);
      const columns = trunk.holes
        .map((_, k) => columnOf(trunk, truth, k))
        .filter(
          ({ fromDepthMm, ...column }) =>
            fromDepthMm < Infinity && Math.abs(heightMm - column.heightMm) < column.halfLengthMm
        );
      if (columns.length === 0) {
        all += clear;
        continue;
      }
      // Of one column all that moves it sideways is summed over; of several that part which moves them together.
      const [one] = columns;
      const alone = columns.length === 1;
      const up = heightMm - one!.heightMm;
      const old = errors[one!.hole]!.sidewaysMm * widenedSince(trunk, one!.fromDepthMm);
      const sd = alone ? Math.hypot(own.sidewaysMm, old, up * leanSd) : own.sidewaysMm;
      const met = alone
        ? [{ ...one!, leftMm: alongSurface(trunk, trunk.holes[one!.hole]!.bearingDeg), lean: leanMean }]
        : columns;
      for (const { z, weight } of ASIDE) {
        const left = here + z * sd;
        let overlaps: Overlap[] | null = null;
        for (const column of met) {
          const offsetMm = shorterWay(column.leftMm - left, round);
          if (Math.abs(offsetMm + (heightMm - column.heightMm) * column.lean) >= column.halfWidthMm + bitMm / 2)
            continue;
          const overlap = overlapOf(column, { offsetMm, heightMm, bitMm, depthMm });
          if (overlap) (overlaps ??= [...always]).push(overlap);
        }
        all += weight * (overlaps ? of(overlaps) : clear);
      }
    }
    return all / this.#draws;
  }
}

/** Says again, from its beginning, what another said: whatever is asked of it then differs by what it is asked for alone. */
class Replay implements Rng {
  readonly #from: Rng;
  readonly #said: number[] = [];
  #at = 0;

  constructor(from: Rng) {
    this.#from = from;
  }

  rewind(): void {
    this.#at = 0;
  }

  #next(draw: () => number): number {
    return (this.#said[this.#at++] ??= draw());
  }

  uniform(): number {
    return this.#next(() => this.#from.uniform());
  }

  normal(mean: number, sd: number): number {
    return mean + sd * this.#next(() => this.#from.normal(0, 1));
  }

  logNormal(median: number, sigma: number): number {
    return median * Math.exp(this.normal(0, sigma));
  }
}
