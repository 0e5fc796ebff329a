import type { BindingLimit, DefectKind, HazardKind, WildlifeKind } from '@baumkin/core';

const COUNTS = ['rest', 'one tap', 'two taps', 'three taps', 'four taps'];

/** A count in words. */
export const tapWords = (n: number): string => COUNTS[n] ?? `${n} taps`;

export const BINDING_WORDS: Readonly<Record<BindingLimit, string>> = {
  species: 'species',
  size: 'size',
  condition: 'condition',
  growth: 'growth',
  room: 'room'
};

export const DEFECT_WORDS: Readonly<Record<DefectKind, string>> = {
  seam: 'a seam',
  canker: 'a canker',
  hollow: 'a hollow',
  split: 'a split',
  wound: 'a wound',
  borers: 'holes of borers',
  swelling: 'a swelling'
};

export const HAZARD_WORDS: Readonly<Record<HazardKind, string>> = {
  deadTop: 'a dead top',
  brokenTop: 'a broken top',
  hangingLimb: 'a hanging limb',
  hollowButt: 'a hollow butt',
  splitFork: 'a split fork',
  lean: 'a strong lean'
};

export const WILDLIFE_WORDS: Readonly<Record<WildlifeKind, string>> = {
  cavity: 'a cavity in use',
  nest: 'a nest',
  den: 'a den',
  woodpeckers: 'woodpeckers'
};
