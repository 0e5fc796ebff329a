import { clashesOf, type Clash } from '@baumkin/core/bush';
import {
  effectiveRecords,
  seasonOf,
  type Answer,
  type AnyRecord,
  type AnyRecordKind,
  type Question,
  type WorkRecord
} from '@baumkin/core/records';

import type { BushWrite } from './bushWrite.ts';
import { TreeRecord } from './db/index.ts';
import { recordsByTree, recordsWhere, storeMany, type Writing } from './recordRows.ts';
import { uuidFrom } from './uuidFrom.ts';

/*
 * Where what people wrote without knowing of each other meets: of trees to which holes, or a word against holes, came in, what
 * does not go together is asked as a question, and a question that is none any more is closed. In the transaction that stores
 * what came in: one after the other, whichever of two comes last raises it.
 */

/** Kinds of record that may clash with holes, or end a clash. */
const STIRRING: readonly AnyRecordKind[] = ['taphole', 'decision', 'tapBan', 'determination', 'cut', 'entry'];

/** Trees that may clash now, each with the seasons in question: old holes that are typed in today are history. */
function stirred(taken: readonly AnyRecord[]): Map<string, Set<number>> {
  const trees = new Map<string, Set<number>>();
  for (const record of taken) {
    if (!('treeId' in record) || !STIRRING.includes(record.kind)) continue;
    const season = seasonOf(record.on);
    if (record.kind === 'taphole' && record.season !== season) continue;
    trees.set(record.treeId, (trees.get(record.treeId) ?? new Set()).add(season));
  }
  return trees;
}

/** Asks about what does not go together any more, and closes questions that are none any more. @param taken what was just stored */
export async function askWhereTheyClash(taken: readonly AnyRecord[], by: Writing, write: BushWrite): Promise<void> {
  const { transaction, bush } = write;
  const trees = stirred(taken);
  const holes = await recordsWhere('taphole', { bushId: bush.id, treeId: [...trees.keys()] }, { transaction });
  for (const treeId of [...trees.keys()])
    if (!holes.some((hole) => hole.treeId === treeId && trees.get(treeId)!.has(hole.season))) trees.delete(treeId);
  if (trees.size === 0) return;
  const treeIds = [...trees.keys()];
  const lives = await recordsByTree(bush.id, { treeIds, transaction });
  const asked = effectiveRecords(await recordsWhere('question', { bushId: bush.id }, { transaction }));
  const answers = effectiveRecords(await recordsWhere('answer', { bushId: bush.id }, { transaction }));
  const moment = {
    now: write.now,
    on: taken
      .map(({ on }) => on)
      .sort()
      .at(-1)!
  };
  const answered = new Set(answers.map(({ questionId }) => questionId));
  const made: (Question | Answer)[] = [];
  for (const [treeId, seasons] of trees)
    for (const season of seasons) {
      const records = lives.get(treeId) ?? [];
      const about = { treeId, season, tag: tagIn(records) ?? (await tagOf(treeId, write)) };
      const clashes = clashesOf(records, season).map((clash) => questionOf(clash, about, moment));
      const known = asked.filter((each) => each.ofTreeId === treeId && each.season === season);
      made.push(...clashes.filter(({ id }) => !known.some((each) => each.id === id)));
      for (const { id, proposal } of known)
        if (proposal === null && !answered.has(id) && !clashes.some((clash) => clash.id === id))
          made.push(settled(id, moment));
    }
  await storeMany(made, by, transaction);
  write.records(made);
}

/** The tag that a tree has, or had last. */
function tagIn(records: readonly WorkRecord[]): string | null {
  return records.filter((record) => record.kind === 'entry').at(-1)?.tag ?? null;
}

async function tagOf(treeId: string, { transaction }: BushWrite): Promise<string> {
  return (await TreeRecord.findByPk(treeId, { transaction }))?.tag ?? '?';
}

/** When a question is asked or closed: on the day of what raised it. */
interface Moment {
  readonly now: Date;
  /** ISO date */
  readonly on: string;
}

const stamped = ({ now, on }: Moment) => ({
  on,
  recordedAt: now.toISOString(),
  correctsId: null,
  withdrawn: false,
  note: ''
});

/** The question that a clash is: under the same id whenever it is found. */
function questionOf(
  { about, tapholeIds }: Clash,
  { treeId, season, tag }: { readonly treeId: string; readonly season: number; readonly tag: string },
  moment: Moment
): Question {
  return {
    ...stamped(moment),
    id: uuidFrom(['question', treeId, about, ...tapholeIds].join(' ')),
    kind: 'question',
    about,
    ofTreeId: treeId,
    tag,
    season,
    tapholeIds: [...tapholeIds],
    proposal: null
  };
}

function settled(questionId: string, moment: Moment): Answer {
  return { ...stamped(moment), id: uuidFrom(`settled ${questionId}`), kind: 'answer', questionId, says: 'settled' };
}
