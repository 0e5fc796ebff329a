import { planImport, readStatements } from '@baumkin/core/exchange';
import type { ImportPlan, KnownTree, ImportOptions, ReadOptions, StatementFile } from '@baumkin/core/exchange';
import { expose } from 'comlink';

export interface ImportPreview {
  readonly file: StatementFile;
  readonly plan: ImportPlan;
}

/** Reads a file about trees off the page's thread and holds it against the bush. */
const api = {
  /** @throws UnreadableFile */
  read(
    text: string,
    reading: ReadOptions,
    known: readonly KnownTree[],
    planning: Omit<ImportOptions, 'makeId' | 'now'>
  ): ImportPreview {
    const file = readStatements(text, reading);
    const makeId = () => crypto.randomUUID();
    return { file, plan: planImport(file, known, { ...planning, makeId, now: new Date().toISOString() }) };
  }
};
export type ImportWorker = typeof api;

expose(api);
