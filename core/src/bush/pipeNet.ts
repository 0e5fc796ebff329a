import { group, rollup } from 'd3-array';

import { alongCourse, placeAlong } from '../geometry/index.ts';
import type { PipeLineRecord } from '../records/index.ts';

/** A piece of a line on the way down: from a place along it to its foot. */
export interface WayPiece {
  readonly lineId: string;
  readonly fromM: number;
}

/** How lines run into each other. Lines that run in a circle end where they come round. */
export class PipeNet {
  readonly #byId: ReadonlyMap<string, PipeLineRecord>;
  readonly #into: ReadonlyMap<string | null, readonly PipeLineRecord[]>;
  readonly #lengths: ReadonlyMap<string, number>;

  /** @param lines of a bush, as they stand */
  constructor(readonly lines: readonly PipeLineRecord[]) {
    this.#byId = new Map(lines.map((line) => [line.id, line]));
    this.#into = group(lines, ({ intoId }) => intoId);
    this.#lengths = new Map(lines.map(({ id, points }) => [id, alongCourse(points).at(-1)!]));
  }

  lengthM(lineId: string): number {
    return this.#lengths.get(lineId)!;
  }

  /** Lines that run into one, however many others lie between; itself first. */
  above(lineId: string): PipeLineRecord[] {
    const seen = new Set<string>();
    const visit = (line: PipeLineRecord | undefined): PipeLineRecord[] => {
      if (!line || seen.has(line.id)) return [];
      seen.add(line.id);
      return [line, ...(this.#into.get(line.id) ?? []).flatMap(visit)];
    };
    return visit(this.#byId.get(lineId));
  }

  /** The way from a place along a line down to the last foot, piece after piece. */
  way(lineId: string, fromM: number): WayPiece[] {
    const way: WayPiece[] = [];
    let here = this.#byId.get(lineId);
    let at = fromM;
    while (here && !way.some((piece) => piece.lineId === here!.id)) {
      way.push({ lineId: here.id, fromM: at });
      const next = here.intoId === null ? undefined : this.#byId.get(here.intoId);
      if (next) at = placeAlong(here.points.at(-1)!, next.points).alongM;
      here = next;
    }
    return way;
  }

  /** The line at the foot of which all of a line's sap comes out. */
  foot(lineId: string): PipeLineRecord {
    return this.#byId.get(this.way(lineId, 0).at(-1)!.lineId)!;
  }

  /** Metres of pipe that two ways have in common. */
  sharedM(a: readonly WayPiece[], b: readonly WayPiece[]): number {
    return a.reduce((sum, { lineId, fromM }) => {
      const other = b.find((piece) => piece.lineId === lineId);
      return other ? sum + Math.max(0, this.lengthM(lineId) - Math.max(fromM, other.fromM)) : sum;
    }, 0);
  }
}

/** Taps of one tree on one line. */
export interface TapsOnLine {
  readonly treeId: string;
  readonly taps: number;
}

/**
 * How many taps hang on each line, tree by tree: those of a tree with several drops are shared out among them.
 * @param tapsOf how many taps a tree has
 */
export function tapsOnLines(
  lines: readonly PipeLineRecord[],
  tapsOf: (treeId: string) => number
): ReadonlyMap<string, readonly TapsOnLine[]> {
  const drops = rollup(
    lines.flatMap((line) => line.drops),
    (of) => of.length,
    ({ treeId }) => treeId
  );
  const shared = new Map<string, number>();
  return new Map(
    lines.map(({ id, drops: own }) => [
      id,
      own.map(({ treeId }) => {
        const [taps, many, before] = [tapsOf(treeId), drops.get(treeId)!, shared.get(treeId) ?? 0];
        shared.set(treeId, before + 1);
        return { treeId, taps: Math.floor(taps / many) + (before < taps % many ? 1 : 0) };
      })
    ])
  );
}
