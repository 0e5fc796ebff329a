import { DataTypes, type QueryInterface } from 'sequelize';

import { createRecordTable } from './recordTable.ts';
import { addColumnOnce } from './tools.ts';

/** What teaches a trunk: counted rings, columns on sawn faces, the year of a wound, whether sap ran when a hole stayed dry. */
export async function up(query: QueryInterface): Promise<void> {
  const numberOrNull = () => ({ type: DataTypes.DOUBLE, allowNull: true });
  const wholeOrNull = () => ({ type: DataTypes.INTEGER, allowNull: true });
  await createRecordTable(query, 'ringCounts', 'tree', {
    source: { type: DataTypes.STRING(5), allowNull: false },
    heightMm: { type: DataTypes.DOUBLE, allowNull: false },
    rings: wholeOrNull(),
    toPith: { type: DataTypes.BOOLEAN, allowNull: false },
    last5Mm: numberOrNull(),
    last10Mm: numberOrNull(),
    last20Mm: numberOrNull(),
    hollowFromMm: numberOrNull(),
    note: { type: DataTypes.STRING(500), allowNull: false }
  });
  await createRecordTable(query, 'sawnColumns', 'tree', {
    tapholeId: { type: DataTypes.UUID, allowNull: false },
    widthMm: { type: DataTypes.DOUBLE, allowNull: false },
    lengthMm: numberOrNull(),
    leanDeg: numberOrNull(),
    note: { type: DataTypes.STRING(500), allowNull: false }
  });
  await addColumnOnce(query, 'trunkFeatures', 'since', wholeOrNull());
  await addColumnOnce(query, 'rotations', 'depthMm', numberOrNull());
  await addColumnOnce(query, 'shavings', 'othersRan', { type: DataTypes.STRING(6), allowNull: true });
}
