import { UnreadableFile } from '@baumkin/core/exchange';

/**
 * The text of a file: UTF-8 as a rule; UTF-16 where a mark at its beginning says so, as some spreadsheets write; else
 * Windows-1252, as old ones do.
 */
export function decodeText(bytes: ArrayBuffer): string {
  const [first, second] = new Uint8Array(bytes.slice(0, 2));
  if (first === 0xff && second === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (first === 0xfe && second === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** A file that somebody chose, as it was read; or why it cannot be. */
export type ChosenFile<T> = { readonly name: string } & (
  { readonly told: T; readonly problem: null } | { readonly told: null; readonly problem: string }
);

/**
 * Reads the file that somebody chose. The same one can be chosen again afterwards.
 * @returns null where none was chosen
 */
export async function readChosen<T>(input: HTMLInputElement, read: (text: string) => T): Promise<ChosenFile<T> | null> {
  const [file] = input.files ?? [];
  if (!file) return null;
  const { name } = file;
  try {
    return { name, told: read(decodeText(await file.arrayBuffer())), problem: null };
  } catch (error) {
    if (!(error instanceof UnreadableFile)) throw error;
    return { name, told: null, problem: error.message };
  } finally {
    input.value = '';
  }
}

/** Hands a text to the browser as a file to keep. */
export function saveAs(name: string, content: string, type = 'text/csv'): void {
  const url = URL.createObjectURL(new Blob([content], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
