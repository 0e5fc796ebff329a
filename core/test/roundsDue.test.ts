import { describe, expect, it } from 'vitest';

import { closingDue, crownDue, paintingDue, pullingDue, seenOn } from '../src/bush/index.ts';
import { deriveTree, recordSchema, spoutsIn, treeRow, type TreeRow, type WorkRecord } from '../src/records/index.ts';

/* At which trees a round stops: each told from records, as they would be written. */

const TODAY = '2026-11-23';
const id = (n: number) => `00000000-0000-4000-9000-${String(n).padStart(12, '0')}`;
let made = 0;
function written(on: string, fields: object): WorkRecord {
  return recordSchema.parse({ id: id(++made), treeId: id(900), on, recordedAt: `${on}T10:00:00.000Z`, ...fields });
}
const TREE = {
  id: id(900),
  tag: '41',
  tagged: true,
  standId: null,
  stemOf: null,
  eastM: 0,
  northM: 0,
  positionQuality: 'surveyed',
  positionAccuracyM: null,
  walkOrder: 0
} as const;
const rowOf = (records: readonly WorkRecord[], season = 2027): TreeRow =>
  treeRow(TREE, deriveTree(records, { season, today: TODAY }));
const maple = written('2020-06-01', {
  kind: 'determination',
  verdict: 'settled',
  species: 'sugarMaple',
  probability: 0.99,
  age: 'grown',
  basis: 'declared',
  lookSeason: null,
  evidence: {},
  note: ''
});
const size = written('2022-10-01', {
  kind: 'reading',
  quantity: 'diameter',
  valueMm: 400,
  asWritten: '40 cm',
  method: 'diameterTape',
  heightMm: 1300
});
const look = (on: string, more: object) =>
  written(on, {
    kind: 'assessment',
    diebackPct: null,
    crownClass: null,
    oldestOpenHoleYears: null,
    stressed: null,
    ...more
  });
const hole = (season: number) =>
  written(`${season}-02-20`, { kind: 'taphole', season, bearingDeg: 90, heightMm: 1200, bitMm: 7.94, depthMm: 38 });

describe('a crown', () => {
  const due = (...looks: WorkRecord[]) => crownDue(rowOf([maple, size, ...looks]), null, TODAY);
  it('is looked up at where nobody did, or too long ago', () => {
    expect(due()).toBe(true);
    expect(due(look('2025-10-01', { diebackPct: 5 }))).toBe(false);
    expect(due(look('2021-10-01', { diebackPct: 5 }))).toBe(true);
    // Somebody was there, and did not look up.
    expect(due(look('2026-10-01', { oldestOpenHoleYears: 0 }))).toBe(true);
  });
  it('is no matter on a tree without a size, or that is no maple', () => {
    expect(crownDue(rowOf([maple]), null, TODAY)).toBe(false);
    expect(crownDue(rowOf([size]), null, TODAY)).toBe(false);
  });
});

describe('a look', () => {
  it('at another thing is none at this one', () => {
    const row = rowOf([maple, look('2024-07-01', { diebackPct: 10 }), look('2026-11-01', { oldestOpenHoleYears: 0 })]);
    expect(seenOn(row, 'diebackPct')).toBe('2024-07-01');
    expect(seenOn(row, 'oldestOpenHoleYears')).toBe('2026-11-01');
    expect(seenOn(rowOf([maple]), 'diebackPct')).toBeNull();
  });
});

describe('spouts', () => {
  const pulled = (season: number, spouts = 1) => written(`${season}-04-10`, { kind: 'pulling', season, spouts });
  it('are in until somebody wrote that they are out', () => {
    expect(pullingDue(rowOf([hole(2027)]), 2027)).toBe(true);
    expect(pullingDue(rowOf([hole(2027), pulled(2027)]), 2027)).toBe(false);
    expect(pullingDue(rowOf([hole(2026), pulled(2026), hole(2027)]), 2027)).toBe(true);
    expect(pullingDue(rowOf([hole(2026)]), 2027)).toBe(false);
  });

  it('that stayed in are pulled another time: their holes do not close', () => {
    const two = [hole(2027), { ...hole(2027), bearingDeg: 270 } as WorkRecord];
    const after = (...pullings: WorkRecord[]) => spoutsIn(rowOf([...two, ...pullings]), 2027);
    expect(after()).toBe(2);
    expect(after(pulled(2027, 1))).toBe(1);
    expect(pullingDue(rowOf([...two, pulled(2027, 1)]), 2027)).toBe(true);
    expect(after(pulled(2027, 1), pulled(2027, 2))).toBe(0);
    expect(after(pulled(2026, 2))).toBe(2);
  });
});

describe('old holes', () => {
  const due = (today: string, ...records: WorkRecord[]) => closingDue(rowOf(records), today);
  it('are looked at once a summer went over them, and once for each summer', () => {
    expect(due('2026-11-23', hole(2026))).toBe(true);
    expect(due('2026-05-01', hole(2026))).toBe(false);
    expect(due('2026-11-23', hole(2026), look('2026-10-01', { oldestOpenHoleYears: 0 }))).toBe(false);
    expect(due('2027-11-23', hole(2026), look('2026-10-01', { oldestOpenHoleYears: 0 }))).toBe(true);
    // A later look that left them open says nothing of them.
    expect(
      due(
        '2027-11-23',
        hole(2026),
        look('2026-10-01', { oldestOpenHoleYears: 0 }),
        look('2027-10-01', { diebackPct: 5 })
      )
    ).toBe(true);
  });
  it('are left alone where there are none, or none of these years', () => {
    expect(due('2026-11-23')).toBe(false);
    expect(due('2026-11-23', hole(2022))).toBe(false);
    expect(due('2026-11-23', hole(2023))).toBe(true);
  });
});

describe('a mark', () => {
  const mark = written('2026-10-01', { kind: 'mark', purpose: 'take', reason: 'crowds 44' });
  const again = written('2026-11-01', { kind: 'mark', purpose: 'girdle', reason: '' });
  const paint = written('2026-10-05', { kind: 'painted', markId: mark.id });
  it('is painted once, and anew where it is another one since', () => {
    expect(paintingDue(rowOf([mark]))).toBe(true);
    expect(paintingDue(rowOf([mark, paint]))).toBe(false);
    expect(paintingDue(rowOf([mark, paint, again]))).toBe(true);
    expect(paintingDue(rowOf([written('2026-10-01', { kind: 'mark', purpose: 'keep', reason: '' })]))).toBe(false);
    expect(paintingDue(rowOf([mark, written('2026-10-09', { kind: 'cut', what: 'felled' })]))).toBe(false);
  });
});
