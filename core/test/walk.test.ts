import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { seededRng } from '../src/math/index.ts';
import { siteFeatureSchema } from '../src/records/index.ts';
import { entranceOf, shortWalk, walkLength, type WalkTree } from '../src/stand/index.ts';

const tree = (id: string, eastM: number | null, northM: number | null, standId: string | null = null): WalkTree => ({
  id,
  standId,
  eastM,
  northM
});
const inOrder = (trees: readonly WalkTree[], ids: readonly string[]) =>
  ids.map((id) => trees.find((t) => t.id === id)!);

describe('a short walk', () => {
  it('goes along a row from its end, wherever the trees stand in the list', () => {
    const row = [3, 0, 4, 1, 2].map((i) => tree(String(i), 5 * i, 0));
    expect(shortWalk(row, { eastM: -3, northM: 0 })).toEqual(['0', '1', '2', '3', '4']);
  });

  it('begins at the way in that was drawn, which is one point', () => {
    const row = [0, 1, 2].map((i) => tree(String(i), 5 * i, 0));
    const wayIn = { id: crypto.randomUUID(), kind: 'entrance' as const, name: 'Gate', points: [[14, 2]] };
    const path = { ...wayIn, kind: 'path' as const, points: [...wayIn.points, [0, 0]] };
    expect(siteFeatureSchema.safeParse({ ...path, kind: 'entrance' }).success).toBe(false);
    expect(siteFeatureSchema.safeParse({ ...wayIn, kind: 'path' }).success).toBe(false);
    const features = [path, wayIn].map((feature) => siteFeatureSchema.parse(feature));
    expect(shortWalk(row, entranceOf(features)!)).toEqual(['2', '1', '0']);
    expect(entranceOf(features.slice(0, 1))).toBeNull();
  });

  it('is near the shortest: 0.7124 sqrt(n A) for many trees scattered evenly (Beardwood, Halton & Hammersley 1959)', () => {
    const rng = seededRng(3);
    const n = 2000;
    const trees = Array.from({ length: n }, (_, i) => tree(String(i), 100 * rng.uniform(), 100 * rng.uniform()));
    const walk = inOrder(trees, shortWalk(trees));
    const shortest = 0.7124 * Math.sqrt(n * 100 * 100);
    expect(walkLength(walk)).toBeLessThan(1.05 * shortest);
    expect(walkLength(walk)).toBeGreaterThan(0.9 * shortest);
  });

  const wood = fc.array(
    fc.record({
      east: fc.option(fc.integer({ min: 0, max: 60 })),
      north: fc.integer({ min: 0, max: 60 }),
      stand: fc.constantFrom('a', 'b', null)
    }),
    { maxLength: 30 }
  );

  it('passes every tree once, stand by stand, those without a place last', () => {
    fc.assert(
      fc.property(wood, (list) => {
        const trees = list.map((t, i) => tree(String(i), t.east, t.east === null ? null : t.north, t.stand));
        const ids = shortWalk(trees);
        expect([...ids].sort()).toEqual(trees.map((t) => t.id).sort());
        const placed = inOrder(trees, ids).filter((t) => t.eastM !== null);
        expect(ids.slice(0, placed.length)).toEqual(placed.map((t) => t.id));
        const changes = placed.filter((t, i) => i > 0 && t.standId !== placed[i - 1]!.standId).length;
        expect(changes).toBeLessThanOrEqual(Math.max(0, new Set(placed.map((t) => t.standId)).size - 1));
      })
    );
  });

  it('is the shortest of all orders for a handful of trees, or nearly', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 })), {
          minLength: 2,
          maxLength: 6
        }),
        (places) => {
          const trees = places.map(([e, n], i) => tree(String(i), e, n));
          const entrance = tree('entrance', 0, 0);
          const length = (list: readonly WalkTree[]) => walkLength([entrance, ...list]);
          const own = length(inOrder(trees, shortWalk(trees, { eastM: 0, northM: 0 })));
          const best = Math.min(...orders(trees).map(length));
          expect(own).toBeLessThanOrEqual(1.2 * best + 1e-6);
        }
      )
    );
  });
});

function orders<T>(values: readonly T[]): T[][] {
  if (values.length < 2) return [[...values]];
  return values.flatMap((value, i) =>
    orders([...values.slice(0, i), ...values.slice(i + 1)]).map((o) => [value, ...o])
  );
}
