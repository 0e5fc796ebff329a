import type { DateOrder, FaultGroup, Role, SpeciesSaid } from '@baumkin/core/exchange';
import { SPECIES } from '@baumkin/core/identify';
import type { ColumnCause } from '@baumkin/core/measure';

import { counted } from './counted.ts';

/** What columns of a table tell, as one chooses it. */
export const ROLE_LABELS: Readonly<Record<Role, string>> = {
  tag: 'tag of the tree',
  species: 'species',
  determinedOn: 'day of the species',
  stand: 'stand',
  girth: 'girth',
  diameter: 'diameter',
  measuredOn: 'day of the size',
  at: 'height of the size',
  method: 'how it was measured',
  asWritten: 'size as it was written',
  season: 'season of a hole',
  bearing: 'side of a hole',
  holeHeight: 'height of a hole',
  bit: 'bit',
  depth: 'depth of a hole',
  holes: 'holes, all in one cell',
  lat: 'latitude',
  lon: 'longitude',
  east: 'metres east',
  north: 'metres north',
  quality: 'how well it is placed',
  note: 'a note'
};

/** Roles whose cells are lengths: their unit can be said. */
export const WITH_UNIT: readonly Role[] = ['girth', 'diameter', 'at', 'holeHeight', 'bit', 'depth'];

/** How a file writes its days. */
export const DATE_ORDER_LABELS: Readonly<Record<DateOrder, string>> = {
  ymd: 'year, month, day',
  dmy: 'day, month, year',
  mdy: 'month, day, year'
};

/** What a word of a species column can be taken to say, by name. */
export const SAID_LABELS: readonly (readonly [SpeciesSaid, string])[] = [
  ['open', 'not settled'],
  ['mapleOpen', 'a maple, species open'],
  ...SPECIES.map(({ id, name }): [SpeciesSaid, string] => [id, name])
];

/** What would explain sizes that are off, and how they are read then. */
export const CAUSE_WORDS: Readonly<Record<ColumnCause, { readonly looks: string; readonly take: string }>> = {
  girthAsDiameter: { looks: 'girths called diameters', take: 'Read them as girths' },
  diameterAsGirth: { looks: 'diameters called girths', take: 'Read them as diameters' },
  inchAsCm: { looks: 'inches called centimetres', take: 'Read them as inches' },
  cmAsInch: { looks: 'centimetres called inches', take: 'Read them as centimetres' }
};

/** What a file brought, or would bring, in words: what there is none of is not spoken of. */
export function broughtWords(counts: Readonly<Record<string, number>>): string {
  const NAMES: readonly (readonly [string, string, string?])[] = [
    ['newTrees', 'new tree'],
    ['readings', 'reading'],
    ['holes', 'taphole'],
    ['determinations', 'species', 'species'],
    ['places', 'better place'],
    ['remarks', 'note']
  ];
  const parts = NAMES.flatMap(([key, one, more]) => (counts[key] ? counted(counts[key], one, more) : []));
  return parts.join(', ') || 'nothing new';
}

/** The question that rows of one fault raise, with how many they are. */
export function faultQuestion({ fault, rows, word }: FaultGroup): string {
  const many = rows.length;
  switch (fault) {
    case 'speciesWord':
      return `What does “${word}” mean? It stands in ${counted(many, 'row')}.`;
    case 'dateOrder':
      return `${counted(many, 'day is', 'days are')} written so that day and month may stand either way round. Which is first?`;
    case 'undated':
      return `${counted(many, 'size has', 'sizes have')} no day. When were they measured?`;
    case 'twoSizes':
      return `${counted(many, 'tag stands', 'tags stand')} twice, with two sizes of one day. One tree, or two?`;
    case 'strangeTag':
      return `${counted(many, 'row names', 'rows name')} a tree that this bush does not have. Mistyped, or new?`;
    case 'otherSpecies':
      return `${counted(many, 'tree is', 'trees are')} ${word}. Who is right?`;
    case 'otherLot':
      return `${counted(many, 'size looks', 'sizes look')} like something else than the rest of the column.`;
    case 'cell':
      return `${counted(many, 'row', 'rows')} cannot be read.`;
  }
}
