import { describe, expect, it } from 'vitest';

import { crossingsOn, crossingsWith, judgeLines, lineCrossings, partsOfLines, workOfLines } from '../src/bush/index.ts';
import type { BushRecord, PipeLineRecord, SiteFeature } from '../src/records/index.ts';
import { id, levelled, pipe, told, type Told } from './seasonBush.ts';

/* Where lines cross paths: what was decided there, and what a culvert asks for. */

const feature = (n: number, kind: SiteFeature['kind'], eastM: number): SiteFeature => ({
  id: id(n),
  kind,
  name: `${kind} ${n}`,
  points: [
    [eastM, -20],
    [eastM, 20]
  ]
});
const main = (crossings: PipeLineRecord['crossings'] = [], more: object = {}) =>
  pipe('Main', {
    use: 'main',
    boreMm: 19.1,
    held: 'wire',
    spanM: 5,
    points: [
      [0, 0],
      [100, 0]
    ],
    crossings,
    ...more
  });
const judged = (line: PipeLineRecord, ...records: BushRecord[]) => judgeLines([line, ...records], [])[0]!;
const features = [feature(1, 'path', 60), feature(2, 'fence', 20), feature(3, 'boundary', 80)];

describe('what a line crosses', () => {
  it('is told from its upper end down, and only of a path it is asked how', () => {
    const found = lineCrossings(judged(main()), features);
    expect(found.map(({ feature: { kind }, alongM, asks, decided }) => [kind, alongM, asks, decided])).toEqual([
      ['fence', 20, false, null],
      ['path', 60, true, null]
    ]);
  });
  it('keeps what was decided while line and path still meet nearby, and loses it where they do not', () => {
    const [, path] = lineCrossings(judged(main()), features);
    const decided = { how: 'culvert', insulated: true } as const;
    const line = main(crossingsWith(main(), path!, decided));
    expect(lineCrossings(judged(line), [feature(1, 'path', 64)])[0]!.decided).toEqual(decided);
    expect(lineCrossings(judged(line), [feature(1, 'path', 75)])[0]!.decided).toBeNull();
    // Decided anew, it replaces what was; taken back, it is open.
    const anew = crossingsWith(line, path!, { how: 'overhead', insulated: false });
    expect(anew).toEqual([{ at: [60, 0], how: 'overhead', insulated: false }]);
    expect(crossingsWith(line, path!, null)).toEqual([]);
    expect(
      crossingsOn(
        [
          [0, 3],
          [100, 3]
        ],
        line.crossings
      )
    ).toHaveLength(1);
    expect(
      crossingsOn(
        [
          [0, 30],
          [100, 30]
        ],
        line.crossings
      )
    ).toEqual([]);
  });
  it('tells whether it falls through a culvert, as far as it was levelled there', () => {
    const fallOf = (...heights: readonly (readonly [number, number])[]) => {
      const line = main();
      const records = heights.length > 0 ? [levelled(line.id, heights)] : [];
      return lineCrossings(judged(line, ...records), [feature(1, 'path', 60)])[0]!.fall;
    };
    expect(fallOf()).toBe('notLevelled');
    expect(fallOf([0, 20], [50, 17], [70, 16], [100, 14])).toBeNull();
    expect(fallOf([0, 20], [50, 17], [70, 17.3], [100, 14])).toEqual({ fault: 'dip', surety: 'sure' });
    expect(fallOf([0, 20], [50, 17], [70, 16.8], [100, 14])).toEqual({ fault: 'flat', surety: 'sure' });
    const air = main([], { use: 'air' });
    expect(lineCrossings(judged(air), [feature(1, 'path', 60)])[0]!.fall).toBeNull();
    // A dip far from the path is none of the culvert's.
    expect(fallOf([0, 17], [30, 17.4], [40, 16.9], [70, 15.5], [100, 14])).toBeNull();
  });
});

describe('what crossings, bends and a pump take', () => {
  const tank = (vacuum: boolean) =>
    told({
      kind: 'collectingPlace',
      on: '2027-02-01',
      name: 'Tank',
      vessel: 'tank',
      vacuum,
      litres: 500,
      carrier: 'vehicle',
      treeIds: []
    } as Told);
  const needed = (records: readonly BushRecord[], what: string) =>
    partsOfLines(judgeLines(records, [])).find((part) => part.what === what)?.needed ?? 0;

  it('is on the list of parts, and in the hours', () => {
    const line = main([{ at: [60, 0], how: 'culvert', insulated: true }], {
      points: [
        [0, 0],
        [50, 2],
        [100, 0],
        [100, 60]
      ]
    });
    expect(needed([line], 'culvert')).toBe(5);
    expect(needed([line], 'sleeve')).toBe(7);
    // The gentle bend holds by itself.
    expect(needed([line], 'sideTies')).toBe(1);
    const hours = (of: PipeLineRecord) => workOfLines(judgeLines([of], [])).build;
    expect(hours(line) - hours({ ...line, crossings: [] })).toBeCloseTo(3, 9);
  });
  it('under a pump is a releaser at the tank, and with an air line a jumper at each spur; and an air line makes room', () => {
    const laid = (vacuum: boolean, air: boolean): BushRecord[] => {
      const place = tank(vacuum);
      const line = main([], { placeId: place.id });
      const spur = pipe('Spur', { use: 'spur', intoId: line.id });
      return [place, line, spur, ...(air ? [pipe('Air', { use: 'air', placeId: place.id })] : [])];
    };
    expect([needed(laid(false, true), 'releasers'), needed(laid(true, false), 'releasers')]).toEqual([0, 1]);
    expect([needed(laid(true, false), 'jumpers'), needed(laid(true, true), 'jumpers')]).toEqual([0, 1]);
    const bears = (records: readonly BushRecord[]) => judgeLines(records, []).find(({ line }) => line.name === 'Main')!;
    const without = bears(laid(true, false));
    expect(without.bearsWithAir).toBe(bears(laid(true, true)).bears);
    expect(without.bearsWithAir).toBeGreaterThan(2 * without.bears);
    expect(bears(laid(false, false)).bearsWithAir).toBeNull();
  });
});
