import { chanceBelow, type Doubted, type Profile } from './levelling.ts';
import { postsMore, sagSlope, type HeldPipe } from './pipe.ts';

/** A line falls at least so much, metres a metre, or sap stands in it. Common practice: two in a hundred. */
export const LEAST_FALL = 0.02;

/** How sure it is that something is wrong with a stretch. */
export type Surety = 'sure' | 'likely' | 'cannotBeTold';

/** From these chances on it is sure, likely, or cannot be told; below, it is taken as right. Working assumption. */
export const SURE_FROM = { sure: 0.95, likely: 0.5, cannotBeTold: 0.05 } as const;

/** How sure a chance is. @returns null where it is taken not to be so */
export const suretyOf = (chance: number): Surety | null =>
  chance >= SURE_FROM.sure
    ? 'sure'
    : chance >= SURE_FROM.likely
      ? 'likely'
      : chance >= SURE_FROM.cannotBeTold
        ? 'cannotBeTold'
        : null;

/** What may be wrong with how a stretch falls: it rises, sags between its posts, or falls too little. */
export type FallFault = 'dip' | 'sag' | 'flat';

/** A stretch of a line between two nodes, and what is known of its fall. */
export interface Stretch {
  /** nodes */
  readonly from: number;
  readonly to: number;
  readonly lengthM: number;
  /** metres that it falls */
  readonly fall: Doubted;
  /** metres a metre */
  readonly slope: Doubted;
  /** chances that it rises; that it rises or sags so that sap stands in it; that it falls less than `LEAST_FALL` */
  readonly chance: Readonly<Record<FallFault, number>>;
}

/** What is found of a line's fall. */
export interface FallFinding {
  readonly fault: FallFault;
  readonly surety: Surety;
  readonly chance: number;
  /** nodes between which it is */
  readonly from: number;
  readonly to: number;
  readonly slope: Doubted;
  /** metres by which it rises; nought where it does not */
  readonly riseM: number;
  /** posts or ties that would mend a sag; null where no post does */
  readonly posts: number | null;
}

/** A rise of less than half the bore holds no sap back. */
const heldBackM = (boreMm: number) => boreMm / 2000;

/** The stretches of a line, one from each node to the next. */
export function stretchesOf(profile: Profile, pipe: HeldPipe): Stretch[] {
  return profile.atM.slice(1).map((_, from) => stretchBetween(profile, pipe, { from, to: from + 1 }));
}

function stretchBetween(
  profile: Profile,
  { boreMm, pullN, spanM }: HeldPipe,
  { from, to }: Pick<Stretch, 'from' | 'to'>
): Stretch {
  const lengthM = profile.atM[to]! - profile.atM[from]!;
  const fall = profile.fall(from, to);
  const slope = { mean: fall.mean / lengthM, sd: fall.sd / lengthM };
  const sags = sagSlope(Math.min(lengthM / (to - from), spanM), boreMm, pullN);
  return {
    from,
    to,
    lengthM,
    fall,
    slope,
    chance: {
      dip: chanceBelow(fall, -heldBackM(boreMm)),
      sag: chanceBelow(slope, sags),
      flat: chanceBelow(slope, LEAST_FALL)
    }
  };
}

/**
 * What is wrong, or may be, with how a line falls. Stretches that rise one after another are one dip; of a stretch the worst is named
 * alone, unless something lighter is surer of it.
 */
export function fallFindings(profile: Profile, pipe: HeldPipe): FallFinding[] {
  const { boreMm } = pipe;
  const single = stretchesOf(profile, pipe);
  const joined: Stretch[] = [];
  for (const stretch of single) {
    const before = joined.at(-1);
    const rises = (each: Stretch) => each.fall.mean < -heldBackM(boreMm);
    if (before && rises(before) && rises(stretch))
      joined[joined.length - 1] = stretchBetween(profile, pipe, { from: before.from, to: stretch.to });
    else joined.push(stretch);
  }
  return joined.flatMap((stretch) => worst(stretch, pipe) ?? []);
}

/** Faults, the heavier before the lighter. */
const BY_WEIGHT: readonly FallFault[] = ['dip', 'sag', 'flat'];
const SURER: readonly Surety[] = ['cannotBeTold', 'likely', 'sure'];

function worst({ from, to, lengthM, slope, fall, chance }: Stretch, pipe: HeldPipe): FallFinding | null {
  let found: { fault: FallFault; surety: Surety } | null = null;
  for (const fault of BY_WEIGHT) {
    const surety = suretyOf(chance[fault]);
    if (surety && (!found || SURER.indexOf(surety) > SURER.indexOf(found.surety))) found = { fault, surety };
  }
  if (!found) return null;
  return {
    ...found,
    chance: chance[found.fault],
    from,
    to,
    slope,
    riseM: Math.max(0, -fall.mean),
    posts: found.fault === 'sag' && slope.mean > 0 ? postsMore(lengthM, slope.mean, pipe) : null
  };
}

/** How a line is mended by lifting it: metres at each node. */
export interface Lifting {
  readonly liftsM: readonly number[];
  /** the most of them */
  readonly mostM: number;
}

/**
 * The least lifts by which a line falls everywhere by at least so much, its foot left as it is: from the foot upwards each node stands
 * as high as the one below it asks.
 * @param falls metres from each node to the next, as they are
 * @param lengthsM of these stretches, on the ground
 */
export function liftsFor(falls: readonly number[], lengthsM: readonly number[], least = LEAST_FALL): Lifting {
  const liftsM = Array.from({ length: falls.length + 1 }, () => 0);
  for (let i = falls.length - 1; i >= 0; i--)
    liftsM[i] = Math.max(0, liftsM[i + 1]! + least * lengthsM[i]! - falls[i]!);
  return { liftsM, mostM: Math.max(...liftsM) };
}
