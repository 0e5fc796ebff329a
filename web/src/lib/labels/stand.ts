import type { StandPurpose, Wetness } from '@baumkin/core/records';

export const PURPOSE_WORDS: Readonly<Record<StandPurpose, string>> = {
  syrup: 'for syrup',
  mixed: 'for syrup and wood',
  timber: 'for timber',
  food: 'for nuts and fruit',
  wildlife: 'left for wildlife'
};

export const WETNESS_WORDS: Readonly<Record<Wetness, string>> = { dry: 'well drained', moist: 'moist', wet: 'wet' };
