import { tapGuidelineById, type TapPolicy } from '../src/taps/index.ts';
import { DEFAULT_COLUMNS } from '../src/trunk/index.ts';

/** A bush that taps by the default guideline and growth, with a 5/16 in bit over a band of 90 cm. */
export const POLICY: TapPolicy = {
  guideline: tapGuidelineById('twelveEighteen'),
  bitMm: 7.9375,
  depthMm: 38.1,
  bandMm: 900,
  acceptedShare: 0.1,
  model: DEFAULT_COLUMNS,
  leastDbhMm: 0,
  minds: 'growth',
  restsWeak: true,
  stainLoss: 1
};
