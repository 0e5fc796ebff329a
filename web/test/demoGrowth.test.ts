import { datedDiameter } from '@baumkin/core/records';
import { expect, it } from 'vitest';

import { foretold } from '../../core/test/foretold.ts';
import { known } from './demoBush.ts';

it('the growth of the demo’s trees is told from the bush better than from each tree, the default or the plain mean', () => {
  // Self-consistency: the demo is made up, by a growth of its own. The last reading of each tree is held back.
  const trees = known.flatMap(({ row, state: { readings, questioned } }) => {
    const trusted = readings.filter(({ id }) => !questioned.has(id)).map(datedDiameter);
    return trusted.length > 2 ? [{ tree: row, readings: trusted }] : [];
  });
  expect(trees.length).toBeGreaterThan(300);
  const found = foretold(trees);
  expect(found.learned).toBeLessThan(0.95 * Math.min(found.usual, found.plain, found.own));
  expect(found.learned).toBeLessThan(found.classesAlone);
  expect(found.held).toBeGreaterThan(0.75);
  expect(found.held).toBeLessThan(0.85);
});
