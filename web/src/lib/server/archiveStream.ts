import { randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { UnreadableFile, type ArchiveList, type ArchiveReader, type ArchivedRecord } from '@baumkin/core/exchange';
import { JSONParser } from '@streamparser/json';

/** An archive that can be read from its beginning, more than once. */
export type ArchiveSource = () => AsyncIterable<string | Uint8Array> | Iterable<string | Uint8Array>;

/** The long lists of an archive: of these one value at a time is in memory. */
const LISTS: Readonly<Record<string, ArchiveList | 'walk'>> = {
  records: 'records',
  bushRecords: 'bushRecords',
  walk: 'walk'
};

/**
 * Reads an archive piece by piece into a reader.
 * @param take gets each record once the reader has found nothing wrong with it; what it gives back is awaited between pieces
 * @throws UnreadableFile
 */
export async function readPieces(
  source: ArchiveSource,
  reader: ArchiveReader,
  take: (record: ArchivedRecord) => void = () => undefined,
  between: () => Promise<void> = async () => undefined
): Promise<void> {
  const walk: unknown[] = [];
  const parser = new JSONParser({ paths: ['$.*', '$.records.*', '$.bushRecords.*', '$.walk.*'], keepStack: false });
  let failed: unknown = null;
  parser.onValue = ({ key, value, stack }) => {
    const list = stack.length > 1 ? LISTS[String(stack[1]!.key)] : undefined;
    try {
      if (list === 'walk') walk.push(value);
      else if (list) take(reader.record(list, value));
      else if (!(String(key) in LISTS)) reader.field(String(key), value);
    } catch (error) {
      failed ??= error;
    }
  };
  parser.onError = (error) => (failed ??= error);
  for await (const piece of source()) {
    if (failed === null && !parser.isEnded) parser.write(piece);
    if (failed !== null) break;
    await between();
  }
  if (failed instanceof UnreadableFile) throw failed;
  if (failed !== null || !parser.isEnded)
    throw new UnreadableFile('This is not an archive: it cannot be read as JSON.');
  reader.field('walk', walk);
}

/** Puts what comes in aside, so that it can be read more than once; it is gone once the work is done. */
export async function spooled<T>(
  body: AsyncIterable<string | Uint8Array> | null,
  work: (source: ArchiveSource) => Promise<T>
): Promise<T> {
  const path = join(tmpdir(), `baumkin-archive-${randomUUID()}.json`);
  try {
    await pipeline(Readable.from(body ?? []), createWriteStream(path, { mode: 0o600 }));
    return await work(() => createReadStream(path));
  } finally {
    await rm(path, { force: true });
  }
}
