import { shuffler } from 'd3-array';

import { seededRng, seedFrom } from '../math/index.ts';
import {
  effectiveRecords,
  otherSapOfTree,
  spoutsIn,
  type BushRecord,
  type ClosingRecord,
  type Taphole,
  type TreeRow,
  type WorkRecord
} from '../records/index.ts';
import { closingSpeed, type ClosingSpeed } from '../season/index.ts';
import { CLOSED_BY, closingDue, lastSummer, seenOn } from './roundsDue.ts';

/** So many trees tell how a bush's holes close. Working assumption: the share closed is then known to about 6 of a hundred. */
export const CLOSING_SAMPLE = 60;

/**
 * The trees whose old holes are looked at after a summer: a sample, drawn anew each year, of those that were tapped lately. Others are looked
 * at in passing, or where there is a reason.
 * @param today ISO date
 */
export function closingSample(rows: readonly TreeRow[], today: string): ReadonlySet<string> {
  const summer = lastSummer(today);
  // Birches and walnuts close in their own way.
  const due = rows.filter(
    (row) => otherSapOfTree(row) === null && (closingDue(row, today) || isLookedAtSince(row, summer))
  );
  const rng = seededRng(seedFrom(`closing ${summer}`));
  const drawn = shuffler(() => rng.uniform())(due.map(({ id }) => id).sort());
  return new Set(drawn.slice(0, CLOSING_SAMPLE));
}

const isLookedAtSince = (row: TreeRow, summer: number) =>
  row.lastTappedSeason !== null && (seenOn(row, 'oldestOpenHoleYears') ?? '') >= `${summer}${CLOSED_BY}`;

/** How many of the holes that were looked at had closed after so many summers. */
export interface ClosedAfter {
  readonly summers: number;
  readonly holes: number;
  readonly closed: number;
  readonly slit: number;
}

/** Summers that had gone over a hole when it was looked at: that of its own year is the first. */
const summersOf = (look: Pick<ClosingRecord, 'on'>, hole: Pick<Taphole, 'season'>) =>
  Number(look.on.slice(0, 4)) - hole.season + 1;

/**
 * What looks at closing holes amount to, tree by tree put together.
 * @param trees everything recorded of each
 */
export function closedAfter(trees: Iterable<readonly WorkRecord[]>): ClosedAfter[] {
  const bySummers = new Map<number, { holes: number; closed: number; slit: number }>();
  for (const told of trees) {
    const records = effectiveRecords(told);
    const holes = new Map(
      records.flatMap((record) => (record.kind === 'taphole' ? [[record.id, record] as const] : []))
    );
    for (const look of records) {
      if (look.kind !== 'closing') continue;
      for (const { tapholeId, state } of look.holes) {
        const hole = holes.get(tapholeId);
        if (!hole) continue;
        const summers = summersOf(look, hole);
        const sum = bySummers.get(summers) ?? { holes: 0, closed: 0, slit: 0 };
        bySummers.set(summers, {
          holes: sum.holes + 1,
          closed: sum.closed + (state === 'closed' ? 1 : 0),
          slit: sum.slit + (state === 'slit' ? 1 : 0)
        });
      }
    }
  }
  return [...bySummers].map(([summers, sum]) => ({ summers, ...sum })).sort((a, b) => a.summers - b.summers);
}

/** How fast a tree closes its holes, from all looks at it. */
export function closingSpeedOf(told: readonly WorkRecord[]): ClosingSpeed | null {
  const records = effectiveRecords(told);
  const holes = new Map(records.flatMap((record) => (record.kind === 'taphole' ? [[record.id, record] as const] : [])));
  return closingSpeed(
    records.flatMap((look) =>
      look.kind !== 'closing'
        ? []
        : look.holes.flatMap(({ tapholeId, state, gapMm }) => {
            const hole = holes.get(tapholeId);
            const gap = state === 'closed' ? 0 : gapMm;
            return hole && gap !== null ? [{ bitMm: hole.bitMm, gapMm: gap, summers: summersOf(look, hole) }] : [];
          })
    )
  );
}

/** A season that somebody called over for a group of trees; null while nobody did. @param records of the bush that hold */
export function endOf(records: readonly BushRecord[], season: number, swell: 'early' | 'late') {
  return (
    records
      .filter((record) => record.kind === 'seasonEnd')
      .filter((record) => record.season === season && (record.group === 'all' || record.group === swell))
      .at(-1) ?? null
  );
}

/** The spouts of a season: how many went in and came out, and the trees in which some are still. */
export function spoutsStillIn(rows: readonly TreeRow[], season: number) {
  const tapped = rows.filter(({ drilled }) => drilled > 0);
  const set = tapped.reduce((sum, { drilled }) => sum + drilled, 0);
  const still = tapped.filter((row) => !row.cut && spoutsIn(row, season) > 0);
  const inTrees = still.reduce((sum, row) => sum + spoutsIn(row, season), 0);
  return { set, in: inTrees, out: set - inTrees, rows: still };
}
