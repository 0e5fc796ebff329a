import { heightOf, radiusOf, type StandTree } from '../stand/index.ts';
import { MM_PER_FOOT, MM_PER_INCH } from '../units/index.ts';

/** 1 cubic foot in cubic metres. */
const M3_PER_FT3 = (MM_PER_FOOT / 1000) ** 3;

/**
 * Stem volume of a hardwood, m3: `ln V = -6.631617 + 1.982650 ln D + 1.117123 ln H` (V ft3, D in, H ft), the least-squares
 * line through the 31 black cherries of Ryan, Joiner & Ryan 1976. One species of one place; taken for all hardwoods as a
 * working assumption.
 * @param dbhMm above 0 @param heightM above 0
 */
export function stemVolume(dbhMm: number, heightM: number): number {
  const [d, h] = [dbhMm / MM_PER_INCH, (heightM * 1000) / MM_PER_FOOT];
  return Math.exp(-6.631617 + 1.98265 * Math.log(d) + 1.117123 * Math.log(h)) * M3_PER_FT3;
}

/** Branchwood thick enough for the stove, against the stem. Working assumption. */
const BRANCH_SHARE = 0.2;
/** Solid wood in a stacked cubic metre. Common practice: six to seven tenths. */
export const SOLID_SHARE = 0.65;
/** Chips make this share of the pile that the brush was. Working assumption. */
const CHIPS_SHARE = 1 / 6;
/** Chips on a path, m3 a metre: 1.2 m wide and 8 cm deep. Working assumption. */
const CHIPS_M3_PER_PATH_M = 1.2 * 0.08;
/** Brush lies this deep where a crown lay, when it is piled: m3 a square metre of crown. Working assumption. */
const BRUSH_M3_PER_M2 = 0.12;

export interface CleanUp {
  readonly trees: number;
  /** solid, stems alone, m3 */
  readonly stemM3: number;
  /** stacked firewood, stems and branches, m3 */
  readonly stackedM3: number;
  /** piled brush, m3 */
  readonly brushM3: number;
  /** the same brush as chips, m3, and the metres of path that they cover */
  readonly chipsM3: number;
  readonly pathM: number;
  /** working days to fell, cut up, carry out and pile, at the steward's own rate */
  readonly days: number;
}

/** What one person gets done in a day. */
export interface WorkRate {
  /** stacked firewood cut, split and carried out, m3 a day */
  readonly stackedM3ADay: number;
  /** brush piled or chipped, m3 a day */
  readonly brushM3ADay: number;
}

/** Working assumption; the bush has its own. */
export const DEFAULT_RATE: WorkRate = { stackedM3ADay: 1.5, brushM3ADay: 12 };

/**
 * What lies on the ground after an entry, and how long it takes to clear.
 * @param left trees that stay where they fall, or stand on dead: they make no firewood, no brush to pile
 */
export function cleanUp(
  trees: readonly StandTree[],
  rate: WorkRate = DEFAULT_RATE,
  left: ReadonlySet<string> = new Set()
): CleanUp {
  const worked = trees.filter(({ id }) => !left.has(id));
  const stemM3 = worked.reduce((sum, tree) => sum + stemVolume(tree.dbhMm, heightOf(tree)), 0);
  const stackedM3 = (stemM3 * (1 + BRANCH_SHARE)) / SOLID_SHARE;
  const brushM3 = worked.reduce((sum, tree) => sum + Math.PI * radiusOf(tree) ** 2 * BRUSH_M3_PER_M2, 0);
  return {
    trees: worked.length,
    stemM3,
    stackedM3,
    brushM3,
    chipsM3: brushM3 * CHIPS_SHARE,
    pathM: (brushM3 * CHIPS_SHARE) / CHIPS_M3_PER_PATH_M,
    days: stackedM3 / rate.stackedM3ADay + brushM3 / rate.brushM3ADay
  };
}

/** One month's share of the work. */
export interface WorkMonth {
  /** 1 to 12 */
  readonly month: number;
  readonly year: number;
  readonly days: number;
  readonly what: 'fell' | 'clear';
}

/** Felling takes this share of all days. Working assumption. */
const FELLING_SHARE = 0.25;
/** Trees are felled while leaves are off and ground is frozen, but not in the sap season; months by number. */
const FELLING_MONTHS = [11, 12, 1];
/** Nobody has time for brush while the sap runs. */
const SAP_MONTHS = [2, 3, 4];

/** Days of the year between which nothing is cut or cleared, month-day: nests, dens and roosts with young. */
export interface QuietTime {
  readonly from: string;
  readonly to: string;
}
/** Mid April to the end of July. Working assumption; local rules come first. */
export const DEFAULT_QUIET: QuietTime = { from: '04-15', to: '07-31' };

/** Does a day fall into the quiet time, which may run over the turn of the year? @param day ISO date */
export function isQuiet({ from, to }: QuietTime, day: string): boolean {
  const at = day.slice(5);
  return from <= to ? at >= from && at <= to : at >= from || at <= to;
}

/** A month of which any day is quiet counts as quiet. */
function quietMonth(quiet: QuietTime, month: number): boolean {
  return Array.from({ length: 28 }, (_, i) => i + 1).some((day) =>
    isQuiet(quiet, `2000-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`)
  );
}

/**
 * The days of work spread over the months, from the next one in which trees may be felled.
 * @param days in all
 * @param daysAMonth that the steward can spare
 * @param from first month, its year
 * @param quiet when nothing is cut or cleared
 */
export function spreadWork(
  days: number,
  daysAMonth: number,
  from: { year: number; month: number },
  quiet: QuietTime = DEFAULT_QUIET
): WorkMonth[] {
  if (!(daysAMonth > 0)) throw new RangeError('Days a month must be more than none.');
  const months: WorkMonth[] = [];
  let [felling, clearing] = [days * FELLING_SHARE, days * (1 - FELLING_SHARE)];
  let lying = 0;
  let { year, month } = from;
  for (let guard = 0; (felling > 1e-6 || clearing > 1e-6) && guard < 240; guard++) {
    const closed = quietMonth(quiet, month);
    let free = daysAMonth;
    if (felling > 1e-6 && FELLING_MONTHS.includes(month) && !closed) {
      const spent = Math.min(free, felling);
      months.push({ year, month, days: spent, what: 'fell' });
      felling -= spent;
      free -= spent;
      lying += (spent * (1 - FELLING_SHARE)) / FELLING_SHARE;
    }
    if (lying > 1e-6 && free > 1e-6 && !SAP_MONTHS.includes(month) && !closed) {
      const spent = Math.min(free, lying, clearing);
      if (spent > 1e-6) months.push({ year, month, days: spent, what: 'clear' });
      clearing -= spent;
      lying -= spent;
    }
    month += 1;
    if (month > 12) [year, month] = [year + 1, 1];
  }
  return months;
}
