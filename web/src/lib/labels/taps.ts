import type {
  BindingLimit,
  ConditionReason,
  DefectKind,
  HazardKind,
  Suggestion,
  SuggestionReason,
  WildlifeKind
} from '@baumkin/core';

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
        : `A hole is open after ${years} ${years === 1 ? 'year' : 'years'}: that is no longer than usual.${asked}`;
    }
    case 'stressed':
      return `It was stressed in the summer before ${reason.on}: let it recover for two summers.`;
    case 'peeled':
      return `The bark is peeled round ${reason.pct} % of its girth: ${reason.allows === 0 ? 'it needs all it has' : 'one tap at the most'}.`;
    case 'freshPeeling':
      return 'The peeling is fresh: look at its neighbours too.';
    case 'nothing':
      return 'Nothing in its condition asks for fewer taps.';
  }
}

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
    case 'tooThin':
      return `Too thin to tap by the ${reason.guideline.name.toLowerCase()} rule.`;
    case 'size': {
      const size = `Its size allows ${reason.taps === 1 ? 'one' : reason.taps} by the ${reason.guideline.name.toLowerCase()} rule`;
      const open = [
        ...(reason.unseen ? ['nobody has looked up at it lately'] : []),
        ...(reason.roomOpen ? ['clear places have not been looked for yet'] : [])
      ];
      return open.length > 0
        ? `${size}. That is not the last word: ${open.join(', and ')}.`
        : `${size}, and nothing else asks for fewer.`;
    }
    case 'condition':
      return conditionWords(reason.condition);
    case 'growth':
      return `New wood replaces what ${reason.holes === 1 ? 'one hole a year kills' : `${reason.holes} holes a year kill`}, not more.`;
    case 'noNewWood':
      return 'It lays no new wood: every hole would stay for good.';
    case 'slow':
      return `It grows too slowly for a hole every year; one every ${reason.everyYears} years is in balance, ${reason.rested ? 'and it has rested long enough' : 'so it rests now'}.`;
    case 'room':
      return reason.anyLeft
        ? 'The trunk has no more clear places within reach this season.'
        : 'No place on this trunk is clear enough now: rest it while new wood grows.';
  }
}

/** What would change a suggestion, in a sentence; growing is told with its years where it is shown. */
export const CHANGE_WORDS: Readonly<Record<Exclude<NonNullable<Suggestion['change']>['kind'], 'grow'>, string>> = {
  lookAtTwigs: 'Look at the twigs and bark again if you doubt it.',
  lookUp: 'Look up again next summer; a fuller crown lifts this limit.',
  carryMore: 'More light from a thinning, a smaller bit or a longer band would carry more.',
  longerBand: 'A longer band, by snow, ladder-free reach or drop line, may reach fresh wood.'
};
