import { seasonOf } from '@baumkin/core/records';

import type { Glance } from '../client/overview.ts';
import type { BushAccess } from './bushes.ts';
import { wholeOf } from './changes.ts';
import { today } from './clock.ts';
import { Bush } from './db/index.ts';
import { keptLines, type KeptTexts } from './lines.ts';
import { log } from './log.ts';

/** The bush at a glance for a member, and the lines of its trees in walking order. */
export async function glanceAt(
  { id, role }: BushAccess,
  member: Glance['member']
): Promise<{ readonly glance: Glance; readonly kept: readonly KeptTexts[] }> {
  const day = today();
  const season = seasonOf(day);
  // The number is of the moment before anything else is read: what came between is told again by the feed, and never missed.
  const { feedId: feed, changes: number } = await Bush.findByPk(id, { rejectOnEmpty: true });
  const [whole, kept] = await Promise.all([
    wholeOf(id),
    keptLines(id, season, {
      // Lines that were not kept are derived once more by whoever asks next.
      background: (keeping) =>
        keeping.catch((error: unknown) => log.error({ err: error, bushId: id }, 'Lines were not kept'))
    })
  ]);
  const { name, settings, version, origin, ...rest } = whole;
  const glance = {
    bush: { id, name, role, settings, version, origin },
    member,
    today: day,
    season,
    ...rest,
    feed,
    number
  };
  return { glance, kept };
}

/** A bush at a glance as JSON, with the lines of its trees, which are JSON already. */
export const withTrees = (head: object, lines: readonly string[]): string =>
  `${JSON.stringify(head).slice(0, -1)},"trees":[${lines.join()}]}`;
