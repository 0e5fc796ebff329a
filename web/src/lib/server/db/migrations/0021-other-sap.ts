import { DataTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce } from './tools.ts';

/** Whose sap runs into a collecting place: birch and walnut are never put together with maple. */
export async function up(query: QueryInterface): Promise<void> {
  await addColumnOnce(query, 'collectingPlaces', 'of', {
    type: DataTypes.STRING(6),
    allowNull: false,
    defaultValue: 'maple'
  });
}
