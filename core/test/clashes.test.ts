import { describe, expect, it } from 'vitest';

import { clashesOf, holeAt } from '../src/bush/index.ts';
import { recordSchema, type Taphole, type WorkRecord } from '../src/records/index.ts';

/* Two people at one tree who did not know of each other. */

const [TOMKE, JORIN, HEDDA] = ['1', '2', '3'].map((n) => `00000000-0000-4000-8000-00000000000${n}`);
const id = (n: number) => `00000000-0000-4000-9000-${String(n).padStart(12, '0')}`;
const TREE = id(999);
let made = 0;

/** A record of a winter morning. */
function said(by: string | undefined, fields: object, at = `2027-02-20T0${++made % 10}:00:00.000Z`): WorkRecord {
  const record = { id: id(++made), treeId: TREE, on: at.slice(0, 10), recordedAt: at, ...fields };
  return { ...recordSchema.parse(record), ...(by ? { authorId: by } : {}) };
}
const hole = (by: string | undefined, bearingDeg: number, at: string, heightMm = 1200) =>
  said(by, { kind: 'taphole', season: 2027, bearingDeg, heightMm, bitMm: 7.94, depthMm: 38 }, at);
const count = (taps: number, at = '2026-11-20T10:00:00.000Z') =>
  said(HEDDA, { kind: 'decision', season: 2027, taps, suggested: taps, binding: 'size' }, at);
const takenBack = (record: WorkRecord) =>
  ({ ...record, id: id(++made), correctsId: record.id, withdrawn: true }) as WorkRecord;
const found = (...records: WorkRecord[]) => clashesOf(records, 2027);

const first = hole(TOMKE, 90, '2027-02-20T09:00:00.000Z');
const far = hole(JORIN, 180, '2027-02-20T09:10:00.000Z');
const same = hole(JORIN, 95, '2027-02-20T09:20:00.000Z', 1210);

describe('holes of two people on one tree', () => {
  it('go together where they are those that were decided', () => {
    expect(found(count(2), first, far)).toEqual([]);
    expect(found(first, far)).toEqual([]);
  });

  it('are asked about where they are at one spot, whoever wrote them', () => {
    expect(found(count(2), first, same)).toEqual([{ about: 'sameSpot', tapholeIds: [first.id, same.id] }]);
    const twice = hole(TOMKE, 90, '2027-02-20T09:01:00.000Z');
    expect(found(count(1), twice, first)).toEqual([{ about: 'sameSpot', tapholeIds: [first.id, twice.id] }]);
    // On a trunk of 30 cm, 40 mm along the bark are 15 degrees.
    expect(found(count(2), first, hole(JORIN, 104, '2027-02-20T09:02:00.000Z'))).toHaveLength(1);
    expect(found(count(2), first, hole(JORIN, 107, '2027-02-20T09:02:00.000Z'))).toEqual([]);
  });

  it('are looked for before another is written down: within what a hand places exactly', () => {
    expect(holeAt({ bearingDeg: 93, heightMm: 1200 }, [far, first] as Taphole[], 150)).toBe(first);
    expect(holeAt({ bearingDeg: 107, heightMm: 1200 }, [far, first] as Taphole[], 150)).toBeNull();
  });

  it('are asked about where they are more than were decided, two at one spot counted as one', () => {
    expect(found(count(1), first, far)).toEqual([{ about: 'tooMany', tapholeIds: [first.id, far.id] }]);
    expect(found(count(2), first, far, same).map(({ about }) => about)).toEqual(['sameSpot']);
  });

  it('are no question any more once one of them was taken back', () => {
    expect(found(count(1), first, far, takenBack(far))).toEqual([]);
    expect(found(count(2), first, same, takenBack(same))).toEqual([]);
  });

  it('of another season are history', () => expect(clashesOf([count(1), first, far], 2028)).toEqual([]));
});

describe('a hole on a tree that is not to be tapped', () => {
  const banned = (at: string, by = HEDDA) => said(by, { kind: 'tapBan', reasons: ['salt'] }, at);

  it('is asked about, whichever of the two was written first', () => {
    const asked = [{ about: 'resting', tapholeIds: [first.id] }];
    expect(found(count(0), first)).toEqual(asked);
    expect(found(count(1), first, count(0, '2027-02-20T12:00:00.000Z'))).toEqual(asked);
    expect(found(count(1), banned('2027-02-20T08:00:00.000Z'), first)).toEqual(asked);
    expect(found(count(1), first, banned('2027-02-21T08:00:00.000Z'))).toEqual(asked);
    const ash = said(
      HEDDA,
      {
        kind: 'determination',
        verdict: 'notMaple',
        species: 'whiteAsh',
        probability: 0.99,
        age: 'grown',
        basis: 'declared',
        lookSeason: null,
        evidence: {},
        note: ''
      },
      '2027-02-20T07:00:00.000Z'
    );
    expect(found(count(1), ash, first)).toEqual(asked);
  });

  it('is none where one person wrote both, who knew', () =>
    expect(found(count(1), banned('2027-02-20T08:00:00.000Z', TOMKE), first)).toEqual([]));

  it('is none where the ban had run out', () => {
    const over = said(HEDDA, { kind: 'tapBan', reasons: ['sprayed'], until: '2027-01-31' }, '2026-09-01T08:00:00.000Z');
    expect(found(count(1), over, first)).toEqual([]);
  });
});

describe('a hole on a tree that is gone', () => {
  const felled = (at: string) => said(HEDDA, { kind: 'cut', what: 'felled' }, at);
  const entry = said(HEDDA, { kind: 'entry', tag: '41', standId: null }, '2020-05-01T08:00:00.000Z');
  const out = { ...takenBack(entry), on: '2027-02-20', recordedAt: '2027-02-20T08:00:00.000Z' } as WorkRecord;

  it('is asked about where it was drilled on that day or after', () => {
    expect(found(count(1), first, felled('2027-02-20T12:00:00.000Z'))).toEqual([
      { about: 'gone', tapholeIds: [first.id] }
    ]);
    expect(found(entry, count(1), out, first)).toEqual([{ about: 'gone', tapholeIds: [first.id] }]);
  });

  it('is none where it ran before the tree was felled', () =>
    expect(found(count(1), first, felled('2027-05-20T12:00:00.000Z'))).toEqual([]));
});
