import { describe, expect, it } from 'vitest';

import { isSick, stopsAhead, wayTo, type Stop } from '../src/bush/index.ts';

const stop = (walkOrder: number, sick = false): Stop => ({ treeId: `t${walkOrder}`, walkOrder, sick });
const order = (stops: readonly Stop[], at: number | null, later: readonly string[] = []) =>
  stopsAhead(stops, { at, later: new Set(later) }).map(({ treeId }) => treeId);

describe('a round, one tree after another', () => {
  const stops = [stop(9), stop(2), stop(4, true), stop(7), stop(1)];

  it('goes along the walk, and sick trees come last', () => {
    expect(order(stops, null)).toEqual(['t1', 't2', 't7', 't9', 't4']);
  });

  it('goes on from where she is, and comes back for what she passed by', () => {
    expect(order(stops, 6)).toEqual(['t7', 't9', 't1', 't2', 't4']);
    expect(order([stop(1), stop(5)], 5)).toEqual(['t1', 't5']);
  });

  it('what was put off comes back after the others, a sick tree still after it', () => {
    expect(order(stops, 1, ['t2'])).toEqual(['t7', 't9', 't1', 't2', 't4']);
    expect(order([stop(4, true), stop(8, true), stop(2)], null, ['t4', 't2'])).toEqual(['t2', 't8', 't4']);
  });

  it('ends where nothing is left', () => expect(order([], 3)).toEqual([]));
});

describe('a sick tree', () => {
  it('is one with what a bit carries on, and no other', () => {
    expect(isSick({ defects: ['canker'], hazards: [] })).toBe(true);
    expect(isSick({ defects: [], hazards: ['conks'] })).toBe(true);
    expect(isSick({ defects: ['seam', 'metal', 'wound'], hazards: ['deadTop', 'lean'] })).toBe(false);
  });
});

describe('the way to the next tree', () => {
  const at = (eastM: number | null, northM: number | null, positionAccuracyM: number | null = 0.2) =>
    ({ eastM, northM, positionQuality: 'surveyed', positionAccuracyM }) as const;

  it('is told in metres and by the compass', () => {
    expect(wayTo(at(10, 10), at(13, 14))).toEqual({ metres: 5, bearingDeg: expect.closeTo(36.87, 2) });
    expect(wayTo(at(0, 0), at(-8, 0))).toEqual({ metres: 8, bearingDeg: 270 });
  });

  it('has no direction where both places are rougher than the way is long, and is not told without places', () => {
    expect(wayTo(at(0, 0, 5), at(6, 0, 5))).toEqual({ metres: 6, bearingDeg: null });
    expect(wayTo(at(0, 0), at(null, null))).toBeNull();
  });
});
