import { toRadians, type Rng } from '../math/index.ts';
import { MM_PER_INCH, type TrunkQuantity } from '../units/index.ts';
import { toDiameter } from './dbh.ts';
import { biltmoreMark, diameterFromStick } from './method.ts';

/*
 * Practice in measuring: a drawn trunk with what makes trunks hard to measure, a tape that can be laid anywhere round it, and what each
 * mistake costs.
 */

/** What makes a trunk hard to measure. */
export const TRUNK_TROUBLES = ['none', 'slope', 'lean', 'swelling', 'forkBelow', 'forkAbove', 'stick'] as const;
export type TrunkTrouble = (typeof TRUNK_TROUBLES)[number];

/** A trunk to measure. Heights run along it, from the ground on its uphill side. */
export interface TrunkScene {
  readonly trouble: TrunkTrouble;
  /** at breast height, square to the trunk, without what swells it; of one stem where it is forked below, mm */
  readonly dbhMm: number;
  /** where diameters are measured, mm */
  readonly breastHeightMm: number;
  /** how the ground falls, degrees */
  readonly slopeDeg: number;
  /** of the trunk, to the downhill side, degrees */
  readonly leanDeg: number;
  readonly swelling: { readonly atMm: number; readonly halfMm: number; readonly byMm: number } | null;
  /** height of the fork; null where there is none near */
  readonly forkMm: number | null;
  /** a stick is held across instead of a tape laid round: how far the eye is from it, mm; null where there is a tape */
  readonly reachMm: number | null;
}

/** How a tape was laid round it. */
export interface TapeLaid {
  readonly heightMm: number;
  /** off square to the trunk, degrees */
  readonly tiltDeg: number;
  /** round both stems above a fork, instead of one */
  readonly bothStems: boolean;
}

/** What went wrong with a reading. */
export type MeasuringFault =
  | 'fromDownhill'
  | 'tooHigh'
  | 'tooLow'
  | 'onSwelling'
  | 'notSquare'
  | 'bothStems'
  | 'girthAsDiameter'
  | 'diameterAsGirth'
  | 'inchAsCm'
  | 'cmAsInch'
  | 'asSeen'
  | 'misread';

/** A fault, and by how much it alone makes the diameter too large, mm. */
export interface CostlyFault {
  readonly fault: MeasuringFault;
  readonly offMm: number;
}

/** What came of a reading. */
export interface MeasuredJudgement {
  readonly trueMm: number;
  /** the diameter that was written down */
  readonly writtenMm: number;
  readonly faults: readonly CostlyFault[];
  /** where it may be measured on this trunk, from and to, mm up */
  readonly places: readonly (readonly [number, number])[];
}

/** A trunk grows thinner by so much a metre, mm of diameter. Working assumption; common practice is about a centimetre. */
const TAPER_MM_A_M = 10;
/** So far off breast height is still breast height, mm: a hand's breadth. Working assumption. */
const NEAR_MM = 60;
/** A tape this far off square is square enough, degrees: it errs by less than half a per cent. */
const SQUARE_DEG = 5;
/** A trunk is swollen where it is thicker than it would be by this share. Working assumption. */
const SWOLLEN_SHARE = 0.02;
/** A reading within this of the tape's is read right, as a share of it. Working assumption. */
const READ_SHARE = 0.01;
/** Two stems of a fork have so much of its diameter each. Working assumption: about half the wood in each. */
const STEM_SHARE = 0.7;
/** How far apart the middles of two stems stand, in diameters of one. Working assumption. */
const STEMS_APART = 1.25;
/** How far the ground may be felt downhill of the trunk, mm: a smaller step is none. */
const STEP_MM = 100;

/** Draws a trunk with one trouble. @param breastHeightMm where diameters are measured */
export function drawTrunk(rng: Rng, breastHeightMm: number, trouble: TrunkTrouble): TrunkScene {
  const between = (least: number, most: number) => least + (most - least) * rng.uniform();
  const dbhMm = Math.round(between(240, 620));
  const swelling =
    trouble === 'swelling'
      ? { atMm: breastHeightMm + between(-120, 120), halfMm: between(90, 160), byMm: dbhMm * between(0.07, 0.14) }
      : null;
  const fork = { forkBelow: between(500, 800), forkAbove: breastHeightMm + between(60, 200) };
  return {
    trouble,
    dbhMm,
    breastHeightMm,
    slopeDeg: trouble === 'slope' ? between(18, 30) : 0,
    leanDeg: trouble === 'lean' ? between(12, 22) : 0,
    swelling,
    forkMm: trouble === 'forkBelow' || trouble === 'forkAbove' ? fork[trouble] : null,
    reachMm: trouble === 'stick' ? Math.round(between(560, 700)) : null
  };
}

/** How far the ground lies lower on the downhill side of the trunk, mm. */
export const stepMm = ({ dbhMm, slopeDeg }: TrunkScene): number => dbhMm * Math.tan(toRadians(slopeDeg));

/** A fork swells the trunk so far from it, mm. Working assumption. */
const FLARE_MM = 180;
/** At the fork itself it does so by this share. Working assumption. */
const FLARE_SHARE = 0.14;

/** By how much the trunk is thicker at a height than it would be without a swelling or a fork, mm. */
function swollenBy(scene: TrunkScene, heightMm: number): number {
  const { swelling, forkMm, dbhMm } = scene;
  const bump = swelling ? swelling.byMm * Math.exp(-(((heightMm - swelling.atMm) / swelling.halfMm) ** 2)) : 0;
  if (forkMm === null) return bump;
  const below = heightMm <= forkMm;
  const flare = (FLARE_SHARE * dbhMm) / (scene.trouble === 'forkBelow' && below ? STEM_SHARE : 1);
  return bump + flare * Math.exp(-(((heightMm - forkMm) / FLARE_MM) ** 2));
}

/** Diameter square to the trunk at a height: of one stem above a fork, mm. */
export function diameterUp(scene: TrunkScene, heightMm: number): number {
  const { dbhMm, breastHeightMm, forkMm, trouble } = scene;
  const tapered = dbhMm - (TAPER_MM_A_M * (heightMm - breastHeightMm)) / 1000;
  const above = forkMm !== null && heightMm > forkMm;
  // What was drawn is the size at breast height: of one stem where the fork is below it, of the trunk where it is above.
  const share = trouble === 'forkBelow' && !above ? 1 / STEM_SHARE : trouble === 'forkAbove' && above ? STEM_SHARE : 1;
  return tapered * share + swollenBy(scene, heightMm);
}

/** What a tape that is laid so shows of the way round, mm. */
export function tapeShows(scene: TrunkScene, { heightMm, tiltDeg, bothStems }: TapeLaid): number {
  const diameter = diameterUp(scene, heightMm);
  const over = scene.forkMm !== null && heightMm > scene.forkMm;
  if (bothStems && over) return Math.PI * diameter + 2 * STEMS_APART * diameter;
  // Off square it goes round an ellipse (Ramanujan 1914, first approximation).
  const [a, b] = [diameter / 2 / Math.cos(toRadians(tiltDeg)), diameter / 2];
  return Math.PI * (3 * (a + b) - Math.sqrt((3 * a + b) * (a + 3 * b)));
}

/** What a stick held across shows between the edges of the trunk, both sighted with one eye, mm. */
export const stickShows = (scene: TrunkScene, heightMm: number): number =>
  biltmoreMark(diameterUp(scene, heightMm), scene.reachMm!);

/** Where a trunk may be measured: at breast height, or above and below what swells it there. */
export function rightPlaces(scene: TrunkScene): (readonly [number, number])[] {
  const { breastHeightMm: at, dbhMm, forkMm, trouble } = scene;
  const isSwollen = (height: number) => swollenBy(scene, height) > SWOLLEN_SHARE * dbhMm;
  if (!isSwollen(at)) return [[at - NEAR_MM, at + NEAR_MM]];
  const clear = (step: number) => {
    let height = at;
    while (isSwollen(height)) height += step;
    return height;
  };
  const below = clear(-10);
  // Above a fork begin stems of their own: a trunk that forks above breast height is measured below the flare.
  const above = trouble === 'forkAbove' ? null : clear(10);
  const places: (readonly [number, number])[] = [];
  if (forkMm === null || below > forkMm || trouble === 'forkAbove') places.push([below - 2 * NEAR_MM, below]);
  if (above !== null) places.push([above, above + 2 * NEAR_MM]);
  return places;
}

const FACTORS: readonly { readonly fault: MeasuringFault; readonly factor: number }[] = [
  { fault: 'girthAsDiameter', factor: Math.PI },
  { fault: 'diameterAsGirth', factor: 1 / Math.PI },
  { fault: 'cmAsInch', factor: MM_PER_INCH / 10 },
  { fault: 'inchAsCm', factor: 10 / MM_PER_INCH }
];

/**
 * What is wrong with a reading, and what each fault costs by itself.
 * @param written as it was written down, with its unit, mm; `asSeen` where it is what a stick showed, to be put right for the reach
 */
export function judgeMeasured(
  scene: TrunkScene,
  laid: TapeLaid,
  written: { readonly valueMm: number; readonly quantity: TrunkQuantity; readonly asSeen?: boolean }
): MeasuredJudgement {
  const places = rightPlaces(scene);
  const { heightMm, tiltDeg } = laid;
  const shownMm = scene.reachMm === null ? tapeShows(scene, laid) / Math.PI : diameterUp(scene, heightMm);
  const squareMm = diameterUp(scene, heightMm);
  const writtenMm =
    written.asSeen && scene.reachMm !== null
      ? diameterFromStick(written.valueMm, scene.reachMm)
      : toDiameter(written.valueMm, written.quantity);
  // Without what swells it, as it is where it may be measured.
  const trueMm = scene.dbhMm;
  const faults: CostlyFault[] = [];
  const over = scene.forkMm !== null && heightMm > scene.forkMm;
  if (laid.bothStems && over) faults.push({ fault: 'bothStems', offMm: shownMm - squareMm });
  else if (Math.abs(tiltDeg) > SQUARE_DEG) faults.push({ fault: 'notSquare', offMm: shownMm - squareMm });
  if (!places.some(([from, to]) => heightMm >= from && heightMm <= to))
    faults.push({ fault: placeFault(scene, heightMm), offMm: squareMm - trueMm });
  if (Math.abs(writtenMm / shownMm - 1) > READ_SHARE) {
    const seen = scene.reachMm !== null && Math.abs(writtenMm / stickShows(scene, heightMm) - 1) < 2 * READ_SHARE;
    const slip = FACTORS.find(({ factor }) => Math.abs(writtenMm / shownMm / factor - 1) < 2 * READ_SHARE);
    faults.push({ fault: seen ? 'asSeen' : (slip?.fault ?? 'misread'), offMm: writtenMm - shownMm });
  }
  return { trueMm, writtenMm, faults, places };
}

function placeFault(scene: TrunkScene, heightMm: number): MeasuringFault {
  if (swollenBy(scene, heightMm) > SWOLLEN_SHARE * scene.dbhMm) return 'onSwelling';
  const step = stepMm(scene);
  const fromDownhill = scene.breastHeightMm - step;
  if (step > STEP_MM && Math.abs(heightMm - fromDownhill) <= NEAR_MM) return 'fromDownhill';
  return heightMm > scene.breastHeightMm ? 'tooHigh' : 'tooLow';
}

/** Growth that a maple lays on in a year, mm of diameter: 0.1 to 0.2 in are reported from sugarbushes (common practice). */
const USUAL_GROWTH_MM = 3.8;

/** How many years a maple takes to grow by as much as a reading is off. @param offMm of diameter */
export const yearsOfGrowth = (offMm: number): number => Math.abs(offMm) / USUAL_GROWTH_MM;
