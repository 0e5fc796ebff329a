import { barkDistance, type BarkSpot } from '../geometry/index.ts';

/** A hole this far from where it was planned was meant to be another one, mm. */
const ANOTHER_MM = 150;

/** A hole is drilled as planned when it is no farther from its planned place, mm. A hand does not place it more exactly. */
export const AS_PLANNED_MM = 40;

/** What became of a tree's planned holes. */
export interface RoundState<T extends BarkSpot, D extends BarkSpot> {
  /** planned, and not drilled yet */
  readonly open: readonly T[];
  /** planned, and drilled there or thereabouts */
  readonly done: readonly T[];
  /** how far the farthest of the drilled ones is from where it was planned, mm; null where nothing planned was drilled */
  readonly offMm: number | null;
  /** drilled where nothing was planned */
  readonly elsewhere: readonly D[];
}

/** Tells which planned holes were drilled: each drilled hole takes the planned one that it lies nearest to. */
export function roundState<T extends BarkSpot, D extends BarkSpot>(
  planned: readonly T[],
  drilled: readonly D[],
  barkRadiusMm: number
): RoundState<T, D> {
  const pairs = drilled
    .flatMap((hole) => planned.map((to) => ({ hole, to, mm: barkDistance(hole, to, barkRadiusMm) })))
    .filter(({ mm }) => mm <= ANOTHER_MM)
    .sort((a, b) => a.mm - b.mm);
  const [holes, done] = [new Set<D>(), new Map<T, number>()];
  for (const { hole, to, mm } of pairs) {
    if (holes.has(hole) || done.has(to)) continue;
    holes.add(hole);
    done.set(to, mm);
  }
  return {
    open: planned.filter((to) => !done.has(to)),
    done: planned.filter((to) => done.has(to)),
    offMm: done.size > 0 ? Math.max(...done.values()) : null,
    elsewhere: drilled.filter((hole) => !holes.has(hole))
  };
}

/** A stretch of the walk that one helper takes: trees of one stand, one after another, on one page. */
export interface WalkRow<L> {
  readonly standId: string | null;
  readonly lines: readonly L[];
  readonly holes: number;
}

/** Holes on a page: as many as fit, with room to write. */
const MAX_HOLES = 18;

/**
 * Cuts a round into rows, stand by stand, about as long as each other. The holes of a tree stay together.
 * @param lines in walking order
 */
export function walkRows<
  L extends { readonly row: { readonly standId: string | null }; readonly open: readonly unknown[] }
>(lines: readonly L[], mostHoles = MAX_HOLES): WalkRow<L>[] {
  const stands: L[][] = [];
  for (const line of lines) {
    const last = stands.at(-1);
    if (last && last[0]!.row.standId === line.row.standId) last.push(line);
    else stands.push([line]);
  }
  return stands.flatMap((stand) => {
    const all = holesOn(stand);
    const most = Math.ceil(all / Math.ceil(all / mostHoles));
    const rows: L[][] = [[]];
    for (const line of stand) {
      const row = rows.at(-1)!;
      if (row.length > 0 && holesOn(row) + line.open.length > most) rows.push([line]);
      else row.push(line);
    }
    return rows.map((row) => ({ standId: stand[0]!.row.standId, lines: row, holes: holesOn(row) }));
  });
}

function holesOn(lines: readonly { readonly open: readonly unknown[] }[]): number {
  return lines.reduce((sum, { open }) => sum + open.length, 0);
}
