import type { LinePiece, LineLookWorth } from '@baumkin/core/bush';
import type { LineFind, LineLookRecord, LineReadingRecord } from '@baumkin/core/records';
import type { LengthUse } from '@baumkin/core/units';

import { listed } from '../words/listed.ts';
import { counted } from './counted.ts';

export const LINE_FIND_WORDS: Readonly<Record<LineFind, string>> = {
  nothing: 'nothing wrong',
  leak: 'a leak, heard or seen',
  bite: 'the bite of a squirrel',
  limb: 'a limb on it',
  pulled: 'a fitting that came off',
  sag: 'a sag',
  notSet: 'a spout that was not set, or sat loose',
  dry: 'a tap that stays dry',
  fence: 'something about a fence or a crossing'
};

/** What can be found at a tap, and along a line. */
export const TAP_FINDS: readonly LineFind[] = ['nothing', 'notSet', 'dry', 'leak', 'bite', 'pulled'];
export const PIPE_FINDS: readonly LineFind[] = ['nothing', 'leak', 'bite', 'limb', 'pulled', 'sag', 'fence'];

interface Shown {
  readonly length: (mm: number, use: LengthUse) => string;
  readonly fewLitres: (litres: number) => string;
}

/** A chance in words: nothing is sure, and nothing out of the question. */
export function inHundred(chance: number): string {
  const of = Math.round(100 * chance);
  return of > 99 ? 'more than 99 in 100' : of < 1 ? 'fewer than 1 in 100' : `${of} in 100`;
}

/** A part of a line by its name and where on it. */
export const pieceWords = ({ line, fromM, toM }: LinePiece, shown: Pick<Shown, 'length'>): string =>
  line.use === 'lateral'
    ? line.name
    : `${line.name}, ${shown.length(1000 * fromM, 'way')} to ${shown.length(1000 * toM, 'way')} from its upper end`;

/** Why a place is worth a look. @param sinceOn the day since which it leaks, in words */
export function whyLook(
  { what, faults, chance, leak }: LineLookWorth,
  of: { readonly sinceOn: string; readonly season: number }
): string {
  if ('piece' in what)
    return `${inHundred(chance)} that it leaks, since about ${of.sinceOn}; then it loses some ${Math.round(100 * (leak?.share ?? 0))} % of what runs through it`;
  const { row } = what;
  const said = [
    ...(faults.notSet >= 0.02 ? [`${inHundred(faults.notSet)} that its spout was never set`] : []),
    ...(faults.dry >= 0.02 ? [`${inHundred(faults.dry)} that it stays dry`] : [])
  ];
  const seen = row.shavingsSeen;
  const because = [
    ...(row.hungSeason === of.season ? [] : ['drilled, and not reported set']),
    ...(seen === 'brown' || seen === 'dry'
      ? [`its hole was ${seen}`]
      : seen === 'partly'
        ? ['its hole was partly brown']
        : [])
  ];
  return `${listed(said)}${because.length > 0 ? `; ${listed(because)}` : ''}`;
}

export const lookWords = (
  { found, alongM, mended }: LineLookRecord,
  { where, shown }: { readonly where: string; readonly shown: Pick<Shown, 'length'> }
): string =>
  `${where}${alongM === null ? '' : ` at ${shown.length(1000 * alongM, 'way')}`}: ${LINE_FIND_WORDS[found]}${found === 'nothing' ? '' : mended ? ', mended' : ', not mended yet'}`;

export function readingWords(
  { gauges, litres, minutes }: LineReadingRecord,
  { where, shown }: { readonly where: string; readonly shown: Shown }
): string {
  const said = [
    ...(litres === null || minutes === null ? [] : [`${shown.fewLitres(litres)} in ${counted(minutes, 'minute')}`]),
    ...gauges.map(({ alongM, kPa }) => `${kPa} kPa at ${shown.length(1000 * alongM, 'way')}`)
  ];
  return `${where}: ${listed(said)}`;
}
