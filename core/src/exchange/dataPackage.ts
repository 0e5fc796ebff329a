import { TABLES } from './tables.ts';

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
