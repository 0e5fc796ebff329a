import type { RecordInput } from '@baumkin/core/records';

import { later } from './climate.ts';
import { envelopeOf } from './draw.ts';

/** From this day on the demo stands in its next season. */
export const IN_SEASON = '2027-02-22';
const SEASON = 2027;
/** Over to the other side, and up or down. */
const [OVER_DEG, HEIGHTS_MM] = [137, [820, 1340]] as const;
/** So many trees a day were drilled. */
const A_DAY = 30;

/** The trees of last season tapped again, as far as the round has come by a day. */
export function tappedAgain(records: readonly RecordInput[], today: string, uuid: () => string): RecordInput[] {
  const gone = new Set(records.flatMap((record) => (record.kind === 'cut' ? record.treeId : [])));
  const decided = new Set(
    records.flatMap((record) => (record.kind === 'decision' && record.season === SEASON ? record.treeId : []))
  );
  const last = new Map<string, Extract<RecordInput, { kind: 'taphole' }>[]>();
  for (const record of records)
    if (record.kind === 'taphole' && record.season === SEASON - 1 && !gone.has(record.treeId))
      last.set(record.treeId, [...(last.get(record.treeId) ?? []), record]);
  return [...last].flatMap(([treeId, holes], i): RecordInput[] => {
    const at = envelopeOf(treeId, uuid);
    const on = later(IN_SEASON, Math.floor(i / A_DAY) - 1);
    const decision: RecordInput[] = decided.has(treeId)
      ? []
      : [
          {
            ...at('2026-12-12'),
            kind: 'decision',
            season: SEASON,
            taps: holes.length,
            suggested: holes.length,
            binding: 'size'
          }
        ];
    if (on >= today) return decision;
    return [
      ...decision,
      ...holes.map((hole, k): RecordInput => ({
        ...at(on),
        kind: 'taphole',
        season: SEASON,
        bearingDeg: (Math.round(hole.bearingDeg) + OVER_DEG + 180 * k) % 360,
        heightMm: HEIGHTS_MM[(i + k) % 2]!,
        bitMm: hole.bitMm,
        depthMm: hole.depthMm,
        strategy: 'pattern'
      }))
    ];
  });
}
