import {
  effectiveRecords,
  registryLine,
  tagKey,
  type Entry,
  type Tree,
  type TreePlace,
  type WorkRecord
} from '@baumkin/core/records';
import { randomUUID } from 'node:crypto';
import { Op, type Transaction } from 'sequelize';

import type { BushWrite } from './bushWrite.ts';
import { StandRow, TreeRecord } from './db/index.ts';
import { insertRows, type Cell } from './db/insertRows.ts';
import { insertRecords, recordsWhere, type Writing } from './recordRows.ts';

type Line = Omit<Tree, 'id' | 'tag' | 'walkOrder'> & {
  readonly id: string;
  readonly tag: string | null;
  readonly tagKey: string | null;
  readonly walkOrder: number;
};

const NOWHERE: Omit<Line, 'id' | 'walkOrder'> = {
  tag: null,
  tagKey: null,
  standId: null,
  stemOf: null,
  tagged: true,
  eastM: null,
  northM: null,
  positionQuality: null,
  positionAccuracyM: null
};
/** What of a tree's row follows from its records. */
const LINE_COLUMNS = Object.keys(NOWHERE) as (keyof typeof NOWHERE)[];

/** Steps of the walk that lie closer than this are all spread out again. */
const LEAST_STEP = 1e-6;

/**
 * The registry of a bush while entries and places are stored: as much of it as they touch is read once, changed in memory
 * entry by entry, and stored with `keep`. The bush is locked meanwhile: two at a time could both think a tag free.
 */
export class TreeRegistry {
  readonly #lines: Map<string, Line>;
  readonly #holders = new Map<string, Line>();
  readonly #entries = new Map<string, Entry[]>();
  readonly #places = new Map<string, TreePlace[]>();
  readonly #changed = new Set<string>();
  readonly #born = new Set<string>();

  private constructor(
    readonly write: BushWrite,
    lines: readonly Line[],
    /** stands of this bush, and trees of others, among those that are named */
    readonly ids: { readonly stands: ReadonlySet<string>; readonly foreign: ReadonlySet<string> },
    readonly walk: Walk
  ) {
    this.#lines = new Map(lines.map((line) => [line.id, line]));
    for (const line of lines) if (line.tagKey !== null) this.#holders.set(line.tagKey, line);
  }

  /** Reads what these entries and places touch, in a fixed number of queries. */
  static async open(records: readonly (Entry | TreePlace)[], write: BushWrite): Promise<TreeRegistry> {
    const { bush, transaction } = write;
    const entries = records.filter((record) => record.kind === 'entry');
    const treeIds = [...new Set(records.map(({ treeId }) => treeId))];
    const named = entries.flatMap(({ stemOf, standId }) => [stemOf ?? [], standId ?? []].flat());
    const where = {
      bushId: bush.id,
      [Op.or]: [
        { id: [...treeIds, ...named] },
        { tagKey: entries.map(({ tag }) => tagKey(tag)) },
        { stemOf: entries.map(({ treeId }) => treeId) }
      ]
    };
    const lines = (await TreeRecord.findAll({ where, transaction, raw: true })) as unknown as Line[];
    const stands = await StandRow.findAll({ where: { bushId: bush.id, id: named }, attributes: ['id'], transaction });
    const elsewhere = { id: treeIds, bushId: { [Op.ne]: bush.id } };
    const foreign = await TreeRecord.findAll({ where: elsewhere, attributes: ['id'], transaction });
    const inserts = entries.some(({ afterId, correctsId }) => afterId !== null && correctsId === null);
    const registry = new TreeRegistry(
      write,
      lines.map((line) => ({ ...line, tagged: Boolean(line.tagged) })),
      { stands: new Set(stands.map(({ id }) => id)), foreign: new Set(foreign.map(({ id }) => id)) },
      await Walk.read(bush.id, inserts, transaction)
    );
    await registry.#readLives(treeIds);
    return registry;
  }

  async #readLives(treeIds: readonly string[]): Promise<void> {
    const { transaction } = this.write;
    for (const entry of await recordsWhere('entry', { treeId: treeIds }, { transaction }))
      push(this.#entries, entry.treeId, entry);
    for (const place of await recordsWhere('place', { treeId: treeIds }, { transaction }))
      push(this.#places, place.treeId, place);
  }

  /** Takes an entry or a place in. @returns a sentence for people where it is refused */
  take(record: Entry | TreePlace): string | null {
    const line = this.#lines.get(record.treeId);
    if (record.kind === 'place') {
      if (!line) return 'The tree is not in this bush.';
      push(this.#places, record.treeId, record);
    } else {
      const refusal = this.#mayEnter(record, line);
      if (refusal !== null) return refusal;
      if (!line) {
        this.#lines.set(record.treeId, { ...NOWHERE, id: record.treeId, walkOrder: this.walk.stepFor(record) });
        this.#born.add(record.treeId);
      }
      push(this.#entries, record.treeId, record);
    }
    this.#derive(record.treeId);
    return null;
  }

  #mayEnter(entry: Entry, tree: Line | undefined): string | null {
    if (this.ids.foreign.has(entry.treeId) || (!tree && entry.correctsId !== null))
      return 'The tree is not in this bush.';
    if (tree && tree.tag !== null && entry.correctsId === null) return 'This tree is in the book already.';
    if (entry.withdrawn) return null;
    const holder = this.#holders.get(tagKey(entry.tag));
    if (holder && holder.id !== entry.treeId)
      return holder.tag === entry.tag
        ? `The tag ${entry.tag} hangs on another tree already.`
        : `The tag ${entry.tag} cannot be told from ${holder.tag}, which hangs on another tree already.`;
    if (entry.standId !== null && !this.ids.stands.has(entry.standId)) return 'Its stand is not in this bush.';
    if (entry.stemOf !== null) {
      const base = this.#lines.get(entry.stemOf);
      if (!base || entry.stemOf === entry.treeId) return 'The stem whose base it shares is not in this bush.';
      if (base.stemOf !== null) return 'Name the first stem of the base, not another one of its stems.';
      for (const other of this.#lines.values())
        if (other.stemOf === entry.treeId) return 'Other stems share its base already.';
    }
    return null;
  }

  #derive(treeId: string): void {
    const before = this.#lines.get(treeId)!;
    const last = <T extends WorkRecord>(records: readonly T[] = []) => effectiveRecords(records).at(-1) ?? null;
    const said = registryLine({ entry: last(this.#entries.get(treeId)), place: last(this.#places.get(treeId)) });
    const after = { ...before, ...(said ? { ...said, tagKey: tagKey(said.tag) } : { tag: null, tagKey: null }) };
    if (before.tagKey !== null && this.#holders.get(before.tagKey)?.id === treeId) this.#holders.delete(before.tagKey);
    if (after.tagKey !== null) this.#holders.set(after.tagKey, after);
    this.#lines.set(treeId, after);
    this.#changed.add(treeId);
  }

  /** Stores the lines that changed. */
  async keep(): Promise<void> {
    const { bush, transaction } = this.write;
    const changed = [...this.#changed];
    if (changed.length === 0) return;
    // First nobody holds a tag that changes hands: two trees may have swapped theirs.
    const held = changed.filter((id) => !this.#born.has(id));
    if (held.length > 0)
      await TreeRecord.update({ tag: null, tagKey: null }, { where: { bushId: bush.id, id: held }, transaction });
    const rowsOf = (ids: readonly string[]) => ids.map((id) => ({ ...this.#lines.get(id)!, bushId: bush.id }));
    await TreeRecord.bulkCreate(rowsOf([...this.#born]), { transaction });
    await TreeRecord.bulkCreate(rowsOf(held), { updateOnDuplicate: LINE_COLUMNS, transaction });
    this.write.trees(changed);
    if (this.walk.spreadOut) {
      await storeSteps(bush.id, this.walk.order, transaction);
      this.write.touches('walk');
    }
  }
}

/** The order in which the trees are walked, as far as new ones need it. */
class Walk {
  spreadOut = false;
  readonly #steps: { id: string; at: number }[];
  #last: number;

  private constructor(steps: readonly { id: string; at: number }[], last: number) {
    this.#steps = [...steps];
    this.#last = last;
  }

  /** @param inserts whether some tree comes in between others: then the whole walk is read */
  static async read(bushId: string, inserts: boolean, transaction: Transaction): Promise<Walk> {
    if (!inserts) {
      const where = { bushId };
      const last = await TreeRecord.max<number | null, TreeRecord>('walkOrder', { where, transaction });
      return new Walk([], last ?? -1);
    }
    const steps = (await walkOf(bushId, transaction)).map(({ id, walkOrder }) => ({ id, at: walkOrder }));
    return new Walk(steps, steps.at(-1)?.at ?? -1);
  }

  get order(): string[] {
    return this.#steps.map(({ id }) => id);
  }

  /** The step of a tree that comes in: right after the one that it names, or at the end. */
  stepFor({ treeId, afterId }: Entry): number {
    const after = afterId === null ? -1 : this.#steps.findIndex(({ id }) => id === afterId);
    const [here, next] = [this.#steps[after], this.#steps[after + 1]];
    const at = here && next ? (here.at + next.at) / 2 : Math.floor(this.#last) + 1;
    if (here && next && next.at - here.at < 2 * LEAST_STEP) this.spreadOut = true;
    this.#steps.splice(here ? after + 1 : this.#steps.length, 0, { id: treeId, at });
    this.#last = Math.max(this.#last, at);
    return at;
  }
}

function push<T>(lists: Map<string, T[]>, key: string, value: T): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}

/** Ids of all trees of a bush in walking order, those that were taken out of the registry too. */
export async function walkOf(
  bushId: string,
  transaction?: Transaction
): Promise<{ readonly id: string; readonly walkOrder: number }[]> {
  return TreeRecord.findAll({
    where: { bushId },
    attributes: ['id', 'walkOrder'],
    order: [
      ['walkOrder', 'ASC'],
      ['id', 'ASC']
    ],
    raw: true,
    transaction
  });
}

/** Gives the trees whole steps in this order. @param ids of all trees of the bush */
export async function storeSteps(bushId: string, ids: readonly string[], transaction: Transaction): Promise<void> {
  for (let i = 0; i < ids.length; i += 1000)
    await TreeRecord.bulkCreate(
      ids.slice(i, i + 1000).map((id, k) => ({ ...NOWHERE, id, bushId, walkOrder: i + k })),
      { updateOnDuplicate: ['walkOrder'], transaction }
    );
}

/** Takes all trees of a stand out of it before it is erased: each gets an entry in the place of its last that says so. */
export async function leaveStand(standId: string, by: Writing, write: BushWrite): Promise<void> {
  const { transaction, bush, now } = write;
  const where = { bushId: bush.id, standId };
  const ids = (await TreeRecord.findAll({ where, attributes: ['id'], raw: true, transaction })).map(({ id }) => id);
  const lives = new Map<string, Entry[]>();
  for (const entry of await recordsWhere('entry', { treeId: ids }, { transaction })) push(lives, entry.treeId, entry);
  const left = [...lives.values()].flatMap((entries) => {
    const last = effectiveRecords(entries).at(-1);
    if (!last) return [];
    const on = now.toISOString().slice(0, 10);
    const id = randomUUID();
    return [{ ...last, id, on, recordedAt: now.toISOString(), standId: null, correctsId: last.id }];
  });
  await insertRecords('entry', left, by, transaction);
  await TreeRecord.update({ standId: null }, { where, transaction });
  write.records(left);
  write.trees(ids);
}

/**
 * Stores many trees as lines of the registry; their entries and places are stored with the other records. Trees of the walk
 * without a line were taken out of the registry: they keep their records.
 * @param from the step of the walk at which these begin
 */
export async function storeLines(
  walk: readonly string[],
  lines: readonly Tree[],
  { bushId, from }: { readonly bushId: string; readonly from: number },
  transaction: Transaction
): Promise<void> {
  const byId = new Map(lines.map((line) => [line.id, line]));
  const rows = walk.map((id, i): Cell[] => {
    const line = byId.get(id);
    const cells: typeof NOWHERE = line ? { ...line, tagKey: tagKey(line.tag) } : NOWHERE;
    return [id, bushId, from + i, ...LINE_COLUMNS.map((column) => cells[column])];
  });
  await insertRows({ table: 'trees', columns: ['id', 'bushId', 'walkOrder', ...LINE_COLUMNS] }, rows, transaction);
}
