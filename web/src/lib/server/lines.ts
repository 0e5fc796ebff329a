import { expectationsOf, tellLine, type Expectations, type Grounds } from '@baumkin/core/records';

import { Bush, LineBook, tables, TreeLine } from './db/index.ts';
import { inTransaction } from './db/transaction.ts';
import { insertRows } from './db/insertRows.ts';
import { reading } from './db/reading.ts';
import type { KeptTexts } from './derivedLine.ts';
import { deriveLines } from './deriveLines.ts';
import { treesOf } from './trees.ts';

/*
 * The lines of a bush's trees, kept beside their records: dropped by whoever writes to a tree, derived anew by whoever asks.
 * What hangs on the day and on the bush's other trees is not kept but told anew from its grounds each time.
 */

interface Kept {
  readonly id: string;
  line: string | null;
  grounds: string | null;
}

/**
 * The lines of a bush's trees in walking order. Those that are kept are read; those that are missing are derived and kept.
 * @param background awaits the keeping, where nobody else is to wait for it
 */
export async function keptLines(
  bushId: string,
  season: number,
  { background }: { readonly background?: (keeping: Promise<void>) => void } = {}
): Promise<readonly KeptTexts[]> {
  const { kept, fresh, keep } = await reading(async (transaction) => {
    const { changes: number } = await Bush.findByPk(bushId, { transaction, rejectOnEmpty: true });
    const book = await LineBook.findByPk(bushId, { transaction });
    // As the database gives them: a copy of each row would be made otherwise.
    const [rows] = await tables().sequelize.query(
      `SELECT t.id, l.line, l.grounds FROM trees t LEFT JOIN treeLines l ON l.treeId = t.id
       WHERE t.bushId = ? AND t.tag IS NOT NULL ORDER BY t.walkOrder, t.id`,
      { replacements: [bushId], transaction }
    );
    const kept = rows as Kept[];
    const holds = book?.season === season && book.release === CORE;
    if (!holds) for (const each of kept) each.line = each.grounds = null;
    const fresh = kept.filter(({ line }) => line === null);
    if (fresh.length > 0) {
      const byId = new Map(fresh.map((each) => [each.id, each]));
      const most = 2 * fresh.length > kept.length;
      const trees = await treesOf(bushId, { which: most ? {} : { id: [...byId.keys()] }, transaction });
      const wanted = trees.filter(({ id }) => byId.has(id));
      for await (const lines of deriveLines(bushId, wanted, { most, season, transaction }))
        for (const line of lines) Object.assign(byId.get(line.id)!, line);
    }
    return { kept, fresh, keep: { season, number, book: !holds } };
  });
  if (fresh.length > 0 || keep.book) {
    const keeping = keepLines(bushId, fresh, keep);
    if (background) background(keeping);
    else await keeping;
  }
  return kept as KeptTexts[];
}

/** Lines as they are kept, each an object as JSON: whoever reads them tells them for a day himself. */
export const asKept = (kept: readonly KeptTexts[]): string[] => kept.map(({ line, grounds }) => joined(line, grounds));

/** Lines for a day, each an object as JSON, and what is expected of the trees. @param today ISO date */
export function asTold(
  kept: readonly KeptTexts[],
  today: string
): { readonly lines: readonly string[] } & Expectations {
  const all = groundsIn(kept);
  const expects = expectationsOf(all, today);
  const told = all.map((grounds) => ({ ...grounds, ...tellLine(grounds, today, expects) }));
  return { lines: kept.map(({ line }, i) => joined(line, JSON.stringify(told[i]))), ...expects };
}

/** What is expected of the trees of a bush. @param today ISO date */
export const expectedOf = (kept: readonly KeptTexts[], today: string): Expectations =>
  expectationsOf(groundsIn(kept), today);

const groundsIn = (kept: readonly KeptTexts[]) => kept.map(({ grounds }) => JSON.parse(grounds) as Grounds);

/** One object as JSON, of two that are. */
const joined = (one: string, other: string) => `${one.slice(0, -1)},${other.slice(1)}`;

/** Keeps lines unless something was written meanwhile: they might be those of before. */
async function keepLines(
  bushId: string,
  fresh: readonly Kept[],
  { season, number, book }: { readonly season: number; readonly number: number; readonly book: boolean }
): Promise<void> {
  await inTransaction(async (transaction) => {
    const bush = await Bush.findByPk(bushId, { transaction, lock: true, rejectOnEmpty: true });
    if (bush.changes !== number) return;
    if (book) await LineBook.upsert({ bushId, season, release: CORE }, { transaction });
    const rows = fresh.map(({ id, line, grounds }) => [id, bushId, grounds, line]);
    // Whoever asked at the same time may have kept the same.
    const columns = ['treeId', 'bushId', 'grounds', 'line'];
    await insertRows({ table: 'treeLines', columns, replacing: true }, rows, transaction);
  });
}

/** Drops what is kept of a bush's lines: they are derived anew when somebody asks. */
export async function dropLines(bushId: string): Promise<void> {
  await TreeLine.destroy({ where: { bushId } });
  await LineBook.destroy({ where: { bushId } });
}

/**
 * Derives the lines of all bushes, so that nobody has to wait for them after a new release or at the turn of the season.
 * @param anew those that are kept, too
 * @param told of each bush that was looked at
 */
export async function rebuildLines(
  season: number,
  { anew, told = () => undefined }: { readonly anew: boolean; readonly told?: (name: string, trees: number) => void }
): Promise<void> {
  for (const { id, name } of await Bush.findAll({ attributes: ['id', 'name'], order: ['id'], raw: true })) {
    if (anew) await dropLines(id);
    told(name, (await keptLines(id, season)).length);
  }
}
