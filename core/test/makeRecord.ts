import { recordSchema, type RecordInput, type WorkRecord } from '../src/records/index.ts';

/** What is said of a record beside its envelope. */
export type Said = RecordInput extends infer R
  ? R extends unknown
    ? Omit<R, 'id' | 'treeId' | 'recordedAt'>
    : never
  : never;

/** Makes records of one tree, one second after another. */
export function recordMaker(treeId: string): (said: Said) => WorkRecord {
  let made = 0;
  return (said) => {
    made += 1;
    return recordSchema.parse({
      id: `00000000-0000-4000-8000-${String(made).padStart(12, '0')}`,
      treeId,
      recordedAt: new Date(Date.UTC(2026, 0, 1) + 1000 * made).toISOString(),
      ...said
    });
  };
}
