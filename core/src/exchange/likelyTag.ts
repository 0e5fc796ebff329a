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

/** The tags of a bush, by how they look to whoever copies them: mistyped ones are found without a look at each. */
export class LikelyTags {
  readonly #same = new Map<string, string[]>();
  /** by what is left of a tag when one sign is missing: two tags one slip apart share such a rest, or one is the other's */
  readonly #rests = new Map<string, Set<string>>();

  constructor(tags: readonly string[]) {
    for (const tag of tags) {
      const looks = plain(tag);
      const same = this.#same.get(looks);
      if (same) {
        same.push(tag);
        continue;
      }
      this.#same.set(looks, [tag]);
      for (const rest of restsOf(looks)) {
        const known = this.#rests.get(rest);
        if (known) known.add(looks);
        else this.#rests.set(rest, new Set([looks]));
      }
    }
  }

  /** The tag that a mistyped one most likely means; null where none is so near, or several are. */
  of(written: string): string | null {
    const looks = plain(written);
    const same = this.#same.get(looks);
    if (same) return same.length === 1 ? same[0]! : null;
    const near = new Set(restsOf(looks).flatMap((rest) => [...(this.#rests.get(rest) ?? [])]));
    const meant = [...near].filter((other) => isOneOff(other, looks)).flatMap((other) => this.#same.get(other)!);
    return meant.length === 1 ? meant[0]! : null;
  }
}

/** A tag, and what is left of it when any one of its signs is missing. */
const restsOf = (tag: string): string[] => [tag, ...Array.from(tag, (_, i) => tag.slice(0, i) + tag.slice(i + 1))];

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
