import { recordKindOf, type AnyRecordKind } from '@baumkin/core/records';
import { DataTypes, type ModelAttributeColumnOptions } from 'sequelize';
import { z } from 'zod';

/** A column of a table of records, and how what the database gives back becomes what was put in. */
export interface RecordColumn {
  /** as the record calls it */
  readonly name: string;
  readonly attribute: ModelAttributeColumnOptions;
  readonly json: boolean;
  readonly flag: boolean;
}

/** Columns that are not called as in the record: SQL has these words for itself. */
const FIELDS: Readonly<Record<string, string>> = { on: 'doneOn', by: 'doneBy' };

/** The columns that a kind's schema asks for: those that all records have, and its own. */
export function recordColumns(kind: AnyRecordKind): RecordColumn[] {
  return Object.entries(recordKindOf(kind).schema.shape)
    .filter(([name]) => name !== 'kind')
    .map(([name, schema]) => {
      const { type, allowNull } = columnType(schema as z.ZodType);
      return {
        name,
        attribute: { type, allowNull, field: FIELDS[name] ?? name, ...(name === 'id' ? { primaryKey: true } : {}) },
        json: type === DataTypes.JSON,
        flag: type === DataTypes.BOOLEAN
      };
    });
}

/** What of a row the server adds. */
const KEEPING = () => ({
  bushId: { type: DataTypes.UUID, allowNull: false },
  authorId: { type: DataTypes.UUID, allowNull: false },
  storedAt: { type: DataTypes.DATE(3), allowNull: false }
});

/** The table of a kind of record, as Sequelize defines a model. Each call makes objects of its own: Sequelize writes into them. */
export function recordTable(kind: AnyRecordKind) {
  return {
    tableName: recordKindOf(kind).table,
    attributes: {
      ...Object.fromEntries(recordColumns(kind).map(({ name, attribute }) => [name, attribute])),
      ...KEEPING()
    }
  };
}

function columnType(schema: z.ZodType): { type: ModelAttributeColumnOptions['type']; allowNull: boolean } {
  if (schema instanceof z.ZodDefault) return columnType(schema.unwrap() as z.ZodType);
  if (schema instanceof z.ZodNullable) return { ...columnType(schema.unwrap() as z.ZodType), allowNull: true };
  return { type: bareType(schema), allowNull: false };
}

function bareType(schema: z.ZodType): ModelAttributeColumnOptions['type'] {
  if (schema instanceof z.ZodBoolean) return DataTypes.BOOLEAN;
  if (schema instanceof z.ZodNumber) return schema.isInt ? DataTypes.INTEGER : DataTypes.DOUBLE;
  if (schema instanceof z.ZodEnum) return DataTypes.STRING(Math.max(...schema.options.map((o) => String(o).length)));
  if (schema instanceof z.ZodUUID) return DataTypes.UUID;
  if (schema instanceof z.ZodISODate) return DataTypes.DATEONLY;
  if (schema instanceof z.ZodISODateTime) return DataTypes.DATE(3);
  if (schema instanceof z.ZodString) return DataTypes.STRING(schema.maxLength ?? 255);
  return DataTypes.JSON;
}
