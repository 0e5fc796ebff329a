import { writeRows } from '@baumkin/core/exchange';
import { Op, type Transaction } from 'sequelize';

import { LOG_KINDS, logWords, type LogKind } from '../labels/log.ts';
import { Bush, BushChange, FORMER, Membership, User } from './db/index.ts';

/* Who changed what of a bush, and when: all but the work on its trees, which carries its author and its day by itself. */

/** Who did something in which bush, and when. */
export interface DoneBy {
  readonly bushId: string;
  readonly authorId: string;
  readonly at: Date;
}

/** Writes down what was done. @param details what `logWords` tells of it */
export async function noted(by: DoneBy, kind: LogKind, details: object, transaction?: Transaction): Promise<void> {
  await BushChange.create({ ...by, kind, settings: details }, { transaction });
}

/** A refusal is told once in so much time, ms: a page that asks again and again is one. */
const REFUSED_ONCE_IN_MS = 3_600_000;

/** Writes down that somebody was refused what her role does not let her do. */
export async function notedRefusal(by: DoneBy, role: string, refused: string): Promise<void> {
  const details = { refused: refused.slice(0, 200), role };
  const since = new Date(by.at.getTime() - REFUSED_ONCE_IN_MS);
  const lately = await BushChange.findAll({
    where: { bushId: by.bushId, kind: 'refusal', authorId: by.authorId, at: { [Op.gt]: since } },
    order: [['id', 'DESC']],
    limit: 50
  });
  const text = JSON.stringify(details);
  // However many different things she tries: a log that she fills is no use to anybody.
  if (lately.length >= 50 || lately.some(({ settings }) => JSON.stringify(settings) === text)) return;
  await noted(by, 'refusal', details);
}

/** Writes down what somebody did that reaches into all of her bushes: a key of hers opens each of them. */
export async function notedEverywhere(userId: string, at: Date, kind: LogKind, details: object): Promise<void> {
  const hers = await Membership.findAll({ where: { userId, role: { [Op.ne]: FORMER } } });
  const stay = await Bush.findAll({
    where: { id: hers.map(({ bushId }) => bushId), playUntil: null },
    attributes: ['id']
  });
  for (const { id } of stay) await noted({ bushId: id, authorId: userId, at }, kind, details);
}

/** An entry of a bush's log. */
export interface LogEntry {
  readonly id: number;
  readonly at: string;
  readonly by: string;
  readonly kind: string;
  /** what was done, in a sentence without who did it */
  readonly says: string;
}

export interface LogAsked {
  readonly kind?: LogKind | null;
  /** entries before this one */
  readonly before?: number | null;
}

/** Entries that are told at once. */
const PAGE = 100;

/** What was done in a bush, the newest first. */
export async function logOf(
  bushId: string,
  { kind = null, before = null }: LogAsked
): Promise<{ entries: LogEntry[]; more: boolean }> {
  const rows = await BushChange.findAll({
    where: { bushId, ...(kind ? { kind } : {}), ...(before ? { id: { [Op.lt]: before } } : {}) },
    order: [['id', 'DESC']],
    limit: PAGE + 1
  });
  const told = rows.slice(0, PAGE);
  const nameOf = await namesIn(told);
  const entries = told.map(({ id, at, kind, authorId, settings }) => ({
    id,
    at: at.toISOString(),
    by: nameOf(authorId),
    kind,
    says: logWords({ kind, details: settings }, nameOf)
  }));
  return { entries, more: rows.length > PAGE };
}

/** The people whom entries name, as they are called now. */
async function namesIn(rows: readonly BushChange[]): Promise<(id: string) => string> {
  const ids = rows.flatMap(({ authorId, settings }) => {
    const { member, founder } = settings as { member?: unknown; founder?: unknown };
    return [authorId, member, founder].flatMap((id) => (typeof id === 'string' ? id : []));
  });
  const users = await User.findAll({ where: { id: [...new Set(ids)] }, attributes: ['id', 'displayName'] });
  const names = new Map(users.map(({ id, displayName }) => [id, displayName]));
  return (id) => names.get(id) ?? 'somebody who left';
}

/** All of a bush's log as a table, piece by piece. */
export async function* logTable(bushId: string): AsyncGenerator<string> {
  yield writeRows([['at', 'by', 'about', 'what']]);
  let before: number | null = null;
  for (let more = true; more;) {
    const page = await logOf(bushId, { before });
    yield writeRows(page.entries.map(({ at, by, kind, says }) => [at, by, LOG_KINDS[kind as LogKind] ?? kind, says]));
    before = page.entries.at(-1)?.id ?? null;
    more = page.more;
  }
}
