import { effectiveRecords, recordSchema, type TreeRow } from '@baumkin/core/records';
import { describe, expect, it } from 'vitest';

import { lineDraft, writeDown, writeDownOfBush, type Draft } from '../../src/lib/client/recordDraft.ts';
import { counted } from '../../src/lib/labels/counted.ts';

/* A draft becomes a record on the device: complete, checked, and in its writer's name. */

const writer = { authorId: '4f9c2f7e-7f2f-4d43-9c4e-0d7a3c6f1a09', today: '2026-11-23' };
const TREE = '4f9c2f7e-7f2f-4d43-9c4e-0d7a3c6f1a02';
const reading: Draft = {
  kind: 'reading',
  quantity: 'girth',
  valueMm: 1234,
  asWritten: '123.4 cm',
  method: 'girthTape',
  heightMm: 1300
};

describe('a draft', () => {
  it('gets an id of its own, its tree, its day, its moment and its writer', () => {
    const [a, b] = [writeDown(TREE, reading, writer), writeDown(TREE, reading, writer)];
    expect(a).toMatchObject({
      treeId: TREE,
      on: '2026-11-23',
      authorId: writer.authorId,
      correctsId: null,
      withdrawn: false
    });
    expect(a.id).not.toBe(b.id);
    expect(Math.abs(Date.parse(a.recordedAt) - Date.now())).toBeLessThan(60_000);
    // What the schema fills in is there: the server would say the same of it.
    const { authorId: _author, ...sent } = a;
    expect(recordSchema.parse(sent)).toEqual(sent);
  });

  it('of an earlier day keeps that day', () => {
    expect(writeDown(TREE, { ...reading, on: '2019-10-04' }, writer).on).toBe('2019-10-04');
  });

  it('that no schema lets in is never written down', () => {
    expect(() => writeDown(TREE, { ...reading, valueMm: -5 } as Draft, writer)).toThrow();
    expect(() => writeDown('no tree', reading, writer)).toThrow();
    expect(() => writeDownOfBush({ kind: 'plot' } as never, writer)).toThrow();
  });

  it('that corrects another stands in its place; one that withdraws it leaves none', () => {
    const first = writeDown(TREE, reading, writer);
    const better = writeDown(TREE, { ...reading, valueMm: 1240, correctsId: first.id }, writer);
    expect(effectiveRecords([first, better]).map(({ id }) => id)).toEqual([better.id]);
    const gone = writeDown(TREE, { ...reading, correctsId: better.id, withdrawn: true }, writer);
    expect(effectiveRecords([first, better, gone])).toEqual([]);
  });
});

describe('a tree’s line', () => {
  const row = { tag: '12', tagged: true, standId: null, stemOf: null } as TreeRow;

  it('is drafted as it stands, in the place of the last entry where there is one', () => {
    const fresh = writeDown(TREE, lineDraft(row, null), writer);
    expect(fresh).toMatchObject({ kind: 'entry', tag: '12', afterId: null, correctsId: null });
    if (fresh.kind !== 'entry') throw new Error('not an entry');
    expect(writeDown(TREE, lineDraft(row, fresh), writer).correctsId).toBe(fresh.id);
  });
});

describe('what is counted', () => {
  it('is said in the singular where it is one, and by its own plural where it has one', () => {
    expect([0, 1, 2].map((n) => counted(n, 'tree'))).toEqual(['0 trees', '1 tree', '2 trees']);
    expect([1, 3].map((n) => counted(n, 'tap is', 'taps are'))).toEqual(['1 tap is', '3 taps are']);
  });
});
