/* Landed migrations use these, so they are never changed; another tool gets another name. */
import type { ModelAttributeColumnOptions, QueryInterface } from 'sequelize';

/**
 * Adds an index unless it stands already. DDL commits by itself, so a migration that was cut off half-way is run again
 * from its beginning; tables are made only where missing, and so must indexes be.
 */
export async function addIndexOnce(
  query: QueryInterface,
  table: string,
  fields: string[],
  options: { unique?: boolean } = {}
): Promise<void> {
  const name = [table, ...fields].join('_');
  const present = (await query.showIndex(table)) as { name: string }[];
  if (!present.some((index) => index.name === name)) await query.addIndex(table, { fields, name, ...options });
}

/** Adds a column unless it stands already, for the same reason. */
export async function addColumnOnce(
  query: QueryInterface,
  table: string,
  column: string,
  options: ModelAttributeColumnOptions
): Promise<void> {
  const present = await query.describeTable(table);
  if (!(column in present)) await query.addColumn(table, column, options);
}
