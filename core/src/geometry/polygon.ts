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

function toSegment([x, y]: Point, [ax, ay]: Point, [bx, by]: Point): number {
  const [dx, dy] = [bx - ax, by - ay];
  const length2 = dx * dx + dy * dy;
  const t = length2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length2)) : 0;
  return Math.hypot(x - ax - t * dx, y - ay - t * dy);
}
