import { ladderOf, type BushSettings, type TapPolicy } from '@baumkin/core';

/** How the bush taps by its own numbers: no more than size, growth and condition allow. */
export function policyOf(settings: BushSettings): TapPolicy {
  return {
    ladder: ladderOf(settings),
    bitMm: settings.bitMm,
    depthMm: settings.depthMm,
    bandMm: settings.highestMm - settings.lowestMm,
    acceptedShare: settings.acceptedShare,
    leastDbhMm: 0,
    minds: 'growth',
    restsWeak: true
  };
}
