import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce, addIndexOnce } from './tools.ts';

/**
 * How a tree came into the book and where it stands become dated records; the row of a tree keeps what they amount to.
 * Trees that are there already get an entry and a place in the name of their bush's first steward. Stands get an
 * outline and the wetness of their ground, plots a centre.
 */
export async function up(query: QueryInterface): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const uuidOrNull = () => ({ type: DataTypes.UUID, allowNull: true });
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  const flag = () => ({ type: DataTypes.BOOLEAN, allowNull: false });
  const double = () => ({ type: DataTypes.DOUBLE, allowNull: false });
  const doubleOrNull = () => ({ type: DataTypes.DOUBLE, allowNull: true });
  const work = async (table: string, columns: Parameters<QueryInterface['createTable']>[1]) => {
    await query.createTable(table, {
      id: { type: DataTypes.UUID, primaryKey: true },
      bushId: { ...uuid(), references: { model: 'bushes', key: 'id' }, onDelete: 'CASCADE' },
      treeId: { ...uuid(), references: { model: 'trees', key: 'id' }, onDelete: 'CASCADE' },
      authorId: { ...uuid(), references: { model: 'users', key: 'id' }, onDelete: 'RESTRICT' },
      doneOn: { type: DataTypes.DATEONLY, allowNull: false },
      recordedAt: time(),
      storedAt: time(),
      correctsId: uuidOrNull(),
      withdrawn: flag(),
      ...columns
    });
    await addIndexOnce(query, table, ['bushId', 'treeId']);
    await addIndexOnce(query, table, ['correctsId'], { unique: true });
  };
  await work('entries', {
    tag: text(20),
    tagged: flag(),
    standId: uuidOrNull(),
    stemOf: uuidOrNull(),
    afterId: uuidOrNull(),
    note: text(500)
  });
  await work('places', {
    eastM: double(),
    northM: double(),
    quality: text(20),
    accuracyM: doubleOrNull(),
    asTaken: text(120)
  });

  await query.changeColumn('trees', 'tag', { type: DataTypes.STRING(20), allowNull: true });
  await addColumnOnce(query, 'trees', 'tagged', { ...flag(), defaultValue: true });
  await addColumnOnce(query, 'trees', 'stemOf', uuidOrNull());
  await addColumnOnce(query, 'trees', 'positionAccuracyM', doubleOrNull());
  // Nothing ever wrote these two: heights and crowns are statures.
  for (const column of ['heightM', 'crownRadiusM'])
    if (column in (await query.describeTable('trees'))) await query.removeColumn('trees', column);
  await addColumnOnce(query, 'plots', 'centre', { type: DataTypes.JSON, allowNull: true });
  await addColumnOnce(query, 'stands', 'wetness', { type: DataTypes.STRING(10), allowNull: true });
  await addColumnOnce(query, 'stands', 'outline', { type: DataTypes.JSON, allowNull: true });

  const steward = `(SELECT MIN(m.userId) FROM memberships m WHERE m.bushId = t.bushId AND m.role = 'steward')`;
  const shared = `UUID(), t.bushId, t.id, ${steward}, DATE(b.createdAt), b.createdAt, b.createdAt, NULL, FALSE`;
  const columns = 'id, bushId, treeId, authorId, doneOn, recordedAt, storedAt, correctsId, withdrawn';
  const from = (table: string) =>
    `FROM trees t JOIN bushes b ON b.id = t.bushId
     WHERE ${steward} IS NOT NULL AND NOT EXISTS (SELECT 1 FROM ${table} x WHERE x.treeId = t.id)`;
  await query.sequelize.query(
    `INSERT INTO entries (${columns}, tag, tagged, standId, stemOf, afterId, note)
     SELECT ${shared}, t.tag, TRUE, t.standId, NULL, NULL, '' ${from('entries')}`,
    { type: QueryTypes.INSERT }
  );
  await query.sequelize.query(
    `INSERT INTO places (${columns}, eastM, northM, quality, accuracyM, asTaken)
     SELECT ${shared}, t.eastM, t.northM, COALESCE(t.positionQuality, 'paced'), NULL, '' ${from('places')}
     AND t.eastM IS NOT NULL AND t.northM IS NOT NULL`,
    { type: QueryTypes.INSERT }
  );
}
