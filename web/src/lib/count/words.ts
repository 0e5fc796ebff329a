import type { BindingLimit, DefectKind, HazardKind, WildlifeKind } from '@baumkin/core';

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
