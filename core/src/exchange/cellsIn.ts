import { normaliseBearing } from '../math/index.ts';
import type { MeasureMethod } from '../measure/index.ts';
import { seasonOf } from '../records/index.ts';
import type { PositionQuality } from '../stand/index.ts';
import { parseLength, UnreadableLength, type LengthUnit } from '../units/index.ts';
import { bearingIn } from './bearingIn.ts';
import { readDate, type DateOrder } from './dateIn.ts';
import { BadCell } from './faults.ts';
import { brief } from './grid.ts';
import type { StatedHole } from './statement.ts';

/* Single cells: each reads what people write, or says what is wrong with it. All throw BadCell. */

/** A day, in the order that the file writes. */
export function dayIn(
  written: string,
  column: string,
  { order, today }: { readonly order: DateOrder | null; readonly today: string }
): string {
  const { on, why } = readDate(written, order, today);
  if (why === 'ambiguous')
    throw new BadCell(column, `"${brief(written)}" may be day and month either way round.`, 'dateOrder');
  if (why === 'year') throw new BadCell(column, `"${brief(written)}" is a year without a day.`);
  if (on === null) throw new BadCell(column, `"${brief(written)}" is not a date. Write it as 2026-10-31.`);
  if (on > today) throw new BadCell(column, `${on} lies in the future.`);
  return on;
}

/** A number, with a point or a comma. */
export function numberIn(written: string, column: string): number {
  const value = /^[-+]?\d+([.,]\d+)?$/.test(written) ? Number(written.replace(',', '.')) : NaN;
  if (!Number.isFinite(value)) throw new BadCell(column, `"${brief(written)}" is not a number.`);
  return value;
}

/** A length that is no trunk's: a height, a bit, a depth. A fraction is one of inches. @returns mm */
export function lengthIn(written: string, column: string, unit: LengthUnit, mostMm: number): number {
  try {
    const mm = parseLength(written, /\d\s*\/\s*\d/.test(written) ? 'in' : unit).valueMm;
    if (mm < 0 || mm > mostMm) throw new BadCell(column, `"${brief(written)}" ${unit} is out of range.`);
    return mm;
  } catch (error) {
    if (error instanceof UnreadableLength) throw new BadCell(column, error.message);
    throw error;
  }
}

/** A season in which a hole was made, or is being made. */
export function seasonIn(written: string, column: string, today: string): number {
  const season = numberIn(written, column);
  const last = seasonOf(today);
  if (!Number.isInteger(season) || season < 1900 || season > last)
    throw new BadCell(column, `"${brief(written)}" is no season from 1900 to ${last}.`);
  return season;
}

/** The side of a hole. @returns degrees from north */
export function sideIn(written: string, column: string): number {
  const bearingDeg = bearingIn(written);
  if (bearingDeg === null)
    throw new BadCell(
      column,
      `"${brief(written)}" is no side: a bearing runs from 0 to 360 degrees, or is a point such as SE.`
    );
  return bearingDeg;
}

/** All holes of a tree in one cell: season:bearing:height in cm, several with a semicolon between them. */
export function holesIn(written: string, today: string): StatedHole[] {
  if (written === '') return [];
  return written.split(';').map((part) => {
    const match = /^\s*(\d{4}):(\d+(?:\.\d+)?):(\d+(?:\.\d+)?)\s*$/.exec(part);
    if (!match)
      throw new BadCell('holes', `"${brief(part.trim())}" is not season:bearing:height in cm, such as 2024:180:95.`);
    const [bearing, height] = [Number(match[2]), Number(match[3])];
    if (bearing > 360)
      throw new BadCell('holes', `a bearing runs from 0 to 360 degrees; "${brief(part.trim())}" does not.`);
    if (height > 500)
      throw new BadCell('holes', `"${brief(part.trim())}" is a hole more than 5 m up. Heights are in cm.`);
    const season = seasonIn(match[1]!, 'holes', today);
    return { season, bearingDeg: normaliseBearing(bearing), heightMm: height * 10, bitMm: null, depthMm: null };
  });
}

const METHOD_WORDS: readonly [RegExp, MeasureMethod][] = [
  [/^(diameter|d) ?tape$/i, 'diameterTape'],
  [/^(girth ?tape|tape)$/i, 'girthTape'],
  [/^calipers?$/i, 'calipers'],
  [/^(biltmore|stick)( stick)?$/i, 'biltmore'],
  [/^(plain|ordinary) (stick|ruler)$/i, 'plainStick'],
  [/^(hug|eye|bucket|by eye|estimate)$/i, 'hug']
];

/** How a trunk was measured. */
export function methodIn(written: string, column: 'girth' | 'diameter'): MeasureMethod {
  if (written === '') return column === 'girth' ? 'girthTape' : 'diameterTape';
  const found = METHOD_WORDS.find(([pattern]) => pattern.test(written));
  if (!found)
    throw new BadCell(
      'method',
      `"${brief(written)}" is none of: diameter tape, tape, calipers, stick, plain stick, hug.`
    );
  return found[1];
}

/** How well a place is known. */
export function qualityIn(written: string, otherwise: PositionQuality): PositionQuality {
  if (written === '') return otherwise;
  const plain = written.toLowerCase();
  if (plain === 'surveyed' || plain === 'paced' || plain === 'phone') return plain;
  throw new BadCell('position_quality', `"${brief(written)}" is none of: surveyed, paced, phone.`);
}
