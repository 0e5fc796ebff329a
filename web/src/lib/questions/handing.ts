import type { WorkRecord } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';
import type { OutboxEntry } from '$lib/client/store.ts';

/** The record of a refused entry that may be left to a steward, or as a remark: one of a tree in the book. */
export function ofKnownTree(bush: BushState, { treeId, record }: OutboxEntry): WorkRecord | null {
  return treeId !== null && bush.byId.has(treeId) && record.correctsId === null && 'treeId' in record ? record : null;
}

/** Puts a question to the stewards, with all of what was refused, in its place. */
export async function propose(bush: BushState, entry: OutboxEntry, record: WorkRecord): Promise<void> {
  await bush.recordOfBush({
    kind: 'question',
    about: 'proposal',
    ofTreeId: record.treeId,
    tag: bush.tagOf(record.treeId),
    season: 'season' in record ? record.season : null,
    tapholeIds: [],
    proposal: { ...record },
    note: entry.refused ?? ''
  });
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
