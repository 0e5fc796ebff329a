const MARKS = /\p{M}/gu;
const NO_LETTERS = /[^\p{L}\p{N}]+/gu;
const MOST = 40;

/** A sign-in name that goes with somebody's name: "Änne van Dijk" signs in as "anne.van.dijk". */
export const signInNameFor = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(MARKS, '')
    .toLowerCase()
    .replace(NO_LETTERS, '.')
    .replace(/^\.|\.$/g, '')
    .slice(0, MOST);
