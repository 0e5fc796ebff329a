/**
 * The weather of an invented hill: any day can be asked for, and every day is the same whoever asks, in whatever order. Nothing outside
 * rests on it.
 */

/** The bush lies higher than its station, and cold air gathers in its hollow by night, °C. */
const BUSH_AGAINST_STATION = { minC: -1.6, maxC: -0.7 };
/** How far single days stray between the two, °C, 1 sd. */
const STRAYS_C = 0.7;

/** Mean of the year, and how far summer and winter lie from it, °C. */
const [YEAR_C, SWING_C] = [6, 13];
/** The coldest day of the year, counted from the first of January. */
const COLDEST_DAY = 20;

const DAY_MS = 86_400_000;
/** @param {string} on ISO date @returns days since 1970 */
const dayNumber = (on) => Math.round(Date.parse(`${on}T00:00:00Z`) / DAY_MS);
/** @param {number} number */
const dayOf = (number) => new Date(number * DAY_MS).toISOString().slice(0, 10);
/** @param {string} on ISO date @param {number} days */
export const later = (on, days) => dayOf(dayNumber(on) + days);

/** A number from 0 to 1 that follows from two whole numbers. @param {number} a @param {number} b */
function hashed(a, b) {
  let x = (Math.imul(a ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul(b + 0x7f4a7c15, 0xc2b2ae35)) >>> 0;
  x = Math.imul(x ^ (x >>> 15), 0x2c1b3c6d) >>> 0;
  x = Math.imul(x ^ (x >>> 12), 0x297a2d39) >>> 0;
  return ((x ^ (x >>> 15)) >>> 0) / 2 ** 32;
}

/** A normal number that follows from two whole numbers. @param {number} a @param {number} b */
export function normal(a, b) {
  const radius = Math.sqrt(-2 * Math.log(1 - hashed(a, 2 * b)));
  return radius * Math.cos(2 * Math.PI * hashed(a, 2 * b + 1));
}

/** Weather that holds for about so many days, one normal number a day. @param {number} number @param {number} days @param {number} which */
function spell(number, days, which) {
  const at = Math.floor(number / days);
  const share = number / days - at;
  const smooth = (1 - Math.cos(Math.PI * share)) / 2;
  const [a, b] = [1 - smooth, smooth];
  return (a * normal(at, which) + b * normal(at + 1, which)) / Math.hypot(a, b);
}

/** Years with a warm fortnight in February that fools everybody, and years with hard frosts in April. */
const isFalseSpring = (/** @type {number} */ year) => year % 5 === 4;
const isLateFrost = (/** @type {number} */ year) => year % 5 === 1;

/** What a year has besides, °C. @param {number} year @param {number} day of the year */
function ofItsOwn(year, day) {
  if (isFalseSpring(year) && day >= 40 && day < 54) return 8 * Math.sin((Math.PI * (day - 39)) / 15);
  if (isLateFrost(year) && day >= 96 && day < 104) return -7 * Math.sin((Math.PI * (day - 95)) / 9);
  return 0;
}

/**
 * A day as it is in the bush.
 * @param {string} on ISO date
 * @returns {{ on: string, minC: number, maxC: number }}
 */
export function dayInBush(on) {
  const number = dayNumber(on);
  const year = Number(on.slice(0, 4));
  const day = number - dayNumber(`${year}-01-01`);
  const middle =
    YEAR_C -
    SWING_C * Math.cos((2 * Math.PI * (day - COLDEST_DAY)) / 365) +
    3.4 * spell(number, 6, 1) +
    1.8 * spell(number, 2, 2) +
    1.2 * normal(year, 3) +
    ofItsOwn(year, day);
  const half = Math.max(1.2, 4.8 + 1.5 * spell(number, 2, 4));
  return { on, minC: tenths(middle - half), maxC: tenths(middle + half) };
}

/**
 * The same day at the station down in the valley.
 * @param {string} on ISO date
 */
export function dayAtStation(on) {
  const { minC, maxC } = dayInBush(on);
  const number = dayNumber(on);
  const low = tenths(minC - BUSH_AGAINST_STATION.minC + STRAYS_C * normal(number, 11));
  return {
    on,
    minC: low,
    maxC: Math.max(low, tenths(maxC - BUSH_AGAINST_STATION.maxC + STRAYS_C * normal(number, 12)))
  };
}

/** How wrong the invented forecast is for its first day, and more for each day after it, °C, 1 sd. */
const [FIRST_SD_C, MORE_A_DAY_C] = [1.1, 0.4];

/**
 * What was said on one day of another, for the station.
 * @param {string} madeOn ISO date
 * @param {number} ahead days after it
 */
export function foretold(madeOn, ahead) {
  const on = later(madeOn, ahead);
  const { minC, maxC } = dayAtStation(on);
  const sd = FIRST_SD_C + MORE_A_DAY_C * ahead;
  const made = dayNumber(madeOn);
  const low = tenths(minC + sd * (0.8 * normal(made, 21) + 0.6 * normal(made, 40 + ahead)));
  const high = tenths(maxC + sd * (0.8 * normal(made, 22) + 0.6 * normal(made, 80 + ahead)));
  return { on, minC: Math.min(low, high), maxC: Math.max(low, high) };
}

/** @param {number} value */
const tenths = (value) => Number(value.toFixed(1));
