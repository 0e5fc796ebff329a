import type { LinePiece, LineLookWorth, LineStop } from '@baumkin/core/bush';
import type { LineFind, LineLookRecord, LineReadingRecord } from '@baumkin/core/records';
import type { LengthUse } from '@baumkin/core/units';

import { listed } from '../words/listed.ts';
import { counted } from './counted.ts';
import { crossingCare, crossingWords } from './crossings.ts';
import { shortDay } from './season.ts';

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
export const pieceWords = ({ line, fromM, toM }: Omit<LinePiece, 'sites'>, shown: Pick<Shown, 'length'>): string =>
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

/** A tree that is less likely to lie on a piece after a storm is not named beside it. */
const WORTH_A_WORD = 0.01;

export const treesByTag = (rows: readonly { readonly tag: string }[]) =>
  `${rows.length === 1 ? 'tree' : 'trees'} ${listed(rows.map(({ tag }) => tag))}`;

/** What there is to see to at a piece of a line, the most urgent first; nothing where nothing is known of it. */
export function stopWords(stop: LineStop, shown: Pick<Shown, 'length'>): string[] {
  const at = (metres: number) => shown.length(1000 * metres, 'way');
  const { open, notSet, threats, low, crossings } = stop;
  const [dead, weak] = [true, false].map((of) =>
    threats.filter(({ dead, chance }) => dead === of && chance >= WORTH_A_WORD).map(({ row }) => row)
  );
  const stand = (rows: readonly { readonly tag: string }[], how: string) =>
    rows.length === 0 ? [] : [`${treesByTag(rows)} ${rows.length === 1 ? 'stands' : 'stand'} ${how} within reach`];
  return [
    ...open.map(
      ({ found, alongM, on }) =>
        `${LINE_FIND_WORDS[found]}${alongM === null ? '' : ` at ${at(alongM)}`}, found on ${shortDay(on)} and not mended`
    ),
    ...(notSet.length > 0 ? [`drilled, and not reported set: ${treesByTag(notSet)}`] : []),
    ...stand(dead!, 'dead'),
    ...stand(weak!, 'weak'),
    ...low.map(({ finding, fromM, toM }) =>
      finding.fault === 'dip'
        ? `it rises from ${at(fromM)} to ${at(toM)}: ice stands there first`
        : `it sags from ${at(fromM)} to ${at(toM)}`
    ),
    ...crossings.map((crossing) => {
      const care = crossingCare(crossing);
      return `${crossingWords(crossing, at(crossing.alongM))}${care ? `; ${care}` : ''}`;
    })
  ];
}
