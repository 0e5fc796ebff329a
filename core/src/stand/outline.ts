/** Metres east and north. */
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
