import { KINDS, type AnyRecordKind } from '@baumkin/core/records';
import {
  DataTypes,
  Model,
  type CreationOptional,
  type ForeignKey,
  type InferAttributes,
  type InferCreationAttributes,
  type ModelStatic,
  type Sequelize
} from 'sequelize';

import { bigint, doubleOrNull, flag, id, int, json, text, uuid } from './columns.ts';
import { definePeople } from './peopleModels.ts';
import { recordTable } from './recordTable.ts';

/* The tables as Sequelize sees them. Their shape is laid down by the migrations; keep both in step. */

/** The picture that lies under a bush's map: a scanned plan or a photograph from above. */
export class BaseMapRow extends Model<InferAttributes<BaseMapRow>, InferCreationAttributes<BaseMapRow>> {
  declare bushId: ForeignKey<string>;
  declare mimeType: string;
  declare picture: Buffer;
  declare fit: unknown;
}

export class Bush extends Model<InferAttributes<Bush>, InferCreationAttributes<Bush>> {
  declare id: string;
  declare name: string;
  declare settings: unknown;
  /** goes up with every change of the settings */
  declare version: CreationOptional<number>;
  declare originLat: number | null;
  declare originLon: number | null;
  declare createdAt: Date;
  /** number of the last change of anything in it */
  declare changes: CreationOptional<number>;
  /** another one where whoever follows its changes has to begin anew */
  declare feedId: CreationOptional<string>;
  /** a copy to play in is gone after this; null for a bush that stays */
  declare playUntil: CreationOptional<Date | null>;
  /** whose role nobody else changes; null where that is not known any more */
  declare founderId: CreationOptional<ForeignKey<string> | null>;
  /** a bush that was given up is gone after this, and only looked at until then */
  declare goneAt: CreationOptional<Date | null>;
}

/** One write to a bush, by its number. */
export class Change extends Model<InferAttributes<Change>, InferCreationAttributes<Change>> {
  declare bushId: ForeignKey<string>;
  declare number: number;
  declare touched: unknown;
}

/** The line of a tree as JSON, as its records leave it; none where it has to be derived anew. */
export class TreeLine extends Model<InferAttributes<TreeLine>, InferCreationAttributes<TreeLine>> {
  declare treeId: ForeignKey<string>;
  declare bushId: ForeignKey<string>;
  /** what it is told from on a day and among the bush's other trees, as JSON */
  declare grounds: string;
  declare line: string;
}

/** What the kept lines of a bush were derived for, and by which program. */
export class LineBook extends Model<InferAttributes<LineBook>, InferCreationAttributes<LineBook>> {
  declare bushId: ForeignKey<string>;
  declare season: number;
  /** of the program that derived them */
  declare release: string;
}

/** The whole of a bush as it was at one number, for devices that begin with it. */
export class Snapshot extends Model<InferAttributes<Snapshot>, InferCreationAttributes<Snapshot>> {
  declare bushId: ForeignKey<string>;
  declare number: number;
  declare feedId: string;
  /** how many parts there will be, and how many can be had by now */
  declare parts: number;
  declare ready: number;
  declare trees: number;
  declare begunAt: Date;
}

export class SnapshotPart extends Model<InferAttributes<SnapshotPart>, InferCreationAttributes<SnapshotPart>> {
  declare bushId: ForeignKey<string>;
  declare number: number;
  declare part: number;
  /** gzip of JSON */
  declare content: Buffer;
}

/** An entry of a bush's log: who did what, and when. */
export class BushChange extends Model<InferAttributes<BushChange>, InferCreationAttributes<BushChange>> {
  declare id: CreationOptional<number>;
  declare bushId: ForeignKey<string>;
  declare authorId: ForeignKey<string>;
  declare at: Date;
  /** what sort of thing was done */
  declare kind: string;
  declare settings: unknown;
}

export class StandRow extends Model<InferAttributes<StandRow>, InferCreationAttributes<StandRow>> {
  declare id: string;
  declare bushId: ForeignKey<string>;
  declare name: string;
  declare purpose: string;
  declare areaHa: number | null;
  declare wetness: CreationOptional<string | null>;
  declare soilDepth: CreationOptional<string | null>;
  declare hardPan: CreationOptional<boolean | null>;
  declare soilPh: CreationOptional<number | null>;
  declare sun: CreationOptional<string | null>;
  declare mayTap: CreationOptional<boolean>;
  declare mayCut: CreationOptional<boolean>;
  declare byWord: CreationOptional<string>;
  declare wordUntil: CreationOptional<string | null>;
  declare outline: CreationOptional<[number, number][] | null>;
  declare note: CreationOptional<string>;
}

export class FeatureRow extends Model<InferAttributes<FeatureRow>, InferCreationAttributes<FeatureRow>> {
  declare id: string;
  declare bushId: ForeignKey<string>;
  declare kind: string;
  declare name: string;
  declare points: unknown;
}

/** A tree as its entries and places leave it: these records are what holds, the row is for looking up. */
export class TreeRecord extends Model<InferAttributes<TreeRecord>, InferCreationAttributes<TreeRecord>> {
  declare id: string;
  declare bushId: ForeignKey<string>;
  declare standId: ForeignKey<string> | null;
  /** null once the tree was taken out of the registry: another may have its tag */
  declare tag: string | null;
  /** the tag as people tell tags apart; one bush has each once */
  declare tagKey: CreationOptional<string | null>;
  declare tagged: CreationOptional<boolean>;
  declare stemOf: CreationOptional<string | null>;
  /** its step: between those of its neighbours on the walk, and seldom a whole number */
  declare walkOrder: number;
  declare eastM: number | null;
  declare northM: number | null;
  declare positionQuality: string | null;
  declare positionAccuracyM: CreationOptional<number | null>;
}

/** Any record of work; its own columns depend on its kind. */
export type WorkModel = ModelStatic<Model<Record<string, unknown>, Record<string, unknown>>>;

export interface Tables {
  readonly sequelize: Sequelize;
  readonly work: Readonly<Record<AnyRecordKind, WorkModel>>;
}

/** Binds the models to a connection. */
export function defineModels(sequelize: Sequelize): Tables {
  definePeople(sequelize);
  BaseMapRow.init(
    {
      bushId: { ...uuid(), primaryKey: true },
      mimeType: text(40),
      picture: { type: DataTypes.BLOB('medium'), allowNull: false },
      fit: { type: DataTypes.JSON, allowNull: false }
    },
    { sequelize, tableName: 'baseMaps' }
  );
  Bush.init(
    {
      id: id(),
      name: text(80),
      settings: { type: DataTypes.JSON, allowNull: false },
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
      originLat: doubleOrNull(),
      originLon: doubleOrNull(),
      createdAt: { type: DataTypes.DATE(3), allowNull: false },
      changes: { ...bigint(), defaultValue: 0 },
      feedId: { ...uuid(), defaultValue: DataTypes.UUIDV4 },
      playUntil: { type: DataTypes.DATE(3), allowNull: true },
      founderId: { type: DataTypes.UUID, allowNull: true },
      goneAt: { type: DataTypes.DATE(3), allowNull: true }
    },
    { sequelize, tableName: 'bushes' }
  );
  Change.init(
    { bushId: id(), number: { ...bigint(), primaryKey: true }, touched: json() },
    { sequelize, tableName: 'changes' }
  );
  TreeLine.init(
    {
      treeId: id(),
      bushId: uuid(),
      grounds: { type: DataTypes.TEXT, allowNull: false },
      line: { type: DataTypes.TEXT('medium'), allowNull: false }
    },
    { sequelize, tableName: 'treeLines' }
  );
  LineBook.init(
    {
      bushId: id(),
      season: int(),
      release: text(40)
    },
    { sequelize, tableName: 'lineBooks' }
  );
  Snapshot.init(
    {
      bushId: id(),
      number: { ...bigint(), primaryKey: true },
      feedId: uuid(),
      parts: int(),
      ready: int(),
      trees: int(),
      begunAt: { type: DataTypes.DATE(3), allowNull: false }
    },
    { sequelize, tableName: 'snapshots' }
  );
  SnapshotPart.init(
    {
      bushId: id(),
      number: { ...bigint(), primaryKey: true },
      part: { ...int(), primaryKey: true },
      content: { type: DataTypes.BLOB('long'), allowNull: false }
    },
    { sequelize, tableName: 'snapshotParts' }
  );
  BushChange.init(
    {
      id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
      bushId: uuid(),
      authorId: uuid(),
      at: { type: DataTypes.DATE(3), allowNull: false },
      kind: text(20),
      settings: { type: DataTypes.JSON, allowNull: false }
    },
    { sequelize, tableName: 'bushChanges' }
  );
  StandRow.init(
    {
      id: id(),
      bushId: uuid(),
      name: text(80),
      purpose: text(20),
      areaHa: doubleOrNull(),
      wetness: { type: DataTypes.STRING(10), allowNull: true },
      soilDepth: { type: DataTypes.STRING(10), allowNull: true },
      hardPan: { type: DataTypes.BOOLEAN, allowNull: true },
      soilPh: doubleOrNull(),
      sun: { type: DataTypes.STRING(5), allowNull: true },
      mayTap: { ...flag(), defaultValue: true },
      mayCut: { ...flag(), defaultValue: true },
      byWord: { ...text(120), defaultValue: '' },
      wordUntil: { type: DataTypes.DATEONLY, allowNull: true },
      outline: { type: DataTypes.JSON, allowNull: true },
      note: { ...text(500), defaultValue: '' }
    },
    { sequelize, tableName: 'stands' }
  );
  FeatureRow.init(
    {
      id: id(),
      bushId: uuid(),
      kind: text(20),
      name: text(80),
      points: { type: DataTypes.JSON, allowNull: false }
    },
    { sequelize, tableName: 'features' }
  );
  TreeRecord.init(
    {
      id: id(),
      bushId: uuid(),
      standId: { type: DataTypes.UUID, allowNull: true },
      tag: { type: DataTypes.STRING(20), allowNull: true },
      tagKey: { type: DataTypes.STRING(60), allowNull: true },
      tagged: { ...flag(), defaultValue: true },
      stemOf: { type: DataTypes.UUID, allowNull: true },
      walkOrder: { type: DataTypes.DOUBLE, allowNull: false },
      eastM: doubleOrNull(),
      northM: doubleOrNull(),
      positionQuality: { type: DataTypes.STRING(20), allowNull: true },
      positionAccuracyM: doubleOrNull()
    },
    { sequelize, tableName: 'trees' }
  );
  const work = Object.fromEntries(
    KINDS.map(({ kind }) => {
      const { tableName, attributes } = recordTable(kind);
      return [kind, sequelize.define(kind, attributes, { tableName })];
    })
  ) as Tables['work'];
  return { sequelize, work };
}
