import { UnreadableFile } from './statement.ts';

/**
 * What a file of JSON holds, whatever it is.
 * @param otherwise what is said of a file that is none
 * @throws UnreadableFile
 */
export function readJson(text: string, otherwise: string): unknown {
  try {
    return JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    throw new UnreadableFile(otherwise);
  }
}
