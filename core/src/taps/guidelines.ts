import { formatLength, MM_PER_INCH, type UnitSystem } from '../units/index.ts';

/** One step of a guideline: from this diameter on, this many tapholes. */
export interface GuidelineStep {
  readonly diameterMm: number;
  /** true: the count starts above the diameter; false: at it */
  readonly above: boolean;
  readonly taps: number;
}

/** A school's rule from size to count. */
export interface TapGuideline {
  readonly id: TapGuidelineId;
  readonly name: string;
  readonly provenance: string;
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

const from = (diameterMm: number, taps: number): GuidelineStep => ({ diameterMm, above: false, taps });
const over = (diameterMm: number, taps: number): GuidelineStep => ({ diameterMm, above: true, taps });
const inch = (inches: number) => inches * MM_PER_INCH;

/** The schools, the default first. Common practice unless a source is named. */
export const TAP_GUIDELINES: readonly (TapGuideline & { readonly id: PublishedGuidelineId })[] = [
  {
    id: 'twelveEighteen',
    name: 'Twelve-eighteen',
    provenance: 'common practice; the producers’ manual (OSU Bulletin 856) gives the same sizes, from memory',
    steps: [from(inch(12), 1), over(inch(18), 2)]
  },
  {
    id: 'handbook',
    name: 'Handbook ladder',
    provenance: 'USDA Agriculture Handbook 134, from memory',
    steps: [from(inch(10), 1), from(inch(15), 2), from(inch(20), 3), from(inch(25), 4)]
  },
  {
    id: 'twoAtMost',
    name: 'Two at most',
    provenance: 'common practice',
    steps: [from(inch(10), 1), from(inch(14), 2)]
  },
  {
    id: 'metric',
    name: 'Metric ladder',
    provenance: 'common practice',
    steps: [from(250, 1), over(400, 2), over(600, 3), over(800, 4)]
  },
  {
    id: 'onePerFoot',
    name: 'One per foot',
    provenance: 'common practice',
    steps: [from(inch(10), 1), from(inch(24), 2), from(inch(36), 3), from(inch(48), 4)]
  },
  {
    id: 'tubing',
    name: 'Tubing minimum',
    provenance: 'common practice',
    steps: [from(inch(9), 1)]
  },
  {
    id: 'bucketWide',
    name: 'As wide as the bucket',
    provenance: 'common practice: one for each bucket, about 30 cm (12 in), that the trunk is wide',
    steps: [from(300, 1), from(600, 2), from(900, 3)]
  },
  {
    id: 'eightInch',
    name: 'From 8 in',
    provenance: 'common practice where tubing takes what a thin tree gives',
    steps: [from(inch(8), 1), from(inch(15), 2)]
  },
  {
    id: 'manyOver24',
    name: 'Three to six over 24 in',
    provenance: 'old practice for giants; no more than two is common now',
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
  return { id: 'own', name: 'Our own ladder', provenance: 'laid down by the steward', steps };
}

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

const COUNT_WORDS = ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight'];

const wholeInches = (mm: number) => Math.round(mm / MM_PER_INCH);

/** A guideline's rule in words and in the steward's units: "one from 12 in, two over 18". The unit is said once. */
export function guidelineRule(guideline: TapGuideline, system: UnitSystem): string {
  const inInches = guideline.steps.every(
    ({ diameterMm }) => Math.abs(diameterMm / MM_PER_INCH - wholeInches(diameterMm)) < 0.01
  );
  return guideline.steps
    .map(({ above, diameterMm, taps }, i) => {
      const unit = (text: string) => (i === 0 ? text : text.split(' ')[0]!);
      const size = unit(formatLength(diameterMm, system, 'trunk').replace('.0 ', ' '));
      const made = inInches && system === 'metric' ? ` (${unit(`${wholeInches(diameterMm)} in`)})` : '';
      return `${COUNT_WORDS[taps] ?? taps} ${above ? 'over' : 'from'} ${size}${made}`;
    })
    .join(', ');
}
