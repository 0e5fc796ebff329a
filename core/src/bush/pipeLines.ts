import { group } from 'd3-array';

import { alongCourse, distanceToEdge, type Point } from '../geometry/index.ts';
import { toDegrees, wrapDegrees } from '../math/index.ts';
import {
  boreFor,
  fallFindings,
  liftsFor,
  partsFor,
  profileFrom,
  PULL_N,
  stretchesOf,
  tapsThrough,
  workAt,
  type Driven,
  type FallFinding,
  type LevellingSet,
  type Lifting,
  type LinePart,
  type LineWork,
  type Profile,
  type Stretch
} from '../lines/index.ts';
import type { BushRecord, LevellingRecord, PipeLineRecord, TreeRow } from '../records/index.ts';
import { PipeNet, tapsOnLines } from './pipeNet.ts';

/** Taps on one lateral: usual, and the most. Common practice: about five. */
export const TAPS_A_LATERAL = { usual: 5, most: 8 } as const;
/** A lateral is no longer than this, metres. From memory: a hundred feet. */
export const LONGEST_LATERAL_M = 30;
/** Readings nearer to each other, or to a bend, than this are of one place, metres. */
const SAME_PLACE_M = 0.3;
/** A flat stretch still carries what it carries at this fall, metres a metre: so much less is not reckoned. Working assumption. */
const LEAST_RECKONED = 0.005;
/** Posts are lifted by so much at the most, metres; beyond, the line wants another way. Working assumption. */
export const MOST_LIFT_M = 1;

/** What is wrong with a line beside its fall. */
export type LineFault = 'manyTaps' | 'long' | 'narrow';

/** A line with all that is known of it. */
export interface LineJudged {
  readonly line: PipeLineRecord;
  readonly lengthM: number;
  /** metres along it from the upper end: bends, posts, and where it was levelled */
  readonly profile: Profile;
  readonly stretches: readonly Stretch[];
  readonly findings: readonly FallFinding[];
  /** was its fall ever read? */
  readonly levelled: boolean;
  /** least lifts that would mend its fall, by node; null where none is wanted, or it was never levelled */
  readonly lifting: Lifting | null;
  /** on it, and on it with all lines that run into it */
  readonly taps: number;
  readonly tapsAbove: number;
  /** taps that its pipe bears where it falls least */
  readonly bears: number;
  /** how it is driven, by its tank and the air lines that end there */
  readonly driven: Driven;
  /** taps that it would bear if its air had a line of its own; null where it has one, or no pump pulls on it */
  readonly bearsWithAir: number | null;
  /** the bore that bears all that comes, mm; null where it bears them, or none that is sold does */
  readonly wantsBoreMm: number | null;
  readonly faults: readonly LineFault[];
}

/** The lines of a bush, as they stand, by name. @param records of the bush that hold */
export function pipeLinesIn(records: readonly BushRecord[]): PipeLineRecord[] {
  return records
    .filter((record) => record.kind === 'pipeLine')
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
}

/** Where a line is judged: at its bends and wherever it was levelled. */
function nodesOf(bends: readonly number[], levelled: readonly LevellingRecord[]): number[] {
  const end = bends.at(-1)!;
  const read = levelled.flatMap(({ heights, slopes }) => [
    ...heights.map(({ alongM }) => alongM),
    ...slopes.flatMap(({ fromM, toM }) => [fromM, toM])
  ]);
  const nodes = [...bends];
  for (const at of read) {
    const held = Math.min(at, end);
    if (!nodes.some((node) => Math.abs(node - held) < SAME_PLACE_M)) nodes.push(held);
  }
  return nodes.sort((a, b) => a - b).filter((at, i, all) => i === 0 || at - all[i - 1]! > 1e-6);
}

/** What was levelled, by the nodes of the line. Readings of one place only, or of none, tell nothing. */
function setsOf(nodes: readonly number[], levelled: readonly LevellingRecord[]): LevellingSet[] {
  const node = (at: number) =>
    nodes.reduce((best, each, i) => (Math.abs(each - at) < Math.abs(nodes[best]! - at) ? i : best), 0);
  return levelled.map(({ method, heights, slopes, sd }) => ({
    method,
    heights: heights.map(({ alongM, heightM }) => ({ node: node(alongM), heightM })),
    slopes: slopes
      .map(({ fromM, toM, slope }) =>
        fromM <= toM ? { from: node(fromM), to: node(toM), slope } : { from: node(toM), to: node(fromM), slope: -slope }
      )
      .filter(({ from, to }) => from < to),
    ...(sd === null ? {} : { sd })
  }));
}

/** Taps that a line has to bear at a tree: as it was decided or drilled; one where nobody said. */
export const tapsBorne = (row: TreeRow | undefined) => (row ? Math.max(row.drilled, row.decidedTaps ?? 1) : 1);

/** What is known of all lines of a bush, and what is wrong with them. @param records of the bush that hold */
export function judgeLines(records: readonly BushRecord[], rows: readonly TreeRow[]): LineJudged[] {
  const lines = pipeLinesIn(records);
  const byTree = new Map(rows.map((row) => [row.id, row]));
  const places = new Map(
    records.flatMap((record) => (record.kind === 'collectingPlace' ? [[record.id, record] as const] : []))
  );
  const onLines = tapsOnLines(lines, (treeId) => tapsBorne(byTree.get(treeId)));
  const own = new Map([...onLines].map(([id, trees]) => [id, trees.reduce((sum, { taps }) => sum + taps, 0)]));
  const net = new PipeNet(lines);
  const above = (id: string) => net.above(id).reduce((sum, line) => sum + own.get(line.id)!, 0);
  const levelled = group(
    records.filter((record): record is LevellingRecord => record.kind === 'levelling'),
    ({ lineId }) => lineId
  );
  return lines.map((line): LineJudged => {
    const bends = alongCourse(line.points);
    const all = (levelled.get(line.id) ?? []).filter(
      ({ recordedAt }) => line.runsSince === null || recordedAt >= line.runsSince
    );
    const read = all.slice(all.reduce((since, { afresh }, i) => (afresh ? i : since), 0));
    const nodes = nodesOf(bends, read);
    const profile = profileFrom(nodes, setsOf(nodes, read));
    const pipe = { boreMm: line.boreMm, pullN: PULL_N[line.held], spanM: line.spanM };
    const stretches = stretchesOf(profile, pipe);
    // Air runs uphill as well.
    const findings = line.use === 'air' ? [] : fallFindings(profile, pipe);
    const [taps, tapsAbove] = [own.get(line.id)!, above(line.id)];
    const place = places.get(net.foot(line.id).placeId ?? '');
    const driven: Driven = {
      vacuum: place?.vacuum ?? false,
      airLine: lines.some(({ use, placeId }) => use === 'air' && placeId !== null && placeId === place?.id)
    };
    const least = Math.max(LEAST_RECKONED, Math.min(...stretches.map(({ slope }) => slope.mean)));
    const bears = tapsThrough(line.boreMm, least, driven);
    const lengthM = bends.at(-1)!;
    const isLateral = line.use === 'lateral';
    const isNarrow = line.use !== 'air' && tapsAbove > bears;
    const lifting =
      read.length > 0 && findings.some(({ fault, surety }) => fault !== 'sag' && surety !== 'cannotBeTold')
        ? liftsFor(
            stretches.map(({ fall }) => fall.mean),
            stretches.map((each) => each.lengthM)
          )
        : null;
    return {
      line,
      lengthM,
      profile,
      stretches,
      findings,
      levelled: read.length > 0,
      lifting,
      taps,
      tapsAbove,
      bears,
      driven,
      bearsWithAir:
        driven.vacuum && !driven.airLine && line.use !== 'air'
          ? tapsThrough(line.boreMm, least, { ...driven, airLine: true })
          : null,
      wantsBoreMm: isNarrow ? boreFor(tapsAbove, least, driven) : null,
      faults: [
        ...(isLateral && taps > TAPS_A_LATERAL.most ? (['manyTaps'] as const) : []),
        ...(isLateral && lengthM > LONGEST_LATERAL_M ? (['long'] as const) : []),
        ...(isNarrow ? (['narrow'] as const) : [])
      ]
    };
  });
}

/** At a bend that is sharper than this a wire is tied back to the outside, degrees. Working assumption. */
const TIED_FROM_DEG = 10;

/** Bends of a course at which its wire has to be tied back. */
function tiedBends(points: readonly Point[]): number {
  return points.slice(1, -1).filter((at, i) => {
    const [from, to] = [points[i]!, points[i + 2]!];
    const came = Math.atan2(at[0] - from[0], at[1] - from[1]);
    const goes = Math.atan2(to[0] - at[0], to[1] - at[1]);
    return Math.abs(wrapDegrees(toDegrees(goes - came))) > TIED_FROM_DEG;
  }).length;
}

/** A course that strays no farther from what it was is the same, metres. Working assumption: what a hand on the map strays by. */
const SAME_COURSE_M = 1;

/** Does what was levelled along a course still hold once it is drawn otherwise? */
export function holdsLevels(before: readonly Point[], after: readonly Point[]): boolean {
  const near = (points: readonly Point[], course: readonly Point[]) =>
    points.every((point) => distanceToEdge(point, course, false) <= SAME_COURSE_M);
  const [was, is] = [alongCourse(before).at(-1)!, alongCourse(after).at(-1)!];
  return near(after, before) && near(before, after) && Math.abs(is - was) <= SAME_COURSE_M;
}

const asBuilt = ({ line, lengthM, driven }: LineJudged) => ({
  use: line.use,
  boreMm: line.boreMm,
  lengthM,
  wire: line.held === 'wire',
  spanM: line.spanM,
  bends: tiedBends(line.points),
  joins: line.intoId !== null,
  // A spur brings sap and air; where air has a line of its own, each goes its way.
  jumper: line.use === 'spur' && line.intoId !== null && driven.vacuum && driven.airLine,
  releaser: line.use !== 'air' && line.placeId !== null && driven.vacuum,
  crossings: line.crossings,
  dropsMm: line.drops.map(({ dropMm }) => dropMm),
  staysUp: line.staysUp
});

/** What lines are put together from, with spares. */
export const partsOfLines = (judged: readonly LineJudged[]): LinePart[] => partsFor(judged.map(asBuilt));

/** What lines cost in work. */
export const workOfLines = (judged: readonly LineJudged[]): LineWork => workAt(judged.map(asBuilt));
