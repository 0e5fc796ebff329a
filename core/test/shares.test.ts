import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { helpersByTree, shareRound, type SharedTree } from '../src/bush/index.ts';

/** Trees with so much to do each, in stands named by letters. */
const trees = (...stands: readonly (readonly [string, ...number[]])[]): SharedTree[] =>
  stands.flatMap(([standId, ...works], s) => works.map((work, i) => ({ treeId: `${s}.${i}`, standId, work })));
const works = (...args: Parameters<typeof shareRound>) => shareRound(...args).map(({ helper, work }) => [helper, work]);

describe('a round that is shared', () => {
  it('gives each helper one stretch of about as much work', () => {
    expect(works(trees(['A', 1, 1, 1, 1, 1, 1]), ['Tomke', 'Jorin'])).toEqual([
      ['Tomke', 3],
      ['Jorin', 3]
    ]);
    expect(works(trees(['A', 2, 2, 1, 1, 1, 1, 1]), ['T', 'J', 'H']).map(([, work]) => work)).toEqual([2, 3, 4]);
  });

  it('ends a stretch with a stand where one ends close by', () => {
    expect(works(trees(['A', 1, 1, 1, 1, 1], ['B', 1, 1, 1, 1, 1, 1, 1]), ['T', 'J'])).toEqual([
      ['T', 5],
      ['J', 7]
    ]);
    expect(works(trees(['A', 1], ['B', ...Array<number>(11).fill(1)]), ['T', 'J'])).toEqual([
      ['T', 6],
      ['J', 6]
    ]);
  });

  it('has a stretch for no more helpers than trees', () => {
    expect(works(trees(['A', 2]), ['T', 'J'])).toEqual([['T', 2]]);
    expect(works([], ['T'])).toEqual([]);
  });

  it('leaves nothing out, takes nothing twice, and is never far from even', () => {
    const round = fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 4, maxLength: 60 });
    fc.assert(
      fc.property(round, fc.integer({ min: 1, max: 4 }), (some, many) => {
        const all = trees(['A', ...some]);
        const helpers = Array.from({ length: many }, (_, i) => `H${i}`);
        const stretches = shareRound(all, helpers);
        expect(stretches.reduce((sum, { trees: n }) => sum + n, 0)).toBe(all.length);
        const total = some.reduce((sum, work) => sum + work, 0);
        for (const { work } of stretches) expect(Math.abs(work - total / many)).toBeLessThanOrEqual(3 * many);
        // Told back from where each begins, every tree has the one who took it.
        const by = helpersByTree(
          stretches,
          all.map(({ treeId }) => treeId)
        );
        for (const { helper, fromTreeId, toTreeId } of stretches)
          expect([by.get(fromTreeId), by.get(toTreeId)]).toEqual([helper, helper]);
      })
    );
  });
});

describe('who walks a tree', () => {
  const stretches = [
    { fromTreeId: 'b', helper: 'Tomke' },
    { fromTreeId: 'd', helper: 'Jorin' }
  ];

  it('is told for trees in between, and for those that came since', () => {
    expect([...helpersByTree(stretches, ['a', 'b', 'c', 'd', 'e'])].map(([, who]) => who[0]).join('')).toBe('TTTJJ');
  });

  it('is told although a tree at which a stretch begins is gone, and by nobody where nothing was handed out', () => {
    expect(helpersByTree(stretches, ['a', 'b', 'e']).get('e')).toBe('Tomke');
    expect(helpersByTree([], ['a', 'b']).size).toBe(0);
  });
});
