import { toDiameter } from '../measure/index.ts';
import {
  KINDS,
  MEASURED_ON,
  METHOD_COLUMN,
  METHOD_WORD,
  plainNumber,
  SPECIES_COLUMN,
  speciesWord,
  TAG_COLUMN,
  type ExplainedColumn,
  type RecordTable,
  type Tree,
  type TreeState
} from '../records/index.ts';
import type { BadRow } from './faults.ts';
import { writeRows } from './safeCells.ts';
import type { StatementFile } from './statement.ts';

/** A tree on its way into a table. */
export interface TreeOut {
  readonly tree: Tree;
  readonly stand: string | null;
  readonly state: TreeState;
}

const TREE_COLUMNS: readonly ExplainedColumn[] = [
  TAG_COLUMN,
  { name: 'stand', type: 'string', explains: 'name of the stand; made where the bush has none of it', example: 'Hill' },
  SPECIES_COLUMN,
  {
    name: 'diameter_cm',
    type: 'number',
    explains: 'at breast height, over the bark. Or girth_cm, the way round; diameter_in, girth_in, girth_ft also go',
    example: '36.6'
  },
  MEASURED_ON,
  METHOD_COLUMN,
  {
    name: 'east_m',
    type: 'number',
    explains: 'metres east of the bush’s origin. Or lat and lon, in degrees (WGS 84)',
    example: '12.5'
  },
  { name: 'north_m', type: 'number', explains: 'metres north of the origin', example: '40' },
  { name: 'position_quality', type: 'string', explains: 'surveyed, paced or phone', example: 'paced' },
  {
    name: 'holes',
    type: 'string',
    explains: 'past holes as season:bearing in degrees:height in cm, one after another with a semicolon between',
    example: '2024:180:95;2025:205:120'
  }
];

/** A table that goes out and, but for what only it tells, comes in again. */
export interface Table {
  /** of its file as well: `trees` is in trees.csv */
  readonly name: string;
  readonly title: string;
  readonly columns: readonly ExplainedColumn[];
  /** the column by which its lines are told apart; null where a tree has several */
  readonly key: string | null;
  readonly lines: (tree: TreeOut) => readonly (readonly string[])[];
}

const TREES: Table = {
  name: 'trees',
  title: 'Trees',
  columns: TREE_COLUMNS,
  key: 'tag',
  // The last reading as its diameter, and all holes that hold.
  lines: ({ tree, stand, state: { lastReading, tapholes, determination } }) => [
    [
      tree.tag,
      stand ?? '',
      speciesWord(determination),
      lastReading ? plainNumber(toDiameter(lastReading.valueMm, lastReading.quantity) / 10) : '',
      lastReading?.on ?? '',
      lastReading ? METHOD_WORD[lastReading.method] : '',
      plainNumber(tree.eastM),
      plainNumber(tree.northM),
      tree.positionQuality ?? '',
      tapholes.map((h) => `${h.season}:${plainNumber(h.bearingDeg)}:${plainNumber(h.heightMm / 10)}`).join(';')
    ]
  ]
};

/** The table of a kind of record: what holds of it, one line a record. */
const recordTables = KINDS.flatMap((spec): Table[] => {
  if (spec.of !== 'tree' || !('csv' in spec) || !spec.csv) return [];
  const { title, columns, cells } = spec.csv as RecordTable<unknown>;
  const held = ({ state }: TreeOut): readonly unknown[] => {
    const found = spec.holds === 'list' ? state[spec.table] : state[spec.kind as keyof TreeState];
    return Array.isArray(found) ? found : found === null ? [] : [found];
  };
  return [
    {
      name: spec.table,
      title,
      columns: [TAG_COLUMN, ...columns],
      key: null,
      lines: (out) => held(out).map((record) => [out.tree.tag, ...cells(record)])
    }
  ];
});

/** The tables that go out together. */
export const TABLES: readonly Table[] = [TREES, ...recordTables];

/** A table as CSV. */
export function writeTable(table: Table, trees: readonly TreeOut[]): string {
  return toCsv(table.columns, trees.flatMap(table.lines));
}

/** A table with one line of examples, to be filled in. */
export function writeTemplate(columns: readonly ExplainedColumn[]): string {
  return toCsv(columns, [columns.map((column) => column.example)]);
}

/** Bad rows as a file of their own, with the reason in front, to be mended and imported again. */
export function writeBadRows(file: Pick<StatementFile, 'heading' | 'bad'>): string {
  const byLine = new Map<number, BadRow[]>();
  for (const row of file.bad) byLine.set(row.line, [...(byLine.get(row.line) ?? []), row]);
  const lines = [...byLine.values()].map((rows) => [rows.map(({ reason }) => reason).join(' '), ...rows[0]!.cells]);
  return writeRows([['reason', ...file.heading], ...lines]);
}

function toCsv(columns: readonly ExplainedColumn[], rows: readonly (readonly string[])[]): string {
  return writeRows([columns.map((column) => column.name), ...rows]);
}
