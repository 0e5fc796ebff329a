import fc from 'fast-check';
import { expect, it } from 'vitest';

import { readable, type Box } from '../src/lib/ui/keepApart.ts';

const at = (left: number, top: number, width = 10, height = 4): Box => ({
  left,
  top,
  right: left + width,
  bottom: top + height
});

it('of words that lie on each other the first is read; those that only touch are both', () => {
  expect(readable([at(0, 0), at(5, 2), at(10, 0), at(0, 4)])).toEqual([true, false, true, true]);
  // One that is hidden hides no other.
  expect(readable([at(0, 0), at(8, 0), at(16, 0)])).toEqual([true, false, true]);
  expect(readable([])).toEqual([]);
});

it('no two words that are shown share ground, and each hidden one would have lain on a shown one', () => {
  const box = fc.tuple(fc.nat(60), fc.nat(60), fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 8 }));
  const overlap = (a: Box, b: Box) =>
    Math.min(a.right, b.right) > Math.max(a.left, b.left) && Math.min(a.bottom, b.bottom) > Math.max(a.top, b.top);
  fc.assert(
    fc.property(fc.array(box, { maxLength: 25 }), (drawn) => {
      const boxes = drawn.map(([left, top, width, height]) => at(left, top, width, height));
      const shown = readable(boxes);
      const kept = boxes.filter((_, i) => shown[i]);
      kept.forEach((a, i) => kept.slice(i + 1).forEach((b) => expect(overlap(a, b)).toBe(false)));
      boxes.forEach((hidden, i) => {
        if (!shown[i]) expect(kept.some((other) => overlap(hidden, other))).toBe(true);
      });
    })
  );
});
