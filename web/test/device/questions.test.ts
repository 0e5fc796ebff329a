import { spoutsIn } from '@baumkin/core/records';
import { effectiveRecords, type Answer, type Question, type Shavings, type Taphole } from '@baumkin/core/records';
import { beforeEach, describe, expect, it } from 'vitest';

import { giveAnswer, mayAnswer } from '../../src/lib/questions/answering.ts';
import { askStewards, keepAsRemark, markOff, ofKnownTree, propose } from '../../src/lib/questions/handing.ts';
import { device, openBush, tree, whole, type State } from './device.ts';

/* Questions on this device: who may answer them, what an answer writes, and how it is undone. */

const drilled = (bearingDeg: number) => ({
  kind: 'taphole' as const,
  season: 2027,
  bearingDeg,
  heightMm: 1200,
  bitMm: 7.94,
  depthMm: 38,
  predictedClear: null,
  strategy: null
});
const seen = (hole: Taphole, what: Shavings['seen']) => ({
  kind: 'shavings' as const,
  tapholeId: hole.id,
  seen: what,
  brownShare: null,
  brownFromMm: null,
  othersRan: null
});

let bush: State;
let holes: readonly [Taphole, Taphole];
let question: Question;
beforeEach(async () => {
  bush = await whole();
  await bush.loadTree(tree.id);
  holes = [(await bush.record(tree.id, drilled(90))) as Taphole, (await bush.record(tree.id, drilled(92))) as Taphole];
  question = (await bush.recordOfBush({
    kind: 'question',
    about: 'sameSpot',
    ofTreeId: tree.id,
    tag: tree.tag,
    season: 2027,
    tapholeIds: holes.map(({ id }) => id),
    proposal: null,
    note: ''
  })) as Question;
});

const standing = <K extends 'taphole' | 'shavings'>(kind: K) =>
  effectiveRecords(bush.recordsOf(tree.id)).filter((record) => record.kind === kind && record.on === bush.today);
const shavings = () => bush.stateOf(tree.id).shavings;
const give = (says: Answer['says']) => giveAnswer(bush, question, { says, holes, shavings: shavings() });

describe('an answer', () => {
  it('closes its question, here and wherever it comes to', async () => {
    expect(bush.openQuestions).toBe(1);
    const undo = await give('stays');
    expect(bush.openQuestions).toBe(0);
    expect(standing('taphole')).toHaveLength(2);
    for (let i = 0; i < 5; i++) await bush.outbox.send();
    const elsewhere = await openBush();
    expect(elsewhere.questions.map(({ answer }) => answer?.says)).toEqual(['stays']);
    await undo();
    expect(bush.openQuestions).toBe(1);
  });

  it('that both are one hole crosses the second out, and keeps what was seen at it', async () => {
    await bush.record(tree.id, seen(holes[1], 'brown'));
    const undo = await give('once');
    expect(standing('taphole').map(({ id }) => id)).toEqual([holes[0].id]);
    expect(shavings().get(holes[0].id)?.seen).toBe('brown');
    await undo();
    const back = standing('taphole') as Taphole[];
    expect(back.map(({ bearingDeg }) => bearingDeg).sort()).toEqual([90, 92]);
    expect(shavings().get(holes[0].id)).toBeUndefined();
    expect(shavings().get(back.find(({ bearingDeg }) => bearingDeg === 92)!.id)?.seen).toBe('brown');
    expect(bush.openQuestions).toBe(1);
  });

  it('leaves what was seen at the first hole as it is', async () => {
    await bush.record(tree.id, seen(holes[0], 'pale'));
    await bush.record(tree.id, seen(holes[1], 'brown'));
    await give('once');
    expect(shavings().get(holes[0].id)?.seen).toBe('pale');
  });

  it('that a spout is pulled is told to the pulling round as well, and taken back with it', async () => {
    const left = () => spoutsIn(bush.byId.get(tree.id)!, 2027);
    const all = left();
    expect(all).toBeGreaterThanOrEqual(2);
    question = { ...question, about: 'tooMany' };
    const undo = await give('pulled');
    expect(left()).toBe(all - 1);
    await undo();
    expect(left()).toBe(all);
    question = { ...question, about: 'resting' };
    await give('pulled');
    expect(left()).toBe(all - 2);
  });

  it('is given by whoever wrote the last hole, in her time, or by a steward', async () => {
    expect(mayAnswer(bush, question, 'never', holes)).toBe(true);
    expect([mayAnswer(bush, question, 'once', []), mayAnswer(bush, question, 'stays', [])]).toEqual([false, true]);
    device.server.role = 'crew';
    const crew = await whole();
    await crew.loadTree(tree.id);
    await crew.refresh();
    expect(crew.mayDecide).toBe(false);
    expect(mayAnswer(crew, question, 'never', holes)).toBe(true);
    const others = [holes[0], { ...holes[1], authorId: crypto.randomUUID() }];
    expect(mayAnswer(crew, question, 'stays', others)).toBe(false);
    const old = [holes[0], { ...holes[1], recordedAt: '2026-11-01T10:00:00.000Z' }];
    expect([mayAnswer(crew, question, 'never', old), mayAnswer(crew, question, 'pulled', old)]).toEqual([false, true]);
    expect(mayAnswer(crew, { ...question, about: 'proposal' }, 'taken', [])).toBe(false);
  });
});

describe('a mark that is doubted before the tree', () => {
  it('is taken off by a steward who agrees, also where it had itself corrected another', async () => {
    const mark = { kind: 'mark' as const, purpose: 'take' as const, reason: 'crowds 44' };
    const first = await bush.record(tree.id, { ...mark, on: '2026-10-01' });
    await bush.record(tree.id, { ...mark, on: '2026-10-01', reason: 'crowds 45', correctsId: first.id });
    const asked = await askStewards(bush, markOff(bush.stateOf(tree.id).mark!, bush.today), 'a nest');
    expect(bush.stateOf(tree.id).mark?.purpose).toBe('take');
    await giveAnswer(bush, asked as Question, { says: 'taken', holes: [], shavings: new Map() });
    const { mark: now } = bush.stateOf(tree.id);
    expect(now).toMatchObject({ purpose: 'none', on: bush.today, correctsId: null });
  });
});

describe('what the server refused', () => {
  const decision = {
    kind: 'decision' as const,
    season: 2027,
    taps: 2,
    suggested: 1,
    binding: 'size' as const,
    reason: ''
  };
  async function refusedOne() {
    device.server.mood = 'away';
    const { id } = await bush.record(tree.id, decision);
    device.server.refuses.set(id, 'That is the steward’s to decide.');
    device.server.mood = 'well';
    for (let i = 0; i < 10; i++) await bush.outbox.send();
    const entry = bush.outbox.refused.find((each) => each.id === id)!;
    return { entry, record: ofKnownTree(bush, entry)! };
  }

  it('goes to the stewards as a proposal, who write it down as theirs', async () => {
    const { entry, record } = await refusedOne();
    await propose(bush, entry, record);
    expect(bush.outbox.refused).toEqual([]);
    const asked = bush.questions.find(({ question: { about } }) => about === 'proposal')!.question;
    expect(asked).toMatchObject({ ofTreeId: tree.id, note: 'That is the steward’s to decide.' });
    await giveAnswer(bush, asked, { says: 'taken', holes: [], shavings: new Map() });
    expect(bush.stateOf(tree.id).decision).toMatchObject({ taps: 2, season: 2027 });
    expect(bush.stateOf(tree.id).decision!.id).not.toBe(record.id);
  });

  it('is kept as a remark of its tree', async () => {
    const { entry, record } = await refusedOne();
    await keepAsRemark(bush, entry, { record, said: 'Decided for 2027: 2 taps' });
    expect(bush.outbox.refused).toEqual([]);
    expect(bush.stateOf(tree.id).remarks.map(({ text }) => text)).toEqual([
      'Decided for 2027: 2 taps. Not stored: That is the steward’s to decide.'
    ]);
  });

  it('is sent for another season', async () => {
    const { entry } = await refusedOne();
    device.server.refuses.clear();
    await bush.outbox.toSeason(entry, 2028);
    expect(bush.outbox.refused).toEqual([]);
    expect(device.server.stored.find(({ id }) => id === entry.id)).toMatchObject({ season: 2028 });
  });
});
