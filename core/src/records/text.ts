import { z } from 'zod';

/** Control, bidirectional and zero-width characters: they cannot be seen, and make two names look like one. */
const UNSEEN = /[\p{Cc}\p{Cf}\p{Zl}\p{Zp}]/u;

/** A name or a tag in one line: what is written is what is seen. @param most characters */
export function lineOfText(most: number) {
  return z
    .string()
    .normalize('NFC')
    .trim()
    .min(1)
    .max(most)
    .refine((text) => !UNSEEN.test(text), 'holds a character that cannot be seen: write it anew');
}

/** Letters that case and accents do not take apart into plain ones. */
const PLAIN: Readonly<Record<string, string>> = { ß: 'ss', æ: 'ae', œ: 'oe', ø: 'o', ł: 'l', đ: 'd', ı: 'i' };

/**
 * What two tags have in common that people cannot tell apart on a trunk: `É 7` and `e 7`, `ß` and `ss`. One bush has each
 * key once.
 */
export function tagKey(tag: string): string {
  return tag
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[ßæœøłđı]/g, (letter) => PLAIN[letter]!)
    .replace(/\s+/g, ' ')
    .trim();
}

/** A name as it is looked up: compatible forms and case do not make another person. */
export function nameKey(name: string): string {
  return name.normalize('NFKC').trim().toLowerCase().replace(/ß/g, 'ss');
}
