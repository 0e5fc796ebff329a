import { readTreesCsv, UnreadableFile, type LengthUnit, type TreesFile } from '@baumkin/core';
import { expose } from 'comlink';

export type ImportPreview =
  { readonly ok: true; readonly file: TreesFile } | { readonly ok: false; readonly message: string };

/** Reads a file of trees off the page's thread. */
const api = {
  read(text: string, knownTags: readonly string[], today: string, defaultUnit: LengthUnit): ImportPreview {
    try {
      return { ok: true, file: readTreesCsv(text, { knownTags: new Set(knownTags), today, defaultUnit }) };
    } catch (error) {
      if (error instanceof UnreadableFile) return { ok: false, message: error.message };
      throw error;
    }
  }
};
export type ImportWorker = typeof api;

expose(api);
