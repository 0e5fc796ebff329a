import { CROSSING_TAKES, type DecidedCrossing } from './crossing.ts';
import type { PipeUse } from './pipe.ts';

/** What a line is put together from. */
const ORDER = [
  'pipe',
  'wire',
  'posts',
  'tallPosts',
  'sideTies',
  'culvert',
  'sleeve',
  'releasers',
  'jumpers',
  'tees',
  'fittings',
  'ends',
  'dropTube',
  'spouts'
] as const;
export type LinePartKind = (typeof ORDER)[number];

/** Some of a part: metres of pipe, wire and tube, a number of the others. */
export interface LinePart {
  readonly what: LinePartKind;
  /** inner diameter, mm; null where it has none */
  readonly boreMm: number | null;
  readonly needed: number;
  readonly withSpares: number;
}

/** A line as far as its parts hang on it. */
export interface LineToBuild {
  readonly use: PipeUse;
  readonly boreMm: number;
  readonly lengthM: number;
  readonly wire: boolean;
  /** metres from one post or tie to the next */
  readonly spanM: number;
  /** bends at which its wire has to be tied back */
  readonly bends: number;
  /** does it run into another line? */
  readonly joins: boolean;
  /** does its air go over into an air line where it joins? */
  readonly jumper: boolean;
  /** does it end under a pump, so that its sap has to be let out of the vacuum? */
  readonly releaser: boolean;
  /** what was decided of its crossings */
  readonly crossings: readonly DecidedCrossing[];
  /** the tube of each tap, mm */
  readonly dropsMm: readonly number[];
}

/** Pipe is cut to waste, and fittings break: so much more of it is kept, of a whole. Working assumption. */
export const LINE_SPARES = { pipe: 0.05, small: 0.1 } as const;

/** Drop line is of the bore of a lateral, mm: five sixteenths of an inch. Common practice. */
export const DROP_BORE_MM = 7.9;

/** The tube by which a tap hangs on its line, mm, where nobody says otherwise. Common practice: 75 cm and more reach fresh wood all round. */
export const USUAL_DROP_MM = 750;

/** Parts that are counted in metres. */
export const PARTS_IN_METRES: readonly LinePartKind[] = ['pipe', 'wire', 'culvert', 'sleeve', 'dropTube'];

/** What lines are put together from, those alike added up: the widest pipe first, then what belongs to it. */
export function partsFor(lines: readonly LineToBuild[]): LinePart[] {
  const sums = new Map<string, { what: LinePartKind; boreMm: number | null; needed: number }>();
  const add = (what: LinePartKind, boreMm: number | null, needed: number) => {
    if (needed <= 0) return;
    const key = `${what} ${boreMm}`;
    const known = sums.get(key) ?? { what, boreMm, needed: 0 };
    sums.set(key, { ...known, needed: known.needed + needed });
  };
  for (const { boreMm, lengthM, wire, spanM, bends, joins, jumper, releaser, crossings, dropsMm } of lines) {
    add('pipe', boreMm, lengthM);
    if (wire) add('wire', null, lengthM);
    // What stands between the ends holds it: a post, or a tie to a tree.
    if (wire) add('posts', null, Math.ceil(lengthM / spanM) - 1);
    if (wire) add('sideTies', null, bends);
    for (const { how, insulated } of crossings) {
      if (how === 'culvert') add('culvert', null, CROSSING_TAKES.culvertM);
      else add('tallPosts', null, CROSSING_TAKES.tallPosts);
      if (insulated) add('sleeve', boreMm, CROSSING_TAKES.sleeveM);
    }
    add('releasers', null, releaser ? 1 : 0);
    add('jumpers', boreMm, jumper ? 1 : 0);
    add('tees', boreMm, dropsMm.length);
    add('fittings', boreMm, joins ? 1 : 0);
    add('ends', boreMm, 1);
    add(
      'dropTube',
      DROP_BORE_MM,
      dropsMm.reduce((sum, each) => sum + each / 1000, 0)
    );
    add('spouts', null, dropsMm.length);
  }
  return [...sums.values()]
    .map(({ what, boreMm, needed }) => {
      const inMetres = PARTS_IN_METRES.includes(what);
      const spares = Math.ceil(needed * (1 + (inMetres ? LINE_SPARES.pipe : LINE_SPARES.small)));
      return { what, boreMm, needed: Math.ceil(needed), withSpares: Math.max(Math.ceil(needed) + 1, spares) };
    })
    .sort((a, b) => ORDER.indexOf(a.what) - ORDER.indexOf(b.what) || (b.boreMm ?? 0) - (a.boreMm ?? 0));
}
