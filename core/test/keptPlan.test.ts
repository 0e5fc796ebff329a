import { beforeAll, describe, expect, it } from 'vitest';

import { placementOf, rotationToKeep, type TreePlacement } from '../src/bush/index.ts';
import { wrapDegrees } from '../src/math/index.ts';
import { DEFAULT_BUSH_SETTINGS, deriveTree, type BushSettings, type WorkRecord } from '../src/records/index.ts';
import { PlacedTrunk } from '../src/rotation/index.ts';
import { recordMaker } from './makeRecord.ts';

/* The plan of a trunk as a record of the book: made once, kept through days and seasons, changed for a reason. */

const TREE = '00000000-0000-4000-8000-00000000000a';
const record = recordMaker(TREE);
const decided = (season: number, taps = 1) =>
  record({ kind: 'decision', on: `${season - 1}-11-01`, season, taps, suggested: taps, binding: 'size' });
const girth = (on: string, valueMm: number) =>
  record({
    kind: 'reading',
    on,
    quantity: 'girth',
    valueMm,
    asWritten: String(valueMm / 10),
    method: 'girthTape',
    heightMm: 1300
  });
const drilled = (season: number, bearingDeg: number, heightMm: number) =>
  record({ kind: 'taphole', on: `${season}-03-03`, season, bearingDeg, heightMm, bitMm: 7.9375, depthMm: 38.1 });

/** A slow trunk, tapped for eight seasons. */
const before = [
  girth('2016-10-01', 1010),
  girth('2021-10-01', 1045),
  girth('2026-10-01', 1080),
  ...Array.from({ length: 8 }, (_, i) => drilled(2019 + i, (190 + 83 * i) % 360, 700 + ((i * 290) % 700)))
];

/** The book of the tree at a day, and what the planner says to it. */
function looked(
  book: readonly WorkRecord[],
  { season = 2027, today = '2026-11-23', settings = DEFAULT_BUSH_SETTINGS as BushSettings } = {}
) {
  const state = deriveTree(book, { season, today });
  const placing: TreePlacement = placementOf(state, { treeId: TREE, settings, season, wanted: 2 })!;
  const answer = new PlacedTrunk(placing.task).plan();
  const keep = rotationToKeep(placing.basis, placing.task.seed, answer);
  return { state, placing, answer, keep };
}
/** The same, with what is to be kept written into the book. */
function lookedAndKept(book: readonly WorkRecord[], at: Parameters<typeof looked>[1] = {}) {
  const found = looked(book, at);
  return {
    ...found,
    book: found.keep ? [...book, record({ ...found.keep, on: at?.today ?? '2026-11-23' })] : [...book]
  };
}

let planned: ReturnType<typeof lookedAndKept>;
beforeAll(() => {
  planned = lookedAndKept([...before, decided(2027)]);
});

/** Where the holes of a season are planned. */
const holesOf = (found: ReturnType<typeof looked>, season = 0) =>
  found.answer.rotation!.plan.filter((hole) => hole.season === season);

describe('the plan of a trunk as a record', () => {
  it('is made once: whoever looks again is given the same holes, at once, and writes nothing', () => {
    expect(planned.keep).toMatchObject({ verdict: 'first', season: 2027, news: [], saves: null });
    expect(planned.keep!.holes).toHaveLength(1);
    expect(planned.keep!.coming!.holes.length).toBeGreaterThan(40);
    const again = looked(planned.book);
    expect(again.placing.basis.kept!.look).toBe('settled');
    expect(again.keep).toBeNull();
    expect(holesOf(again)).toMatchObject(
      planned.keep!.holes.map(({ bearingDeg, heightMm }) => ({ bearingDeg, heightMm }))
    );
    expect(again.answer.proposals[0]!.outlook.pClear).toBeCloseTo(planned.keep!.holes[0]!.pClear, 3);
  });

  it('is not another because it is another day', () => {
    const later = looked(planned.book, { today: '2027-03-20' });
    expect(later.keep).toBeNull();
    expect(later.answer).toEqual(looked(planned.book).answer);
  });

  it('is small: a season’s record is some hundred bytes, the whole plan a few thousand', () => {
    expect(JSON.stringify(planned.keep).length).toBeLessThan(3000);
    const next = lookedAndKept([...planned.book, decided(2028)], { season: 2028, today: '2027-11-23' });
    expect(JSON.stringify(next.keep).length).toBeLessThan(700);
  });

  it('goes on with the season as planned, a hole drilled where it was planned and pale shavings included', () => {
    const { bearingDeg, heightMm } = planned.keep!.holes[0]!;
    const hole = drilled(2027, (bearingDeg + 3) % 360, heightMm - 10);
    const pale = record({ kind: 'shavings', on: '2027-03-03', tapholeId: hole.id, seen: 'pale' });
    const book = [...planned.book, hole, pale];
    expect(looked(book, { today: '2027-03-04' }).keep).toBeNull();
    const next = lookedAndKept([...book, decided(2028)], { season: 2028, today: '2027-11-23' });
    expect(next.keep).toMatchObject({ verdict: 'carried', news: [], saves: null, coming: null });
    const [place] = planned.keep!.coming!.holes[1]!;
    expect(next.keep!.holes).toMatchObject([{ bearingDeg: place![0], heightMm: place![1] }]);
    expect(looked(next.book, { season: 2028, today: '2028-03-01' }).keep).toBeNull();
  });

  it('is written out again after ten seasons, with the same holes', () => {
    let { book } = planned;
    let last = planned as ReturnType<typeof lookedAndKept>;
    for (let season = 2028; season <= 2037; season++) {
      last = lookedAndKept([...book, decided(season)], { season, today: `${season - 1}-11-23` });
      book = last.book;
    }
    expect(last.keep!.coming!.from).toBe(2037);
    expect(last.keep!.coming!.holes[0]![0]!.slice(0, 2)).toEqual(planned.keep!.coming!.holes[10]![0]!.slice(0, 2));
  });

  it('moves a hole that may not be drilled where it was planned, and leaves the others', () => {
    const { bearingDeg, heightMm } = planned.keep!.holes[0]!;
    const wound = record({ kind: 'trunkFeature', on: '2027-02-01', what: 'wound', bearingDeg, heightMm, note: '' });
    const found = lookedAndKept([...planned.book, wound]);
    expect(found.keep).toMatchObject({ verdict: 'changed', news: ['trunk'] });
    const [now] = found.keep!.holes;
    expect(Math.hypot(wrapDegrees(now!.bearingDeg - bearingDeg) * 3, now!.heightMm - heightMm)).toBeGreaterThan(150);
    const stays = planned.keep!.coming!.holes.slice(1, 15).flat();
    const same = found
      .keep!.coming!.holes.slice(1, 15)
      .flat()
      .filter(([b, h]) => stays.some(([bearing, height]) => bearing === b && height === h));
    expect(same.length).toBeGreaterThanOrEqual(10);
    expect(looked(found.book).keep).toBeNull();
  });

  it('holds or is changed after a hole elsewhere, and is changed only for what it saves', () => {
    // In the middle of where the next seasons are to be drilled.
    const [next] = planned.keep!.coming!.holes[1]!;
    const hole = drilled(2027, next![0], Math.min(1500, next![1] + 30));
    const found = lookedAndKept([...planned.book, hole], { today: '2027-03-04' });
    expect(found.keep!.news).toEqual(['holes']);
    expect(['holds', 'changed']).toContain(found.keep!.verdict);
    // The hole that was to come there next year would meet it.
    const then = found.answer.rotation!.plan.filter(({ season }) => season === 1);
    expect(then[0]!.lost).toBeLessThan(0.05);
    expect(found.keep!.verdict).toBe('changed');
    expect(found.keep!.saves).toBeGreaterThan(0.0005);
    expect(looked(found.book, { today: '2027-03-05' }).keep).toBeNull();
  });

  it('is looked at again where another count, band or bit may do better, and says which', () => {
    const two = lookedAndKept([...planned.book, decided(2027, 2)]);
    expect(two.keep).toMatchObject({ news: ['count'] });
    expect(two.keep!.holes).toHaveLength(2);
    // What was named before is still named.
    const [first] = planned.keep!.holes;
    if (two.keep!.verdict === 'holds') expect(two.keep!.holes).toContainEqual(expect.objectContaining(first));
    const wide = looked(planned.book, { settings: { ...DEFAULT_BUSH_SETTINGS, highestMm: 1800 } });
    expect(wide.placing.basis).toMatchObject({ news: ['band'], kept: { look: 'anew' } });
    expect(wide.keep!.saves).not.toBeNull();
  });

  it('in deep snow takes the season’s hole into reach, and leaves the years without it alone', () => {
    const settings = { ...DEFAULT_BUSH_SETTINGS, snowMm: 700 };
    const found = lookedAndKept(planned.book, { settings });
    for (const { heightMm } of found.keep!.holes) expect(heightMm).toBeGreaterThanOrEqual(850);
    const years = found.answer.rotation!.plan.filter(({ season }) => season > 0);
    expect(Math.max(...years.map(({ heightMm }) => heightMm))).toBeLessThanOrEqual(1500);
    expect(Math.min(...years.map(({ heightMm }) => heightMm))).toBeLessThan(850);
  });

  it('is named as drilled when it was, and what is left is still named', () => {
    const two = lookedAndKept([...before, decided(2027, 2)]);
    const [one, other] = two.keep!.holes;
    const hole = drilled(2027, one!.bearingDeg, one!.heightMm);
    const half = looked([...two.book, hole], { today: '2027-03-03' });
    expect(half.keep).toBeNull();
    expect(half.placing.basis.done).toMatchObject([{ bearingDeg: one!.bearingDeg }]);
    expect(half.answer.proposals.filter(({ planned: is }) => is)).toMatchObject([
      { bearingDeg: other!.bearingDeg, heightMm: other!.heightMm }
    ]);
  });

  it('by another way of placing is the season’s holes, kept and looked at again in the same way', () => {
    const settings = { ...DEFAULT_BUSH_SETTINGS, strategy: 'handSpan' } as const;
    const first = lookedAndKept([...before, decided(2027)], { settings });
    expect(first.keep).toMatchObject({ verdict: 'first', coming: null });
    expect(first.keep!.holes).toHaveLength(1);
    const again = looked(first.book, { settings, today: '2027-03-01' });
    expect(again.placing.basis.settled).toBe(true);
    expect(again.keep).toBeNull();
    // Drilled where it was named, nothing is asked anew; a bush that takes up the rotation plans it.
    const { bearingDeg, heightMm } = first.keep!.holes[0]!;
    const book = [...first.book, drilled(2027, bearingDeg, heightMm)];
    const two = lookedAndKept([...before, decided(2027, 2)], { settings });
    const [one, other] = two.keep!.holes;
    const half = looked([...two.book, drilled(2027, one!.bearingDeg, one!.heightMm)], { settings });
    expect(half.answer.proposals[0]).toMatchObject({ bearingDeg: other!.bearingDeg, heightMm: other!.heightMm });
    expect(looked(book, { settings, today: '2027-03-04' }).placing.basis).toMatchObject({
      settled: true,
      done: [{ bearingDeg, heightMm }]
    });
    expect(looked(first.book).keep).toMatchObject({ verdict: 'first', coming: { from: 2027 } });
    // And the other way round: the plan waits for the day on which it is taken up again.
    const left = lookedAndKept(planned.book, { settings });
    expect(left.keep).toMatchObject({ news: ['wishes'], coming: null });
    expect(looked(left.book).placing.basis.kept!.holes.length).toBeGreaterThan(40);
  });
});
