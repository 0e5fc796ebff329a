import { capital } from '../words/capital.ts';
import { listed } from '../words/listed.ts';
import { counted } from './counted.ts';
import {
  HOLES_PER_BIT,
  TAPS_PER_LATERAL,
  type Balance,
  type BindingLimit,
  type ConditionReason,
  type DefectKind,
  type Gear,
  type HazardKind,
  type Suggestion,
  type SuggestionReason,
  type TapGuideline,
  type AnyGuidelineId,
  type WildlifeKind
} from '@baumkin/core/taps';
import type { OtherSap } from '@baumkin/core/identify';
import type { HolePrice } from '@baumkin/core/rotation';
import { formatLength, inchFraction, MM_PER_INCH, type UnitSystem } from '@baumkin/core/units';

const COUNTS = [
  'rest',
  'one tap',
  'two taps',
  'three taps',
  'four taps',
  'five taps',
  'six taps',
  'seven taps',
  'eight taps'
];

/** A count in words. */
export const tapWords = (n: number): string => COUNTS[n] ?? `${n} taps`;

/** A suggested count in words: a tree that was never big enough does not rest. */
export function suggestedWords({ taps, binding }: { readonly taps: number; readonly binding: BindingLimit }): string {
  if (taps > 0) return tapWords(taps);
  return { forbidden: 'none', species: 'none', size: 'too small', condition: 'rest', growth: 'rest', room: 'rest' }[
    binding
  ];
}

export const BINDING_WORDS: Readonly<Record<BindingLimit, string>> = {
  forbidden: 'not to be tapped',
  species: 'species',
  size: 'size',
  condition: 'condition',
  growth: 'growth',
  room: 'room'
};

export const DEFECT_WORDS: Readonly<Record<DefectKind, string>> = {
  seam: 'a seam',
  frostCrack: 'a frost crack',
  canker: 'a canker',
  hollow: 'a hollow',
  decay: 'decay',
  split: 'a split',
  wound: 'a wound',
  peeled: 'bark peeled by porcupine or squirrel',
  sunscald: 'sunscald',
  rootDamage: 'root damage',
  borers: 'holes of borers',
  swelling: 'a swelling',
  vines: 'vines',
  metal: 'metal in the butt'
};

export const HAZARD_WORDS: Readonly<Record<HazardKind, string>> = {
  deadTop: 'a dead top',
  brokenTop: 'a broken top',
  hangingLimb: 'a hanging limb',
  hungUp: 'hung up in another tree',
  hollowButt: 'a hollow butt',
  conks: 'conks on the trunk',
  rootPlate: 'a lifting root plate',
  splitFork: 'a split fork',
  includedBark: 'a fork with bark grown in',
  lean: 'a strong lean',
  touchesLine: 'touches a line'
};

export const WILDLIFE_WORDS: Readonly<Record<WildlifeKind, string>> = {
  cavity: 'a cavity in use',
  nest: 'a nest',
  den: 'a den',
  woodpeckers: 'woodpeckers',
  batRoost: 'a roost of bats'
};

/** What of a tree's condition bears on its count, in a sentence. */
export function conditionWords(reason: ConditionReason): string {
  switch (reason.why) {
    case 'notLookedUp':
      return 'Nobody has looked up at this crown yet.';
    case 'dead':
      return 'The tree is dead.';
    case 'dieback':
      return `${reason.pct} % of the crown has died back: ${reason.allows === 0 ? 'it needs its sap' : 'one tap at the most'}.`;
    case 'oldLook':
      return `Its crown was last looked at on ${reason.on}: look up again before you rely on it.`;
    case 'fullCrown':
      return 'Its crown is full enough for what its size allows.';
    case 'holesClosed':
      return 'The old holes that were looked at have closed.';
    case 'openHole': {
      const { years, weak, seen } = reason;
      const asked = seen
        ? ` It was ${seen.years} when somebody last looked, on ${seen.on}: see whether it has closed.`
        : '';
      return weak
        ? `A hole is ${seen ? 'perhaps ' : ''}still open after ${years} years: the tree is weak.${asked}`
        : `A hole is open after ${counted(years, 'year')}: that is no longer than usual.${asked}`;
    }
    case 'stressed':
      return `It was stressed in the summer before ${reason.on}: let it recover for two summers.`;
    case 'peeled':
      return `The bark is peeled round ${reason.pct} % of its girth: ${reason.allows === 0 ? 'it needs all it has' : 'one tap at the most'}.`;
    case 'signs': {
      const seen = listed([
        ...reason.hazards.map((hazard) => HAZARD_WORDS[hazard]),
        ...reason.defects.map((defect) => DEFECT_WORDS[defect])
      ]);
      return `${capital(seen)} ${reason.hazards.length + reason.defects.length === 1 ? 'was' : 'were'} seen: ${reason.allows === 0 ? 'it needs what it has' : 'one tap at the most'}.`;
    }
    case 'freshPeeling':
      return 'The peeling is fresh: look at its neighbours too.';
    case 'nothing':
      return 'Nothing in its condition asks for fewer taps.';
  }
}

/** Trees that are no maples and tapped by some. */
export const OTHER_TREES: Readonly<Record<OtherSap, string>> = { birch: 'birches', walnut: 'walnuts' };

/**
 * Why a tree is suggested so many taps, in a sentence or two.
 * @param forbidden what forbids it, where that is the reason
 */
export function suggestionWords(reason: SuggestionReason, forbidden: string | null): string {
  switch (reason.why) {
    case 'forbidden':
      return forbidden ?? 'It is not to be tapped.';
    case 'notMaple':
      return 'This is not a maple: leave it.';
    case 'otherSap':
      return `No maple: a ${reason.kind}, and this bush does not tap its ${OTHER_TREES[reason.kind]}.`;
    case 'tooThin':
      return `Too thin to tap by the ${GUIDELINE_LABELS[reason.guideline.id].name.toLowerCase()} rule.`;
    case 'size': {
      const size = `Its size allows ${reason.taps === 1 ? 'one' : reason.taps} by the ${GUIDELINE_LABELS[reason.guideline.id].name.toLowerCase()} rule`;
      const open = [
        ...(reason.unseen ? ['nobody has looked up at it lately'] : []),
        ...(reason.roomOpen ? ['clear places have not been looked for yet'] : []),
        ...(reason.growthOpen ? ['how fast it grows is not measured yet'] : [])
      ];
      return open.length > 0
        ? `${size}. That is not the last word: ${listed(open)}.`
        : `${size}, and nothing else asks for fewer.`;
    }
    case 'condition':
      return conditionWords(reason.condition);
    case 'growth':
      return `${reason.measured ? 'New wood replaces' : 'Its growth is not measured yet. New wood as trees like it lay replaces'} what ${reason.holes === 1 ? 'one hole a year kills' : `${reason.holes} holes a year kill`}, not more.`;
    case 'noNewWood':
      return `${reason.measured ? 'It lays' : 'Trees like it lay'} no new wood: every hole would stay for good.`;
    case 'slow':
      return `${reason.measured ? 'It grows' : 'Its growth is not measured yet, and trees like it grow'} too slowly for a hole every year; one every ${reason.everyYears} years is in balance, ${reason.rested ? 'and it has rested long enough' : 'so it rests now'}.`;
    case 'doubt':
      return `It may carry a hole every year, but how fast it grows is not known well enough to be sure. Until it is, one every ${reason.everyYears} years, ${reason.rested ? 'and it has rested long enough' : 'so it rests now'}.`;
    case 'room':
      return reason.anyLeft
        ? 'The trunk has no more clear places within reach this season.'
        : 'No place on this trunk is clear enough now: rest it while new wood grows.';
  }
}

/** Holes whose stain new wood surely replaces, in words: in a rest rhythm one in so many years. */
export function carriedWords({ suggested, restRhythmYears }: Balance): string {
  if (suggested > 0) return String(suggested);
  return Number.isFinite(restRhythmYears) ? `1 in ${restRhythmYears} years` : 'none';
}

/**
 * Whether one hole more than so many is worth its stain.
 * @param price null where there is no room for it
 * @param seasons over which it was told
 * @param sap what so many holes in clear wood yield, in words
 */
export function priceWords(
  price: HolePrice | null,
  taps: number,
  seasons: number,
  sap: (holes: number) => string
): string {
  if (price === null) return `There is no room for more than ${tapWords(taps)} this season.`;
  const { now, later } = price;
  const worth =
    later >= now
      ? 'Its stain costs more than it brings'
      : later > now / 2
        ? 'Its stain takes more than half of it back'
        : later > 0.1
          ? 'Its stain takes part of it back'
          : 'Its stain costs next to nothing';
  return `Beyond ${tapWords(taps)}: about ${sap(now)} more sap this spring, and ${later < 0.02 ? 'hardly any' : `about ${sap(later)}`} less from the holes of the ${seasons} seasons after it. ${worth}.`;
}

/** What the dearest of a tree's taps brings and costs, after its tag. */
export function dearWords(
  { now, later }: HolePrice,
  taps: number,
  seasons: number,
  sap: (holes: number) => string
): string {
  const which = taps === 1 ? 'its tap' : `the dearest of its ${tapWords(taps)}`;
  return `${which} brings about ${sap(now)} this spring and takes ${later < 0.02 ? 'hardly any' : `about ${sap(later)}`} from the ${seasons} seasons after it.`;
}

/** What would change a suggestion, in a sentence; growing is told with its years where it is shown. */
export const CHANGE_WORDS: Readonly<Record<Exclude<NonNullable<Suggestion['change']>['kind'], 'grow'>, string>> = {
  lookAtTwigs: 'Look at the twigs and bark again if you doubt it.',
  lookUp: 'Look up again next summer; a fuller crown lifts this limit.',
  measureAgain: 'A second reading, some years after the first, or the rings of a core would settle it.',
  carryMore: 'More light from a thinning, a smaller bit or a longer band would carry more.',
  longerBand: 'A longer band, by snow, ladder-free reach or drop line, may reach fresh wood.'
};

/** The tap guidelines with where they come from, and the bush's own. */
export const GUIDELINE_LABELS: Readonly<
  Record<AnyGuidelineId, { readonly name: string; readonly provenance: string }>
> = {
  twelveEighteen: {
    name: 'Twelve-eighteen',
    provenance: 'common practice; the producers’ manual (OSU Bulletin 856) gives the same sizes, from memory'
  },
  handbook: { name: 'Handbook ladder', provenance: 'USDA Agriculture Handbook 134, from memory' },
  twoAtMost: { name: 'Two at most', provenance: 'common practice' },
  metric: { name: 'Metric ladder', provenance: 'common practice' },
  onePerFoot: { name: 'One per foot', provenance: 'common practice' },
  tubing: { name: 'Tubing minimum', provenance: 'common practice' },
  bucketWide: {
    name: 'As wide as the bucket',
    provenance: 'common practice: one for each bucket, about 30 cm (12 in), that the trunk is wide'
  },
  eightInch: { name: 'From 8 in', provenance: 'common practice where tubing takes what a thin tree gives' },
  manyOver24: {
    name: 'Three to six over 24 in',
    provenance: 'old practice for giants; no more than two is common now'
  },
  own: { name: 'Our own ladder', provenance: 'laid down by the steward' },
  birch: { name: 'Birch', provenance: 'common practice' },
  walnut: { name: 'Walnut', provenance: 'common practice' }
};

const NUMBER_WORDS = ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight'];

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
      return `${NUMBER_WORDS[taps] ?? taps} ${above ? 'over' : 'from'} ${size}${made}`;
    })
    .join(', ');
}

/** A thing to have, and why so many. @param taps of the whole bush */
export function gearWords(
  what: Gear,
  taps: number,
  bitMm: number
): { readonly name: string; readonly because: string } {
  const bit = `${inchFraction(bitMm / MM_PER_INCH, 16)} in`;
  const spares = `${taps} and one spare in twenty`;
  switch (what) {
    case 'spouts':
      return { name: `spouts, ${bit}`, because: `${spares}; the spout must match the bit` };
    case 'bits':
      return { name: `bits, ${bit}`, because: `one for ${HOLES_PER_BIT} holes, and one in the pocket` };
    case 'buckets':
    case 'lids':
      return { name: what, because: spares };
    case 'dropLines':
      return { name: 'drop lines', because: `${spares}; long enough to reach fresh wood` };
    case 'lateralLines':
      return { name: 'lateral lines', because: `about ${TAPS_PER_LATERAL} taps on each, falling 2 % and more` };
  }
}
