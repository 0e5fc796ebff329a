import type { StripDay } from '@baumkin/core/bush';
import { dayAfter, runIndex, runReason } from '@baumkin/core/season';
import { bench, describe } from 'vitest';

import { ribbonOf } from '../src/lib/season/ribbon.ts';

describe('the strip', () => {
  const seasons = Array.from({ length: 20 }, (_, i) => {
    const from = `${2007 + i}-01-10`;
    const days = Array.from({ length: 126 }, (_, at): StripDay => {
      const middle = -8 + 0.18 * at + 4 * Math.sin(at / 3 + i);
      const day = { minC: middle - 5, maxC: middle + 5 };
      return { on: dayAfter(from, at), ...day, from: 'station', sdC: 0, index: runIndex(day), reason: runReason(day) };
    });
    return { days, paper: { width: 900, height: 210, from, until: dayAfter(from, 125) } };
  });

  bench('ribbons of twenty seasons (wanted: within 100 ms)', () => {
    for (const { days, paper } of seasons) ribbonOf(days, paper);
  });
});
