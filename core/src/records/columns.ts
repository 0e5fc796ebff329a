import type { ExplainedColumn } from './kind.ts';

/* Columns that stand in more than one table. */

export const TAG_COLUMN: ExplainedColumn = {
  name: 'tag',
  type: 'string',
  explains: 'what the tag on the trunk says; the one column that is always needed',
  example: '101'
};
export const SPECIES_COLUMN: ExplainedColumn = {
  name: 'species',
  type: 'string',
  explains: 'common or Latin name; "maple" where it is one of them and the species is open',
  example: 'sugar maple'
};
export const DETERMINED_ON: ExplainedColumn = {
  name: 'determined_on',
  type: 'date',
  explains: 'day on which it was settled',
  example: '2026-07-12'
};
export const MEASURED_ON: ExplainedColumn = {
  name: 'measured_on',
  type: 'date',
  explains: 'day of the reading, as 2026-10-31; today where it is empty',
  example: '2026-10-01'
};
export const METHOD_COLUMN: ExplainedColumn = {
  name: 'method',
  type: 'string',
  explains: 'diameter tape, tape (girth), calipers, stick or hug',
  example: 'tape'
};
