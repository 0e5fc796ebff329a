import { sideStates, type PlanStand, type PlanTree } from '../src/thinning/index.ts';
import { tapGuidelineById } from '../src/taps/index.ts';

/** A maple that grows well and of which nothing speaks against a tap: what a suggestion is made from. */
export const MEASURED = {
  dbhMm: 400,
  ringMm: 2.2,
  ringSeMm: 0.1,
  bitMm: 7.9375,
  depthMm: 38.1,
  bandMm: 900,
  guideline: tapGuidelineById('twelveEighteen'),
  condition: null,
  today: '2026-11-23',
  forbidden: false,
  givesSap: true,
  room: null,
  seasonsSinceTapped: null,
  ownGrowth: 0.9
} as const;

/** A square of ground with these trees on it, and nothing beyond its edge. */
export function squareStand(trees: readonly PlanTree[], sideM: number): PlanStand {
  const all = trees.map(({ tree }) => tree);
  return {
    trees,
    sides: new Map(trees.filter(({ crop }) => crop).map(({ tree }) => [tree.id, sideStates(tree, all, null)])),
    areaHa: sideM ** 2 / 10_000,
    outline: [
      [0, 0],
      [sideM, 0],
      [sideM, sideM],
      [0, sideM]
    ],
    around: []
  };
}
