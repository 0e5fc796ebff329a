import type { TrunkFeatureKind } from '@baumkin/core';

export const FEATURE_WORDS: Readonly<Record<TrunkFeatureKind, string>> = {
  limb: 'a big limb',
  root: 'a big root',
  seam: 'a seam',
  wound: 'a wound',
  line: 'the tubing line',
  nail: 'the tag nail'
};
