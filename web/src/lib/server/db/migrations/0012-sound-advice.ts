import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce, addIndexOnce } from './tools.ts';

/**
 * What sound advice asks for: conditions that nobody looked at, marks with a purpose, trees that die standing or lie alive,
 * trees and stands that are not to be tapped, the soil. Tags and sign-in names are told apart as people tell them apart, by a
 * key that is compared letter by letter. Two columns that earlier migrations were given after they had run somewhere are put
 * where they are missing.
 */
export async function up(query: QueryInterface): Promise<void> {
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  const textOrNull = (length: number) => ({ type: DataTypes.STRING(length), allowNull: true });
  const day = () => ({ type: DataTypes.DATEONLY, allowNull: true });
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  const flag = (defaultValue: boolean) => ({ type: DataTypes.BOOLEAN, allowNull: false, defaultValue });
  const json = () => ({ type: DataTypes.JSON, allowNull: false });
  const run = (sql: string, replacements: unknown[] = []) =>
    query.sequelize.query(sql, { replacements, type: QueryTypes.RAW });

  await addColumnOnce(query, 'plots', 'centre', { type: DataTypes.JSON, allowNull: true });
  await addColumnOnce(query, 'tapholes', 'school', textOrNull(20));

  await query.changeColumn('assessments', 'diebackPct', { type: DataTypes.INTEGER, allowNull: true });
  await query.changeColumn('assessments', 'stressed', { type: DataTypes.BOOLEAN, allowNull: true });
  await addColumnOnce(query, 'assessments', 'peeledPct', { type: DataTypes.INTEGER, allowNull: true });
  await addColumnOnce(query, 'assessments', 'peelFresh', flag(false));
  for (const column of ['defects', 'hazards', 'wildlife']) await query.changeColumn('assessments', column, json());
  await addColumnOnce(query, 'marks', 'despite', flag(false));
  await addColumnOnce(query, 'marks', 'keepFor', textOrNull(20));
  await addColumnOnce(query, 'cuts', 'reviewOn', day());
  await addColumnOnce(query, 'stands', 'soilDepth', textOrNull(10));
  await addColumnOnce(query, 'stands', 'hardPan', { type: DataTypes.BOOLEAN, allowNull: true });
  await addColumnOnce(query, 'stands', 'soilPh', { type: DataTypes.DOUBLE, allowNull: true });
  await addColumnOnce(query, 'stands', 'mayTap', flag(true));
  await addColumnOnce(query, 'stands', 'mayCut', flag(true));
  await addColumnOnce(query, 'stands', 'byWord', { ...text(120), defaultValue: '' });
  await addColumnOnce(query, 'stands', 'wordUntil', day());
  await query.createTable('tapBans', {
    id: { type: DataTypes.UUID, primaryKey: true },
    bushId: { ...uuid(), references: { model: 'bushes', key: 'id' }, onDelete: 'CASCADE' },
    treeId: { ...uuid(), references: { model: 'trees', key: 'id' }, onDelete: 'CASCADE' },
    authorId: { ...uuid(), references: { model: 'users', key: 'id' }, onDelete: 'RESTRICT' },
    doneOn: { type: DataTypes.DATEONLY, allowNull: false },
    recordedAt: time(),
    storedAt: time(),
    correctsId: { type: DataTypes.UUID, allowNull: true },
    withdrawn: { type: DataTypes.BOOLEAN, allowNull: false },
    reasons: json(),
    until: day(),
    note: text(500)
  });
  await addIndexOnce(query, 'tapBans', ['bushId', 'treeId']);
  await addIndexOnce(query, 'tapBans', ['correctsId'], { unique: true });

  // One name, one person: what the collation took for equal is compared by its letters.
  await run('ALTER TABLE users MODIFY signInName VARCHAR(80) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL');

  // The old rule is coarser than the new one, so that keys that were unique stay so.
  await addColumnOnce(query, 'trees', 'tagKey', textOrNull(60));
  await run('ALTER TABLE trees MODIFY tagKey VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL');
  const trees = await query.sequelize.query<{ id: string; tag: string }>(
    'SELECT id, tag FROM trees WHERE tag IS NOT NULL AND tagKey IS NULL',
    { type: QueryTypes.SELECT }
  );
  for (let i = 0; i < trees.length; i += 500) {
    const part = trees.slice(i, i + 500);
    await run(`UPDATE trees SET tagKey = CASE id ${part.map(() => 'WHEN ? THEN ?').join(' ')} END WHERE id IN (?)`, [
      ...part.flatMap(({ id, tag }) => [id, tagKey(tag)]),
      part.map(({ id }) => id)
    ]);
  }
  await addIndexOnce(query, 'trees', ['bushId', 'tagKey'], { unique: true });
  const indexes = (await query.showIndex('trees')) as { name: string }[];
  for (const name of ['trees_bushId_tag', 'trees_bush_id_tag'])
    if (indexes.some((index) => index.name === name)) await query.removeIndex('trees', name);
}

/** The key of a tag as it was when this migration was written. */
function tagKey(tag: string): string {
  const plain: Readonly<Record<string, string>> = { ß: 'ss', æ: 'ae', œ: 'oe', ø: 'o', ł: 'l', đ: 'd', ı: 'i' };
  return tag
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[ßæœøłđı]/g, (letter) => plain[letter]!)
    .replace(/\s+/g, ' ')
    .trim();
}
