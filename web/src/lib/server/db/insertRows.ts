import { QueryTypes, type Transaction } from 'sequelize';

import { tables } from './index.ts';

/** What stands in a cell; JSON as its text. */
export type Cell = string | number | boolean | Date | null;

/** Signs of one statement, well below the packet of a database that nobody has set up. */
const STATEMENT_SIGNS = 1_000_000;

interface Into {
  readonly table: string;
  /** what each cell of a row belongs to */
  readonly columns: readonly string[];
  /** whether rows of the same key that stand already go; they are refused else */
  readonly replacing?: boolean;
}

/**
 * Stores rows in as few statements as the packet allows. Written as SQL: an instance a row costs three times what the database
 * does with it.
 * @throws UniqueConstraintError
 */
export async function insertRows(
  { table, columns, replacing = false }: Into,
  rows: Iterable<readonly Cell[]>,
  transaction: Transaction
): Promise<void> {
  const { sequelize } = tables();
  const into = `${replacing ? 'REPLACE' : 'INSERT'} INTO \`${table}\` (${columns.map((column) => `\`${column}\``).join()}) VALUES `;
  const store = (values: string) => sequelize.query(into + values, { type: QueryTypes.INSERT, transaction });
  let values = '';
  for (const row of rows) {
    const text = `(${row.map((cell) => cellText(cell)).join()})`;
    values = values === '' ? text : `${values},${text}`;
    if (values.length < STATEMENT_SIGNS) continue;
    await store(values);
    values = '';
  }
  if (values !== '') await store(values);
}

function cellText(cell: Cell): string {
  if (cell === null) return 'NULL';
  if (typeof cell === 'string') return tables().sequelize.escape(cell);
  // As the columns keep it: of Greenwich, to the millisecond.
  return cell instanceof Date ? `'${cell.toISOString().slice(0, 23).replace('T', ' ')}'` : String(cell);
}
