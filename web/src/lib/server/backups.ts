import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { env } from 'node:process';
import { z } from 'zod';

/** What is known of this server's backups, which are made beside it. */
export interface BackupsTold {
  /** the moment of the newest that was read back on trial; null where there is none */
  readonly lastGood: Date | null;
  /** when one could not be made after that; null where none failed since */
  readonly failedAt: Date | null;
}

const PATTERN = /^baumkin-[\dTZ-]+\.json$/;
const noteSchema = z.object({ format: z.literal('baumkin-backup'), madeAt: z.coerce.date(), file: z.string() });
const failureSchema = z.object({ at: z.coerce.date() });

/**
 * Looks at the folder where backups lie (`BAUMKIN_BACKUPS`), not at what was once said of them: a disk that is not there any more holds
 * none.
 * @returns null where this server was told of no such folder
 */
export async function backupsTold(folder = env.BAUMKIN_BACKUPS): Promise<BackupsTold | null> {
  if (!folder) return null;
  const names = new Set(await readdir(folder).catch(() => []));
  const read = async <T>(name: string, schema: z.ZodType<T>): Promise<T | null> => {
    const text = await readFile(join(folder, name), 'utf8').catch(() => '');
    try {
      return schema.parse(JSON.parse(text));
    } catch {
      return null;
    }
  };
  let lastGood: Date | null = null;
  for (const name of [...names].filter((each) => PATTERN.test(each)).sort()) {
    const note = await read(name, noteSchema);
    if (note && names.has(note.file)) lastGood = note.madeAt;
  }
  const failure = names.has('last-failure.json') ? await read('last-failure.json', failureSchema) : null;
  const failedAt = failure && (lastGood === null || failure.at > lastGood) ? failure.at : null;
  return { lastGood, failedAt };
}
