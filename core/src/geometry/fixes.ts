import { mean } from '../math/index.ts';

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
/** Dilution that is taken where a receiver does not tell it. Working assumption. */
const UNKNOWN_HDOP = 2;

/**
 * What a satellite receiver's answer is worth.
 * @param hdop horizontal dilution of precision as the receiver gives it; 0 or less where it does not
 */
export function receiverFix({
  lat,
  lon,
  hdop
}: {
  readonly lat: number;
  readonly lon: number;
  readonly hdop: number;
}): Fix {
  return { lat, lon, sdM: RANGE_ERROR_M * (hdop > 0 ? hdop : UNKNOWN_HDOP), leastM: 0 };
}

/** A circle that holds 68 % of the places in a plane has this many standard deviations as its radius. */
const SD_IN_68_PCT = 1.5;
/** A phone is never better than this, metres. Working assumption. */
const MIN_PHONE_SD_M = 3;

/**
 * How far off a phone's position may be. By the standard's text the accuracy is a radius of 95 % (2.45
 * standard deviations in the plane); many phones give one of 68 % (1.5): the cautious reading is taken.
 * @param coords degrees and metres, as a browser gives them
 */
export function phoneFix(coords: {
  readonly latitude: number;
  readonly longitude: number;
  readonly accuracy: number;
}): Fix {
  return {
    lat: coords.latitude,
    lon: coords.longitude,
    sdM: Math.max(MIN_PHONE_SD_M, coords.accuracy / SD_IN_68_PCT),
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
