import { DataTypes, type QueryInterface } from 'sequelize';

import { addIndexOnce } from './tools.ts';

/**
 * The tables as they were first laid down. A migration is history: it is never changed once it has run somewhere, so
 * it does not borrow its columns from today's models.
 */
export async function up(query: QueryInterface): Promise<void> {
  // Sequelize writes into the attributes it is given: each column gets an object of its own.
  const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
  const uuidOrNull = () => ({ type: DataTypes.UUID, allowNull: true });
  const key = () => ({ type: DataTypes.UUID, primaryKey: true });
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  const textOrNull = (length: number) => ({ type: DataTypes.STRING(length), allowNull: true });
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  const double = () => ({ type: DataTypes.DOUBLE, allowNull: false });
  const doubleOrNull = () => ({ type: DataTypes.DOUBLE, allowNull: true });
  const int = () => ({ type: DataTypes.INTEGER, allowNull: false });
  const intOrNull = () => ({ type: DataTypes.INTEGER, allowNull: true });
  const flag = () => ({ type: DataTypes.BOOLEAN, allowNull: false });
  const to = (model: string, onDelete: 'CASCADE' | 'RESTRICT') => ({ references: { model, key: 'id' }, onDelete });

  await query.createTable('users', {
    id: key(),
    signInName: { ...text(80), unique: true },
    displayName: text(80),
    passwordHash: text(255),
    createdAt: time()
  });
  await query.createTable('sessions', {
    tokenHash: { type: DataTypes.CHAR(64), primaryKey: true },
    userId: { ...uuid(), ...to('users', 'CASCADE') },
    expiresAt: time()
  });
  await query.createTable('signInAttempts', {
    id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
    key: text(120),
    at: time()
  });
  await addIndexOnce(query, 'signInAttempts', ['key', 'at']);
  await query.createTable('bushes', {
    id: key(),
    name: text(80),
    settings: { type: DataTypes.JSON, allowNull: false },
    originLat: doubleOrNull(),
    originLon: doubleOrNull(),
    createdAt: time()
  });
  await query.createTable('memberships', {
    userId: { ...uuid(), primaryKey: true, ...to('users', 'CASCADE') },
    bushId: { ...uuid(), primaryKey: true, ...to('bushes', 'CASCADE') },
    role: text(20)
  });
  await addIndexOnce(query, 'memberships', ['bushId']);
  await query.createTable('stands', {
    id: key(),
    bushId: { ...uuid(), ...to('bushes', 'CASCADE') },
    name: text(80),
    purpose: text(20),
    areaHa: doubleOrNull()
  });
  await addIndexOnce(query, 'stands', ['bushId']);
  await query.createTable('trees', {
    id: key(),
    bushId: { ...uuid(), ...to('bushes', 'CASCADE') },
    standId: { ...uuidOrNull(), references: { model: 'stands', key: 'id' }, onDelete: 'SET NULL' },
    tag: text(20),
    walkOrder: int(),
    eastM: doubleOrNull(),
    northM: doubleOrNull(),
    positionQuality: textOrNull(20),
    heightM: doubleOrNull(),
    crownRadiusM: doubleOrNull()
  });
  await addIndexOnce(query, 'trees', ['bushId', 'walkOrder']);
  await addIndexOnce(query, 'trees', ['bushId', 'tag'], { unique: true });

  const work = async (table: string, columns: Parameters<QueryInterface['createTable']>[1]) => {
    await query.createTable(table, {
      id: key(),
      bushId: { ...uuid(), ...to('bushes', 'CASCADE') },
      treeId: { ...uuid(), ...to('trees', 'CASCADE') },
      authorId: { ...uuid(), ...to('users', 'RESTRICT') },
      doneOn: { type: DataTypes.DATEONLY, allowNull: false },
      recordedAt: time(),
      storedAt: time(),
      correctsId: uuidOrNull(),
      withdrawn: flag(),
      ...columns
    });
    await addIndexOnce(query, table, ['bushId', 'treeId']);
    // One record is corrected once: a second correction is a conflict that people settle.
    await addIndexOnce(query, table, ['correctsId'], { unique: true });
  };
  await work('determinations', {
    verdict: text(20),
    species: textOrNull(30),
    probability: double(),
    age: text(10),
    evidence: { type: DataTypes.JSON, allowNull: false },
    note: text(500)
  });
  await work('readings', {
    quantity: text(10),
    valueMm: double(),
    asWritten: text(80),
    method: text(20),
    heightMm: double(),
    confirmed: flag(),
    note: text(500)
  });
  await work('assessments', {
    diebackPct: int(),
    crownClass: textOrNull(20),
    oldestOpenHoleYears: intOrNull(),
    stressed: flag(),
    note: text(500)
  });
  await work('decisions', { season: int(), taps: int(), suggested: int(), binding: text(20), reason: text(500) });
  await work('tapholes', {
    season: int(),
    bearingDeg: double(),
    heightMm: double(),
    bitMm: double(),
    depthMm: double(),
    predictedClear: doubleOrNull()
  });
  await addIndexOnce(query, 'tapholes', ['bushId', 'season']);
  await work('shavings', { tapholeId: uuid(), seen: text(10), brownShare: doubleOrNull() });
  await work('marks', { purpose: text(10), reason: text(500) });
}
