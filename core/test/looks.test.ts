import { describe, expect, it } from 'vitest';

import { identifyMany } from './looks.ts';

// 2,000 specimens drawn from the clue table with its own noise; both ways stop by the same rule of verdicts.
describe('asking by next best look (self-consistency: specimens drawn from the clue table)', () => {
  it.each(['bare', 'leaf'] as const)(
    'takes a third fewer looks than the order of the trade when the woods are %s, and is right no less often',
    (season) => {
      const best = identifyMany('best', season, 2000, 7);
      const trade = identifyMany('trade', season, 2000, 7);
      expect(best.looks).toBeLessThan((2 / 3) * trade.looks);
      expect(best.right).toBeGreaterThanOrEqual(trade.right);
      expect(best.wrong).toBeLessThan(0.02);
    },
    120_000
  );
});
