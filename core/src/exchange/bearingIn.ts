import { normaliseBearing } from '../math/index.ts';

const POINTS = ['n', 'nne', 'ne', 'ene', 'e', 'ese', 'se', 'sse', 's', 'ssw', 'sw', 'wsw', 'w', 'wnw', 'nw', 'nnw'];
const WORDS: readonly (readonly [RegExp, string])[] = [
  [/north/g, 'n'],
  [/south/g, 's'],
  [/east/g, 'e'],
  [/west/g, 'w']
];

/**
 * A side of the trunk as people write it: degrees from north, or a compass point such as SE, SSW or south-east.
 * @returns degrees from 0 to 360 (excluded); null where it is no bearing
 */
export function bearingIn(written: string): number | null {
  const plain = written
    .trim()
    .toLowerCase()
    .replace(/°|deg(rees)?$/g, '');
  if (/^\d{1,3}([.,]\d+)?$/.test(plain.trim())) {
    const degrees = Number(plain.replace(',', '.'));
    return degrees <= 360 ? normaliseBearing(degrees) : null;
  }
  const point = WORDS.reduce((text, [word, letter]) => text.replace(word, letter), plain).replace(/[\s-]/g, '');
  const index = POINTS.indexOf(point);
  return index < 0 ? null : index * (360 / POINTS.length);
}
