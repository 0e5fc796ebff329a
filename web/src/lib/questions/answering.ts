import { isAddressed } from '@baumkin/core/bush';
import {
  recordSchema,
  spoutsIn,
  type Answer,
  type Question,
  type Shavings,
  type Taphole,
  type WorkRecord
} from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';
import type { Draft } from '$lib/client/recordDraft.ts';

type Says = Answer['says'];

/** May whoever works here give this answer? */
export function mayAnswer(bush: BushState, question: Question, says: Says, holes: readonly Taphole[]): boolean {
  const { member, bush: known } = bush.overview!;
  if (!isAddressed(question, holes, { memberId: member.id, role: known.role })) return false;
  // What is crossed out has to be at hand, and hers to cross out.
  const last = holes.at(-1);
  return (says !== 'once' && says !== 'never') || (last !== undefined && bush.mayTakeBack(last));
}

/**
 * Writes an answer down, and what follows from it.
 * @param holes those that the question is about and that stand, in the order in which they were written
 * @param shavings what was seen at them
 * @returns takes all of it back
 */
export async function giveAnswer(
  bush: BushState,
  question: Question,
  {
    says,
    holes,
    shavings
  }: { readonly says: Says; readonly holes: readonly Taphole[]; readonly shavings: ReadonlyMap<string, Shavings> }
): Promise<() => Promise<void>> {
  const { ofTreeId: treeId } = question;
  const last = holes.at(-1);
  const crossedOut = last && (says === 'once' || says === 'never') ? last : null;
  const seen = crossedOut ? shavings.get(crossedOut.id) : undefined;
  const written: WorkRecord[] = [];
  const kept = holes[0];
  // What the second of two looked at is the one hole's.
  if (says === 'once' && seen && kept && !shavings.has(kept.id))
    written.push(await bush.record(treeId, again(seen, kept.id)));
  if (says === 'taken') written.push(await bush.record(treeId, proposed(question)));
  const pulled = says === 'pulled' ? pullingOf(bush, question, holes.length) : null;
  if (pulled) written.push(await bush.record(treeId, pulled));
  const taken = crossedOut ? await bush.withdraw(crossedOut) : [];
  const answer = await bush.recordOfBush({ kind: 'answer', questionId: question.id, says, note: '' });
  return async () => {
    await bush.withdraw(answer, ...written);
    const withdrawal = taken[0];
    if (!crossedOut || !withdrawal) return;
    const { id: _id, recordedAt: _at, ...draft } = crossedOut;
    const hole = await bush.record(treeId, { ...draft, correctsId: withdrawal.id } as Draft);
    if (seen) await bush.record(treeId, again(seen, hole.id));
  };
}

/** That spouts are out: of one hole too many that one, of a tree that is not to be tapped all. Nothing of a tree that is gone. */
function pullingOf(bush: BushState, { ofTreeId, about, season }: Question, holes: number): Draft | null {
  const row = bush.byId.get(ofTreeId);
  if (!row || row.cut || season !== bush.season) return null;
  const left = spoutsIn(row, season);
  const out = row.drilled - left + Math.min(left, about === 'tooMany' ? 1 : holes);
  return left > 0 ? { kind: 'pulling', season, spouts: out, note: '' } : null;
}

/** The same word on the shavings for another hole. */
function again(seen: Shavings, tapholeId: string): Draft {
  const { id: _id, recordedAt: _at, authorId: _by, treeId: _tree, ...draft } = seen;
  return { ...draft, tapholeId, correctsId: undefined, withdrawn: false };
}

/** The record that a question proposes, as a draft of whoever takes it over. @throws ZodError where it is none */
export function proposed({ proposal, ofTreeId }: Question): Draft {
  const {
    id: _id,
    recordedAt: _at,
    authorId: _by,
    treeId: _tree,
    ...draft
  } = recordSchema.parse({ ...proposal, treeId: ofTreeId }) as WorkRecord;
  return draft as Draft;
}
