/** The entries of a table of words, with its keys as they are typed. */
export const entriesOf = <K extends string, V>(words: Readonly<Record<K, V>>): [K, V][] =>
  Object.entries(words) as [K, V][];
