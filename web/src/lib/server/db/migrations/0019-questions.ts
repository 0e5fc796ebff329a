import { DataTypes, type QueryInterface } from 'sequelize';

import { createRecordTable } from './recordTable.ts';

/** Questions about trees with their answers, remarks, who walks which stretch of a round, and what its walks write down. */
export async function up(query: QueryInterface): Promise<void> {
  const json = (allowNull = false) => ({ type: DataTypes.JSON, allowNull });
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  await createRecordTable(query, 'questions', 'bush', {
    about: text(8),
    ofTreeId: { type: DataTypes.UUID, allowNull: false },
    tag: text(20),
    season: { type: DataTypes.INTEGER, allowNull: true },
    tapholeIds: json(),
    proposal: json(true),
    note: text(500)
  });
  await createRecordTable(query, 'answers', 'bush', {
    questionId: { type: DataTypes.UUID, allowNull: false },
    says: text(7),
    note: text(500)
  });
  await createRecordTable(query, 'remarks', 'tree', { text: text(1000) });
  await createRecordTable(query, 'pullings', 'tree', {
    season: { type: DataTypes.INTEGER, allowNull: false },
    spouts: { type: DataTypes.INTEGER, allowNull: false },
    note: text(500)
  });
  await createRecordTable(query, 'paintedMarks', 'tree', {
    markId: { type: DataTypes.UUID, allowNull: false },
    note: text(500)
  });
  await createRecordTable(query, 'roundShares', 'bush', {
    round: text(3),
    season: { type: DataTypes.INTEGER, allowNull: false },
    stretches: json()
  });
}
