import { beforeAll, describe, expect, it } from 'vitest';

import { shortOrLong } from '../../testing/long.ts';
import { seededRng } from '../src/math/index.ts';
import {
  asInBush,
  calibrate,
  columnHalfLength,
  DEFAULT_COLUMNS,
  learnTrunk,
  overlapOf,
  poolColumns,
  shorterWay,
  trunkBefore,
  USUAL_BUSH,
  wilson,
  withHands,
  WORTH_CORRECTING,
  type BushColumns,
  type ColumnModel,
  type LoggedTree,
  type PooledColumns
} from '../src/trunk/index.ts';
import { logChance } from '../src/trunk/shavings.ts';
import { CAREFUL, CARELESS, otherBush, type OtherTree } from './otherBush.ts';

/* What a bush shows together. Its truth is another than the core's priors: larger columns, long tails, two hands, grain by stand. */

const pooled = (trees: readonly OtherTree[], draws = 30): PooledColumns =>
  poolColumns(trees, DEFAULT_COLUMNS, USUAL_BUSH, { draws, most: 2000 })!;

/** The model and the trunk's holes as a bush has them. */
function asSeen(tree: OtherTree, bush: BushColumns) {
  const model = asInBush(DEFAULT_COLUMNS, bush, tree);
  return { model, trunk: withHands(tree.trunk, bush) };
}

/** Logarithm of the chance of what was seen in a tree's last two seasons, after learning from its own earlier ones. */
function scoreOf(tree: OtherTree, bush: BushColumns): number {
  const { model, trunk } = asSeen(tree, bush);
  const seasons = trunk.holes.length;
  return [seasons - 2, seasons - 1].reduce((sum, season) => {
    const before = trunkBefore(trunk, season);
    const path = trunk.holes[season]!;
    const { hand = 1 } = path;
    const { draws } = learnTrunk(before, tree.seen.slice(0, seasons - 2), model, {
      draws: 120,
      depthMm: 38.1,
      seed: 1
    });
    const rng = seededRng(season);
    const round = 2 * Math.PI * before.woodRadiusMm;
    const chances = draws.map((columns) => {
      const left = (path.bearingDeg * round) / 360 + rng.normal(0, hand * model.positionSdSidewaysMm);
      const heightMm = path.heightMm + rng.normal(0, hand * model.positionSdUpMm);
      const overlaps = columns.flatMap((column) => {
        const offsetMm = shorterWay(column.leftMm - left, round);
        return overlapOf(column, { ...path, offsetMm, heightMm }) ?? [];
      });
      return Math.exp(logChance(tree.seen[season]!, overlaps, path, model.hitShare));
    });
    return sum + Math.log(chances.reduce((a, b) => a + b, 0) / chances.length);
  }, 0);
}

describe('what a bush shows together', () => {
  let trees: OtherTree[];
  let found: PooledColumns;
  beforeAll(() => {
    trees = otherBush(shortOrLong(32, 60), 6);
    found = pooled(trees, 40);
  });

  it('its columns are larger than thought, one hand is careful and the other is not, and the grain leans by stand', () => {
    const { bush, gain } = found;
    expect(gain).toBeGreaterThan(WORTH_CORRECTING);
    expect(bush.sizeFactor).toBeGreaterThan(1.3);
    expect(bush.sizeFactor).toBeLessThan(2.5);
    expect(bush.hands[CARELESS]! / bush.hands[CAREFUL]!).toBeGreaterThan(1.15);
    expect(bush.leanStands.steep! - bush.leanStands.flat!).toBeGreaterThan(1.5);
  });

  it('tells trees that it has not seen better than they tell themselves', () => {
    // Trees are left out by fours, in the short form half of them at a time.
    const told = [6, 8].flatMap((seed) => {
      const bush = otherBush(shortOrLong(28, 40), seed);
      const folds = shortOrLong(2, 10);
      const foldOf = (i: number) => Math.floor(i / 2) % folds;
      return Array.from({ length: folds }, (_, fold) => {
        const shown = pooled(bush.filter((_, i) => foldOf(i) !== fold)).bush;
        return bush
          .filter((_, i) => foldOf(i) === fold)
          .map((tree) => {
            const { model, trunk } = asSeen(tree, shown);
            const { learned } = learnTrunk(trunk, tree.seen, model, { draws: 240, depthMm: 38.1, seed: 2 });
            return {
              gain: scoreOf(tree, shown) - scoreOf(tree, USUAL_BUSH),
              held: learned.leanFromDeg <= tree.leanDeg && tree.leanDeg <= learned.leanToDeg
            };
          });
      }).flat();
    });
    // What its last holes met, after learning from its own earlier ones: logarithm of the chance, against the usual.
    const mean = told.reduce((sum, { gain }) => sum + gain, 0) / told.length;
    const sd = Math.sqrt(told.reduce((sum, { gain }) => sum + (gain - mean) ** 2, 0) / (told.length - 1));
    expect(mean).toBeGreaterThan(shortOrLong(0, sd / Math.sqrt(told.length)));
    // Intervals of eight in ten hold the lean of their tree as often, give or take three standard errors of a share.
    const held = told.filter((each) => each.held).length / told.length;
    expect(Math.abs(held - 0.8)).toBeLessThan(3 * Math.sqrt((0.8 * 0.2) / told.length));
  }, 1_500_000);

  it('moves little on little, and nothing where nothing was seen', () => {
    const few = pooled(trees.slice(0, 2)).bush;
    expect(Math.abs(Math.log(few.sizeFactor))).toBeLessThan(0.6);
    expect(few.leanStands).toEqual({});
    expect(poolColumns([], DEFAULT_COLUMNS)).toMatchObject({ bush: USUAL_BUSH, gain: 0, looks: 0 });
  });

  it('goes on from what was accepted: there is little more to gain, and what is not told apart any more stays', () => {
    const before = { ...found.bush, leanStands: { ...found.bush.leanStands, felled: 1.5 } };
    const again = poolColumns(trees, DEFAULT_COLUMNS, before, { draws: 40, most: 200 })!;
    expect(again.gain).toBeLessThan(found.gain / 2);
    expect(again.bush.leanStands.felled).toBe(1.5);
  });

  it('can be stopped', () => {
    expect(poolColumns(trees, DEFAULT_COLUMNS, USUAL_BUSH, { draws: 2, onProgress: () => false })).toBeNull();
  });
});

describe('what a log tells', () => {
  const BIT = 7.9375;
  /** One felled tree with columns as a model has them. */
  const log = (treeId: string, many: number, model: ColumnModel, leanDeg: number, seed: number): LoggedTree => {
    const rng = seededRng(seed);
    const ofTree = rng.normal(0, 0.3);
    const sawn = Array.from({ length: many }, () => {
      const half = BIT / 2 + rng.logNormal(model.sideMarginMedianMm, 0.35);
      const ratio = model.volumeRatioMedian * Math.exp(ofTree + rng.normal(0, 0.45));
      const lengthMm = 2 * columnHalfLength(ratio, BIT, half);
      return { bitMm: BIT, widthMm: 2 * half, lengthMm, leanDeg: leanDeg + rng.normal(0, 1.5) };
    });
    const trunk = { woodRadiusMm: 200, barkRadiusMm: 210, holes: [] };
    return { treeId, species: null, standId: null, trunk, ringCv: 0, seen: [], sawn };
  };
  const wide = asInBush(DEFAULT_COLUMNS, { ...USUAL_BUSH, sizeFactor: 1.8, marginFactor: 1.6 });

  it('sizes of columns, and how far they reach sideways', () => {
    const logs = Array.from({ length: 6 }, (_, i) => log(String(i), 8, wide, 0, i));
    const { bush, gain, sawn } = poolColumns(logs, DEFAULT_COLUMNS)!;
    expect(sawn).toBe(48);
    expect(gain).toBeGreaterThan(WORTH_CORRECTING);
    expect(Math.abs(Math.log(bush.sizeFactor / 1.8))).toBeLessThan(0.35);
    expect(Math.abs(Math.log(bush.marginFactor / 1.6))).toBeLessThan(0.2);
    // Logs say nothing of where holes were drilled.
    expect(bush.positionFactor).toBeCloseTo(1, 2);
  });

  it('more of them than many shavings: one log moves the bush as far as the looks at several trees', () => {
    const off = (bush: BushColumns) => Math.abs(Math.log(bush.marginFactor / 1.6));
    const one = poolColumns([log('one', 10, wide, 0, 2)], DEFAULT_COLUMNS)!.bush;
    expect(off(one)).toBeLessThan(0.5 * off(USUAL_BUSH));
    // Fifty looks at five trees of a bush whose columns reach 1.7 times as far as thought.
    const looks = pooled(otherBush(5, 8)).bush;
    expect(Math.abs(Math.log(looks.marginFactor))).toBeLessThan(Math.abs(Math.log(one.marginFactor)));
  });

  it('how the grain leans, by stand where enough were felled', () => {
    const logs = Array.from({ length: 12 }, (_, i) => ({
      ...log(String(i), 4, DEFAULT_COLUMNS, i % 2 === 0 ? 5 : -5, i),
      standId: i % 2 ? 'b' : 'a'
    }));
    const { bush } = poolColumns(logs, DEFAULT_COLUMNS)!;
    expect(bush.leanStands.a! - bush.leanStands.b!).toBeGreaterThan(5);
  });

  it('a stain no wider than the bit breaks nothing', () => {
    const thin = log('thin', 1, DEFAULT_COLUMNS, 0, 1);
    const sawn = [{ ...thin.sawn[0]!, widthMm: 5 }];
    expect(Number.isFinite(poolColumns([{ ...thin, sawn }], DEFAULT_COLUMNS)!.gain)).toBe(true);
  });
});

describe('expected against seen', () => {
  it('is as many where a bush is known as it is, and far too few where it is not', () => {
    const logged = otherBush(24, 5);
    const usual = calibrate(logged, DEFAULT_COLUMNS, USUAL_BUSH, { draws: 30 })!;
    expect(usual.holes).toBeGreaterThan(200);
    expect(usual.expected).toHaveLength(usual.holes);
    const known = calibrate(
      logged,
      DEFAULT_COLUMNS,
      {
        ...USUAL_BUSH,
        sizeFactor: 1.9,
        marginFactor: 1.6,
        hands: { [CAREFUL]: 0.6, [CARELESS]: 2 },
        leanStands: { steep: 5, flat: -3 }
      },
      { draws: 30 }
    )!;
    const off = ({ expectedBrown, seenBrown }: typeof usual) =>
      Math.abs(expectedBrown - seenBrown) / Math.sqrt(expectedBrown);
    expect(usual.seenBrown).toBeGreaterThan(usual.expectedBrown);
    expect(off(known)).toBeLessThan(2.6);
    expect(off(usual)).toBeGreaterThan(2 * off(known));
  });

  it('can be stopped, and says nothing about nothing', () => {
    expect(calibrate(otherBush(2, 1), DEFAULT_COLUMNS, USUAL_BUSH, { onProgress: () => false })).toBeNull();
    expect(calibrate([], DEFAULT_COLUMNS, USUAL_BUSH)).toMatchObject({ holes: 0, bins: [], expectedBrown: 0 });
  });

  it('the interval of a share: Wilson 1927 by his formula, worked by hand for 7 of 10 at 95 %', () => {
    const [from, to] = wilson(7, 10, 1.96);
    // (0.7 + 3.8416 / 20 -+ 1.96 sqrt(0.021 + 3.8416 / 400)) / 1.38416
    expect(from).toBeCloseTo(0.3968, 3);
    expect(to).toBeCloseTo(0.8922, 3);
  });
});
