import {
  estimateGrowth,
  expectedRings,
  METHOD_SD_MM,
  USUAL_RINGS,
  type DatedDiameter,
  type GrowingTree
} from '../src/measure/index.ts';

/** A tree with its readings, of which the last is held back. */
export interface HeldBack {
  readonly tree: GrowingTree;
  readonly readings: readonly DatedDiameter[];
}

/** The last reading of each tree, told from the others in four ways: root of the mean square of the errors, mm. */
export function foretold(trees: readonly HeldBack[]) {
  const known = trees.map(({ tree, readings }) => ({ tree, earlier: readings.slice(0, -1), last: readings.at(-1)! }));
  const own = known.map(({ tree, earlier }) => ({ ...tree, ...estimateGrowth(earlier, tree).observed! }));
  const learned = expectedRings(own);
  const plain = own.reduce((sum, { ringMm }) => sum + ringMm, 0) / own.length;
  const off = (ringOf: (i: number) => number) =>
    Math.sqrt(
      known.reduce((sum, { earlier, last }, i) => {
        const before = earlier.at(-1)!;
        return sum + (before.dbhMm + 2 * (last.year - before.year) * ringOf(i) - last.dbhMm) ** 2;
      }, 0) / known.length
    );
  const held = known.filter(({ tree, earlier, last }) => {
    // From the middle of its readings: there the errors of size and of growth are independent.
    const { ringMm, ringSeMm } = estimateGrowth(earlier, tree, learned);
    const middle = (of: (reading: DatedDiameter) => number) =>
      earlier.reduce((sum, each) => sum + of(each), 0) / earlier.length;
    const years = last.year - middle(({ year }) => year);
    const errors = earlier.map(({ method }) => METHOD_SD_MM[method]);
    const sd = Math.hypot(2 * years * ringSeMm, METHOD_SD_MM[last.method], Math.hypot(...errors) / errors.length);
    return Math.abs(middle(({ dbhMm }) => dbhMm) + 2 * years * ringMm - last.dbhMm) <= 1.2816 * sd;
  }).length;
  const ringBy = (i: number, expects = learned) => estimateGrowth(known[i]!.earlier, known[i]!.tree, expects).ringMm;
  return {
    learned: off((i) => ringBy(i)),
    classesAlone: off((i) =>
      ringBy(i, expectedRings(own.map(({ crownClass, ringMm, seMm }) => ({ crownClass, ringMm, seMm }))))
    ),
    usual: off((i) => ringBy(i, USUAL_RINGS)),
    plain: off(() => plain),
    own: off((i) => own[i]!.ringMm),
    held: held / known.length
  };
}
