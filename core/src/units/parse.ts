import { UserFacingError } from '../errors/index.ts';
import { MM_PER_FOOT, MM_PER_INCH } from './length.ts';

/** Units a steward may write behind a trunk measurement. */
/** Units of length that people write. */
export const LENGTH_UNITS = ['mm', 'cm', 'm', 'in', 'ft'] as const;
export type LengthUnit = (typeof LENGTH_UNITS)[number];

/** Millimetres in a unit of length. */
export const MM_PER: Readonly<Record<LengthUnit, number>> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: MM_PER_INCH,
  ft: MM_PER_FOOT
};

/** What units without fractions are called. */
const NAMES = { mm: 'millimetres', cm: 'centimetres', m: 'metres' } as const;

/** Longer than this, 100 km in mm, is no length of a bush. */
const LONGEST_MM = 1e8;

/** Which of the trunk's lengths was written down. */
export type TrunkQuantity = 'girth' | 'diameter' | 'radius';

/** What was understood of a written measurement. */
export interface ParsedLength {
  readonly valueMm: number;
  /** the quantity, if the text names one */
  readonly quantity: TrunkQuantity | null;
  /** the unit, if the text names one; otherwise the default was taken */
  readonly unit: LengthUnit | null;
}

/** A text that cannot be read as a length; `message` can be shown as it is. */
export class UnreadableLength extends UserFacingError<'unreadableLength'> {
  constructor(message: string) {
    super('unreadableLength', message);
  }
}

const QUANTITY_WORDS: readonly [RegExp, TrunkQuantity][] = [
  [/\b(girth|circumference|circ|cbh|gbh|around|round)\b\.?/i, 'girth'],
  [/\b(diameter|diam|dia|dbh|across|thick)\b\.?|[⌀ø]/i, 'diameter'],
  [/\b(radius|rad)\b\.?/i, 'radius']
];

const UNIT_WORDS: Readonly<Record<string, LengthUnit>> = {
  mm: 'mm',
  millimetre: 'mm',
  millimetres: 'mm',
  millimeter: 'mm',
  millimeters: 'mm',
  cm: 'cm',
  centimetre: 'cm',
  centimetres: 'cm',
  centimeter: 'cm',
  centimeters: 'cm',
  m: 'm',
  metre: 'm',
  metres: 'm',
  meter: 'm',
  meters: 'm',
  '"': 'in',
  in: 'in',
  inch: 'in',
  inches: 'in',
  "'": 'ft',
  ft: 'ft',
  foot: 'ft',
  feet: 'ft'
};

const VULGAR: Readonly<Record<string, string>> = {
  '½': '1/2',
  '¼': '1/4',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8'
};

const NUMBER = String.raw`\d+(?:[.,]\d+)?`;
const PART = new RegExp(
  String.raw`^(?:(\d+)\/(\d+)|(${NUMBER})(?:[\s-]+(\d+)\/(\d+))?)\s*((?:mm|cm|m|in|inch|inches|ft|foot|feet|millimet(?:re|er)s?|centimet(?:re|er)s?|met(?:re|er)s?)(?![a-z])|"|')?\.?\s*`,
  'i'
);

/**
 * Reads a trunk measurement as people write it: `14 3/8"`, `14.4 in`, `36,5 cm`, `1' 2"`, `girth 115`, `⌀ 36`.
 * @param text what was written
 * @param defaultUnit unit of a bare number
 * @throws UnreadableLength with a sentence for the steward
 */
export function parseTrunkLength(text: string, defaultUnit: LengthUnit): ParsedLength {
  let rest = normalise(text);
  let quantity: TrunkQuantity | null = null;
  for (const [pattern, named] of QUANTITY_WORDS) {
    if (!pattern.test(rest)) continue;
    if (quantity) throw new UnreadableLength(`"${text.trim()}" names both ${quantity} and ${named}. Which is it?`);
    quantity = named;
    rest = rest.replace(pattern, ' ');
  }
  const { valueMm, unit } = parseLength(rest.replace(/[=:]/g, ' '), defaultUnit, text);
  if (!(valueMm > 0)) throw new UnreadableLength('A trunk is thicker than nothing: write a number above 0.');
  return { valueMm, quantity, unit };
}

/**
 * Reads a length as people write it: `4.2 m`, `14 3/8"`, `1' 2"`, `0`.
 * @param text what was written
 * @param defaultUnit unit of a bare number
 * @param whole what it is a part of, for what is said of it
 * @returns millimetres, 0 or more, and the unit that was written with them
 * @throws UnreadableLength with a sentence for the steward
 * @example parseLength('14 ft', 'm').valueMm // 4267.2
 */
export function parseLength(text: string, defaultUnit: LengthUnit, whole = text): Omit<ParsedLength, 'quantity'> {
  let rest = normalise(text);
  if (rest === '') throw new UnreadableLength(`Write a number, such as ${suchAs(defaultUnit, 'or')}.`);

  let valueMm = 0;
  let unit: LengthUnit | null = null;
  let parts = 0;
  while (rest !== '') {
    const match = PART.exec(rest);
    if (!match)
      throw new UnreadableLength(
        `I cannot read "${whole.trim()}" as a length. Try ${suchAs(defaultUnit, ',')} or 1' 2".`
      );
    const written = match[6] ? UNIT_WORDS[match[6].toLowerCase()] : undefined;
    if (parts > 0 && !(unit === 'ft' && (written === 'in' || written === undefined)))
      throw new UnreadableLength(`"${whole.trim()}" holds more than one length. Write one.`);
    const partUnit = written ?? (unit === 'ft' ? 'in' : defaultUnit);
    const fraction = match[1] ?? match[4];
    if (fraction !== undefined && partUnit !== 'in' && partUnit !== 'ft')
      throw new UnreadableLength(
        `Is "${whole.trim()}" in inches? Write them as ${match[0].trim().replace(/"$/, '')}", or ${NAMES[partUnit]} with a point.`
      );
    valueMm += amountOf(match, whole) * MM_PER[partUnit];
    if (parts === 0) unit = written ?? null;
    parts += 1;
    rest = rest.slice(match[0].length);
  }
  if (valueMm > LONGEST_MM) throw new UnreadableLength('No trunk and no wood is that long. Is there a digit too many?');
  return { valueMm, unit };
}

/** Examples of what is measured in a unit: trunks, or distances on the ground. */
function suchAs(unit: LengthUnit, joint: ',' | 'or'): string {
  const [metric, imperial] = unit === 'm' || unit === 'ft' ? ['12.5 m', '41 ft'] : ['36.5 cm', '14 3/8"'];
  return joint === ',' ? `${metric}, ${imperial}` : `${metric} or ${imperial}`;
}

function normalise(text: string): string {
  return text
    .replace(/[½¼¾⅛⅜⅝⅞]/g, (sign) => ` ${VULGAR[sign]}`)
    .replace(/[’′]/g, "'")
    .replace(/''|[”″“]/g, '"')
    .trim();
}

function amountOf(match: RegExpExecArray, text: string): number {
  const [, loneOver, loneUnder, whole, over, under] = match;
  if (whole && /,\d{3}$/.test(whole))
    throw new UnreadableLength(`Is "${whole}" in "${text.trim()}" thousands or decimals? Write it without the comma.`);
  if (Number(under) === 0 || Number(loneUnder) === 0)
    throw new UnreadableLength(`"${text.trim()}" divides by nothing.`);
  const fraction = over ? Number(over) / Number(under) : loneOver ? Number(loneOver) / Number(loneUnder) : 0;
  return (whole ? Number(whole.replace(',', '.')) : 0) + fraction;
}
