import { shownBush, type ShownBush, type VisitorRow } from '@baumkin/core/bush';
import { seasonOf } from '@baumkin/core/records';

import { accessOf, stillStands } from './bushes.ts';
import { today } from './clock.ts';
import { Bush } from './db/index.ts';
import { asTold, keptLines } from './lines.ts';

/** A bush as its stewards show it to whoever comes by. */
export interface VisitorPage extends ShownBush {
  readonly name: string;
  readonly words: string;
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
/** Pages that are kept as they were told last, since a visitor has no account to be held to. */
const MOST_KEPT = 50;
const kept = new Map<string, { readonly of: string; readonly page: VisitorPage }>();

/** The page of a bush for visitors; null where there is no such bush, or where it is not open to them. */
export async function visitorPage(bushId: string, now = new Date()): Promise<VisitorPage | null> {
  if (!UUID.test(bushId)) return null;
  const row = await Bush.findOne({ where: { id: bushId, ...stillStands(now) } });
  const bush = row && accessOf(row);
  if (!bush?.settings.openToVisitors) return null;
  const day = today();
  const season = seasonOf(day);
  const of = `${row!.feedId} ${row!.changes} ${day}`;
  const known = kept.get(bushId);
  if (known?.of === of) return known.page;
  const { lines } = asTold(await keptLines(bushId, season), day);
  const rows = lines.map((line) => JSON.parse(line) as VisitorRow);
  const page = { name: bush.name, words: bush.settings.visitorWords, ...shownBush(rows, season) };
  kept.delete(bushId);
  kept.set(bushId, { of, page });
  if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
  return page;
}
