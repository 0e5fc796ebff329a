import type { BushRecordInput, RecordInput } from '@baumkin/core/records';

import { envelopeOf, type TaggedTree } from './draw.ts';

/** The last season whose spouts are out. */
const PULLED = 2026;

/** What the rounds of the last year wrote: spouts pulled in April, a mark painted, remarks, and a question that was answered. */
export function rounds(
  trees: readonly TaggedTree[],
  records: readonly RecordInput[],
  uuid: () => string
): { records: RecordInput[]; ofBush: BushRecordInput[] } {
  const holes = records.filter((record) => record.kind === 'taphole' && record.season === PULLED);
  const tapped = trees.filter(({ id }) => holes.some(({ treeId }) => treeId === id));
  const at = (id: string, on: string) => envelopeOf(id, uuid)(on);
  const mark = records.find((record) => record.kind === 'mark' && record.purpose === 'take');
  const asked = tapped[7]!;
  const questionId = uuid();
  const { id: answerId, on, recordedAt } = at(asked.id, '2026-02-21');
  return {
    records: [
      ...tapped.map(({ id }, i): RecordInput => ({
        ...at(id, '2026-04-11'),
        kind: 'pulling',
        season: PULLED,
        spouts: holes.filter(({ treeId }) => treeId === id).length,
        note: i === 4 ? 'one sat fast and broke' : ''
      })),
      ...(mark ? [{ ...at(mark.treeId, '2026-11-07'), kind: 'painted' as const, markId: mark.id }] : []),
      ...(
        [
          [3, 'wasps in the old knothole, on the south side'],
          [12, 'the first to run, every year'],
          [26, 'the ladder slips here when it is wet']
        ] as const
      ).map(([k, text]): RecordInput => ({ ...at(tapped[k]!.id, '2026-10-18'), kind: 'remark', text }))
    ],
    ofBush: [
      {
        id: questionId,
        on,
        recordedAt,
        kind: 'question',
        about: 'tooMany',
        ofTreeId: asked.id,
        tag: asked.tag,
        season: PULLED,
        tapholeIds: holes.flatMap(({ id, treeId }) => (treeId === asked.id ? id : []))
      },
      { id: answerId, on, recordedAt, kind: 'answer', questionId, says: 'stays', note: 'it bears two well' }
    ]
  };
}
