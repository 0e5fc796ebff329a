/**
 * The columns of the tables that go out and come in, each explained once: the template, the page and the data package's
 * descriptor all read them from here.
 */
export interface ExplainedColumn {
  readonly name: string;
  /** as the Frictionless Table Schema names types */
  readonly type: 'string' | 'number' | 'integer' | 'date' | 'year' | 'boolean';
  readonly explains: string;
  readonly example: string;
}

const TAG: ExplainedColumn = {
  name: 'tag',
  type: 'string',
  explains: 'what the tag on the trunk says; the one column that is always needed',
  example: '101'
};
const SPECIES: ExplainedColumn = {
  name: 'species',
  type: 'string',
  explains: 'common or Latin name; "maple" where it is one of them and the species is open',
  example: 'sugar maple'
};
const MEASURED_ON: ExplainedColumn = {
  name: 'measured_on',
  type: 'date',
  explains: 'day of the reading, as 2026-10-31; today where it is empty',
  example: '2026-10-01'
};
const METHOD: ExplainedColumn = {
  name: 'method',
  type: 'string',
  explains: 'diameter tape, tape (girth), calipers, stick or hug',
  example: 'tape'
};

export const TREE_COLUMNS: readonly ExplainedColumn[] = [
  TAG,
  { name: 'stand', type: 'string', explains: 'name of the stand; made where the bush has none of it', example: 'Hill' },
  SPECIES,
  {
    name: 'diameter_cm',
    type: 'number',
    explains: 'at breast height, over the bark. Or girth_cm, the way round; diameter_in, girth_in, girth_ft also go',
    example: '36.6'
  },
  MEASURED_ON,
  METHOD,
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

export const READING_COLUMNS: readonly ExplainedColumn[] = [
  TAG,
  { name: 'diameter_cm', type: 'number', explains: 'where the diameter was read; else empty', example: '36.6' },
  { name: 'girth_cm', type: 'number', explains: 'where the girth was read; else empty', example: '' },
  MEASURED_ON,
  METHOD,
  { name: 'at_cm', type: 'number', explains: 'height on the trunk; breast height where it is empty', example: '130' },
  { name: 'as_written', type: 'string', explains: 'what stood in the notebook, word for word', example: '36,6' }
];

export const TAPHOLE_COLUMNS: readonly ExplainedColumn[] = [
  TAG,
  { name: 'season', type: 'year', explains: 'the spring in which it ran', example: '2025' },
  { name: 'bearing_deg', type: 'number', explains: 'side of the trunk, clockwise from north', example: '205' },
  { name: 'height_cm', type: 'number', explains: 'above the ground', example: '120' },
  { name: 'bit_mm', type: 'number', explains: 'diameter of the bit; the bush’s own where empty', example: '7.94' },
  { name: 'depth_mm', type: 'number', explains: 'depth in wood; the bush’s own where empty', example: '38.1' }
];

export const DETERMINATION_COLUMNS: readonly ExplainedColumn[] = [
  TAG,
  SPECIES,
  { name: 'determined_on', type: 'date', explains: 'day on which it was settled', example: '2026-07-12' },
  { name: 'basis', type: 'string', explains: 'clues, or declared by somebody who knows', example: 'declared' },
  { name: 'note', type: 'string', explains: 'anything worth a line', example: 'seen in leaf' }
];
