import {
  DETERMINATION_COLUMNS,
  READING_COLUMNS,
  TAPHOLE_COLUMNS,
  TREE_COLUMNS,
  type ExplainedColumn
} from './columns.ts';

/** The tables that go out together, with the file that each is in. */
export const TABLES = [
  { name: 'trees', title: 'Trees', columns: TREE_COLUMNS, key: 'tag' },
  { name: 'readings', title: 'Readings of trunks', columns: READING_COLUMNS, key: null },
  { name: 'tapholes', title: 'Tapholes', columns: TAPHOLE_COLUMNS, key: null },
  { name: 'determinations', title: 'Species, as they hold', columns: DETERMINATION_COLUMNS, key: null }
] as const satisfies readonly {
  name: string;
  title: string;
  columns: readonly ExplainedColumn[];
  key: string | null;
}[];

export type TableName = (typeof TABLES)[number]['name'];

/**
 * The descriptor that lies beside the tables: Frictionless Data Package with Table Schemas, so that other programs know
 * what each column is.
 */
export function dataPackage(bushName: string, createdAt: string) {
  return {
    profile: 'tabular-data-package',
    name: 'sugarbush',
    title: bushName,
    created: createdAt,
    resources: TABLES.map(({ name, title, columns, key }) => ({
      profile: 'tabular-data-resource',
      name,
      title,
      path: `${name}.csv`,
      encoding: 'utf-8',
      schema: {
        fields: columns.map((column) => ({
          name: column.name,
          type: column.type,
          description: column.explains,
          ...(column.name === 'tag' ? { constraints: { required: true } } : {})
        })),
        missingValues: [''],
        ...(key === null
          ? { foreignKeys: [{ fields: 'tag', reference: { resource: 'trees', fields: 'tag' } }] }
          : { primaryKey: key })
      }
    }))
  };
}
