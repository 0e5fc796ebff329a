import {
  deriveTree,
  expectationsOf,
  LINE_KINDS,
  saysOf,
  seenAmong,
  treeRow,
  type AsOf,
  type Expectations,
  type Says,
  type TreeRow,
  type TreeState
} from '@baumkin/core/records';
import { QueryTypes, type Transaction } from 'sequelize';

import { Bush, LineBook, tables, TreeLine } from './db/index.ts';
import { reading } from './db/reading.ts';
import { recordsByTree } from './records.ts';
import { treesOf } from './trees.ts';

/* The lines of a bush's trees, kept beside their records: dropped by whoever writes to a tree, derived anew by whoever asks. */

/** The lines of all trees in walking order, each as JSON, and what was expected of them. */
export interface KeptLines extends Expectations {
  readonly lines: readonly string[];
}

interface Kept {
  readonly id: string;
  line: string | null;
  says: string | null;
}

/** Trees whose records are held in memory at once. */
const AT_ONCE = 2000;

/**
 * The lines of a bush's trees. Those that are kept are read; those that are missing are derived and kept. Where the day or
 * what is expected of the bush's trees is another, all are derived anew.
 */
export async function linesOf(bushId: string, at: AsOf): Promise<KeptLines> {
  const { found, fresh, keep } = await reading(async (transaction) => {
    const { changes: number } = await Bush.findByPk(bushId, { transaction, rejectOnEmpty: true });
    const book = await LineBook.findByPk(bushId, { transaction });
    const kept = await tables().sequelize.query<Kept>(
      `SELECT t.id, l.line, l.says FROM trees t LEFT JOIN treeLines l ON l.treeId = t.id
       WHERE t.bushId = ? AND t.tag IS NOT NULL ORDER BY t.walkOrder, t.id`,
      { replacements: [bushId], type: QueryTypes.SELECT, transaction }
    );
    const isOfToday = book?.day === at.today && book.season === at.season && book.release === BUILD;
    if (!isOfToday) for (const each of kept) each.line = each.says = null;
    const derive = new Deriving(bushId, at, transaction);
    const missing = kept.filter(({ line }) => line === null);
    await derive.firstPass(missing);
    const before = book && isOfToday ? JSON.stringify(parsed(book.expects)) : null;
    const expects =
      missing.length === 0 && before !== null
        ? (JSON.parse(before) as Expectations)
        : expectationsOf(kept.map(({ says }) => JSON.parse(says!) as Says));
    const changed = JSON.stringify(expects) !== before;
    const anew = changed ? kept : missing;
    await derive.secondPass(anew, expects);
    return {
      found: { lines: kept.map(({ line }) => line!), ...expects },
      fresh: anew,
      keep: { number, expects, book: changed }
    };
  });
  if (fresh.length > 0 || keep.book) await keepLines(bushId, at, fresh, keep);
  return found;
}

/** The same lines, read. */
export async function treeRows(
  bushId: string,
  season: number,
  today: string
): Promise<{ readonly rows: readonly TreeRow[] } & Expectations> {
  const { lines, priors, sizes } = await linesOf(bushId, { season, today });
  return { rows: lines.map((line) => JSON.parse(line) as TreeRow), priors, sizes };
}

const parsed = (json: unknown): unknown => (typeof json === 'string' ? JSON.parse(json) : json);

/** Lines on their way from records, some thousands of trees at a time. */
class Deriving {
  readonly #states = new Map<string, TreeState>();

  constructor(
    readonly bushId: string,
    readonly at: AsOf,
    readonly transaction: Transaction
  ) {}

  /** What the trees say by themselves. */
  async firstPass(trees: readonly Kept[]): Promise<void> {
    for (let i = 0; i < trees.length; i += AT_ONCE) await this.#read(trees.slice(i, i + AT_ONCE));
    for (const tree of trees) tree.says = JSON.stringify(saysOf(this.#states.get(tree.id)!));
  }

  /** The lines of trees, each seen among the others. */
  async secondPass(trees: readonly Kept[], expects: Expectations): Promise<void> {
    for (let i = 0; i < trees.length; i += AT_ONCE) {
      const part = trees.slice(i, i + AT_ONCE);
      await this.#read(part.filter(({ id }) => !this.#states.has(id)));
      const which = { id: part.map(({ id }) => id) };
      const rows = new Map(
        (await treesOf(this.bushId, { which, transaction: this.transaction })).map((tree) => [tree.id, tree])
      );
      for (const tree of part) {
        const state = seenAmong(this.#states.get(tree.id)!, this.at.today, expects);
        tree.line = JSON.stringify(treeRow(rows.get(tree.id)!, state));
      }
    }
  }

  async #read(trees: readonly Kept[]): Promise<void> {
    if (trees.length === 0) return;
    const treeIds = trees.map(({ id }) => id);
    const records = await recordsByTree(this.bushId, {
      treeIds,
      kinds: LINE_KINDS,
      transaction: this.transaction
    });
    for (const id of treeIds) this.#states.set(id, deriveTree(records.get(id) ?? [], this.at));
  }
}

/** Keeps lines unless something was written meanwhile: they might be those of before. */
async function keepLines(
  bushId: string,
  { season, today }: AsOf,
  fresh: readonly Kept[],
  { number, expects, book }: { readonly number: number; readonly expects: Expectations; readonly book: boolean }
): Promise<void> {
  await tables().sequelize.transaction(async (transaction) => {
    const bush = await Bush.findByPk(bushId, { transaction, lock: true, rejectOnEmpty: true });
    if (bush.changes !== number) return;
    if (book) await LineBook.upsert({ bushId, season, day: today, expects, release: BUILD }, { transaction });
    for (let i = 0; i < fresh.length; i += AT_ONCE)
      await tables().sequelize.query(
        `REPLACE INTO treeLines (treeId, bushId, says, line) VALUES ${fresh
          .slice(i, i + AT_ONCE)
          .map(() => '(?, ?, ?, ?)')
          .join()}`,
        {
          replacements: fresh.slice(i, i + AT_ONCE).flatMap(({ id, says, line }) => [id, bushId, says, line]),
          type: QueryTypes.INSERT,
          transaction
        }
      );
  });
}

/** Drops what is kept of a bush's lines, or of all bushes: they are derived anew when somebody asks. */
export async function dropLines(bushId?: string): Promise<void> {
  const where = bushId === undefined ? {} : { bushId };
  await TreeLine.destroy({ where });
  await LineBook.destroy({ where });
}
