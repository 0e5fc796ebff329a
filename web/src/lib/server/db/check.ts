import type { Model, ModelStatic, Sequelize } from 'sequelize';

/**
 * Holds the tables against the models that read and write them.
 * @returns what is missing, as `table.column`; a missing table by its name
 */
export async function missingColumns(sequelize: Sequelize): Promise<string[]> {
  const query = sequelize.getQueryInterface();
  const missing: string[] = [];
  for (const model of Object.values(sequelize.models) as ModelStatic<Model>[]) {
    const table = model.getTableName() as string;
    if (!(await query.tableExists(table))) {
      missing.push(table);
      continue;
    }
    const present = await query.describeTable(table);
    for (const { field } of Object.values(model.getAttributes()))
      if (!(field! in present)) missing.push(`${table}.${field}`);
  }
  return missing;
}
