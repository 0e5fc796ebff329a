import { DataTypes, type ModelAttributeColumnOptions, type QueryInterface } from 'sequelize';

import { addIndexOnce } from './tools.ts';

/**
 * Makes the table of a new kind of record: the columns that all records have, and the kind's own. Landed migrations use it, so
 * it is never changed: what all records shall have besides is added to every table by a migration of its own.
 * @param of what the records belong to
 */
export async function createRecordTable(
  query: QueryInterface,
  table: string,
  of: 'tree' | 'stand' | 'bush',
  columns: Readonly<Record<string, ModelAttributeColumnOptions>>
): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const to = (model: string, onDelete: string) => ({ references: { model, key: 'id' }, onDelete });
  await query.createTable(table, {
    id: { type: DataTypes.UUID, primaryKey: true },
    bushId: { ...uuid(), ...to('bushes', 'CASCADE') },
    ...(of === 'tree' ? { treeId: { ...uuid(), ...to('trees', 'CASCADE') } } : {}),
    ...(of === 'stand' ? { standId: { type: DataTypes.UUID, allowNull: true, ...to('stands', 'SET NULL') } } : {}),
    authorId: { ...uuid(), ...to('users', 'RESTRICT') },
    doneOn: { type: DataTypes.DATEONLY, allowNull: false },
    recordedAt: { type: DataTypes.DATE(3), allowNull: false },
    storedAt: { type: DataTypes.DATE(3), allowNull: false },
    correctsId: { type: DataTypes.UUID, allowNull: true },
    withdrawn: { type: DataTypes.BOOLEAN, allowNull: false },
    ...columns
  });
  await addIndexOnce(query, table, of === 'tree' ? ['bushId', 'treeId'] : ['bushId']);
  // One record is corrected once: a second correction is a conflict that people settle.
  await addIndexOnce(query, table, ['correctsId'], { unique: true });
}
