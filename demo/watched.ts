import { mean, seededRng } from '@baumkin/core/math';
import type { BushRecordInput, RecordInput } from '@baumkin/core/records';
import { stainedOf } from '@baumkin/core/trunk';

import { round, type TaggedTree } from './draw.ts';

/** Since when some trees have a bucket of their own that is logged; and how many with much brown wood, and with little. */
const SINCE = 2024;
const WATCHED = { brown: 4, pale: 4 } as const;
const SEED = 1841;
const BUCKET_LITRES = 13;
/** What is true, whether anybody finds it out or not: so much of its sap a path loses that is all stained, and so far trees and days stray. */
const TRUTH = { loss: 0.62, treeSd: 0.2, daySd: 0.2 } as const;

/** A tree with a bucket of its own, and how stained the path of each hole was, by season. */
export interface WatchedTree {
  readonly tree: TaggedTree;
  readonly stained: ReadonlyMap<number, readonly number[]>;
  /** the day on which it was drilled in the season that goes on; null where it was not */
  readonly since: string | null;
}

/** Trees with holes in each of the last seasons, all of whose shavings were looked at. */
export function watchedTrees(
  trees: readonly TaggedTree[],
  records: readonly RecordInput[],
  until: number
): WatchedTree[] {
  const seen = new Map(
    records.flatMap((record) =>
      record.kind === 'shavings' && record.seen !== 'dry' ? [[record.tapholeId, record]] : []
    )
  );
  const seasons = Array.from({ length: until - SINCE + 1 }, (_, i) => SINCE + i);
  const chosen = trees.flatMap((tree): WatchedTree[] => {
    const own = records.filter((record) => record.kind === 'taphole' && record.treeId === tree.id);
    const stained = seasons.flatMap((season): [number, number[]][] => {
      const holes = own.filter((record) => record.kind === 'taphole' && record.season === season);
      const met = holes.flatMap(({ id }) => seen.get(id) ?? []);
      return holes.length > 0 && met.length === holes.length
        ? [[season, met.map(({ seen: said, brownShare = null }) => stainedOf({ seen: said, brownShare }))]]
        : [];
    });
    // The season that goes on: nobody looked at shavings yet.
    const now = own.filter((record) => record.kind === 'taphole' && record.season === until + 1);
    const told = [...stained, ...(now.length > 0 ? [[until + 1, now.map(() => 0)] as const] : [])];
    return stained.length === seasons.length ? [{ tree, stained: new Map(told), since: now[0]?.on ?? null }] : [];
  });
  const all = ({ stained }: WatchedTree) => mean(seasons.flatMap((season) => stained.get(season)!));
  const byStain = [...chosen].sort((a, b) => all(b) - all(a));
  return [...byStain.slice(0, WATCHED.brown), ...byStain.slice(-WATCHED.pale)];
}

type Bare = (on: string, hour?: number) => Pick<BushRecordInput, 'id' | 'on' | 'recordedAt'>;

/** Their buckets, emptied whenever those beside them were. @param beside the log of the place that their trees stand in */
export function watchedLog(
  watched: readonly WatchedTree[],
  beside: readonly BushRecordInput[],
  bare: Bare
): BushRecordInput[] {
  const rng = seededRng(SEED);
  return watched.flatMap(({ tree, stained, since }): BushRecordInput[] => {
    const own = Math.exp(rng.normal(0, TRUTH.treeSd));
    const place: BushRecordInput = {
      ...bare(`${SINCE - 1}-11-06`),
      kind: 'collectingPlace',
      name: `Bucket of tree ${tree.tag}`,
      vessel: 'bucket',
      litres: BUCKET_LITRES,
      vessels: null,
      carrier: 'hand',
      treeIds: [tree.id],
      note: 'to see what brown wood costs'
    };
    return [
      place,
      ...beside.flatMap((record): BushRecordInput[] => {
        if (record.kind !== 'collection' || record.taps === 0) return [];
        const holes = stained.get(Number(record.on.slice(0, 4)));
        if (!holes || (since !== null && record.on.startsWith(since.slice(0, 4)) && record.on < since)) return [];
        const gives = own * (1 - TRUTH.loss * mean(holes)) * Math.exp(rng.normal(0, TRUTH.daySd));
        const [litres, holds] = [holes.length * gives * (record.litres / record.taps), holes.length * BUCKET_LITRES];
        return [
          {
            ...record,
            ...bare(record.on, 17),
            placeId: place.id,
            litres: round(Math.min(holds, litres), 1),
            taps: holes.length,
            brix: null,
            ranOver: litres > holds
          }
        ];
      })
    ];
  });
}
