import type { Expectations, TreeRow } from '@baumkin/core/records';

import { asTold, keptLines } from '../src/lib/server/lines.ts';

/** The lines of a bush's trees as they are kept, told for a day. */
export async function treeRows(
  bushId: string,
  season: number,
  today: string
): Promise<{ readonly rows: readonly TreeRow[] } & Expectations> {
  const { lines, rings, sizes } = asTold(await keptLines(bushId, season), today);
  return { rows: lines.map((line) => JSON.parse(line) as TreeRow), rings, sizes };
}
