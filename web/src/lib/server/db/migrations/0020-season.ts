import { DataTypes, type QueryInterface } from 'sequelize';

import { createRecordTable } from './recordTable.ts';
import { addColumnOnce } from './tools.ts';

/** The season: weather, collecting places and what was emptied, batches, signs, the days that were chosen, and closing holes. */
export async function up(query: QueryInterface): Promise<void> {
  const json = { type: DataTypes.JSON, allowNull: false };
  const text = (length: number, allowNull = false) => ({ type: DataTypes.STRING(length), allowNull });
  const double = (allowNull = false) => ({ type: DataTypes.DOUBLE, allowNull });
  const integer = (allowNull = false) => ({ type: DataTypes.INTEGER, allowNull });
  const flag = { type: DataTypes.BOOLEAN, allowNull: false };
  const date = (allowNull = false) => ({ type: DataTypes.DATEONLY, allowNull });
  const note = text(500);
  await addColumnOnce(query, 'stands', 'sun', text(5, true));
  await createRecordTable(query, 'weatherDays', 'bush', {
    source: text(11),
    place: text(80),
    from: date(),
    minC: json,
    maxC: json
  });
  await createRecordTable(query, 'drillingChoices', 'bush', {
    season: integer(),
    group: text(5),
    beginOn: date(),
    days: double(),
    expectedLitres: double(),
    bestOn: date(),
    bestLitres: double(),
    note
  });
  await createRecordTable(query, 'collectingPlaces', 'bush', {
    name: text(60),
    vessel: text(6),
    vacuum: flag,
    litres: double(),
    vessels: integer(true),
    rimMm: double(true),
    tubeMm: double(true),
    carrier: text(7),
    treeIds: json,
    eastM: double(true),
    northM: double(true),
    note
  });
  await createRecordTable(query, 'collections', 'bush', {
    placeId: { type: DataTypes.UUID, allowNull: true },
    hour: double(),
    litres: double(),
    taps: integer(),
    drilledOn: date(true),
    brix: double(true),
    sapC: double(true),
    look: text(6),
    rain: flag,
    ranOver: flag,
    went: text(10),
    note
  });
  await createRecordTable(query, 'batches', 'bush', {
    season: integer(),
    of: text(6),
    sapLitres: double(),
    sapBrix: double(),
    iceLitres: double(),
    iceBrix: double(),
    became: text(10),
    syrupLitres: double(true),
    syrupBrix: double(true),
    hours: double(true),
    woodM3: double(true),
    waterBoilsC: double(true),
    colour: text(8, true),
    bottles: json,
    note
  });
  await createRecordTable(query, 'seasonSigns', 'stand', { sign: text(11), species: text(20, true), note });
  await createRecordTable(query, 'seasonEnds', 'bush', { season: integer(), group: text(5), note });
  await createRecordTable(query, 'closings', 'tree', {
    holes: json,
    oozing: flag,
    dyingBark: flag,
    fungus: flag,
    note
  });
  await createRecordTable(query, 'hangings', 'tree', { season: integer(), note });
  await createRecordTable(query, 'workHours', 'bush', { work: text(10), people: integer(), hours: double(), note });
}
