import { seasonOf } from '@baumkin/core/records';

import type { WholeGlance } from '../client/overview.ts';
import type { BushAccess } from './bushes.ts';
import { wholeOf } from './changes.ts';
import { today } from './clock.ts';
import { Bush } from './db/index.ts';
import type { KeptTexts } from './derivedLine.ts';
import { keptLines } from './lines.ts';
import { log } from './log.ts';

const LINES_A_PIECE = 500;

/** The bush at a glance for a member, and the lines of its trees in walking order. */
export async function glanceAt(
  { id, role }: BushAccess,
  member: WholeGlance['member']
): Promise<{ readonly glance: WholeGlance; readonly kept: readonly KeptTexts[] }> {
  const day = today();
  const season = seasonOf(day);
  // The number is of the moment before anything else is read: what came between is told again by the feed, and never missed.
  const { feedId: feed, changes: number } = await Bush.findByPk(id, { rejectOnEmpty: true });
  const { name, settings, version, origin, goneAt, ...rest } = await wholeOf(id);
  const kept = await keptLines(id, season, {
    // Lines that were not kept are derived once more by whoever asks next.
    background: (keeping) =>
      keeping.catch((error: unknown) => log.error({ err: error, bushId: id }, 'Lines were not kept'))
  });
  const glance = {
    bush: { id, name, role, settings, version, origin, goneAt },
    member,
    today: day,
    season,
    ...rest,
    feed,
    number
  };
  return { glance, kept };
}

/** A bush at a glance as JSON, with the lines of its trees, which are JSON already: piece by piece. */
export function* withTrees(head: object, lines: readonly string[]): Generator<string> {
  yield `${JSON.stringify(head).slice(0, -1)},"trees":[`;
  for (let i = 0; i < lines.length; i += LINES_A_PIECE)
    yield (i > 0 ? ',' : '') + lines.slice(i, i + LINES_A_PIECE).join();
  yield ']}';
}
