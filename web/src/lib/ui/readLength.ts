import { parseLength, UnreadableLength, type LengthUnit } from '@baumkin/core/units';

/** A length that may be left out, within what there is. */
export interface AskedLength {
  /** of a bare number */
  readonly unit: LengthUnit;
  readonly leastMm?: number;
  readonly mostMm: number;
  /** what is said of one beyond that, from what was typed */
  readonly refusal: (typed: string) => string;
}

/**
 * A length as somebody wrote it, mm; null where nothing is written.
 * @throws UnreadableLength where it is none, or beyond what there is
 */
export function readLength(text: string, { unit, leastMm = 0, mostMm, refusal }: AskedLength): number | null {
  if (text.trim() === '') return null;
  const { valueMm } = parseLength(text, unit);
  if (valueMm < leastMm || valueMm > mostMm) throw new UnreadableLength(refusal(text.trim()));
  return valueMm;
}
