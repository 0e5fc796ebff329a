import { createHash, randomUUID } from 'node:crypto';
import mariadb from 'mariadb';

/** Records of trees lie in tables with these two columns. Crown cards name other trees by their ids, and are left out. */
const OF_A_TREE = `SELECT TABLE_NAME AS name FROM information_schema.COLUMNS
  WHERE TABLE_SCHEMA = DATABASE() AND COLUMN_NAME IN ('treeId', 'correctsId') AND TABLE_NAME <> 'crownCards'
  GROUP BY TABLE_NAME HAVING COUNT(*) = 2`;
/** Columns that hold the id of a tree or of one of its records. */
const POINTERS = new Set(['id', 'treeId', 'correctsId', 'stemOf', 'tapholeId']);
/** Trees that a felling damaged: of whom nothing is known here. */
const LIST_OF_IDS = /^\["[0-9a-f]{8}-.*$/;
const PACKET_ROWS = 2000;
const SPACING_M = 5;

/**
 * Grows a large bush beside the one of the demo, whose members it shares: trees of the demo, over and over, each with other
 * ids and in another place, so that a tree has about as many records as is asked for.
 * @param {string} databaseUrl of a database that holds the demo
 * @param {{ trees: number, records: number }} size
 * @returns {Promise<{ id: string, trees: number, records: number }>}
 */
export async function growBush(databaseUrl, { trees, records }) {
  const connection = await open(databaseUrl);
  try {
    const [demo] = await connection.query('SELECT * FROM bushes ORDER BY createdAt LIMIT 1');
    const id = randomUUID();
    await insert(connection, 'bushes', [{ ...demo, id, name: `${trees} trees`, feedId: randomUUID(), changes: 0 }]);
    const members = await connection.query('SELECT * FROM memberships WHERE bushId = ?', [demo.id]);
    await insert(
      connection,
      'memberships',
      members.map((/** @type {object} */ row) => ({ ...row, bushId: id }))
    );

    const kinds = (await connection.query(OF_A_TREE)).map((/** @type {{ name: string }} */ row) => row.name);
    /** @type {Map<string, { table: string, row: Record<string, unknown> }[]>} */
    const lives = new Map();
    for (const table of kinds)
      for (const row of await connection.query(`SELECT * FROM ${table} WHERE bushId = ?`, [demo.id]))
        lives.set(row.treeId, [...(lives.get(row.treeId) ?? []), { table, row }]);
    const known = await connection.query('SELECT * FROM trees WHERE bushId = ? AND tag IS NOT NULL', [demo.id]);
    const pattern = asManyAs(records, known, lives);

    const across = Math.ceil(Math.sqrt(trees));
    /** @type {Map<string, Record<string, unknown>[]>} */
    const rows = new Map([['trees', []], ...kinds.map((/** @type {string} */ kind) => [kind, []])]);
    let stored = 0;
    for (let i = 0; i < trees; i++) {
      const tree = pattern[i % pattern.length];
      const round = Math.floor(i / pattern.length);
      const other = (/** @type {Record<string, unknown>} */ row) =>
        Object.fromEntries(
          Object.entries(row).map(([name, value]) => [
            name,
            typeof value !== 'string'
              ? value
              : POINTERS.has(name)
                ? otherId(value, id, round)
                : value.replace(LIST_OF_IDS, '[]')
          ])
        );
      const line = Math.floor(i / across);
      const column = line % 2 === 0 ? i % across : across - 1 - (i % across);
      const where = { bushId: id, eastM: column * SPACING_M, northM: line * SPACING_M };
      const own = { bushId: id, tag: `N${i + 1}`, tagKey: `n${i + 1}`, standId: null, stemOf: null, walkOrder: i };
      rows.get('trees')?.push({ ...other(tree), ...own, ...where });
      for (const { table, row } of lives.get(tree.id) ?? []) {
        const copy = other(row);
        copy.bushId = id;
        if (table === 'places') Object.assign(copy, where);
        if (table === 'entries') Object.assign(copy, { tag: own.tag, standId: null, stemOf: null, afterId: null });
        rows.get(table)?.push(copy);
        stored += 1;
      }
      if ((i + 1) % 1000 === 0 || i + 1 === trees)
        for (const [table, waiting] of rows) await insert(connection, table, waiting.splice(0));
    }
    return { id, trees, records: stored };
  } finally {
    await connection.end();
  }
}

/** A connection of its own to a database; rows come as the text that they are. @param {string} databaseUrl */
export function open(databaseUrl) {
  const { hostname, port, username, password, pathname } = new URL(databaseUrl);
  return mariadb.createConnection({
    host: hostname,
    port: Number(port),
    user: username,
    password,
    database: pathname.slice(1),
    dateStrings: true,
    autoJsonMap: false,
    jsonStrings: true
  });
}

/**
 * The trees with most records, as many of them as have that many on the average.
 * @param {number} records
 * @param {{ id: string }[]} trees
 * @param {Map<string, unknown[]>} lives
 * @returns {any[]}
 */
function asManyAs(records, trees, lives) {
  const many = (/** @type {{ id: string }} */ { id }) => lives.get(id)?.length ?? 0;
  const sorted = [...trees].sort((a, b) => many(b) - many(a));
  let sum = 0;
  const enough = sorted.findIndex((tree, i) => (sum += many(tree)) / (i + 1) < records);
  return sorted.slice(0, enough < 1 ? sorted.length : enough);
}

/** @param {string} id @param {string} bush @param {number} round */
function otherId(id, bush, round) {
  const hex = createHash('md5').update(`${id} ${bush} ${round}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20)}`;
}

/**
 * @param {mariadb.Connection} connection
 * @param {string} table
 * @param {Record<string, unknown>[]} rows
 */
async function insert(connection, table, rows) {
  for (let i = 0; i < rows.length; i += PACKET_ROWS) {
    const part = rows.slice(i, i + PACKET_ROWS);
    const names = Object.keys(part[0] ?? {});
    const marks = `(${names.map(() => '?').join()})`;
    await connection.query(
      `INSERT INTO ${table} (${names.map((name) => `\`${name}\``).join()}) VALUES ${part.map(() => marks).join()}`,
      part.flatMap((row) => names.map((name) => row[name]))
    );
  }
}
