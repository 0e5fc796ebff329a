import type { Rng } from '@baumkin/core/math';

/** One line or area of a drawing in a square of 100 by 100. */
export interface Stroke {
  readonly d: string;
  /** line width; 0 for no line */
  readonly width?: number;
  /** fill colour; none by default */
  readonly fill?: string;
  /** line colour; the ink of the page by default */
  readonly ink?: string;
  readonly opacity?: number;
}

export const BROWN = '#8a5a33';
export const RED = '#a32f35';
export const GREEN = '#6f8b3d';
export const BLACK = '#3b332d';
export const DOWN = '#d9d3c4';
export const BARK = '#9a9187';
export const LEAF = '#8fae5d';

export type Point = readonly [x: number, y: number];

/** A closed or open course through points. */
export function through(points: readonly Point[], closed = false): string {
  return `M${points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join(' L')}${closed ? ' Z' : ''}`;
}

/** A disc. */
export function disc(x: number, y: number, r: number): string {
  return `M${x - r} ${y} a${r} ${r} 0 1 0 ${2 * r} 0 a${r} ${r} 0 1 0 ${-2 * r} 0`;
}

/** A place in a rectangle. */
export function scattered(rng: Rng, [x0, y0]: Point, [x1, y1]: Point): Point {
  return [x0 + rng.uniform() * (x1 - x0), y0 + rng.uniform() * (y1 - y0)];
}
