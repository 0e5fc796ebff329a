import { DataTypes, type QueryInterface } from 'sequelize';

import { createRecordTable } from './recordTable.ts';

/** What is read on lines while they run, and what is found along them. */
export async function up(query: QueryInterface): Promise<void> {
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  const number = (allowNull: boolean) => ({ type: DataTypes.DOUBLE, allowNull });
  const lineId = { type: DataTypes.UUID, allowNull: false };
  await createRecordTable(query, 'lineReadings', 'bush', {
    lineId,
    hour: number(false),
    gauges: { type: DataTypes.JSON, allowNull: false },
    litres: number(true),
    minutes: number(true),
    note: text(500)
  });
  await createRecordTable(query, 'lineLooks', 'bush', {
    lineId,
    ofTreeId: { type: DataTypes.UUID, allowNull: true },
    alongM: number(true),
    found: text(7),
    mended: { type: DataTypes.BOOLEAN, allowNull: false },
    note: text(500)
  });
}
