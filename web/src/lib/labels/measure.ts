import type { LikelyCause, MeasureMethod, MeasuringFault, ReadingQuestion } from '@baumkin/core/measure';
import type { RingCount } from '@baumkin/core/records';
import type { LengthUse } from '@baumkin/core/units';

export const METHOD_LABEL: Readonly<Record<MeasureMethod, string>> = {
  diameterTape: 'diameter tape',
  girthTape: 'ordinary tape round the trunk',
  calipers: 'calipers',
  biltmore: 'Biltmore stick',
  plainStick: 'any stick held across',
  hug: 'bucket, hug or eye'
};

/** What a wrong reading looks like, by what went wrong. */
const LOOKS_LIKE: Readonly<Record<Exclude<LikelyCause, 'swappedTag' | 'unknown'>, string>> = {
  girthAsDiameter: 'this looks like the girth, written down as diameter',
  diameterAsGirth: 'this looks like the diameter, written down as girth',
  inchAsCm: 'this looks like inches, written down as centimetres',
  cmAsInch: 'this looks like centimetres, written down as inches'
};
const AGAINST_ITS_OWN: Readonly<Record<keyof typeof LOOKS_LIKE, string>> = {
  girthAsDiameter: 'It is about three times the tree’s other readings',
  diameterAsGirth: 'It is about a third of the tree’s other readings',
  inchAsCm: 'It is smaller than the tree’s other readings by about 2.5',
  cmAsInch: 'It is larger than the tree’s other readings by about 2.5'
};

/** The guard's question, without figures that depend on the unit system. */
export function questionWords({ cause, seen, neighbourTag }: ReadingQuestion): string {
  const looksLike = cause === 'swappedTag' || cause === 'unknown' ? '' : `: ${LOOKS_LIKE[cause]}.`;
  switch (seen) {
    case 'ownReadings':
      return `${AGAINST_ITS_OWN[cause as keyof typeof LOOKS_LIKE]}${looksLike}`;
    case 'neighbour':
      return `It fits tree ${neighbourTag} beside it: were the tags mixed up?`;
    case 'shrunk':
      return 'The trunk would have shrunk by more than the tape can err. Measure again at the same height.';
    case 'tooFast':
      return 'No maple grows that fast. Measure again, or look at the tag.';
    case 'tooThick':
      return `No maple is that thick${looksLike}`;
    case 'tooThin':
      return 'That is thinner than a thumb. Look at the unit.';
    case 'tappedSoThin':
      return `Nobody taps so thin a tree${looksLike}`;
    case 'farThicker':
      return `It would be far thicker than the other trees of this bush${looksLike}`;
    case 'laterAgree':
      return 'The readings that came after it agree with each other and not with it. Look at the tag and the unit.';
  }
}

/** What was wrong with a reading on a practice trunk, and what to do instead. */
export const MEASURING_FAULTS: Readonly<Record<MeasuringFault, string>> = {
  fromDownhill: 'It was measured up from the downhill side. Stand uphill: breast height is counted from there.',
  tooHigh: 'The tape lay too high. Mark breast height on your coat once, and measure there.',
  tooLow: 'The tape lay too low. Mark breast height on your coat once, and measure there.',
  onSwelling: 'The trunk is swollen there. Go up or down until it is not, and write down where you measured.',
  notSquare: 'The tape lay askew. It goes round square to the trunk, however the trunk leans.',
  bothStems: 'The tape went round both stems. A fork below breast height makes two trees, each on its own.',
  girthAsDiameter: 'That is the way round, written down as the way across.',
  diameterAsGirth: 'That is the way across, written down as the way round.',
  inchAsCm: 'Those are inches, written down as centimetres.',
  cmAsInch: 'Those are centimetres, written down as inches.',
  asSeen:
    'That is what the stick showed. The edges of the trunk lie behind it, so it is thicker: let the figure be put right.',
  misread: 'It shows something else. The figure stands where the mark is.'
};

/** Counted rings in one sentence. */
export function ringCountWords(
  { on, source, heightMm, rings, toPith, hollowFromMm, last5Mm, last10Mm, last20Mm }: RingCount,
  ruler: { length(mm: number, use: LengthUse): string }
): string {
  const widths = [
    [5, last5Mm],
    [10, last10Mm],
    [20, last20Mm]
  ] as const;
  const parts = [
    ...(rings === null ? [] : [`${rings} rings${toPith ? ' to the pith' : ' and more'}`]),
    ...widths.flatMap(([many, mm]) => (mm === null ? [] : [`${ruler.length(mm, 'drill')} over the last ${many}`])),
    ...(hollowFromMm === null ? [] : [`hollow from ${ruler.length(hollowFromMm, 'hand')} under the bark`])
  ];
  return `${source === 'core' ? 'Core' : 'Stump'} of ${on}, ${ruler.length(heightMm, 'hand')} up: ${parts.join('; ')}.`;
}
