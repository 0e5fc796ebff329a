import { writtenSpot, type BarkSpot } from '../geometry/index.ts';
import { seededRng, toDegrees } from '../math/index.ts';
import { columnsBehind, drawHole, type ColumnModel, type Learned, type OldHole } from '../trunk/index.ts';
import { CELL_REACH_MM } from './board.ts';
import { renew, type Renewed } from './carry.ts';
import { kernelFor, type GrainBelief, type LossKernel } from './kernel.ts';
import { apart, liking, outOfReach, type PlacementTask } from './placementTask.ts';
import { planRotation } from './plan.ts';
import { seasonsToPlan, type PastHole, type RotationTask } from './task.ts';

/** The seasons to come on a trunk as it is known: planned for the first time, or what was planned looked at again. */
export function rotationOf(task: PlacementTask, learned: Learned): Renewed {
  const { kept } = task;
  if (kept?.look === 'settled') return { plan: kept.holes, changed: false, saves: null };
  const asked = rotationTask(task, learned);
  const { plan, ...said }: Renewed = kept
    ? renew(asked, kept.holes, kept.look === 'anew')
    : { plan: planRotation(asked), changed: false, saves: null };
  return { ...said, plan: plan.map(writtenSpot) };
}

/** What is planned of a trunk as it is known. */
export function rotationTask(task: PlacementTask, learned: Learned): RotationTask {
  const { trunk, practice, model, ringMm, keepOff = [], line, taken = [], usual = practice } = task;
  // In coarse steps, so that trees share their kernels.
  const belief: GrainBelief = {
    leanMeanDeg: 2 * Math.round(learned.leanMeanDeg / 2),
    leanSdDeg: Math.max(1, Math.round(learned.leanSdDeg)),
    sizeFactor: Math.round(5 * learned.sizeFactor) / 5
  };
  const band = {
    lowestMm: Math.min(usual.lowestMm, practice.lowestMm),
    highestMm: Math.max(usual.highestMm, practice.highestMm)
  };
  const within = ({ heightMm }: BarkSpot, { lowestMm, highestMm }: typeof band) =>
    (lowestMm === band.lowestMm || heightMm >= lowestMm + CELL_REACH_MM) &&
    (highestMm === band.highestMm || heightMm <= highestMm - CELL_REACH_MM);
  return {
    woodRadiusMm: trunk.woodRadiusMm,
    ringMm,
    ringCv: task.ringCv,
    practice: { ...practice, ...band },
    kernel: kernelFor(practice.bitMm, practice.bitMm, model, belief),
    past: pastOf(task, learned, (hole) => kernelFor(hole.bitMm, practice.bitMm, besideNew(hole, model), belief)),
    taps: Array<number>(seasonsToPlan(practice.depthMm, ringMm)).fill(task.taps),
    taken,
    allowed: (spot, now) =>
      within(spot, now ? practice : usual) &&
      keepOff.every((defect) => apart(trunk, spot, defect) >= defect.marginMm + CELL_REACH_MM) &&
      !(line && outOfReach(trunk, spot, line, CELL_REACH_MM)),
    unhandy: (spot, now) => unhandiness(task.favoured ?? [], now ? practice : usual, spot),
    ...(task.foresight ? { foresight: task.foresight } : {}),
    seed: task.seed
  };
}

/**
 * Between places that are as clear as each other, as far as the model can tell, the handier is taken: what the least handy
 * place of a trunk costs against the handiest, as a share of a path. A plan pays at most so much for handiness in the mean of
 * its holes. Working assumption.
 */
const HANDINESS = 0.0003;
/** Chest height, as a share of the way up the band within reach: 120 cm of the usual 60 to 150. Common practice. */
const CHEST = 2 / 3;
/** What the side counts for, of all handiness, where the bush likes some. Working assumption. */
const LIKED_SIDE = 0.4;
/** And where it does not say: the warm side, a little. Working assumption. */
const ANY_SIDE = 0.3;
/** North of the equator the sun thaws the south side first, and snow lies longest on the north side. Common practice. */
const WARM_DEG = 180;

function unhandiness(
  favoured: readonly number[],
  { lowestMm, highestMm }: { readonly lowestMm: number; readonly highestMm: number },
  spot: BarkSpot
): number {
  const off = Math.abs((spot.heightMm - lowestMm) / (highestMm - lowestMm) - CHEST) / CHEST;
  const side = favoured.length > 0 ? LIKED_SIDE : ANY_SIDE;
  const unliked = 1 - liking(favoured.length > 0 ? favoured : [WARM_DEG], spot.bearingDeg);
  return HANDINESS * ((1 - side) * off + side * unliked);
}

/**
 * The model of an old hole's column beside a new hole. Errors of place of both blur it: where whoever drilled the old one errs
 * otherwise, they are so much larger or smaller together. In coarse steps, so that holes share their kernels.
 */
function besideNew(hole: OldHole, model: ColumnModel): ColumnModel {
  const hand = Math.max(1, Math.round(2 * (hole.hand ?? 1))) / 2;
  const both = Math.sqrt((1 + hand ** 2) / 2);
  const { positionSdSidewaysMm, positionSdUpMm, ...columns } = columnsBehind(hole, model);
  return { ...columns, positionSdSidewaysMm: both * positionSdSidewaysMm, positionSdUpMm: both * positionSdUpMm };
}

/** A hole of the past is tried at so many of the places where it may be. */
const PLACES_OF_A_SCAR = 16;

/** Old holes where they seem to lie; a scar of unknown place stands for several places at once. */
function pastOf(
  { trunk, model, seed }: PlacementTask,
  learned: Learned,
  kernel: (hole: OldHole) => LossKernel
): PastHole[] {
  const rng = seededRng(seed);
  const shifted = (bearingDeg: number, leftMm: number) => bearingDeg + toDegrees(leftMm / trunk.woodRadiusMm);
  return trunk.holes.flatMap((hole, i): PastHole[] => {
    const { bearingDeg, heightMm, buriedMm, depthMm } = hole;
    if (!hole.unsure) {
      const shift = learned.shifts[i]!;
      const place = { bearingDeg: shifted(bearingDeg, shift.leftMm), heightMm: heightMm + shift.upMm };
      return [{ ...place, buriedMm, depthMm, kernel: kernel(hole) }];
    }
    return Array.from({ length: PLACES_OF_A_SCAR }, () => drawHole(hole, model, rng)).flatMap((truth): PastHole[] => {
      const { leftMm, upMm, buriedMm: under, there } = truth;
      if (!there) return [];
      const place = { bearingDeg: shifted(bearingDeg, leftMm), heightMm: heightMm + upMm };
      return [{ ...place, buriedMm: under, depthMm, kernel: kernel(hole), weight: 1 / PLACES_OF_A_SCAR }];
    });
  });
}
