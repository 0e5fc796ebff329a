import { fractionalYear, toDiameter } from '../measure/index.ts';
import { effectiveRecords, type Reading, type TreeRow, type WorkRecord } from '../records/index.ts';
import { closingSpeedOf } from './closingRound.ts';
import { thinningEffect, type BeforeAndAfter, type ThinningEffect } from '../thinning/index.ts';

/** A tree with everything that was recorded of it. */
export interface LivedTree {
  readonly tree: TreeRow;
  readonly records: readonly WorkRecord[];
}

/** A thinning, as the book shows it: trees that were taken in one winter. */
export interface ThinningDone {
  /** the year after whose winter the crowns had more room */
  readonly year: number;
  readonly taken: number;
  /** years since then */
  readonly years: number;
  /** trees that had more room from then on */
  readonly freedIds: ReadonlySet<string>;
  /** how much more the ring of freed trees changed than that of comparable ones, mm a year */
  readonly ring: ThinningEffect;
  /** the same of the speed at which they close their holes, mm a summer */
  readonly closing: ThinningEffect;
}

/** A tree has more room where one was taken so near to it, metres. Working assumption: crowns of that size touched. */
const FREED_WITHIN_M = 6;
/** One winter is no thinning where fewer trees were taken. */
const LEAST_TAKEN = 8;
/** Readings tell a ring where they lie so many years apart. */
const APART_YEARS = 2;

/**
 * What the thinnings of a bush did to the trees that stayed, told by those that were freed against those that were not.
 * @param told of trees that stand and that were taken @param today ISO date
 */
export function thinningsDone(told: readonly LivedTree[], today: string): ThinningDone[] {
  const trees = told.map(({ tree, records }) => ({ tree, records: effectiveRecords(records) }));
  const cuts = trees.flatMap(({ tree, records }) =>
    records.flatMap((record) => (record.kind === 'cut' ? [{ tree, year: winterOf(record.on) }] : []))
  );
  const many = new Map<number, number>();
  for (const { year } of cuts) many.set(year, (many.get(year) ?? 0) + 1);
  const standing = trees.filter(({ tree }) => !tree.cut && tree.eastM !== null);
  return [...many]
    .filter(([, taken]) => taken >= LEAST_TAKEN)
    .sort(([a], [b]) => b - a)
    .map(([year, taken]) => {
      const gone = cuts.filter((cut) => cut.year === year);
      const isFreed = ({ tree }: LivedTree) =>
        gone.some(
          ({ tree: stump }) =>
            stump.eastM !== null &&
            Math.hypot(stump.eastM - tree.eastM!, stump.northM! - tree.northM!) <= FREED_WITHIN_M
        );
      const years = Number(today.slice(0, 4)) - year;
      const freedIds = new Set(standing.filter(isFreed).map(({ tree }) => tree.id));
      const compare = (measure: (lived: LivedTree, year: number) => Pick<BeforeAndAfter, 'before' | 'after'> | null) =>
        thinningEffect(
          standing.flatMap((lived): BeforeAndAfter[] => {
            const told = measure(lived, year);
            const { id, species, dbhMm } = lived.tree;
            return told && dbhMm !== null ? [{ id, freed: freedIds.has(id), kind: species ?? '', dbhMm, ...told }] : [];
          }),
          years
        );
      return { year, taken, years, freedIds, ring: compare(ringBoth), closing: compare(closingBoth) };
    });
}

/** The year from whose growth on crowns had the room of a tree that was taken: what is cut from autumn on counts for the next. */
function winterOf(on: string): number {
  const [year, month] = on.split('-').map(Number) as [number, number];
  return month >= 9 ? year + 1 : year;
}

/** The mean ring before a year and from it on, by tape, mm. @returns null where readings do not tell both */
function ringBoth({ records }: LivedTree, year: number): Pick<BeforeAndAfter, 'before' | 'after'> | null {
  const readings = records
    .filter((record): record is Reading => record.kind === 'reading')
    .map((reading) => ({ at: fractionalYear(reading.on), mm: toDiameter(reading.valueMm, reading.quantity) }))
    .sort((a, b) => a.at - b.at);
  const ring = (of: typeof readings) => {
    const [first, last] = [of[0], of.at(-1)];
    return first && last && last.at - first.at >= APART_YEARS ? (last.mm - first.mm) / 2 / (last.at - first.at) : null;
  };
  const turn = readings.filter(({ at }) => at <= year + 0.3).length - 1;
  if (turn < 0) return null;
  const [before, after] = [ring(readings.slice(0, turn + 1)), ring(readings.slice(turn))];
  return before !== null && after !== null ? { before, after } : null;
}

/** How fast holes closed before a year and from it on, mm a summer. */
function closingBoth({ records }: LivedTree, year: number): Pick<BeforeAndAfter, 'before' | 'after'> | null {
  const holes = records.filter(({ kind }) => kind === 'taphole');
  const looks = records.filter(({ kind }) => kind === 'closing');
  const [before, after] = [
    looks.filter(({ on }) => Number(on.slice(0, 4)) < year),
    looks.filter(({ on }) => Number(on.slice(0, 4)) >= year)
  ].map((of) => closingSpeedOf([...holes, ...of]));
  return before && after && !before.atLeast && !after.atLeast
    ? { before: before.mmASummer, after: after.mmASummer }
    : null;
}
