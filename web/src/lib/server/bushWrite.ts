import type { AnyRecord, AnyRecordKind } from '@baumkin/core/records';
import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';

import { Bush, Change, TreeLine } from './db/index.ts';
import { inTransaction } from './db/transaction.ts';

/** What one write touched: what the feed of a bush's changes keeps of it. What is there now is read when the feed is told. */
export interface Touched {
  /** ids of records that were stored, by kind */
  records?: Partial<Record<AnyRecordKind, string[]>>;
  /** ids of trees whose line in the registry, or step on the walk, is another */
  trees?: string[];
  stands?: string[];
  features?: string[];
  /** all trees were put into another order */
  walk?: true;
  /** name, settings, origin or picture */
  bush?: true;
  /** members, and what they let the others see */
  people?: true;
}

/** Ids that one number of the feed names at most: an import takes as many numbers as it needs. */
const MOST_IDS = 1000;

/** One write to a bush: whatever it touches is told by the feed once it is committed, and not before. */
export class BushWrite {
  readonly #trees = new Set<string>();
  readonly #records: { kind: AnyRecordKind; id: string }[] = [];
  readonly #ofBush: Touched = {};
  readonly #lives = new Set<string>();
  #anew = false;

  constructor(
    /** its row, locked until the write is done */
    readonly bush: Bush,
    readonly transaction: Transaction,
    readonly now: Date
  ) {}

  records(records: readonly AnyRecord[]): void {
    for (const record of records) {
      this.#records.push({ kind: record.kind, id: record.id });
      if ('treeId' in record) this.#lives.add(record.treeId);
    }
  }

  trees(ids: Iterable<string>): void {
    for (const id of ids) {
      this.#trees.add(id);
      this.#lives.add(id);
    }
  }

  shape(what: 'stand' | 'feature', id: string): void {
    (this.#ofBush[`${what}s`] ??= []).push(id);
  }

  touches(what: 'walk' | 'bush' | 'people'): void {
    this.#ofBush[what] = true;
  }

  /** So much is other that whoever follows begins anew, from a snapshot. */
  beginsAnew(): void {
    this.#anew = true;
  }

  /** Gives the write its numbers, in the order of commits since the row is locked, and drops the lines that it made old. */
  async finish(): Promise<void> {
    const { bush, transaction } = this;
    const lives = [...this.#lives];
    for (let i = 0; i < lives.length; i += MOST_IDS)
      await TreeLine.destroy({ where: { treeId: lives.slice(i, i + MOST_IDS) }, transaction });
    // A line tells the step on the walk too.
    if (this.#anew || this.#ofBush.walk) await TreeLine.destroy({ where: { bushId: bush.id }, transaction });
    const parts = this.#parts();
    if (this.#anew) {
      await Change.destroy({ where: { bushId: bush.id }, transaction });
      await bush.update({ feedId: randomUUID(), changes: bush.changes + 1 }, { transaction });
    } else if (parts.length > 0) {
      await Change.bulkCreate(
        parts.map((touched, i) => ({ bushId: bush.id, number: bush.changes + 1 + i, touched })),
        { transaction }
      );
      await bush.update({ changes: bush.changes + parts.length }, { transaction });
    }
  }

  #parts(): Touched[] {
    const trees = [...this.#trees];
    const parts: Touched[] = [];
    // Trees first: a record that is told later finds its tree.
    for (let i = 0; i < trees.length; i += MOST_IDS) parts.push({ trees: trees.slice(i, i + MOST_IDS) });
    for (let i = 0; i < this.#records.length; i += MOST_IDS) {
      const records: Partial<Record<AnyRecordKind, string[]>> = {};
      for (const { kind, id } of this.#records.slice(i, i + MOST_IDS)) (records[kind] ??= []).push(id);
      parts.push({ records });
    }
    if (Object.keys(this.#ofBush).length > 0) parts.unshift(this.#ofBush);
    // What is small is one change: a tree's line comes with the record that moved it.
    if (parts.length > 1 && trees.length + this.#records.length <= MOST_IDS) return [Object.assign({}, ...parts)];
    return parts;
  }
}

/**
 * Writes to a bush, all of it or nothing. Every write of a bush goes through here: its row is locked first, so that writes
 * come one after the other and the numbers of the feed follow the order of commits.
 * @throws Error where there is no such bush, and whatever `work` throws
 */
export async function writeToBush<T>(
  bushId: string,
  work: (write: BushWrite) => Promise<T>,
  now = new Date()
): Promise<T> {
  return inTransaction(async (transaction) => {
    const bush = await Bush.findByPk(bushId, { transaction, lock: true, rejectOnEmpty: true });
    const write = new BushWrite(bush, transaction, now);
    const result = await work(write);
    await write.finish();
    return result;
  });
}
