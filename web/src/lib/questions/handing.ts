import type { BushRecord, Mark, WorkRecord } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';
import type { OutboxEntry } from '$lib/client/store.ts';

/** The record of a refused entry that may be left to a steward, or as a remark: one of a tree in the book. */
export function ofKnownTree(bush: BushState, { treeId, record }: OutboxEntry): WorkRecord | null {
  return treeId !== null && bush.byId.has(treeId) && record.correctsId === null && 'treeId' in record ? record : null;
}

/** Puts a question to the stewards: a record that only they may write. @param note why it is proposed */
export function askStewards(bush: BushState, proposed: WorkRecord, note: string): Promise<BushRecord> {
  return bush.recordOfBush({
    kind: 'question',
    about: 'proposal',
    ofTreeId: proposed.treeId,
    tag: bush.tagOf(proposed.treeId),
    season: 'season' in proposed ? proposed.season : null,
    tapholeIds: [],
    proposal: { ...proposed },
    note
  });
}

/** The mark of a tree taken off, as whoever stands before it proposes today: a record of its own, whatever the mark corrected. */
export function markOff(mark: Mark, today: string): WorkRecord {
  const id = crypto.randomUUID();
  return { ...mark, id, on: today, correctsId: null, purpose: 'none', reason: 'doubted before the tree' };
}

/** Puts a question to the stewards, with all of what was refused, in its place. */
export async function propose(bush: BushState, entry: OutboxEntry, record: WorkRecord): Promise<void> {
  await askStewards(bush, record, entry.refused ?? '');
  await bush.outbox.drop(entry.id);
}

/** Puts a remark in the place of what was refused. @param said the record in a sentence */
export async function keepAsRemark(
  bush: BushState,
  entry: OutboxEntry,
  { record, said }: { readonly record: WorkRecord; readonly said: string }
): Promise<void> {
  const text = `${said}. Not stored: ${entry.refused ?? ''}`.slice(0, 1000);
  await bush.record(record.treeId, { kind: 'remark', on: record.on, text });
  await bush.outbox.drop(entry.id);
}
