import { seededRng } from '@baumkin/core/math';
import type { Stop } from '@baumkin/core/bush';
import type { Shavings, Taphole } from '@baumkin/core/records';
import { describe, expect, it } from 'vitest';

import type { RoundLine } from '../../src/lib/place/tappingRound.svelte.ts';
import type { Draft } from '../../src/lib/client/recordDraft.ts';
import { lookAt } from '../../src/lib/walk/lookAt.ts';
import { tapStops } from '../../src/lib/walk/tapStops.ts';
import { openBush, store, until, type State } from './device.ts';
import { trees } from './server.ts';

/* A round on this device: where somebody is on it, what was printed of it, and what is left to do. */

const { Walk } = await import('../../src/lib/walk/walk.svelte.ts');
const { PrintedRound } = await import('../../src/lib/place/printedRound.svelte.ts');

const seam = { kind: 'trunkFeature', what: 'seam', bearingDeg: 180, heightMm: 1200, note: '' } as const;
const stop = (i: number): Stop => ({ treeId: trees[i]!.id, walkOrder: i, sick: false });
async function walkOf(bush: State, left: readonly Stop[]) {
  const walk = new Walk(bush, 'tap', () => left);
  await until(() => expect(walk.isRead).toBe(true));
  return walk;
}

describe('a look at one thing of a tree', () => {
  it('leaves open what was not looked at, and keeps what rarely ends', async () => {
    const bush = await openBush();
    const { id } = trees[2]!;
    await bush.loadTree(id);
    const canker = { kind: 'canker' as const, bearingDeg: 90, heightMm: 1100 };
    const known = { ...lookAt(bush, id, {}), defects: [canker], hazards: ['deadTop'], wildlife: ['den'] } as Draft;
    await bush.record(id, known);
    await bush.record(id, lookAt(bush, id, { diebackPct: 20 }));
    await bush.record(id, lookAt(bush, id, { oldestOpenHoleYears: 0 }));
    const { assessment } = bush.stateOf(id);
    expect(assessment).toMatchObject({
      diebackPct: 20,
      oldestOpenHoleYears: 0,
      stressed: null,
      defects: [canker],
      hazards: ['deadTop'],
      wildlife: ['den']
    });
  });
});

describe('a walk', () => {
  it('goes on where it was once the phone is taken out again', async () => {
    const bush = await openBush();
    const left = [stop(0), stop(1), stop(2), stop(3)];
    const walk = await walkOf(bush, left);
    await walk.start();
    expect(walk.stop).toEqual(stop(0));
    await walk.putOff(stop(0));
    // Two holes at the second tree: she is not led away after the first.
    const record = await bush.record(trees[1]!.id, seam);
    walk.did(stop(1), 'Tree: a seam', [record]);
    expect(walk.stop).toEqual(stop(1));
    left.splice(1, 1);
    await walk.pass(stop(1), 'a question');
    expect(walk.stop).toEqual(stop(2));

    const again = await walkOf(bush, left);
    expect([again.started, again.stop, again.passed.has('a question')]).toEqual([true, stop(2), true]);
    expect(again.ahead).toEqual([stop(2), stop(3), stop(0)]);
    expect(again.done.map(({ says }) => says)).toEqual(['Tree: a seam']);
  });

  it('what was done last is taken back at its tree', async () => {
    const bush = await openBush();
    const left = [stop(4), stop(5)];
    const walk = await walkOf(bush, left);
    await bush.loadTree(trees[4]!.id);
    const record = await bush.record(trees[4]!.id, seam);
    walk.did(stop(4), 'Tree: a seam', [record]);
    await walk.putOff(stop(4));
    expect(walk.stop).toEqual(stop(5));
    await walk.takeBack(walk.done[0]!);
    expect([walk.stop, walk.done]).toEqual([stop(4), []]);
    expect(bush.recordsOf(trees[4]!.id).some((r) => r.withdrawn && r.correctsId === record.id)).toBe(true);
  });

  it('takes nothing back while something is written down, and nothing twice', async () => {
    const bush = await openBush();
    const walk = await walkOf(bush, [stop(4), stop(5)]);
    const [before, now] = [trees[4]!.id, trees[5]!.id];
    for (const id of [before, now]) await bush.loadTree(id);
    walk.did(stop(4), 'the one before', [await bush.record(before, seam)]);
    const writing = walk.write(async () => walk.did(stop(5), 'the new one', [await bush.record(now, seam)]));
    expect(walk.busy).toBe(true);
    await Promise.all([writing, walk.takeBack(walk.done[0]!)]);
    expect(walk.done.map(({ says }) => says)).toEqual(['the one before', 'the new one']);
    const newest = walk.done[1]!;
    await Promise.all([walk.takeBack(newest), walk.takeBack(newest)]);
    expect([walk.stop, walk.busy]).toEqual([stop(5), false]);
    expect(bush.recordsOf(now).filter(({ withdrawn }) => withdrawn)).toHaveLength(1);
    await expect(walk.write(() => Promise.reject(new Error('no room')))).rejects.toThrow('no room');
    expect(walk.busy).toBe(false);
  });

  it('begins anew once it was ended, whatever was put off', async () => {
    const bush = await openBush();
    const walk = await walkOf(bush, [stop(0), stop(1)]);
    await walk.start();
    await walk.putOff(stop(0));
    await walk.end();
    expect([walk.started, walk.stop]).toEqual([false, stop(0)]);
  });

  it('keeps no more of what was done than the last thirty things', async () => {
    const bush = await openBush();
    const walk = await walkOf(bush, [stop(0)]);
    for (let i = 0; i < 34; i++) walk.did(stop(0), `${i}`, []);
    expect([walk.done.length, walk.done[0]!.says, walk.done.at(-1)!.says]).toEqual([30, '4', '33']);
  });
});

const hole = (bearingDeg: number, heightMm: number) => ({ bearingDeg, heightMm, pClear: 0.9 });
const line = (row: RoundLine['row'], open: RoundLine['open']) => ({ row, open }) as RoundLine;

describe('the print of a round', () => {
  it('tells which trees have other holes than it names, and stays on the device', async () => {
    const bush = await openBush();
    const [one, two] = [trees[0]!, trees[1]!];
    const paper = new PrintedRound(bush);
    expect([paper.on, paper.isNew(line(one, [hole(10, 900)]))]).toEqual([null, false]);
    await paper.keep([line(one, [hole(10, 900), hole(200, 1100)])]);
    expect(paper.on).toBe(bush.today);

    const later = new PrintedRound(bush);
    await until(() => expect(later.on).toBe(bush.today));
    // One of its holes is drilled by now: what is left was printed.
    expect(later.isNew(line(one, [hole(200, 1100)]))).toBe(false);
    // A hair's breadth is no other place; a hand is.
    expect(later.isNew(line(one, [hole(200.3, 1102)]))).toBe(false);
    expect(later.isNew(line(one, [hole(185, 1100)]))).toBe(true);
    // A tree that was not on the paper is new on it; where all is drilled nothing is.
    expect([later.isNew(line(two, [hole(10, 900)])), later.isNew(line(two, []))]).toEqual([true, false]);
    // Another print of some trees leaves the others as they were printed.
    await later.keep([line(two, [hole(10, 900)])]);
    expect([later.isNew(line(one, [hole(10, 900)])), later.isNew(line(two, [hole(10, 900)]))]).toEqual([false, false]);
    expect(await store.drafts.get(`printed/${bush.id}`)).toBeDefined();
  });
});

describe('what is left to do on a tapping round', () => {
  const by = { memberId: 'me', today: '2027-03-03' };
  const none = new Set<string>();
  const drilled = (id: string, more: Partial<Taphole> = {}) =>
    ({ id, authorId: 'me', on: by.today, ...more }) as Taphole;
  const round = (left: number, holesThisSeason: readonly Taphole[], said: readonly string[] = []) =>
    ({
      row: { ...trees[0]!, defects: [], hazards: [] },
      left,
      state: { holesThisSeason, shavings: new Map(said.map((id) => [id, {} as Shavings])) }
    }) as unknown as RoundLine;
  const asks = (of: RoundLine, passed: ReadonlySet<string> = none) =>
    tapStops([of], by, passed).map((s) => s.asks?.id ?? null);

  it('is a hole to drill, or one of hers of today that she said nothing of', () => {
    expect(asks(round(2, []))).toEqual([null]);
    expect(asks(round(1, [drilled('a')]))).toEqual(['a']);
    expect(asks(round(0, [drilled('a')]))).toEqual(['a']);
    expect(asks(round(0, [drilled('a')], ['a']))).toEqual([]);
  });

  it('is no hole of another, of another day, or that she did not look at', () => {
    expect(asks(round(0, [drilled('a', { authorId: 'other' })]))).toEqual([]);
    expect(asks(round(0, [drilled('a', { on: '2027-03-02' })]))).toEqual([]);
    expect(asks(round(1, [drilled('a')]), new Set(['a']))).toEqual([null]);
  });

  it('asks for the newest hole first, and for each one once', () => {
    const both = [drilled('a'), drilled('b')];
    expect(asks(round(0, both))).toEqual(['b']);
    expect(asks(round(0, both, ['b']))).toEqual(['a']);
  });

  it('never leaves a tree with holes to drill out, whatever was said of the others', () => {
    const rng = seededRng(7);
    for (let i = 0; i < 200; i++) {
      const holes = Array.from({ length: Math.floor(4 * rng.uniform()) }, (_, k) => drilled(`${k}`));
      const said = holes.flatMap(({ id }) => (rng.uniform() < 0.5 ? id : []));
      const left = Math.floor(3 * rng.uniform());
      expect(asks(round(left, holes, said))).toHaveLength(left > 0 || said.length < holes.length ? 1 : 0);
    }
  });
});
