/** A corner of a course or an outline: metres east and north. */
export type Point = readonly [number, number];

/** Even-odd rule: a ray to the east crosses the outline an odd number of times (Shimrat 1962). */
export function insideOutline([x, y]: Point, outline: readonly Point[]): boolean {
  let within = false;
  outline.forEach(([ax, ay], i) => {
    const [bx, by] = outline.at(i - 1)!;
    if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) within = !within;
  });
  return within;
}

/** Area inside an outline, hectares, by the surveyor's formula. An outline that crosses itself gives less than it should. */
export function outlineAreaHa(outline: readonly Point[]): number {
  const twice = outline.reduce((sum, [x, y], i) => {
    const [px, py] = outline.at(i - 1)!;
    return sum + px * y - x * py;
  }, 0);
  return Math.abs(twice) / 2 / 10_000;
}

/** Metres from a point to a course of points; or to an outline that closes on itself, 0 inside it. */
export function distanceToShape(at: Point, points: readonly Point[], closed: boolean): number {
  return closed && insideOutline(at, points) ? 0 : distanceToEdge(at, points, closed);
}

/** Metres from a point to the nearest part of a course, or of an outline's edge. */
export function distanceToEdge(at: Point, points: readonly Point[], closed: boolean): number {
  let nearest = Infinity;
  for (let i = closed ? 0 : 1; i < points.length; i++)
    nearest = Math.min(nearest, toSegment(at, points.at(i - 1)!, points[i]!));
  return nearest;
}

const toSegment = (at: Point, a: Point, b: Point): number => onSegment(at, a, b).awayM;

/** The nearest spot of a segment: as a share of its length, and how far away. */
function onSegment([x, y]: Point, [ax, ay]: Point, [bx, by]: Point): { share: number; awayM: number } {
  const [dx, dy] = [bx - ax, by - ay];
  const length2 = dx * dx + dy * dy;
  const share = length2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length2)) : 0;
  return { share, awayM: Math.hypot(x - ax - share * dx, y - ay - share * dy) };
}

/** Metres along a course, at each of its points. */
export function alongCourse(points: readonly Point[]): number[] {
  let at = 0;
  return points.map(([x, y], i) => {
    const before = points[i - 1];
    if (before) at += Math.hypot(x - before[0], y - before[1]);
    return at;
  });
}

/**
 * Where along a course a place lies: at the nearest spot of it.
 * @param points of the course, one at the least
 * @returns metres along it from its beginning, and metres away from it
 */
export function placeAlong(at: Point, points: readonly Point[]): { readonly alongM: number; readonly awayM: number } {
  const [[x, y]] = points as [Point];
  let best = { alongM: 0, awayM: Math.hypot(at[0] - x, at[1] - y) };
  let along = 0;
  for (const [i, to] of points.slice(1).entries()) {
    const from = points[i]!;
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const { share, awayM } = onSegment(at, from, to);
    if (awayM < best.awayM) best = { alongM: along + share * length, awayM };
    along += length;
  }
  return best;
}
