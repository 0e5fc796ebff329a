import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { insideOutline, outlineAreaHa } from '../src/geometry/index.ts';
import { chosenBy, deriveTree, treeRow, type Rule, type TreeRow } from '../src/records/index.ts';
import { collectingPoints, type TappedTree } from '../src/stand/index.ts';

const metres = fc.integer({ min: -500, max: 500 });
const point = fc.tuple(metres, metres);

describe('outlines', () => {
  // Any geometry text: a triangle is half of base times height.
  it.each([
    [
      'a square of 100 m',
      [
        [0, 0],
        [100, 0],
        [100, 100],
        [0, 100]
      ],
      1
    ],
    [
      'a triangle',
      [
        [0, 0],
        [200, 0],
        [0, 100]
      ],
      1
    ],
    [
      'the other way round',
      [
        [0, 100],
        [200, 0],
        [0, 0]
      ],
      1
    ]
  ] as const)('%s', (_, outline, ha) => expect(outlineAreaHa(outline)).toBeCloseTo(ha, 12));

  it('hold the points of a triangle by the signs of three cross products', () => {
    fc.assert(
      fc.property(point, point, point, point, (a, b, c, p) => {
        const cross = (u: typeof a, v: typeof a) => (v[0] - u[0]) * (p[1] - u[1]) - (v[1] - u[1]) * (p[0] - u[0]);
        const signs = [cross(a, b), cross(b, c), cross(c, a)];
        // On an edge either answer is right.
        fc.pre(signs.every((sign) => sign !== 0));
        const within = signs.every((sign) => sign > 0) || signs.every((sign) => sign < 0);
        expect(insideOutline(p, [a, b, c])).toBe(within);
      })
    );
  });
});

describe('collecting points', () => {
  const trees = fc
    .array(fc.record({ eastM: metres, northM: metres, taps: fc.integer({ min: 0, max: 3 }) }), { maxLength: 40 })
    .map((list) => list.map((tree, i): TappedTree => ({ ...tree, id: String(i) })));
  const far = (a: TappedTree, b: TappedTree) => Math.hypot(a.eastM - b.eastM, a.northM - b.northM);

  it('hold each tree once, within reach, and leave no cluster that would have been worth it', () => {
    fc.assert(
      fc.property(trees, fc.integer({ min: 10, max: 150 }), fc.integer({ min: 1, max: 8 }), (list, reach, least) => {
        const points = collectingPoints(list, reach, least);
        const held = points.flatMap((p) => p.trees.map((tree) => tree.id));
        expect(new Set(held).size).toBe(held.length);
        for (const p of points) {
          expect(p.trees.every((tree) => far(tree, p.at) <= reach + 1e-9)).toBe(true);
          expect(p.taps).toBe(p.trees.reduce((sum, tree) => sum + tree.taps, 0));
          expect(p.taps).toBeGreaterThanOrEqual(least);
        }
        const left = list.filter((tree) => tree.taps > 0 && !held.includes(tree.id));
        for (const tree of list.filter((t) => t.taps > 0))
          expect(left.filter((o) => far(o, tree) <= reach).reduce((sum, o) => sum + o.taps, 0)).toBeLessThan(least);
      })
    );
  });

  it('the first is the best single place there is', () => {
    fc.assert(
      fc.property(trees, (list) => {
        const [first] = collectingPoints(list, 60, 1);
        const best = Math.max(
          0,
          ...list
            .filter((t) => t.taps > 0)
            .map((tree) => list.filter((o) => far(o, tree) <= 60).reduce((sum, o) => sum + o.taps, 0))
        );
        expect(first?.taps ?? 0).toBe(best);
      })
    );
  });
});

describe('rules', () => {
  const line = {
    id: 't',
    tag: '1',
    tagged: true,
    standId: null,
    stemOf: null,
    walkOrder: 0,
    eastM: null,
    northM: null,
    positionQuality: null,
    positionAccuracyM: null
  };
  const row: TreeRow = {
    ...treeRow(line, deriveTree([], { season: 2027, today: '2026-11-23' })),
    species: 'sugarMaple',
    verdict: 'settled',
    dbhMm: 365,
    ringMm: 1.2,
    ownGrowth: 0.8,
    lastReadingOn: '2020-11-23',
    decidedTaps: 1
  };
  const by = (rules: readonly Rule[], change: Partial<TreeRow> = {}) =>
    chosenBy(rules, { ...row, ...change }, '2026-11-23');

  it.each<[Rule, boolean]>([
    [{ field: 'kind', test: 'is', value: 'maple' }, true],
    [{ field: 'species', test: 'isNot', value: 'sugarMaple' }, false],
    [{ field: 'diameter', test: 'atLeast', value: 365 }, true],
    [{ field: 'diameter', test: 'atMost', value: 364 }, false],
    [{ field: 'readingAge', test: 'atLeast', value: 5 }, true],
    [{ field: 'ring', test: 'atLeast', value: 1.3 }, false],
    [{ field: 'taps', test: 'is', value: 1 }, true],
    [{ field: 'stand', test: 'is', value: 'none' }, true]
  ])('%j: %s', (rule, chosen) => expect(by([rule])).toBe(chosen));

  it('all must hold, none chooses everything, and what is not known is chosen by neither side', () => {
    const thick: Rule = { field: 'diameter', test: 'atLeast', value: 300 };
    expect(by([])).toBe(true);
    expect(by([thick, { field: 'taps', test: 'atLeast', value: 2 }])).toBe(false);
    expect(by([thick], { dbhMm: null })).toBe(false);
    expect(by([{ ...thick, test: 'atMost' }], { dbhMm: null })).toBe(false);
    expect(by([{ field: 'ring', test: 'atMost', value: 9 }], { ownGrowth: 0 })).toBe(false);
  });
});
