import type { Archive } from '@baumkin/core/exchange';

import { archiveText, restoreArchive } from '../src/lib/server/archive.ts';
import type { BushAccess } from '../src/lib/server/bushes.ts';

/** A bush's archive, all of it at once. */
export async function writeArchive(bush: BushAccess, now?: Date): Promise<Archive> {
  let text = '';
  for await (const piece of archiveText(bush, now)) text += piece;
  return JSON.parse(text) as Archive;
}

/** Reads an archive from its text. */
export const restoreText = (bush: BushAccess, memberId: string, text: string, now?: Date) =>
  restoreArchive({ bush, memberId, ...(now && { now }) }, () => [text]);
