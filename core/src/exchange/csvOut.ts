import Papa from 'papaparse';

import { isMaple, speciesById } from '../identify/index.ts';
import { toDiameter, type MeasureMethod } from '../measure/index.ts';
import { knownMaple, type TreeState } from '../records/derive.ts';
import type { Tree } from '../records/schema.ts';
import {
  DETERMINATION_COLUMNS,
  READING_COLUMNS,
  TAPHOLE_COLUMNS,
  TREE_COLUMNS,
  type ExplainedColumn
} from './columns.ts';
import type { StatementFile } from './statement.ts';

const METHOD_WORD: Readonly<Record<MeasureMethod, string>> = {
  diameterTape: 'diameter tape',
  girthTape: 'tape',
  calipers: 'calipers',
  biltmore: 'stick',
  hug: 'hug'
};

/** Cells that a spreadsheet would run as a formula; plain numbers, negative ones too, are not. */
const FORMULA = /^[=+@\t\r]|^-(?!\d)/;

/** A tree on its way into a table. */
export interface TreeOut {
  readonly tree: Tree;
  readonly stand: string | null;
  readonly state: TreeState;
}

/** The trees as the table that `readTable` reads: last reading as diameter, all standing holes. */
export function writeTrees(trees: readonly TreeOut[]): string {
  return table(
    TREE_COLUMNS,
    trees.map(({ tree, stand, state: { lastReading, holes, determination } }) => [
      tree.tag,
      stand ?? '',
      speciesWord(determination),
      lastReading ? number(toDiameter(lastReading.valueMm, lastReading.quantity) / 10) : '',
      lastReading?.on ?? '',
      lastReading ? METHOD_WORD[lastReading.method] : '',
      number(tree.eastM),
      number(tree.northM),
      tree.positionQuality ?? '',
      holes.map((h) => `${h.season}:${number(h.bearingDeg)}:${number(h.heightMm / 10)}`).join(';')
    ])
  );
}

/** Every reading that stands, one a line, questioned ones too. */
export function writeReadings(trees: readonly TreeOut[]): string {
  return table(
    READING_COLUMNS,
    trees.flatMap(({ tree, state }) =>
      state.readings.map((r) => [
        tree.tag,
        r.quantity === 'girth' ? '' : number(toDiameter(r.valueMm, r.quantity) / 10),
        r.quantity === 'girth' ? number(r.valueMm / 10) : '',
        r.on,
        METHOD_WORD[r.method],
        number(r.heightMm / 10),
        r.asWritten
      ])
    )
  );
}

/** Every taphole that stands, one a line. */
export function writeTapholes(trees: readonly TreeOut[]): string {
  return table(
    TAPHOLE_COLUMNS,
    trees.flatMap(({ tree, state }) =>
      state.holes.map((h) => [
        tree.tag,
        String(h.season),
        number(h.bearingDeg),
        number(h.heightMm / 10),
        number(h.bitMm),
        number(h.depthMm)
      ])
    )
  );
}

/** The determination that holds of each tree, one a line. */
export function writeDeterminations(trees: readonly TreeOut[]): string {
  return table(
    DETERMINATION_COLUMNS,
    trees.flatMap(({ tree, state: { determination } }) =>
      determination
        ? [[tree.tag, speciesWord(determination), determination.on, determination.basis, determination.note]]
        : []
    )
  );
}

/** A table with one line of examples, to be filled in. */
export function writeTemplate(columns: readonly ExplainedColumn[]): string {
  return table(columns, [columns.map((column) => column.example)]);
}

/** Bad rows as a file of their own, with the reason in front, to be mended and imported again. */
export function writeBadRows(file: Pick<StatementFile, 'heading' | 'bad'>): string {
  return lines([['reason', ...file.heading], ...file.bad.map((row) => [row.reason, ...row.cells])]);
}

function table(columns: readonly ExplainedColumn[], rows: readonly string[][]): string {
  return lines([columns.map((column) => column.name), ...rows]);
}

function lines(rows: string[][]): string {
  return Papa.unparse(rows, { escapeFormulae: FORMULA, newline: '\n' }) + '\n';
}

/** The species as a table names it; empty while it is open whether the tree is a maple. */
export function speciesWord(determination: TreeState['determination']): string {
  if (!determination) return '';
  const maple = knownMaple(determination);
  if (determination.verdict === 'mapleOpen') return 'maple';
  if (maple === null || !determination.species) return '';
  return maple === isMaple(determination.species) ? speciesById(determination.species).name : '';
}

/** Up to three decimals, none that say nothing. */
function number(value: number | null): string {
  return value === null ? '' : String(Number(value.toFixed(3)));
}
