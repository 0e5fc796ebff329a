import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { KINDS, recordKindOf } from '@baumkin/core/records';
import type { DataType } from 'sequelize';
import { describe, expect, it } from 'vitest';

import { tables } from '../src/lib/server/db/index.ts';
import { recordTable } from '../src/lib/server/db/recordTable.ts';
import { useFreshDatabase } from './database.ts';

useFreshDatabase();

/** What MariaDB calls a column of a model; the width of a text aside. */
const family = (type: DataType): string => {
  const name = (type as { key: string }).key;
  const names: Readonly<Record<string, string>> = {
    UUID: 'CHAR(36)',
    'DOUBLE PRECISION': 'DOUBLE',
    INTEGER: 'INT(11)',
    BOOLEAN: 'TINYINT(1)',
    DATEONLY: 'DATE',
    DATE: 'DATETIME(3)',
    JSON: 'LONGTEXT',
    STRING: 'VARCHAR'
  };
  return names[name] ?? name;
};
const width = (type: string) => Number(/^VARCHAR\((\d+)\)/.exec(type)?.[1] ?? 0);

describe('the tables that the migrations laid down', () => {
  it.each(KINDS.map(({ kind }) => kind))('hold what the schema of %s lets in, and nothing besides', async (kind) => {
    const { tableName, attributes } = recordTable(kind);
    const columns = await tables().sequelize.getQueryInterface().describeTable(tableName);
    const asked = Object.entries(attributes).map(
      ([name, column]) => [(column as { field?: string }).field ?? name, column] as const
    );
    expect(Object.keys(columns).sort()).toEqual(asked.map(([field]) => field).sort());
    for (const [field, { type, allowNull }] of asked) {
      const column = columns[field]!;
      expect([field, column.allowNull]).toEqual([field, allowNull]);
      expect([field, column.type.replace(/^VARCHAR\(\d+\)$/, 'VARCHAR')]).toEqual([field, family(type as DataType)]);
      if (family(type as DataType) === 'VARCHAR')
        expect([field, width(column.type)]).toEqual([
          field,
          expect.toSatisfy((wide: number) => wide >= (type as unknown as { _length: number })._length)
        ]);
    }
    const indexes = (await tables().sequelize.getQueryInterface().showIndex(tableName)) as { name: string }[];
    if (recordKindOf(kind).of === 'tree')
      expect(indexes.map(({ name }) => name)).toContain(`${tableName}_bushId_treeId`);
  });
});

describe('migrations that landed', () => {
  /**
   * The first half of the SHA-256 of each, and of what they use. A change here is a mistake: databases out there ran it as
   * it was. The newest is named once another follows it.
   */
  const LANDED: Readonly<Record<string, string>> = {
    '0001-foundation.ts': '6b857da46b0a25aa',
    '0002-features.ts': '11f3902e793b6179',
    '0003-identify.ts': '93eed4f083a1392f',
    '0004-plots.ts': '3069fe8f0bf269ee',
    '0005-statures.ts': 'df39120f73e8e118',
    '0006-book.ts': '9c59b0d8101af18e',
    '0007-tokens-and-ground.ts': '2e3b3af5184d1f58',
    '0008-condition.ts': '726ee8c18e76a6a9',
    '0009-place.ts': 'c2bf6934427256d6',
    '0010-thin.ts': '571a808cc3129403',
    '0011-own-figures.ts': '9f76cb8b1d004a9c',
    '0012-sound-advice.ts': '6fb10e9c33ddaf3e',
    '0013-plantings.ts': '30db40b8f91603d8',
    '0014-field-words.ts': '585dca54d914da51',
    '0015-changes.ts': 'c2fd1d0bc64ba339',
    '0016-lines.ts': '425bc08511a713cc',
    '0017-rotations.ts': '7709dfefad3d5e22',
    '0018-learning.ts': '072d4becc0218fad',
    '0019-questions.ts': '0015c49bbef3bdc0',
    '0020-season.ts': 'e5fae9fc402a3ec9',
    '0021-other-sap.ts': '9165b50ec69a9a41',
    '0022-lines.ts': '2846750e510eabcc',
    '0023-line-looks.ts': '77ec7a5f8a1c0aa2',
    '0024-crossings.ts': 'e5b07ee70d437188',
    '0025-tapped-before.ts': '5ca429adfe0b1ea8',
    '0026-people-and-copies.ts': '646979f86562b8dd',
    '0027-doors.ts': 'fe66ec4a5c41e63f',
    'recordTable.ts': '7d26910169a442db',
    'tools.ts': 'eae6584109dc3243'
  };

  it('are as they were when they landed', () => {
    const folder = new URL('../src/lib/server/db/migrations/', import.meta.url);
    const now = Object.fromEntries(
      readdirSync(folder)
        .sort()
        .map((name) => [
          name,
          createHash('sha256')
            .update(readFileSync(new URL(name, folder)))
            .digest('hex')
            .slice(0, 16)
        ])
    );
    expect(now).toMatchObject(LANDED);
    const newest = Object.keys(now)
      .filter((name) => /^\d/.test(name))
      .at(-1)!;
    expect(Object.keys({ ...LANDED, [newest]: '' }).sort()).toEqual(Object.keys(now));
  });
});
