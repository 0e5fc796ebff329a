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

/**
 * Where a course crosses another course, or the edge of an outline.
 * @returns metres along the first, in its order
 */
export function crossingsAlong(points: readonly Point[], other: readonly Point[], closed: boolean): number[] {
  const along = alongCourse(points);
  const found: number[] = [];
  for (let i = 1; i < points.length; i++)
    for (let k = closed ? 0 : 1; k < other.length; k++) {
      const share = crossing([points[i - 1]!, points[i]!], [other.at(k - 1)!, other[k]!]);
      if (share !== null) found.push(along[i - 1]! + share * (along[i]! - along[i - 1]!));
    }
  return found.sort((a, b) => a - b);
}

type Segment = readonly [Point, Point];

/** Where a segment crosses another, as a share of its length; null where it does not. */
function crossing([[ax, ay], [bx, by]]: Segment, [[cx, cy], [dx, dy]]: Segment): number | null {
  const across = (bx - ax) * (dy - cy) - (by - ay) * (dx - cx);
  if (across === 0) return null;
  const share = ((cx - ax) * (dy - cy) - (cy - ay) * (dx - cx)) / across;
  const ofOther = ((cx - ax) * (by - ay) - (cy - ay) * (bx - ax)) / across;
  // Where two segments meet at a bend only one of them counts.
  return share >= 0 && share < 1 && ofOther >= 0 && ofOther < 1 ? share : null;
}

/** Directions that are tried all round a place. */
const DIRECTIONS = 360;

/** Of all directions round a place, the share in which something of such a length that falls there reaches a course, 0..1. */
export function shareOfDirections([x, y]: Point, reachM: number, course: readonly Point[]): number {
  let hits = 0;
  for (let i = 0; i < DIRECTIONS; i++) {
    const turn = (2 * Math.PI * (i + 0.5)) / DIRECTIONS;
    const tip: Point = [x + reachM * Math.sin(turn), y + reachM * Math.cos(turn)];
    if (course.some((to, k) => k > 0 && crossing([[x, y], tip], [course[k - 1]!, to]) !== null)) hits += 1;
  }
  return hits / DIRECTIONS;
}

/** The part of a course between two places along it, metres from its beginning. */
export function partOfCourse(points: readonly Point[], fromM: number, toM: number): Point[] {
  const along = alongCourse(points);
  const inner = points.filter((_, i) => along[i]! > fromM && along[i]! < toM);
  return [pointAlong(points, fromM), ...inner, pointAlong(points, toM)];
}

/** The place so many metres along a course; its ends before and behind it. */
export function pointAlong(points: readonly Point[], alongM: number): Point {
  const along = alongCourse(points);
  const i = along.findIndex((at) => at >= alongM);
  if (i === 0) return points[0]!;
  if (i < 0) return points.at(-1)!;
  const [from, to] = [points[i - 1]!, points[i]!];
  const share = (alongM - along[i - 1]!) / (along[i]! - along[i - 1]!);
  return [from[0] + share * (to[0] - from[0]), from[1] + share * (to[1] - from[1])];
}
