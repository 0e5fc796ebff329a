import { alongCourse } from '@baumkin/core/bush';
import type { BushRecordInput } from '@baumkin/core/records';

import { round, type TaggedTree } from './draw.ts';

type Bare = (on: string, hour?: number) => Pick<BushRecordInput, 'id' | 'on' | 'recordedAt'>;
type Point = [east: number, north: number];

/** Metres from one post of a main line to the next. */
const POST_M = 12;
const TAPS_A_LATERAL = 5;
/** One lateral has far too many. */
const CROWDED = 9;
const DROP_MM = 750;

/** The ground of the steep side: it falls to the south, with a hollow that the eye does not see. */
const groundM = ([east, north]: Point) => 312 + 0.06 * north + 0.5 * Math.sin(east / 19) + 0.2 * Math.sin(north / 13);

/** Two main lines on the steep side, their laterals, and what was levelled: a dip, a stretch of one in a hundred, a lateral with nine taps. */
export function pipeLines(
  place: { readonly id: string; readonly trees: readonly TaggedTree[] },
  bare: Bare
): BushRecordInput[] {
  const byEast = [...place.trees].sort((a, b) => a.eastM - b.eastM);
  const half = Math.ceil(byEast.length / 2);
  return [
    ...mainWithLaterals('West line', byEast.slice(0, half), { placeId: place.id, crowded: false }, bare),
    ...mainWithLaterals('East line', byEast.slice(half), { placeId: place.id, crowded: true }, bare)
  ];
}

function mainWithLaterals(
  name: string,
  trees: readonly TaggedTree[],
  { placeId, crowded }: { readonly placeId: string; readonly crowded: boolean },
  bare: Bare
): BushRecordInput[] {
  const laid = bare('2023-11-12');
  const middle = trees.reduce((sum, { eastM }) => sum + eastM / trees.length, 0);
  const norths = trees.map(({ northM }) => northM);
  const [top, foot] = [Math.max(...norths), Math.min(...norths) - 8];
  const posts = Math.max(8, Math.ceil((top - foot) / POST_M));
  const points = Array.from({ length: posts + 1 }, (_, i): Point => {
    const north = top - ((top - foot) * i) / posts;
    return [round(middle + 3 * Math.sin(north / 21), 2), round(north, 2)];
  });
  const line = { kind: 'pipeLine', staysUp: false, note: '' } as const;
  const main: BushRecordInput = {
    ...laid,
    ...line,
    name,
    use: 'main',
    points,
    boreMm: 19.1,
    held: 'wire',
    spanM: 4,
    intoId: null,
    placeId,
    drops: []
  };
  const eastAt = (north: number) =>
    points.reduce((best, point) => (Math.abs(point[1] - north) < Math.abs(best[1] - north) ? point : best))[0];
  const laterals = [-1, 1].flatMap((side) => {
    const off = ({ eastM, northM }: TaggedTree) => Math.abs(eastM - eastAt(northM));
    const beside = trees.filter(({ eastM, northM }) => Math.sign(eastM - eastAt(northM) || 1) === side);
    const groups: TaggedTree[][] = [];
    while (beside.length > 0) {
      const many = crowded && side === 1 && groups.length === 1 ? CROWDED : TAPS_A_LATERAL;
      const farthest = beside.reduce((best, tree) => (off(tree) > off(best) ? tree : best));
      const near = (tree: TaggedTree) => Math.hypot(tree.eastM - farthest.eastM, tree.northM - farthest.northM);
      groups.push(beside.sort((a, b) => near(a) - near(b)).splice(0, many));
    }
    return groups.map((group, nth): BushRecordInput => {
      const outwards = [...group].sort((a, b) => off(b) - off(a));
      const lowest = Math.max(foot, Math.min(...group.map(({ northM }) => northM)) - 2);
      return {
        ...bare('2023-11-12'),
        ...line,
        name: `${name}, ${side < 0 ? 'left' : 'right'} ${nth + 1}`,
        use: 'lateral',
        points: [
          ...outwards.map(({ eastM, northM }): Point => [round(eastM, 2), round(northM, 2)]),
          [round(eastAt(lowest), 2), round(lowest, 2)]
        ],
        boreMm: 7.9,
        held: 'hand',
        spanM: 4,
        intoId: main.id,
        placeId: null,
        drops: group.map(({ id }) => ({ treeId: id, dropMm: DROP_MM }))
      };
    });
  });
  const along = alongCourse(points);
  const hooks = points.map((point) => groundM(point) + 1.2);
  if (crowded) {
    // Between the fourth post and the fifth it rises; lower down it falls one in a hundred.
    hooks[4] = hooks[3]! + 0.14;
    hooks[6] = hooks[5]! - 0.01 * (along[6]! - along[5]!);
  }
  return [
    main,
    ...laterals,
    {
      ...bare('2024-11-09'),
      kind: 'levelling',
      lineId: main.id,
      method: 'clinometer',
      slopes: [
        { fromM: 0, toM: round(along.at(-1)!, 1), slope: round((hooks[0]! - hooks.at(-1)!) / along.at(-1)!, 3) }
      ],
      note: ''
    },
    ...(crowded
      ? [
          {
            ...bare('2026-11-14'),
            kind: 'levelling',
            lineId: main.id,
            method: 'level',
            heights: along.map((at, i) => ({ alongM: round(at, 1), heightM: round(hooks[i]!, 3) })),
            note: ''
          } as const
        ]
      : [])
  ];
}
