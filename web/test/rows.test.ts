import {
  conditionOf,
  deriveBush,
  deriveTree,
  effectiveRecords,
  LINE_KINDS,
  onDay,
  treeLine,
  treeRow,
  type TreeRow,
  type WorkRecord
} from '@baumkin/core/records';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { tries } from '../../testing/long.ts';
import { besideOnWalk, rowsOf } from '../src/lib/client/rows.ts';
import { demo, known, lives } from './demoBush.ts';

/*
 * The line of a list and the state of a sheet are told from the same records by two ways: for whatever was recorded, taken
 * back and corrected, in whatever order it came in, they must say the same.
 */

const at = { season: 2027, today: '2026-11-23' };
const all = demo.walk.map((id) => lives.get(id) ?? []);
const longest = all.toSorted((a, b) => b.length - a.length).slice(0, 60);
const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

/** Some of a tree's records, some of another's as if they were its own, some corrected or taken back; in any order. */
const someLife = fc
  .record({
    own: fc.integer({ min: 0, max: longest.length - 1 }),
    other: fc.integer({ min: 0, max: longest.length - 1 }),
    keep: fc.array(fc.boolean(), { minLength: 40, maxLength: 40 }),
    changes: fc.array(fc.record({ which: fc.nat(60), withdrawn: fc.boolean(), with: fc.nat(60) }), { maxLength: 5 }),
    shuffle: fc.array(fc.nat(1000), { minLength: 80, maxLength: 80 })
  })
  .map(({ own, other, keep, changes, shuffle }) => {
    const treeId = longest[own]![0]!.treeId;
    const others = longest[other]!.filter(({ kind }) => kind !== 'entry' && kind !== 'place');
    const records: WorkRecord[] = [
      ...longest[own]!,
      ...others.map((record, i) => ({ ...record, id: uuid(i), treeId }))
    ].filter((record, i) => record.kind === 'entry' || keep[i % keep.length]);
    changes.forEach(({ which, withdrawn, with: n }, i) => {
      const old = records[which % records.length]!;
      if (old.kind === 'entry' && withdrawn) return;
      const said = records.filter(({ kind }) => kind === old.kind);
      const recordedAt = `2026-11-2${i}T08:00:00.000Z`;
      records.push({ ...said[n % said.length]!, id: uuid(900 + i), correctsId: old.id, recordedAt, withdrawn });
    });
    return {
      treeId,
      records: records.toSorted((a, b) => shuffle[records.indexOf(a) % 80]! - shuffle[records.indexOf(b) % 80]!)
    };
  });

describe('a tree in the list and on its sheet', () => {
  it('has one diameter, growth, count, condition and past', () => {
    fc.assert(
      fc.property(someLife, ({ treeId, records }) => {
        const line = treeLine(treeId, 0, records);
        if (!line) return;
        const state = deriveTree(records, at);
        // The list is made from fewer kinds of record than the sheet.
        const row = treeRow(
          line,
          deriveTree(
            records.filter(({ kind }) => LINE_KINDS.includes(kind)),
            at
          )
        );
        expect(row).toEqual(treeRow(line, state));
        expect([row.dbhMm, row.ringMm, row.ringSeMm]).toEqual([
          state.dbhMm,
          state.growth.ringMm,
          state.growth.ringSeMm
        ]);
        expect(row.decidedTaps).toBe(state.decision?.taps ?? null);
        expect([row.cut, row.lastTappedSeason, row.mark]).toEqual([
          state.cut,
          state.lastTappedSeason,
          state.mark?.purpose ?? null
        ]);
        expect(row.questions).toBe(state.questioned.size);
        const seen = conditionOf(row);
        expect(seen === null).toBe(state.assessment === null);
        if (seen)
          expect(state.assessment).toMatchObject({
            diebackPct: seen.diebackPct,
            stressed: seen.stressed,
            oldestOpenHoleYears: seen.oldestOpenHoleYears
          });
        // What was taken back or corrected away is nowhere.
        const holds = new Set(effectiveRecords(records).map(({ id }) => id));
        for (const hole of state.tapholes) expect(holds.has(hole.id)).toBe(true);
      }),
      tries(400)
    );
  });

  it('has the line of another day and other company as if it were derived for them', () => {
    const company = deriveBush(all, at);
    fc.assert(
      fc.property(someLife, fc.constantFrom('2026-11-23', '2026-12-31', '2027-06-01', '2031-02-02'), (life, today) => {
        const line = treeLine(life.treeId, 0, life.records);
        if (!line) return;
        const kept = JSON.parse(JSON.stringify(treeRow(line, deriveTree(life.records, at)))) as TreeRow;
        const there = treeRow(line, deriveTree(life.records, { season: at.season, today }, company));
        expect(onDay(kept, today, company)).toEqual(JSON.parse(JSON.stringify(there)));
      }),
      tries(200)
    );
  });

  it('is the same line from the server and from the device that holds its records', () => {
    const company = deriveBush(all, at);
    fc.assert(
      fc.property(someLife, ({ treeId, records }) => {
        const line = treeLine(treeId, 0, records);
        if (!line) return;
        const fromServer = treeRow(line, deriveTree(records, at, company));
        const lines = [known.find(({ row }) => row.id === treeId)?.row ?? fromServer];
        const here = { waiting: [treeId], recordsOf: () => records, born: [] };
        const [onDevice] = rowsOf(lines, at, company, here);
        expect({ ...onDevice, walkOrder: 0 }).toEqual(fromServer);
      }),
      tries(200)
    );
  });
});

describe('the trees beside one on the walk', () => {
  const row = (tag: string, more: Partial<TreeRow> = {}) =>
    ({ id: tag, tag, tagged: true, cut: null, ...more }) as TreeRow;
  const felled = { id: uuid(1), what: 'felled' } as unknown as TreeRow['cut'];
  const walk = [row('1'), row('2'), row('u1', { tagged: false }), row('3', { cut: felled }), row('4')];
  const tags = (id: string) => besideOnWalk(walk, id).map(({ tag }) => tag);

  it('are the next that bear a tag, felled ones too', () => {
    expect(tags('2')).toEqual(['1', '3']);
    expect(tags('4')).toEqual(['3']);
    expect(tags('u1')).toEqual(['2', '3']);
  });

  it('are told of a felled tree as of any other, and of none that is not there', () => {
    expect(tags('3')).toEqual(['2', '4']);
    expect(tags('elsewhere')).toEqual([]);
  });
});
