import { alongCourse, bearingTo, crossingsAlong, pointAlong } from '@baumkin/core/geometry';
import type { BushRecordInput, RecordInput } from '@baumkin/core/records';

import { envelopeOf, round, type TaggedTree } from './draw.ts';
import { HAULING_TRACK } from './landscape.ts';

type Bare = (on: string, hour?: number) => Pick<BushRecordInput, 'id' | 'on' | 'recordedAt'>;
type Point = [east: number, north: number];

/** Metres from one post of a main line to the next. */
const POST_M = 12;
const TAPS_A_LATERAL = 5;
/** One lateral has far too many. */
const CROWDED = 9;
const DROP_MM = 750;
/** Of this lateral it was noted on each trunk where it passes, so high. */
const NOTED = { lateral: 'Lower line, right 2', heightMm: 950 } as const;

/** The ground of the steep side: it falls along the lines, with a hollow that the eye does not see. */
const groundM = (down: number, beside: number) =>
  312 - 0.06 * down + 0.5 * Math.sin(beside / 19) + 0.2 * Math.sin(down / 13);

/** Ways along and across the lines: they run the longer way of the ground that they drain. */
interface Axes {
  readonly along: (tree: TaggedTree) => number;
  readonly across: (tree: TaggedTree) => number;
  readonly point: (along: number, across: number) => Point;
}

const spread = (values: readonly number[]) => Math.max(...values) - Math.min(...values);

/** Two main lines on the steep side, their laterals, and what was levelled: a dip, a stretch of one in a hundred, a lateral with nine taps. */
export function pipeLines(
  place: { readonly id: string; readonly trees: readonly TaggedTree[] },
  bare: Bare
): BushRecordInput[] {
  const [easts, norths] = [place.trees.map(({ eastM }) => eastM), place.trees.map(({ northM }) => northM)];
  const axes: Axes =
    spread(easts) > spread(norths)
      ? { along: (t) => t.eastM, across: (t) => t.northM, point: (along, across) => [along, across] }
      : { along: (t) => -t.northM, across: (t) => t.eastM, point: (along, across) => [across, -along] };
  const sideways = [...place.trees].sort((a, b) => axes.across(a) - axes.across(b));
  const half = Math.ceil(sideways.length / 2);
  const of = (crowded: boolean) => ({ placeId: place.id, crowded, axes });
  return [
    ...mainWithLaterals('Upper line', sideways.slice(half), of(false), bare),
    ...mainWithLaterals('Lower line', sideways.slice(0, half), of(true), bare)
  ];
}

/** The hauling track is crossed overhead. */
const overTrack = (points: readonly Point[]) =>
  crossingsAlong(points, HAULING_TRACK.points, false).map((alongM) => {
    const [east, north] = pointAlong(points, alongM);
    return { at: [round(east, 2), round(north, 2)] as Point, how: 'overhead' as const, insulated: true };
  });

function mainWithLaterals(
  name: string,
  trees: readonly TaggedTree[],
  { placeId, crowded, axes }: { readonly placeId: string; readonly crowded: boolean; readonly axes: Axes },
  bare: Bare
): BushRecordInput[] {
  const { along: down, across, point } = axes;
  const middle = trees.reduce((sum, tree) => sum + across(tree) / trees.length, 0);
  const [top, foot] = [Math.min(...trees.map(down)), Math.max(...trees.map(down)) + 8];
  const posts = Math.max(8, Math.ceil((foot - top) / POST_M));
  const at = (tree: number) => middle + 3 * Math.sin(tree / 21);
  const course = Array.from({ length: posts + 1 }, (_, i) => top + ((foot - top) * i) / posts);
  const placed = (along: number, beside: number): Point => {
    const [east, north] = point(along, beside);
    return [round(east, 2), round(north, 2)];
  };
  const points = course.map((along) => placed(along, at(along)));
  const line = { kind: 'pipeLine', note: '' } as const;
  const main: BushRecordInput = {
    ...bare('2023-11-12'),
    ...line,
    name,
    use: 'main',
    staysUp: true,
    points,
    // Of the other one it is not decided yet.
    crossings: crowded ? overTrack(points) : [],
    boreMm: 19.1,
    held: 'wire',
    spanM: 4,
    intoId: null,
    placeId,
    drops: []
  };
  const laterals = [-1, 1].flatMap((side) => {
    const beside = trees
      .filter((tree) => (across(tree) < at(down(tree)) ? -1 : 1) === side)
      .sort((a, b) => down(a) - down(b));
    const groups: TaggedTree[][] = [];
    while (beside.length > 0)
      groups.push(beside.splice(0, crowded && side === 1 && groups.length === 1 ? CROWDED : TAPS_A_LATERAL));
    return groups.map((group, nth): BushRecordInput => {
      const lowest = Math.min(foot, Math.max(...group.map(down)) + 2);
      return {
        ...bare('2023-11-12'),
        ...line,
        name: `${name}, ${side < 0 ? 'left' : 'right'} ${nth + 1}`,
        use: 'lateral',
        staysUp: false,
        points: [...group.map((tree) => placed(down(tree), across(tree))), placed(lowest, at(lowest))],
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
  const hooks = course.map((each) => groundM(each - top, at(each)) + 1.2);
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

/** Where a lateral passes its trunks: on the side of the main line. */
export function notedOnTrunks(
  laid: readonly BushRecordInput[],
  trees: readonly TaggedTree[],
  uuid: () => string
): RecordInput[] {
  const lateral = laid.find((record) => record.kind === 'pipeLine' && record.name === NOTED.lateral);
  if (lateral?.kind !== 'pipeLine') return [];
  const [eastM, northM] = lateral.points.at(-1)!;
  return lateral.drops.flatMap(({ treeId }): RecordInput[] => {
    const tree = trees.find(({ id }) => id === treeId);
    if (!tree) return [];
    const bearingDeg = Math.round(bearingTo(tree, { eastM, northM })) % 360;
    const envelope = envelopeOf(treeId, uuid)('2026-11-14');
    return [{ ...envelope, kind: 'trunkFeature', what: 'line', bearingDeg, heightMm: NOTED.heightMm }];
  });
}
