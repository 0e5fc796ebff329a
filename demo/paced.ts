import { METRES_A_MINUTE } from '@baumkin/core/bush';
import { seededRng, seedFrom } from '@baumkin/core/math';
import type { RecordInput } from '@baumkin/core/records';

import type { TaggedTree } from './draw.ts';

/** Since when holes are written down where they are drilled. */
const TIMED_SINCE = 2022;
/** Minutes at a tree, and by how much they differ, as a logarithm: where wood was met that is brown they were fewer. */
const MINUTES = { usual: 3.6, sd: 0.5, hasty: 0.22 } as const;
/** A round begins at this hour. */
const BEGIN_HOUR = 7;

/** Who drills: every third tree of the walk is the crew's. */
export const crewTrees = (walk: readonly string[]): ReadonlySet<string> => new Set(walk.filter((_, i) => i % 3 === 2));

/** The holes of the last seasons with the minute in which each was written down: along the walk, and sooner where somebody hurried into brown wood. */
export function paced(
  records: readonly RecordInput[],
  trees: readonly TaggedTree[],
  walk: readonly string[]
): RecordInput[] {
  const byId = new Map(trees.map((tree) => [tree.id, tree]));
  const stepOf = new Map(walk.map((id, step) => [id, step]));
  const brown = new Set(
    records.flatMap((record) =>
      record.kind === 'shavings' && (record.seen === 'brown' || record.seen === 'partly') ? record.tapholeId : []
    )
  );
  const crew = crewTrees(walk);
  const days = new Map<string, Extract<RecordInput, { kind: 'taphole' }>[]>();
  for (const record of records) {
    if (record.kind !== 'taphole' || record.season < TIMED_SINCE) continue;
    const key = `${record.on} ${crew.has(record.treeId)}`;
    days.set(key, [...(days.get(key) ?? []), record]);
  }
  const at = new Map<string, string>();
  for (const holes of days.values()) {
    let [minute, before]: [number, TaggedTree | undefined] = [60 * BEGIN_HOUR, undefined];
    for (const hole of holes.sort((a, b) => stepOf.get(a.treeId)! - stepOf.get(b.treeId)!)) {
      const tree = byId.get(hole.treeId);
      const way = tree && before ? Math.hypot(tree.eastM - before.eastM, tree.northM - before.northM) : 0;
      const haste = brown.has(hole.id) ? MINUTES.hasty : 0;
      const rng = seededRng(seedFrom(`pace of ${hole.id}`));
      minute += MINUTES.usual * Math.exp(rng.normal(-haste, MINUTES.sd)) + way / METRES_A_MINUTE;
      before = tree;
      const time = new Date(Date.parse(`${hole.on}T00:00:00.000Z`) + 60_000 * Math.min(minute, 23 * 60));
      at.set(hole.id, time.toISOString());
    }
  }
  return records.map((record) => {
    const hole = record.kind === 'taphole' ? record.id : record.kind === 'shavings' ? record.tapholeId : null;
    const recordedAt = hole === null ? undefined : at.get(hole);
    return recordedAt === undefined ? record : { ...record, recordedAt };
  });
}
