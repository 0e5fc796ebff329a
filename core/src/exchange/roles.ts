import { parseTrunkLength, type LengthUnit } from '../units/index.ts';
import { readDate } from './dateIn.ts';
import { bearingIn } from './bearingIn.ts';
import { speciesInWord } from './species.ts';

/** What a column of a table can tell of a tree. */
export const ROLES = [
  'tag',
  'species',
  'determinedOn',
  'stand',
  'girth',
  'diameter',
  'measuredOn',
  'at',
  'method',
  'asWritten',
  'season',
  'bearing',
  'holeHeight',
  'bit',
  'depth',
  'holes',
  'lat',
  'lon',
  'east',
  'north',
  'quality',
  'note'
] as const;
export type Role = (typeof ROLES)[number];

/** Headings as people write them, in lower case, without their unit and their signs. */
const HEADINGS: Readonly<Record<Role, RegExp>> = {
  tag: /^(tag|tree|(tree|tag) ?(id|no|nr|number|tag)|id|no|nr|number|label)$/,
  species: /^(species( (code|name))?|spp?|spec|kind)$/,
  determinedOn: /^(determined|identified)( on)?$/,
  stand: /^(stand|block|area)( name)?$/,
  girth: /^(girth|circumference|circ|gbh|cbh)$/,
  diameter: /^(diameter|dbh|d b h|diam|dia)$/,
  measuredOn: /^(measured( on)?|date( measured)?|day)$/,
  at: /^(at|at height)$/,
  method: /^(method|measured with)$/,
  asWritten: /^as written$/,
  season: /^(season|tapped|year( tapped)?|tap year)$/,
  bearing: /^(bearing( deg)?|compass|aspect|azimuth|side|facing)$/,
  holeHeight: /^(height|(hole|tap) height|height above ground)$/,
  bit: /^(bit( size)?|drill( bit)?)$/,
  depth: /^((hole|drilling) )?depth$/,
  holes: /^(tap)?holes$/,
  lat: /^(lat|latitude)$/,
  lon: /^(lon|lng|long|longitude)$/,
  east: /^(east|easting|x)$/,
  north: /^(north|northing|y)$/,
  quality: /^(position )?quality$/,
  note: /^(notes?|comments?|remarks?|observations?)$/
};

/** Units as headings write them. */
const HEADED_UNITS: Readonly<Record<string, LengthUnit>> = {
  mm: 'mm',
  cm: 'cm',
  m: 'm',
  in: 'in',
  inch: 'in',
  inches: 'in',
  '"': 'in',
  ft: 'ft',
  feet: 'ft'
};

/** Only beside a season does a table tell of holes: without one a height is the tree's own. */
const OF_HOLES: readonly Role[] = ['bearing', 'holeHeight', 'bit', 'depth'];

/** What a column of a file is taken to tell, and by what that was seen. */
export interface ColumnUse {
  /** null: it is left out */
  readonly role: Role | null;
  /** of sizes and heights; null: as the cell says, or what is usual */
  readonly unit: LengthUnit | null;
  readonly by: 'heading' | 'content' | 'hand' | null;
}

/** What the steward says of columns, by their headings as the file writes them. */
export type ColumnsTold = Readonly<Record<string, Pick<ColumnUse, 'role' | 'unit'>>>;

/** So many cells tell what a column holds. */
const LOOKED_AT = 200;
/** Of the filled cells of a column so many must be alike. Working assumption. */
const MOSTLY = 0.8;

/**
 * What the columns of a table tell, by what the steward said, by their headings, and where these are strange by what stands
 * in them. A column is taken once; notes may be several.
 */
export function understandColumns(
  heading: readonly string[],
  rows: readonly { readonly cells: readonly string[] }[],
  told: ColumnsTold,
  today: string
): ColumnUse[] {
  const taken = new Set<Role>(Object.values(told).flatMap(({ role }) => role ?? []));
  const claim = (role: Role | null): Role | null => {
    if (role === null || role === 'note') return role;
    if (taken.has(role)) return null;
    taken.add(role);
    return role;
  };
  const byHeading = heading.map((name): ColumnUse => {
    if (Object.hasOwn(told, name)) return { ...told[name]!, by: 'hand' };
    const { base, unit } = partsOf(name);
    const role = claim(ROLES.find((each) => HEADINGS[each].test(base)) ?? null);
    return { role, unit: role && unit, by: role && 'heading' };
  });
  const all = byHeading.map((use, i): ColumnUse => {
    if (use.by !== null || heading[i]!.trim() === '') return use;
    const cells = rows.slice(0, LOOKED_AT).flatMap((row) => row.cells[i]?.trim() || []);
    const role = claim(roleByContent(cells, taken, today));
    return role ? { role, unit: null, by: 'content' } : use;
  });
  if (all.some(({ role }) => role === 'season')) return all;
  return all.map((use) => (use.role && OF_HOLES.includes(use.role) ? { role: null, unit: null, by: null } : use));
}

/** A heading in plain words, and the unit behind them. */
function partsOf(name: string): { readonly base: string; readonly unit: LengthUnit | null } {
  const plain = name
    .toLowerCase()
    .replace(/[_.#:]+/g, ' ')
    .trim();
  const match = /^(.+?)[\s([,]+(mm|cm|m|in|inch|inches|"|ft|feet)[)\]]*$/.exec(plain);
  const base = (match ? match[1]! : plain).replace(/\s+/g, ' ').trim();
  return { base: base === '' ? '#' : base, unit: match ? HEADED_UNITS[match[2]!]! : null };
}

/** What cells under a strange heading tell, as far as they tell it. */
function roleByContent(cells: readonly string[], taken: ReadonlySet<Role>, today: string): Role | null {
  if (cells.length < 3) return null;
  const share = (test: (cell: string) => boolean) => cells.filter(test).length / cells.length;
  const tests: readonly (readonly [Role, () => boolean])[] = [
    [
      'measuredOn',
      () => share((cell) => readDate(cell, null, today).why !== 'none' && !/^\d{4}$/.test(cell)) >= MOSTLY
    ],
    ['species', () => share((cell) => speciesInWord(cell) !== null) >= MOSTLY],
    ['season', () => share((cell) => /^(19[5-9]\d|20[0-4]\d)$/.test(cell)) >= MOSTLY],
    ['bearing', () => share((cell) => /^[a-z]/i.test(cell) && bearingIn(cell) !== null) >= MOSTLY],
    [
      'tag',
      () =>
        new Set(cells).size === cells.length && share((cell) => /^[A-Z]{0,3}[ -]?\d{1,5}[a-z]?$/i.test(cell)) >= MOSTLY
    ],
    ['diameter', () => share((cell) => /["'′″]|\d ?(cm|mm|in)\b|\d \d+\/\d+/i.test(cell) && isSize(cell)) >= MOSTLY]
  ];
  return tests.find(([role, test]) => !taken.has(role) && test())?.[0] ?? null;
}

function isSize(cell: string): boolean {
  try {
    parseTrunkLength(cell, 'cm');
    return true;
  } catch {
    return false;
  }
}
