import { crossingsAlong, distanceToEdge, pointAlong, type Point } from '../geometry/index.ts';
import type { DecidedCrossing, FallFinding } from '../lines/index.ts';
import type { PipeLineRecord, SiteFeature } from '../records/index.ts';
import type { SiteFeatureKind } from '../stand/index.ts';
import type { LineJudged } from './pipeLines.ts';

/** What on the map is crossed by a line so that somebody has to see to it. */
const CROSSED: readonly SiteFeatureKind[] = ['path', 'fence', 'water', 'building', 'line'];
/** What was decided of a crossing still holds where line and path now cross so near to it, metres. Working assumption. */
const SAME_CROSSING_M = 8;
/** In a culvert lies so much of a line on either side of the middle of the path, metres. Working assumption. */
const HALF_CULVERT_M = 2.5;

/** A place where a line crosses something. */
export interface LineCrossing {
  readonly feature: SiteFeature;
  /** metres from the line's upper end */
  readonly alongM: number;
  readonly at: Point;
  /** has somebody to say how: overhead or through a culvert? */
  readonly asks: boolean;
  /** what was decided; null where nothing was */
  readonly decided: DecidedCrossing | null;
  /** where it lies in a culvert, or may: what is known or feared of its fall there; null where it surely falls enough */
  readonly fall: Pick<FallFinding, 'fault' | 'surety'> | 'notLevelled' | null;
}

/** Where a line crosses what stands or runs in the bush, from its upper end down. @param features of the bush */
export function lineCrossings(
  { line, levelled, findings, profile }: Pick<LineJudged, 'line' | 'levelled' | 'findings' | 'profile'>,
  features: readonly SiteFeature[]
): LineCrossing[] {
  return features
    .filter(({ kind }) => CROSSED.includes(kind))
    .flatMap((feature) =>
      crossingsAlong(line.points, feature.points, feature.kind === 'building').map((alongM): LineCrossing => {
        const at = pointAlong(line.points, alongM);
        const worst = findings
          .filter(
            ({ from, to, fault }) =>
              fault !== 'sag' &&
              profile.atM[from]! < alongM + HALF_CULVERT_M &&
              profile.atM[to]! > alongM - HALF_CULVERT_M
          )
          .sort((a, b) => b.chance - a.chance)[0];
        return {
          feature,
          alongM,
          at,
          asks: feature.kind === 'path',
          decided: feature.kind === 'path' ? decidedAt(line, at) : null,
          // Air runs uphill as well.
          fall:
            line.use === 'air'
              ? null
              : !levelled
                ? 'notLevelled'
                : worst
                  ? { fault: worst.fault, surety: worst.surety }
                  : null
        };
      })
    )
    .sort((a, b) => a.alongM - b.alongM);
}

const away = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);

function decidedAt({ crossings }: PipeLineRecord, at: Point): DecidedCrossing | null {
  const [nearest] = [...crossings].sort((a, b) => away(a.at, at) - away(b.at, at));
  return nearest && away(nearest.at, at) <= SAME_CROSSING_M ? { how: nearest.how, insulated: nearest.insulated } : null;
}

/** What was decided of crossings holds where a line still runs there. */
export const crossingsOn = (
  points: readonly Point[],
  crossings: PipeLineRecord['crossings']
): PipeLineRecord['crossings'] => crossings.filter(({ at }) => distanceToEdge(at, points, false) <= SAME_CROSSING_M);

/**
 * What is kept of a line's crossings once one of them is decided anew.
 * @param decided null where it is open again
 */
export function crossingsWith(
  { crossings }: PipeLineRecord,
  { at }: Pick<LineCrossing, 'at'>,
  decided: DecidedCrossing | null
): PipeLineRecord['crossings'] {
  return [
    ...crossings.filter((each) => away(each.at, at) > SAME_CROSSING_M),
    ...(decided ? [{ at: [at[0], at[1]] as [number, number], ...decided }] : [])
  ];
}
