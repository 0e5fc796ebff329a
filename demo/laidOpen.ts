import type { RecordInput } from '@baumkin/core/records';

import { envelopeOf, type TaggedTree } from './draw.ts';
import type { TrueTree } from './wood.ts';

/** What cores, wounds and one log told: a maple that came down in the summer storm was sawn open at its holes. */
export function laidOpen(
  wood: readonly TrueTree[],
  trees: readonly TaggedTree[],
  records: readonly RecordInput[],
  uuid: () => string
): RecordInput[] {
  const holesOf = (id: string) =>
    records.flatMap((record) => (record.kind === 'taphole' && record.treeId === id ? [record] : []));
  const spoken = new Set(
    records.flatMap(({ kind, treeId }) => (['cut', 'mark', 'cropChoice', 'tapBan'].includes(kind) ? treeId : []))
  );
  const maples = trees.filter(({ id }, i) => wood[i]!.species === 'sugarMaple' && !spoken.has(id));
  const tapped = maples.filter(({ id }) => holesOf(id).length > 8);
  const [down, wounded] = [tapped.at(-1)!, tapped.at(-2)!];
  const at = (tree: TaggedTree, on: string) => envelopeOf(tree.id, uuid)(on);
  return [
    {
      ...at(down, '2026-08-14'),
      kind: 'cut',
      what: 'fallen',
      by: '',
      damaged: [],
      reviewOn: null,
      note: 'snapped in the August storm'
    },
    {
      ...at(down, '2026-08-22'),
      kind: 'ringCount',
      source: 'stump',
      heightMm: 300,
      rings: 97,
      toPith: true,
      last5Mm: 7,
      last10Mm: 15,
      last20Mm: 33
    },
    ...holesOf(down.id)
      .slice(-6)
      .map((hole, k): RecordInput => {
        const [widthMm, lengthMm, leanDeg] = [
          [13, 310, 2],
          [16, 420, 3],
          [12, 260, 1],
          [15, 380, 3],
          [18, 330, 2],
          [14, 290, 4]
        ][k]! as [number, number, number];
        return { ...at(down, '2026-08-22'), kind: 'sawnColumn', tapholeId: hole.id, widthMm, lengthMm, leanDeg };
      }),
    {
      ...at(wounded, '2026-05-20'),
      kind: 'trunkFeature',
      what: 'wound',
      bearingDeg: 250,
      heightMm: 700,
      since: 2018,
      note: 'the skidder of 2018'
    },
    ...[maples[11]!, maples[30]!].map((tree, k): RecordInput => ({
      ...at(tree, '2025-10-11'),
      kind: 'ringCount',
      source: 'core',
      heightMm: 1300,
      last5Mm: k === 0 ? 8 : 5,
      last10Mm: k === 0 ? 17 : 11,
      hollowFromMm: null
    })),
    // Old hands know which of the thinner maples no bit has met yet.
    ...maples
      .filter(({ id }) => holesOf(id).length === 0)
      .slice(0, 12)
      .map((tree): RecordInput => ({ ...at(tree, '2026-10-04'), kind: 'tappedBefore', answer: 'never' }))
  ];
}
