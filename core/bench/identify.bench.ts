import { bench, describe } from 'vitest';

import { judge, LOOK_SEASONS, nextLooks, type Evidence } from '../src/identify/index.ts';
import { identifyMany } from '../test/looks.ts';

// Not a time but a quality: how many looks it takes to tell a tree, and how often the verdict is right.
console.table(
  LOOK_SEASONS.flatMap((woods) =>
    (['best', 'trade'] as const).map((asking) => {
      const { looks, right, wrong } = identifyMany(asking, woods, 2000, 7);
      return { woods, asking, looks: looks.toFixed(2), right: right.toFixed(3), wrong: wrong.toFixed(3) };
    })
  )
);

const seen: Evidence = { arrangement: 'opposite', budColour: 'brown', barkGrown: 'furrows', ground: 'moist' };

describe('one tree', () => {
  bench('judge four clues', () => void judge(seen, 'grown'));
  bench('find the next best look', () => void nextLooks(seen, 'grown', 'bare'));
});
