import type { OtherSap } from '../identify/index.ts';
import { MM_PER_INCH } from '../units/index.ts';

/** One step of a guideline: from this diameter on, this many tapholes. */
export interface GuidelineStep {
  readonly diameterMm: number;
  /** true: the count starts above the diameter; false: at it */
  readonly above: boolean;
  readonly taps: number;
}

/** A school's rule from size to count. */
export interface TapGuideline {
  readonly id: AnyGuidelineId;
  readonly steps: readonly GuidelineStep[];
}

export type PublishedGuidelineId =
  | 'twelveEighteen'
  | 'handbook'
  | 'twoAtMost'
  | 'metric'
  | 'onePerFoot'
  | 'bucketWide'
  | 'tubing'
  | 'eightInch'
  | 'manyOver24';
/** A school's guideline, or the bush's own. */
export type TapGuidelineId = PublishedGuidelineId | 'own';
/** A rule from size to count, the ones of trees that are no maples included. */
export type AnyGuidelineId = TapGuidelineId | OtherSap;

const from = (diameterMm: number, taps: number): GuidelineStep => ({ diameterMm, above: false, taps });
const over = (diameterMm: number, taps: number): GuidelineStep => ({ diameterMm, above: true, taps });
const inch = (inches: number) => inches * MM_PER_INCH;

/** The schools, the default first. Common practice unless a source is named. */
export const TAP_GUIDELINES: readonly (TapGuideline & { readonly id: PublishedGuidelineId })[] = [
  {
    id: 'twelveEighteen',
    steps: [from(inch(12), 1), over(inch(18), 2)]
  },
  {
    id: 'handbook',
    steps: [from(inch(10), 1), from(inch(15), 2), from(inch(20), 3), from(inch(25), 4)]
  },
  {
    id: 'twoAtMost',
    steps: [from(inch(10), 1), from(inch(14), 2)]
  },
  {
    id: 'metric',
    steps: [from(250, 1), over(400, 2), over(600, 3), over(800, 4)]
  },
  {
    id: 'onePerFoot',
    steps: [from(inch(10), 1), from(inch(24), 2), from(inch(36), 3), from(inch(48), 4)]
  },
  {
    id: 'tubing',
    steps: [from(inch(9), 1)]
  },
  {
    id: 'bucketWide',
    steps: [from(300, 1), from(600, 2), from(900, 3)]
  },
  {
    id: 'eightInch',
    steps: [from(inch(8), 1), from(inch(15), 2)]
  },
  {
    id: 'manyOver24',
    steps: [
      from(inch(10), 1),
      from(inch(16), 2),
      from(inch(24), 3),
      from(inch(28), 4),
      from(inch(32), 5),
      from(inch(36), 6)
    ]
  }
];

/**
 * What a trunk that is no maple bears. A birch walls off a hole more slowly than a maple does and rots soon: one hole, on a sound
 * trunk of 8 inches; a walnut as the most careful rule for maples. Common practice.
 */
export const OTHER_GUIDELINES: Readonly<Record<OtherSap, TapGuideline>> = {
  birch: { id: 'birch', steps: [from(inch(8), 1)] },
  walnut: { id: 'walnut', steps: [from(inch(12), 1), over(inch(18), 2)] }
};

/** The latest to begin, and never more than two. Over 18 in some others ask for fewer. */
export const DEFAULT_TAP_GUIDELINE: PublishedGuidelineId = 'twelveEighteen';

/** A step of a bush's own guideline: from this diameter on. */
export interface OwnStep {
  readonly diameterMm: number;
  readonly taps: number;
}

/** The guideline that a bush goes by: a school's, or its own; the default where its own has no steps. */
export function tapGuidelineOf({
  tapGuideline,
  ownGuideline
}: {
  tapGuideline: TapGuidelineId;
  ownGuideline: readonly OwnStep[];
}): TapGuideline {
  if (tapGuideline !== 'own') return tapGuidelineById(tapGuideline);
  if (ownGuideline.length === 0) return tapGuidelineById(DEFAULT_TAP_GUIDELINE);
  const steps = [...ownGuideline].sort((a, b) => a.diameterMm - b.diameterMm).map((s) => from(s.diameterMm, s.taps));
  return { id: 'own', steps };
}

/** A published tap guideline by its name. */
export function tapGuidelineById(id: PublishedGuidelineId): TapGuideline {
  return TAP_GUIDELINES.find((guideline) => guideline.id === id)!;
}

/** Tapholes that a guideline allows a trunk. @param dbhMm diameter at breast height outside bark */
export function guidelineTaps(guideline: TapGuideline, dbhMm: number): number {
  return guideline.steps.reduce(
    (taps, step) =>
      (step.above ? dbhMm > step.diameterMm : dbhMm >= step.diameterMm) ? Math.max(taps, step.taps) : taps,
    0
  );
}

/** The next step up, or null at the top. */
export function nextStep(guideline: TapGuideline, dbhMm: number): GuidelineStep | null {
  const now = guidelineTaps(guideline, dbhMm);
  return guideline.steps.find((step) => step.taps > now) ?? null;
}
