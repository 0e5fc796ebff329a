import { tagKey } from '../records/index.ts';

/** Signs that hands and eyes take for each other. */
const ALIKE: readonly (readonly [RegExp, string])[] = [
  [/o/g, '0'],
  [/[il|]/g, '1'],
  [/s/g, '5'],
  [/b/g, '8'],
  [/[\s._/-]/g, '']
];
const plain = (tag: string) =>
  ALIKE.reduce((text, [sign, as]) => text.replace(sign, as), tagKey(tag)).replace(/^0+(?=.)/, '');

/** The tag of the bush that a tag of a file most likely means; null where none is so near, or several are. */
export function likelyTag(written: string, tags: readonly string[]): string | null {
  const same = tags.filter((tag) => plain(tag) === plain(written));
  if (same.length > 0) return same.length === 1 ? same[0]! : null;
  const near = tags.filter((tag) => isOneOff(plain(tag), plain(written)));
  return near.length === 1 ? near[0]! : null;
}

/** Does one slip lie between two tags: a sign more, less or another, or two the other way round? */
function isOneOff(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1 || Math.min(a.length, b.length) < 2) return false;
  let i = 0;
  while (i < a.length && i < b.length && a[i] === b[i]) i++;
  const [restA, restB] = [a.slice(i), b.slice(i)];
  return (
    restA.slice(1) === restB ||
    restA === restB.slice(1) ||
    restA.slice(1) === restB.slice(1) ||
    (restA[0] === restB[1] && restA[1] === restB[0] && restA.slice(2) === restB.slice(2))
  );
}
