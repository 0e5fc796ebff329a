import { randomUUID } from 'node:crypto';
import { effectiveRecords, type Answer, type Question, type Role } from '@baumkin/core/records';
import { beforeEach, describe, expect, it } from 'vitest';

import { createAccount } from '../src/lib/server/accounts.ts';
import { changesAfter } from '../src/lib/server/changes.ts';
import { Bush, Membership } from '../src/lib/server/db/index.ts';
import { bushRecordsOf, recordsByTree } from '../src/lib/server/recordRows.ts';
import { storeRecords } from '../src/lib/server/records.ts';
import { bushWithTrees, useFreshDatabase } from './database.ts';
import { entry } from './doorsSupport.ts';

/* What two people wrote of one tree without knowing of each other, as it meets on the server. */

useFreshDatabase();

let bush: Awaited<ReturnType<typeof bushWithTrees>>;
let tomke: string;
let tree: string;
let names = 0;
beforeEach(async () => {
  bush = await bushWithTrees();
  tree = bush.treeIds[0]!;
  tomke = (await createAccount({ name: `tomke${++names}`, displayName: 'Tomke', password: 'pale-shavings-dry' })).id;
  await Membership.create({ userId: tomke, bushId: bush.bushId, role: 'crew' });
});

let minutes = 0;
const envelope = () => ({
  id: randomUUID(),
  treeId: tree,
  on: '2027-02-20',
  // One after the other: of records of one moment none is the later one.
  recordedAt: `2027-02-20T10:${String(minutes++ % 60).padStart(2, '0')}:00.000Z`,
  correctsId: null,
  withdrawn: false
});
const hole = (bearingDeg: number) => ({
  ...envelope(),
  kind: 'taphole' as const,
  season: 2027,
  bearingDeg,
  heightMm: 1200,
  bitMm: 7.94,
  depthMm: 38,
  predictedClear: 0.97,
  strategy: null
});
const count = (taps: number) => ({
  ...envelope(),
  kind: 'decision' as const,
  season: 2027,
  taps,
  suggested: taps,
  binding: 'size' as const,
  reason: ''
});
const takenBack = (record: { readonly id: string }): object => ({
  ...record,
  id: randomUUID(),
  correctsId: record.id,
  withdrawn: true
});
const NOW = new Date('2027-02-20T12:00:00.000Z');
const sent = async (by: string, role: Role, ...records: object[]) =>
  (await storeRecords(bush.bushId, { id: by, role }, records, NOW)).map(({ status, reason }) => reason ?? status);
const steward = (...records: object[]) => sent(bush.userId, 'steward', ...records);
const crew = (...records: object[]) => sent(tomke, 'crew', ...records);
async function asked(): Promise<{ questions: Question[]; open: Question[]; answers: Answer[] }> {
  const records = effectiveRecords(await bushRecordsOf(bush.bushId));
  const questions = records.filter((record) => record.kind === 'question');
  const answers = records.filter((record) => record.kind === 'answer');
  const closed = new Set(answers.map(({ questionId }) => questionId));
  return { questions, answers, open: questions.filter(({ id }) => !closed.has(id)) };
}

describe('two who did not know of each other', () => {
  it('are asked, once, and nothing of what they wrote is lost', async () => {
    const [mine, hers] = [hole(90), hole(200)];
    expect(await steward(count(1), mine)).toEqual(['stored', 'stored']);
    expect((await asked()).questions).toEqual([]);
    expect(await crew(hers)).toEqual(['stored']);
    expect(await crew(hers)).toEqual(['already']);
    const { open } = await asked();
    expect(open).toMatchObject([{ about: 'tooMany', ofTreeId: tree, season: 2027, tapholeIds: [mine.id, hers.id] }]);
    const life = (await recordsByTree(bush.bushId, { treeIds: [tree], kinds: ['taphole'] })).get(tree)!;
    expect(life.map(({ id }) => id).sort()).toEqual([mine.id, hers.id].sort());
  });

  it('both hear of the question, and of its answer, in what the feed tells', async () => {
    await steward(count(1), hole(90));
    await crew(hole(92));
    const [question] = (await asked()).open;
    const { treeId: _tree, ...ofBush } = envelope();
    expect(await crew({ ...ofBush, kind: 'answer', questionId: question!.id, says: 'stays', note: '' })).toEqual([
      'stored'
    ]);
    const { feedId } = await Bush.findByPk(bush.bushId, { rejectOnEmpty: true });
    const told = await changesAfter(bush.bushId, feedId, 0);
    const kinds = told.bushRecords.map(({ kind }) => kind);
    expect(kinds).toEqual(expect.arrayContaining(['question', 'answer']));
    expect((await asked()).open).toEqual([]);
    // Answered for good: another record of the tree does not ask it again, a third hole does.
    await steward(count(1));
    expect((await asked()).open).toEqual([]);
    await crew(hole(210));
    expect((await asked()).open).toMatchObject([{ about: 'tooMany' }]);
  });

  it('a question closes itself once a hole that it is about was taken back', async () => {
    const hers = hole(200);
    await steward(count(1), hole(90));
    await crew(hers);
    expect(await crew(takenBack(hers))).toEqual(['stored']);
    const { questions, answers, open } = await asked();
    expect([questions.length, open.length]).toEqual([1, 0]);
    expect(answers).toMatchObject([{ says: 'settled', questionId: questions[0]!.id }]);
  });

  it('a hole on a tree that was taken out of the book meanwhile is kept, and asked about', async () => {
    const born = randomUUID();
    const came = entry(born, 'X1');
    expect(await steward(came)).toEqual(['stored']);
    tree = born;
    expect(await steward({ ...takenBack(came), on: '2027-02-20', recordedAt: '2027-02-20T09:00:00.000Z' })).toEqual([
      'stored'
    ]);
    expect(await crew(hole(90))).toEqual(['stored']);
    expect((await asked()).open).toMatchObject([{ about: 'gone', tag: 'X1', ofTreeId: born }]);
  });

  it('what crew propose is taken or left by a steward alone', async () => {
    const { treeId: _tree, ...ofBush } = envelope();
    const proposal = { ...ofBush, kind: 'question', about: 'proposal', ofTreeId: tree, tag: '1', season: 2027 };
    expect(await crew({ ...proposal, tapholeIds: [], proposal: count(2), note: '' })).toEqual(['stored']);
    const answer = { ...ofBush, kind: 'answer', questionId: ofBush.id, says: 'taken', note: '' };
    expect(await crew({ ...answer, id: randomUUID() })).toEqual(['That is the steward’s to decide.']);
    expect((await asked()).open).toHaveLength(1);
    expect(await steward({ ...answer, id: randomUUID() })).toEqual(['stored']);
    expect((await asked()).open).toEqual([]);
    // A record that is proposed and nothing else, or the other way round, is no question.
    expect(await crew({ ...proposal, id: randomUUID(), tapholeIds: [], proposal: null, note: '' })).toEqual([
      expect.stringMatching(/goes with a question that proposes/)
    ]);
  });

  it('whoever wrote the last of the holes answers, or a steward: nobody else, and nothing that is no answer', async () => {
    const { treeId: _tree, ...ofBush } = envelope();
    const answer = async (says: string) => {
      const questionId = (await asked()).open.at(-1)!.id;
      return { ...ofBush, id: randomUUID(), kind: 'answer', questionId, says, note: '' };
    };
    await steward(count(1));
    await crew(hole(90));
    await steward(hole(200));
    expect(await crew(await answer('stays'))).toEqual(['Whoever wrote it, or a steward, answers that.']);
    expect(await steward(await answer('stays'))).toEqual(['stored']);
    await crew(hole(300));
    for (const says of ['settled', 'once', 'taken'])
      expect(await crew(await answer(says))).toEqual(['That is no answer to this question.']);
    expect((await asked()).open).toHaveLength(1);
    expect(await crew(await answer('pulled'))).toEqual(['stored']);
    expect((await asked()).open).toEqual([]);
  });

  it('old holes that are typed in later are history', async () => {
    const old = { ...hole(90), on: '2027-09-01' };
    await steward({ ...old, season: 2024 });
    await crew({ ...old, id: randomUUID(), season: 2024 });
    expect((await asked()).questions).toEqual([]);
  });
});

describe('what somebody else wrote', () => {
  it('is taken back by stewards alone; her own by its writer, until the next day is over', async () => {
    const [hers, his] = [hole(90), hole(200)];
    await crew(hers);
    await steward(his);
    expect(await crew(takenBack(his))).toEqual([expect.stringMatching(/Only a steward/)]);
    expect(await crew({ ...takenBack(hers), recordedAt: '2027-02-22T06:00:00.000Z' })).toEqual([
      expect.stringMatching(/Only a steward/)
    ]);
    // Written in time, and sent a week later.
    expect(await crew({ ...takenBack(hers), recordedAt: '2027-02-21T06:00:00.000Z' })).toEqual(['stored']);
    expect(await steward(takenBack(his))).toEqual(['stored']);
  });
});
