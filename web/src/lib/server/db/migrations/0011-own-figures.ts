import { DataTypes, type QueryInterface } from 'sequelize';

import { addColumnOnce } from './tools.ts';

/** Whether a member lets the others see her own share of brown wood under her name. */
export async function up(query: QueryInterface): Promise<void> {
  await addColumnOnce(query, 'memberships', 'showsHoles', {
    type: DataTypes.BOOLEAN,
    allowNull: false,
    defaultValue: false
  });
}
