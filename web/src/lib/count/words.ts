import type { BindingLimit } from '@baumkin/core';

const COUNTS = ['rest', 'one tap', 'two taps', 'three taps', 'four taps'];

/** A count in words. */
export const tapWords = (n: number): string => COUNTS[n] ?? `${n} taps`;

export const BINDING_WORDS: Readonly<Record<Exclude<BindingLimit, 'species'>, string>> &
  Readonly<Record<string, string>> = {
  size: 'size',
  condition: 'condition',
  growth: 'growth',
  room: 'room'
};
