import type { StandPurpose, TapBanReason, Wetness } from '@baumkin/core';

export const PURPOSE_WORDS: Readonly<Record<StandPurpose, string>> = {
  syrup: 'for syrup',
  mixed: 'for syrup and wood',
  timber: 'for timber',
  food: 'for nuts and fruit',
  wildlife: 'left for wildlife'
};

/** Why a tree is never tapped, as a choice. */
export const BAN_LABELS: Readonly<Record<TapBanReason, string>> = {
  insecticide: 'treated with an insecticide that moves in the sap',
  salt: 'road salt reaches its roots',
  septic: 'by a septic field',
  sprayed: 'at the edge of sprayed ground',
  boundary: 'a boundary tree, not ours alone',
  noPermission: 'nobody gave leave'
};

export const WETNESS_WORDS: Readonly<Record<Wetness, string>> = { dry: 'well drained', moist: 'moist', wet: 'wet' };
