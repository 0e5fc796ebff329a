import { mean } from '@baumkin/core/math';
import { parseNmeaSentence } from 'nmea-simple';

/** One answer of a satellite receiver. */
export interface Fix {
  readonly lat: number;
  readonly lon: number;
  /** one standard deviation, metres */
  readonly sdM: number;
  /** no mean of such fixes is nearer than this, metres: what they share is not averaged away */
  readonly leastM: number;
}

/** Error of a fix where the satellites stand well (HDOP 1), metres. From memory of receiver handbooks. */
const RANGE_ERROR_M = 3;

/** The fix in an NMEA 0183 sentence; null for other sentences, broken ones and a receiver that sees no satellites. */
export function fixOf(sentence: string): Fix | null {
  try {
    const packet = parseNmeaSentence(sentence);
    if (packet.sentenceId !== 'GGA' || packet.fixType === 'none') return null;
    const { latitude: lat, longitude: lon, horizontalDilution } = packet;
    if (!Number.isFinite(lat) || !Number.isFinite(lon)) return null;
    return { lat, lon, sdM: RANGE_ERROR_M * (horizontalDilution > 0 ? horizontalDilution : 2), leastM: 0 };
  } catch {
    return null;
  }
}

/** A phone is never better than this, metres. Working assumption. */
const MIN_PHONE_SD_M = 3;

/**
 * How far off a phone's position may be. By the standard's text the accuracy is a radius of 95 % (2.45
 * standard deviations in the plane); many phones give one of 68 % (1.5): the cautious reading is taken.
 * @param coords as the browser's `Geolocation` gives them
 */
export function phoneFix(coords: Pick<GeolocationCoordinates, 'latitude' | 'longitude' | 'accuracy'>): Fix {
  return {
    lat: coords.latitude,
    lon: coords.longitude,
    sdM: Math.max(MIN_PHONE_SD_M, coords.accuracy / 1.5),
    leastM: MIN_PHONE_SD_M
  };
}

/** Fixes a second apart share most of their error: half a minute of them counts as one more look. Working assumption. */
const FIXES_TO_A_LOOK = 30;

/** The mean of fixes, and how far off it may be (one standard deviation, metres); null for none. */
export function meanFix(fixes: readonly Fix[]): { lat: number; lon: number; accuracyM: number; fixes: number } | null {
  if (fixes.length === 0) return null;
  const looks = 1 + (fixes.length - 1) / FIXES_TO_A_LOOK;
  return {
    lat: mean(fixes.map((fix) => fix.lat)),
    lon: mean(fixes.map((fix) => fix.lon)),
    accuracyM: Math.max(...fixes.map((fix) => fix.leastM), mean(fixes.map((fix) => fix.sdM)) / Math.sqrt(looks)),
    fixes: fixes.length
  };
}
