import { group, max } from 'd3-array';

import { distanceToEdge, partOfCourse, placeAlong, pointAlong, shareOfDirections } from '../geometry/index.ts';
import type { Point } from '../geometry/index.ts';
import type { FallFinding } from '../lines/index.ts';
import type { BushRecord, LineLookRecord, PipeLineRecord, SiteFeature, TreeRow } from '../records/index.ts';
import { crownRadius, heightOf } from '../stand/index.ts';
import { releases } from '../thinning/index.ts';
import { lineCrossings, type LineCrossing } from './lineCrossings.ts';
import { judgeLines, tapsBorne } from './pipeLines.ts';
import { PipeNet, tapsOnLines } from './pipeNet.ts';
import { standTrees } from './standTrees.ts';

/** A main line or spur is walked in pieces of so many metres. Working assumption. */
const PIECE_M = 60;
/** Chances that a tree comes down in a storm, and that a limb of its crown does, by how it stands. Working assumptions. */
export const STORM = {
  sound: { falls: 0.002, limb: 0.01 },
  weak: { falls: 0.03, limb: 0.06 },
  dead: { falls: 0.1, limb: 0.15 }
} as const;
/** Of its crown so much has died where a tree is weak, per cent. Working assumption. */
const WEAK_PCT = 50;

/** Lines are gone along since the summer before a season. Working assumption. */
const LOOKED_FROM = '-07-01';

/** A weak or dead tree that can come down on a line. */
export interface LineThreat {
  readonly row: TreeRow;
  readonly dead: boolean;
  /** chance that it, or a limb of it, lies on this piece after a storm */
  readonly chance: number;
}

/** A piece of a line on a round, and what there is to see to. */
export interface LineStop {
  readonly line: PipeLineRecord;
  /** metres from its upper end */
  readonly fromM: number;
  readonly toM: number;
  readonly at: Point;
  /** taps whose sap runs through it */
  readonly taps: number;
  /** chance that something lies on it after a storm */
  readonly harm: number;
  /** weak and dead trees that reach it, the likeliest first */
  readonly threats: readonly LineThreat[];
  /** trees marked to come down that are long enough to hit it */
  readonly marked: readonly TreeRow[];
  readonly crossings: readonly LineCrossing[];
  /** where it rises or sags, surely or likely, with its places along the line */
  readonly low: readonly { readonly finding: FallFinding; readonly fromM: number; readonly toM: number }[];
  /** trees that hang on it, drilled this season, whose spouts nobody reported set */
  readonly notSet: readonly TreeRow[];
  /** what was found here since the summer and not mended yet */
  readonly open: readonly LineLookRecord[];
  /** ISO date on which somebody looked here last since the summer; null where nobody did */
  readonly lookedOn: string | null;
}

/** What the round is made of. */
export interface LineRoundOf {
  /** of the bush that hold */
  readonly records: readonly BushRecord[];
  readonly rows: readonly TreeRow[];
  readonly features: readonly SiteFeature[];
  readonly season: number;
}

/** All pieces of all lines in walking order: from the foot of each line upwards, and along each that joins it, where it does. */
export function lineRound({ records, rows, features, season }: LineRoundOf): LineStop[] {
  const judged = new Map(judgeLines(records, rows).map((each) => [each.line.id, each]));
  const lines = [...judged.values()].map(({ line }) => line).filter(({ use }) => use !== 'air');
  const net = new PipeNet(lines);
  const byId = new Map(rows.map((row) => [row.id, row]));
  const borne = tapsOnLines(lines, (id) => tapsBorne(byId.get(id)));
  const above = (id: string) =>
    net.above(id).reduce((sum, line) => sum + borne.get(line.id)!.reduce((all, { taps }) => all + taps, 0), 0);
  const looks = group(
    records.filter(
      (record): record is LineLookRecord => record.kind === 'lineLook' && record.on >= `${season - 1}${LOOKED_FROM}`
    ),
    ({ lineId }) => lineId
  );
  const trees = standTrees(rows).map((tree) => ({ ...tree, row: byId.get(tree.id)!, heightM: heightOf(tree) }));
  const joins = (line: PipeLineRecord) =>
    lines
      .filter(({ intoId }) => intoId === line.id)
      .map((of) => ({ of, atM: placeAlong(of.points.at(-1)!, line.points).alongM }));

  const stopOf = (line: PipeLineRecord, fromM: number, toM: number): LineStop => {
    const { lengthM, findings, profile } = judged.get(line.id)!;
    const course = partOfCourse(line.points, fromM, toM);
    const isHere = (atM: number | null) => atM === null || (atM >= fromM && (atM < toM || toM === lengthM));
    const here = (looks.get(line.id) ?? []).filter(({ alongM }) => isHere(alongM));
    const near = trees.flatMap((tree) => {
      const awayM = distanceToEdge([tree.eastM, tree.northM], course, false);
      return awayM < tree.heightM ? [{ ...tree, awayM, chance: harmBy(tree, awayM, course) }] : [];
    });
    return {
      line,
      fromM,
      toM,
      at: pointAlong(line.points, (fromM + toM) / 2),
      taps:
        borne
          .get(line.id)!
          .filter(({ treeId }) => (placeOf(byId.get(treeId), line) ?? 0) < toM || toM === lengthM)
          .reduce((sum, { taps }) => sum + taps, 0) +
        joins(line)
          .filter(({ atM }) => atM < toM || toM === lengthM)
          .reduce((sum, { of }) => sum + above(of.id), 0),
      harm: 1 - near.reduce((none, { chance }) => none * (1 - chance), 1),
      threats: near
        .filter(({ row }) => stateOf(row) !== 'sound')
        .map(({ row, chance }) => ({ row, dead: stateOf(row) === 'dead', chance }))
        .sort((a, b) => b.chance - a.chance),
      marked: near.filter(({ row }) => releases(row.mark)).map(({ row }) => row),
      crossings: lineCrossings(judged.get(line.id)!, features).filter(({ alongM }) => isHere(alongM)),
      low: findings
        .filter(({ fault, surety }) => fault !== 'flat' && surety !== 'cannotBeTold')
        .map((finding) => ({ finding, fromM: profile.atM[finding.from]!, toM: profile.atM[finding.to]! }))
        .filter((each) => each.fromM < toM && each.toM > fromM),
      notSet: line.drops.flatMap(({ treeId }) => {
        const row = byId.get(treeId);
        return row && row.drilled > 0 && row.hungSeason !== season && isHere(placeOf(row, line)) ? [row] : [];
      }),
      open: here.filter((look) => isOpen(look, here)),
      lookedOn: max(here, ({ on }) => on) ?? null
    };
  };
  const visited = new Set<string>();
  const walk = (line: PipeLineRecord): LineStop[] => {
    if (visited.has(line.id)) return [];
    visited.add(line.id);
    const { lengthM } = judged.get(line.id)!;
    const many = line.use === 'lateral' ? 1 : Math.max(1, Math.ceil(lengthM / PIECE_M));
    return Array.from({ length: many }, (_, i) => many - 1 - i).flatMap((nth) => {
      // The last ends where the line does, to the hair.
      const [fromM, toM] = [(nth * lengthM) / many, nth === many - 1 ? lengthM : ((nth + 1) * lengthM) / many];
      const joined = joins(line)
        .filter(({ atM }) => atM >= fromM && (atM < toM || nth === many - 1))
        .sort((a, b) => b.atM - a.atM);
      return [stopOf(line, fromM, toM), ...joined.flatMap(({ of }) => walk(of))];
    });
  };
  // What runs in a circle is begun somewhere.
  return [...lines.filter(({ intoId }) => !lines.some(({ id }) => id === intoId)), ...lines].flatMap(walk);
}

/** The same after a storm: first where most taps are likely to give nothing, as something lies on the line below them. */
export const afterStorm = (stops: readonly LineStop[]): LineStop[] =>
  [...stops].sort((a, b) => b.harm * b.taps - a.harm * a.taps);

const stateOf = ({ diebackPct, hazards, fallen }: TreeRow): keyof typeof STORM =>
  (diebackPct ?? 0) >= 100 || fallen?.what === 'girdled'
    ? 'dead'
    : hazards.length > 0 || (diebackPct ?? 0) >= WEAK_PCT
      ? 'weak'
      : 'sound';

/** The chance that a tree, or a limb of it, lies on a course after a storm: it falls to any side alike. */
function harmBy(
  tree: {
    readonly row: TreeRow;
    readonly eastM: number;
    readonly northM: number;
    readonly dbhMm: number;
    readonly heightM: number;
  },
  awayM: number,
  course: readonly Point[]
): number {
  if (tree.row.fallen?.what === 'lying') return 0;
  const { falls, limb } = STORM[stateOf(tree.row)];
  const onto = shareOfDirections([tree.eastM, tree.northM], tree.heightM, course);
  return 1 - (1 - falls * onto) * (awayM <= crownRadius(tree.dbhMm, tree.row.species) ? 1 - limb : 1);
}

const placeOf = (row: TreeRow | undefined, { points }: PipeLineRecord): number | null =>
  !row || row.eastM === null || row.northM === null ? null : placeAlong([row.eastM, row.northM], points).alongM;

/** What was found is where it was written down to be, give or take, metres. Working assumption. */
const SAME_PLACE_M = 5;

/** Did nobody find the same place in order, or mend it, since? @param looks at one piece, the oldest first */
const isOpen = (look: LineLookRecord, looks: readonly LineLookRecord[]) =>
  look.found !== 'nothing' &&
  !look.mended &&
  !looks
    .slice(looks.indexOf(look) + 1)
    .filter(({ ofTreeId }) => ofTreeId === look.ofTreeId)
    .some(
      ({ found, mended, alongM }) =>
        found === 'nothing' ||
        (mended && (alongM === null || look.alongM === null || Math.abs(alongM - look.alongM) <= SAME_PLACE_M))
    );
