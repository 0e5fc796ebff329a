import { seededRng, type Rng } from '../src/math/index.ts';
import {
  columnOf,
  overlapOf,
  readShavings,
  shorterWay,
  stainedShare,
  type LoggedTree,
  type OldHole,
  type SeenShavings,
  type Trunk,
  type TrunkTruth
} from '../src/trunk/index.ts';

/*
 * A bush whose truth is not drawn from the core's own priors: columns larger than thought and of another shape of spread, errors of
 * place with long tails, one careful and one careless hand, grain that leans by stand.
 */

export const CAREFUL = '00000000-0000-4000-8000-0000000000c1';
export const CARELESS = '00000000-0000-4000-8000-0000000000c2';
const PATH = { bitMm: 7.9375, depthMm: 38.1 };

/** Student's t of so few degrees of freedom that its tails are long, with a standard deviation of 1. */
function longTailed(rng: Rng, freedom: number): number {
  let squares = 0;
  for (let i = 0; i < freedom; i++) squares += rng.normal(0, 1) ** 2;
  return (rng.normal(0, 1) / Math.sqrt(squares / freedom)) * Math.sqrt((freedom - 2) / freedom);
}

export interface OtherTree extends LoggedTree {
  readonly leanDeg: number;
}

/** Trees tapped once a season, all in one patch, as habits have it. */
export function otherBush(trees: number, seed: number, seasons = 12): OtherTree[] {
  const rng = seededRng(seed);
  return Array.from({ length: trees }, (_, i) => {
    const standId = i % 2 === 0 ? 'steep' : 'flat';
    const leanDeg = (standId === 'steep' ? 5 : -3) + 3 * longTailed(rng, 5);
    const ringMm = 0.8 + 0.8 * rng.uniform();
    const first = 120 + 60 * rng.uniform();
    const holes: OldHole[] = [];
    const truths: TrunkTruth['holes'][number][] = [];
    const seen: SeenShavings[] = [];
    const aged = (season: number) => holes.map((hole) => ({ ...hole, buriedMm: (season - hole.season) * ringMm }));
    const trunkIn = (season: number): Trunk => {
      const woodRadiusMm = first + season * ringMm;
      return { woodRadiusMm, barkRadiusMm: woodRadiusMm + 8, holes: aged(season) };
    };
    for (let season = 0; season < seasons; season++) {
      const authorId = rng.uniform() < 0.5 ? CAREFUL : CARELESS;
      const error = authorId === CAREFUL ? 6 : 22;
      const spot = { bearingDeg: 180 + 70 * (rng.uniform() - 0.5), heightMm: 700 + 500 * rng.uniform() };
      const hole: OldHole = { season, ...spot, ...PATH, buriedMm: 0, authorId };
      const truth = {
        leftMm: error * longTailed(rng, 3),
        upMm: 1.5 * error * longTailed(rng, 3),
        ratio: 75 * 1.9 * Math.exp(rng.normal(0, 0.45)) * (0.6 + 0.8 * rng.uniform()),
        halfWidthMm: PATH.bitMm / 2 + 2.5 + 5 * rng.uniform(),
        buriedMm: 0,
        there: true
      };
      const trunk = trunkIn(season);
      const now = {
        leanDeg,
        logSize: 0,
        growth: 1,
        holes: truths.map((each, k) => ({ ...each, buriedMm: trunk.holes[k]!.buriedMm }))
      };
      const here = (spot.bearingDeg * Math.PI * trunk.woodRadiusMm) / 180 + truth.leftMm;
      const overlaps = holes.flatMap((_, k) => {
        const column = columnOf(trunk, now, k);
        const offsetMm = shorterWay(column.leftMm - here, 2 * Math.PI * trunk.woodRadiusMm);
        return overlapOf(column, { ...PATH, offsetMm, heightMm: spot.heightMm + truth.upMm }) ?? [];
      });
      const stained = stainedShare(overlaps, PATH.bitMm, PATH.depthMm);
      seen.push({ hole: season, ...readShavings(stained, 0.02, rng), brownFromMm: null, ran: 1 });
      holes.push(hole);
      truths.push(truth);
    }
    return { treeId: String(i), standId, species: null, leanDeg, trunk: trunkIn(seasons), seen, ringCv: 0, sawn: [] };
  });
}
