import type { PipeUse } from './pipe.ts';

/** What a line is put together from. */
export type LinePartKind = 'pipe' | 'wire' | 'posts' | 'tees' | 'fittings' | 'ends' | 'dropTube' | 'spouts';

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
  /** does it run into another line? */
  readonly joins: boolean;
  /** the tube of each tap, mm */
  readonly dropsMm: readonly number[];
}

/** Pipe is cut to waste, and fittings break: so much more of it is kept, of a whole. Working assumption. */
export const LINE_SPARES = { pipe: 0.05, small: 0.1 } as const;

/** Drop line is of the bore of a lateral, mm: five sixteenths of an inch. Common practice. */
export const DROP_BORE_MM = 7.9;

/** The tube by which a tap hangs on its line, mm, where nobody says otherwise. Common practice: 75 cm and more reach fresh wood all round. */
export const USUAL_DROP_MM = 750;

const METRES: readonly LinePartKind[] = ['pipe', 'wire', 'dropTube'];

/** What lines are put together from, those alike added up: the widest pipe first, then what belongs to it. */
export function partsFor(lines: readonly LineToBuild[]): LinePart[] {
  const sums = new Map<string, { what: LinePartKind; boreMm: number | null; needed: number }>();
  const add = (what: LinePartKind, boreMm: number | null, needed: number) => {
    if (needed <= 0) return;
    const key = `${what} ${boreMm}`;
    const known = sums.get(key) ?? { what, boreMm, needed: 0 };
    sums.set(key, { ...known, needed: known.needed + needed });
  };
  for (const { boreMm, lengthM, wire, spanM, joins, dropsMm } of lines) {
    add('pipe', boreMm, lengthM);
    if (wire) add('wire', null, lengthM);
    // What stands between the ends holds it: a post, or a tie to a tree.
    if (wire) add('posts', null, Math.ceil(lengthM / spanM) - 1);
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
  const order: readonly LinePartKind[] = ['pipe', 'wire', 'posts', 'tees', 'fittings', 'ends', 'dropTube', 'spouts'];
  return [...sums.values()]
    .map(({ what, boreMm, needed }) => {
      const inMetres = METRES.includes(what);
      const spares = Math.ceil(needed * (1 + (inMetres ? LINE_SPARES.pipe : LINE_SPARES.small)));
      return { what, boreMm, needed: Math.ceil(needed), withSpares: Math.max(Math.ceil(needed) + 1, spares) };
    })
    .sort((a, b) => order.indexOf(a.what) - order.indexOf(b.what) || (b.boreMm ?? 0) - (a.boreMm ?? 0));
}
