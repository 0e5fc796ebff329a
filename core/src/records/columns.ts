import type { ExplainedColumn } from './kind.ts';

/* Columns that stand in more than one table. */

/** The tree that a line is about, by its tag. */
export const TAG_COLUMN: ExplainedColumn = {
  name: 'tag',
  type: 'string',
  explains: 'what the tag on the trunk says; the one column that is always needed',
  example: '101'
};
/** The species, as a name. */
export const SPECIES_COLUMN: ExplainedColumn = {
  name: 'species',
  type: 'string',
  explains: 'common or Latin name; "maple" where it is one of them and the species is open',
  example: 'sugar maple'
};
/** The day of a determination. */
export const DETERMINED_ON: ExplainedColumn = {
  name: 'determined_on',
  type: 'date',
  explains: 'day on which it was settled',
  example: '2026-07-12'
};
/** The day of a reading. */
export const MEASURED_ON: ExplainedColumn = {
  name: 'measured_on',
  type: 'date',
  explains: 'day of the reading, as 2026-10-31; today where it is empty',
  example: '2026-10-01'
};
/** How a trunk was measured, as a word. */
export const METHOD_COLUMN: ExplainedColumn = {
  name: 'method',
  type: 'string',
  explains: 'diameter tape, tape (girth), calipers, stick or hug',
  example: 'tape'
};
