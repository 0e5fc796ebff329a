/** In which order a file writes day, month and year. */
export const DATE_ORDERS = ['ymd', 'dmy', 'mdy'] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
/** A time of day behind a date: nobody wants it. */
const TIME = /[T ]\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?( ?[AP]M|Z)?$/i;
const THREE = /^(\d{1,4})([-/. ])(\d{1,2})\2(\d{1,4})$/;

/** Is a text a day, as in 2026-10-31? */
export function isIsoDate(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  const date = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(date.getTime()) && date.toISOString().slice(0, 10) === text;
}

/** A date as it was written: the day, or why it is none yet. */
export type ReadDate =
  | { readonly on: string; readonly why: null }
  /** `ambiguous`: day and month may stand either way round; `year`: a year alone; `none`: no date at all */
  | { readonly on: null; readonly why: 'ambiguous' | 'year' | 'none' };

/**
 * Reads a date as people write it: 2026-10-31, 31.10.2026, 10/31/26, 31 Oct 2026, Oct 31, 2026.
 * @param order what was told, or found, of the file; null while that is open
 * @param today two figures of a year are of this century up to this day
 */
export function readDate(written: string, order: DateOrder | null, today: string): ReadDate {
  const text = written.trim().replace(TIME, '');
  if (/^(19|20)\d{2}$/.test(text)) return { on: null, why: 'year' };
  const named = namedMonth(text, today);
  if (named) return day(named);
  const match = THREE.exec(text);
  if (!match) return { on: null, why: 'none' };
  const [a, sign, b, c] = [match[1]!, match[2]!, match[3]!, match[4]!];
  if (a.length >= 3) return day([a, b, c]);
  const year = fullYear(c, today);
  // Whoever writes dots writes the day first; common practice.
  const told = order ?? (sign === '.' ? 'dmy' : onlyOrder(Number(a), Number(b)));
  if (told === null) return { on: null, why: 'ambiguous' };
  return day(told === 'ymd' ? [fullYear(a, today), b, c] : told === 'dmy' ? [year, b, a] : [year, a, b]);
}

/**
 * In which order a file writes its dates, as far as the dates themselves tell.
 * @returns `null` where every one of them can be read either way, or some only one way and some only the other
 */
export function orderOf(dates: readonly string[]): DateOrder | null {
  const orders = new Set<DateOrder>();
  for (const written of dates) {
    const match = THREE.exec(written.trim().replace(TIME, ''));
    if (!match || match[1]!.length >= 3) continue;
    const only = match[2] === '.' ? 'dmy' : onlyOrder(Number(match[1]), Number(match[3]));
    if (only !== null) orders.add(only);
  }
  return orders.size === 1 ? [...orders][0]! : null;
}

/** The order that two figures leave: one above twelve is no month. */
function onlyOrder(a: number, b: number): 'dmy' | 'mdy' | null {
  if (a > 12 && b <= 12) return 'dmy';
  if (b > 12 && a <= 12) return 'mdy';
  return a === b ? 'dmy' : null;
}

function namedMonth(text: string, today: string): [string, string, string] | null {
  const match = /^(\d{1,2})[ .-]+([a-z]{3,9})\.?,?[ .-]+(\d{2,4})$/i.exec(text);
  const other = /^([a-z]{3,9})\.?[ .-]+(\d{1,2})(?:st|nd|rd|th)?,?[ .-]+(\d{2,4})$/i.exec(text);
  const [dayOf, name, year] = match ? [match[1], match[2], match[3]] : other ? [other[2], other[1], other[3]] : [];
  const month = MONTHS.indexOf((name ?? '').slice(0, 3).toLowerCase());
  return month < 0 ? null : [fullYear(year!, today), String(month + 1), dayOf!];
}

/** Two figures of a year: of this century, unless that is still to come. */
function fullYear(written: string, today: string): string {
  if (written.length !== 2) return written;
  const century = today.slice(0, 2);
  return `${Number(written) > Number(today.slice(2, 4)) ? Number(century) - 1 : century}${written}`;
}

function day([year, month, dayOf]: readonly string[]): ReadDate {
  const on = `${year}-${month!.padStart(2, '0')}-${dayOf!.padStart(2, '0')}`;
  return isIsoDate(on) ? { on, why: null } : { on: null, why: 'none' };
}
