import { toDegrees } from '../math/index.ts';
import type { GroundPoint } from './ground.ts';

/** A point of a picture, pixels from its left and its top, and where on the ground it is. */
export interface PicturePin extends GroundPoint {
  readonly x: number;
  readonly y: number;
}

/**
 * How a picture lies on the ground: two pins fix its scale, turn and shift. Pixels run right and down, metres east and
 * north.
 */
export function placer([a, b]: readonly [PicturePin, PicturePin]): {
  readonly toMetres: (x: number, y: number) => [eastM: number, northM: number];
  readonly metresPerPixel: number;
  /** clockwise turn that brings north up, degrees */
  readonly turnDeg: number;
} {
  // As complex numbers with the picture's y turned upwards: ground = factor * pixel + shift.
  const [px, py] = [b.x - a.x, -(b.y - a.y)];
  const [gx, gy] = [b.eastM - a.eastM, b.northM - a.northM];
  const length2 = px * px + py * py;
  const [re, im] = [(gx * px + gy * py) / length2, (gy * px - gx * py) / length2];
  return {
    toMetres: (x, y) => {
      const [dx, dy] = [x - a.x, -(y - a.y)];
      return [a.eastM + re * dx - im * dy, a.northM + im * dx + re * dy];
    },
    metresPerPixel: Math.hypot(re, im),
    turnDeg: toDegrees(-Math.atan2(im, re))
  };
}
