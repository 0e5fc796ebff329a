import { describe, expect, it } from 'vitest';

import { comingToSize, costOfTheThinnest, tappedTrees } from '../src/bush/index.ts';
import { basalAreaFactors, stickMarks } from '../src/cruise/index.ts';
import { meanFix, phoneFix, receiverFix } from '../src/geometry/index.ts';
import {
  bushSettingsSchema,
  deriveTree,
  mayTakeBack,
  standSchema,
  treeRow,
  type Tree,
  type TreeRow
} from '../src/records/index.ts';

/* What is decided of a bush as a whole, by figures that can be worked by hand. */

const settings = bushSettingsSchema.parse({});
const TODAY = '2026-11-23';
const line = (id: string): Tree => ({
  id,
  tag: id,
  tagged: true,
  standId: 'hill',
  stemOf: null,
  walkOrder: 0,
  eastM: 10,
  northM: 20,
  positionQuality: 'surveyed',
  positionAccuracyM: null
});
/** A settled sugar maple. */
const maple = (id: string, change: Partial<TreeRow> = {}): TreeRow => ({
  ...treeRow(line(id), deriveTree([], { season: 2027, today: TODAY })),
  ...line(id),
  verdict: 'settled',
  species: 'sugarMaple',
  dbhMm: 400,
  ringMm: 1,
  ringSeMm: 0.2,
  ...change
});

describe('trees that come to size', () => {
  // By the bush's default: one tap from 12 in (304.8 mm), two over 18 in (457.2 mm); both sides of a trunk lay a ring.
  const rows = [
    maple('now', { dbhMm: 460 }),
    maple('soon', { dbhMm: 300, ringMm: 1.2 }),
    maple('later', { dbhMm: 450, ringMm: 0.6 }),
    maple('never', { dbhMm: 150 }),
    maple('unknown', { dbhMm: null })
  ];
  const coming = comingToSize(rows, settings);

  it('are those within ten years, the soonest first, with the years worked by hand', () => {
    expect(coming.map(({ row, at }) => [row.id, at.taps])).toEqual([
      ['soon', 1],
      ['later', 2]
    ]);
    expect(coming[0]!.at.years).toBeCloseTo((304.8 - 300) / (2 * 1.2), 9);
    expect(coming[1]!.at.years).toBeCloseTo((457.2 - 450) / (2 * 0.6), 9);
  });

  it('what the thinnest of them costs is told of trees without a tap yet, and of none where there is none', () => {
    const cost = costOfTheThinnest(coming, settings)!;
    // Tapped too early the same holes stain a larger share of a smaller band.
    expect(cost.now).toBeGreaterThan(cost.then);
    expect(cost.then).toBeGreaterThan(0);
    expect(costOfTheThinnest(coming.slice(1), settings)).toBeNull();
  });
});

describe('taps on the map', () => {
  const stand = (purpose: string) =>
    standSchema.parse({ id: '00000000-0000-4000-8000-000000000001', name: 'Hill', purpose, outline: null, areaHa: 1 });
  const at = (purpose: string) => ({ today: TODAY, standOf: () => stand(purpose) });

  it('are those that were decided; where none are, those that its size allows; none without a place', () => {
    const found = tappedTrees(
      [
        maple('decided', { decidedTaps: 2 }),
        maple('rests', { decidedTaps: 0 }),
        maple('by size', { dbhMm: 320 }),
        maple('too thin', { dbhMm: 300 }),
        maple('nowhere', { decidedTaps: 1, eastM: null }),
        maple('no maple', { decidedTaps: 1, verdict: 'notMaple', species: 'beech' })
      ],
      settings,
      at('syrup')
    );
    expect(found.map(({ id, taps, decided }) => [id, taps, decided])).toEqual([
      ['decided', 2, true],
      ['by size', 1, false]
    ]);
  });

  it('hang nowhere in a stand that is kept for something else', () => {
    expect(tappedTrees([maple('decided', { decidedTaps: 2 })], settings, at('wildlife'))).toEqual([]);
  });
});

describe('gauges', () => {
  it('a stick has its marks where Avery & Burkhart’s Biltmore stick has them, 25 in reach, to a hundredth of an inch', () => {
    const marks = stickMarks(25 * 25.4, 'inch');
    for (const [inches, at] of [
      [10, 8.45],
      [20, 14.91],
      [30, 20.23]
    ] as const)
      expect(marks.find(({ diameter }) => diameter === inches)!.atMm / 25.4).toBeCloseTo(at, 2);
    expect(marks.every(({ atMm }, i) => i === 0 || atMm > marks[i - 1]!.atMm)).toBe(true);
    expect(marks.filter(({ numbered }) => numbered).map(({ diameter }) => diameter % 2)).not.toContain(1);
  });

  it('ten square feet to the acre are 2.296 square metres to the hectare', () => {
    expect(basalAreaFactors('inch').find(({ name }) => name === '10 ft²/ac')!.bafM2PerHa).toBeCloseTo(2.2957, 4);
    expect(basalAreaFactors('metric').map(({ bafM2PerHa }) => bafM2PerHa)).toEqual([1, 2, 4]);
  });
});

describe('fixes', () => {
  const here = { lat: 44.5, lon: -73.2 };

  it('a receiver errs by three metres for each unit of dilution, twice that where it does not say', () => {
    expect(receiverFix({ ...here, hdop: 1.4 }).sdM).toBeCloseTo(4.2, 9);
    expect(receiverFix({ ...here, hdop: 0 }).sdM).toBe(6);
  });

  it('many of one receiver are better than one, slowly: half a minute of them is one more look', () => {
    const many = Array.from({ length: 31 }, () => receiverFix({ ...here, hdop: 1 }));
    expect(meanFix(many)!.accuracyM).toBeCloseTo(3 / Math.sqrt(2), 9);
    expect(meanFix(many)).toMatchObject({ lat: 44.5, lon: -73.2, fixes: 31 });
    expect(meanFix([])).toBeNull();
  });

  it('a phone’s are never told as nearer than three metres, however many', () => {
    const many = Array.from({ length: 3000 }, () => phoneFix({ latitude: 44.5, longitude: -73.2, accuracy: 4 }));
    expect(meanFix(many)!.accuracyM).toBe(3);
    expect(phoneFix({ latitude: 0, longitude: 0, accuracy: 30 }).sdM).toBe(20);
  });
});

describe('a record is taken back', () => {
  const [hedda, tomke] = ['00000000-0000-4000-8000-0000000000a1', '00000000-0000-4000-8000-0000000000a2'] as const;
  const written = { kind: 'reading', authorId: tomke, recordedAt: '2027-03-03T15:20:00.000Z' } as const;
  const by = (memberId: string, role: 'steward' | 'crew' | 'viewer', today: string) =>
    mayTakeBack(written, { memberId, role, today });

  it('by crew, their own alone, until the next day is over', () => {
    expect([by(tomke, 'crew', '2027-03-03'), by(tomke, 'crew', '2027-03-04')]).toEqual([true, true]);
    expect([by(tomke, 'crew', '2027-03-05'), by(hedda, 'crew', '2027-03-03')]).toEqual([false, false]);
    expect(by(tomke, 'viewer', '2027-03-03')).toBe(false);
  });

  it('by stewards always', () => expect(by(hedda, 'steward', '2031-01-01')).toBe(true));

  it('and a tree leaves the book by a steward’s hand alone, also one that crew wrote into it', () => {
    const entry = { ...written, kind: 'entry' } as const;
    expect(mayTakeBack(entry, { memberId: tomke, role: 'crew', today: '2027-03-03' })).toBe(false);
    expect(mayTakeBack(entry, { memberId: hedda, role: 'steward', today: '2027-03-03' })).toBe(true);
  });

  it('the last day of a month is followed by the first of the next', () => {
    const old = { ...written, recordedAt: '2027-02-28T23:10:00.000Z' };
    expect(mayTakeBack(old, { memberId: tomke, role: 'crew', today: '2027-03-01' })).toBe(true);
  });
});
