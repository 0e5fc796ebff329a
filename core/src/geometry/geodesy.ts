import { toDegrees, toRadians } from '../math/index.ts';
import type { GroundPoint } from './ground.ts';

/** Semi-major axis of the earth, m (WGS 84). */
const A = 6_378_137;
/** First eccentricity of the earth, squared (WGS 84). */
const E2 = 0.006_694_379_990_14;

/** A place on earth, degrees (WGS 84). */
export interface LatLon {
  readonly lat: number;
  readonly lon: number;
}

/**
 * East and north of an origin in metres on the ellipsoid's tangent plane, from the radii of curvature at the middle
 * latitude. Good to a centimetre within the few kilometres of a sugarbush.
 */
export function toLocalMetres(origin: LatLon, point: LatLon): GroundPoint {
  const { meridian, parallel } = radii((origin.lat + point.lat) / 2);
  return {
    eastM: toRadians(point.lon - origin.lon) * parallel,
    northM: toRadians(point.lat - origin.lat) * meridian
  };
}

/** Radius of the meridian's curvature and of the circle of latitude, metres. */
function radii(lat: number): { meridian: number; parallel: number } {
  const phi = toRadians(lat);
  const w = Math.sqrt(1 - E2 * Math.sin(phi) ** 2);
  return { meridian: (A * (1 - E2)) / w ** 3, parallel: (A / w) * Math.cos(phi) };
}

/** The inverse of `toLocalMetres`, to the same precision. */
export function fromLocalMetres(origin: LatLon, point: GroundPoint): LatLon {
  let lat = origin.lat;
  // The middle latitude depends on the answer; each round shrinks the error a thousandfold.
  for (let round = 0; round < 4; round++)
    lat = origin.lat + toDegrees(point.northM / radii((origin.lat + lat) / 2).meridian);
  const { parallel } = radii((origin.lat + lat) / 2);
  return { lat, lon: origin.lon + toDegrees(point.eastM / parallel) };
}
