import { planImport, readStatements, UnreadableFile } from '@baumkin/core/exchange';
import type { ImportPlan, KnownTree, PlanOptions, ReadOptions, StatementFile } from '@baumkin/core/exchange';
import { expose } from 'comlink';

export type ImportPreview =
  | { readonly ok: true; readonly file: StatementFile; readonly plan: ImportPlan }
  | { readonly ok: false; readonly message: string };

/** Reads a file about trees off the page's thread and holds it against the bush. */
const api = {
  read(
    text: string,
    reading: ReadOptions,
    known: readonly KnownTree[],
    planning: Omit<PlanOptions, 'makeId' | 'now'>
  ): ImportPreview {
    try {
      const file = readStatements(text, reading);
      const makeId = () => crypto.randomUUID();
      return { ok: true, file, plan: planImport(file, known, { ...planning, makeId, now: new Date().toISOString() }) };
    } catch (error) {
      if (error instanceof UnreadableFile) return { ok: false, message: error.message };
      throw error;
    }
  }
};
export type ImportWorker = typeof api;

expose(api);
