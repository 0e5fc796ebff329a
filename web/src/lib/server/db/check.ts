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

/** Stands in a database while a backup is read into it. */
const RESTORING = 'restoring';

/** Was the reading of a backup into this database cut off? Then what is in it is half of something. */
export const isHalfRestored = (sequelize: Sequelize): Promise<boolean> =>
  sequelize.getQueryInterface().tableExists(RESTORING);
