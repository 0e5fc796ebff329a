import { DataTypes, type QueryInterface } from 'sequelize';

import { createRecordTable } from './recordTable.ts';

/** Lines of pipe, and how they fall. */
export async function up(query: QueryInterface): Promise<void> {
  const json = { type: DataTypes.JSON, allowNull: false };
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  const id = (allowNull: boolean) => ({ type: DataTypes.UUID, allowNull });
  await createRecordTable(query, 'pipeLines', 'bush', {
    name: text(60),
    use: text(7),
    points: json,
    boreMm: { type: DataTypes.DOUBLE, allowNull: false },
    held: text(4),
    spanM: { type: DataTypes.DOUBLE, allowNull: false },
    intoId: id(true),
    placeId: id(true),
    drops: json,
    staysUp: { type: DataTypes.BOOLEAN, allowNull: false },
    note: text(500)
  });
  await createRecordTable(query, 'levellings', 'bush', {
    lineId: id(false),
    method: text(10),
    heights: json,
    slopes: json,
    sd: { type: DataTypes.DOUBLE, allowNull: true },
    afresh: { type: DataTypes.BOOLEAN, allowNull: false },
    note: text(500)
  });
}
