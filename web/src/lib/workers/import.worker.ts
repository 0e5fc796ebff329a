import { namedIn, planImport, readStatements, readWorkbook, tableText } from '@baumkin/core/exchange';
import type { ImportOptions, ImportPlan, ReadOptions, StatementFile } from '@baumkin/core/exchange';
import { tagKey } from '@baumkin/core/records';
import { expose } from 'comlink';

import { readLines } from '../client/linePacks.ts';
import { livesOf, type TreeLife } from '../client/lives.ts';
import { unpackWorkbook } from './unpack.ts';

export interface ImportPreview {
  readonly file: StatementFile;
  readonly plan: ImportPlan;
}

/** Reads a file about trees off the page's thread and holds it against the bush as this device has it. */
const api = {
  /** The sheets of a workbook, each as the text of a table. @throws UnreadableFile */
  sheets(bytes: Uint8Array): { readonly name: string; readonly text: string }[] {
    return readWorkbook(unpackWorkbook(bytes)).map(({ name, rows }) => ({ name, text: tableText(rows) }));
  },

  /**
   * @param waiting trees of which something waits to be sent, with all that is known of them
   * @throws UnreadableFile
   */
  async read(
    text: string,
    reading: ReadOptions,
    { bushId, waiting }: { readonly bushId: string; readonly waiting: readonly TreeLife[] },
    planning: Omit<ImportOptions, 'makeId' | 'now' | 'tags'>
  ): Promise<ImportPreview> {
    const file = readStatements(text, reading);
    const named = namedIn(file, planning.told);
    const here = new Set(waiting.map(({ tree }) => tree.id));
    const all = await readLines(bushId);
    const tags = all.map(({ tag }) => tag);
    const rows = all.filter(({ id, tag }) => named.has(tagKey(tag)) && !here.has(id));
    const known = [...waiting];
    for await (const life of livesOf(rows, (_, kept) => kept)) known.push(life);
    const makeId = () => crypto.randomUUID();
    return { file, plan: planImport(file, known, { ...planning, tags, makeId, now: new Date().toISOString() }) };
  }
};
export type ImportWorker = typeof api;

expose(api);
