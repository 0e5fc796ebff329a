import { CROSSING_TAKES } from './crossing.ts';
import type { LineToBuild } from './parts.ts';

/**
 * Person-hours of work at lines. From memory: two people hang some 300 m of main line on its wire in a day; a lateral of five taps
 * takes them an hour; a drop is cut and fitted in six minutes.
 */
export const LINE_HOURS = {
  /** a metre on a wire of its own, posts and ties included, and one drawn tight by hand */
  wireMetre: 0.05,
  handMetre: 0.02,
  /** line into line */
  join: 0.5,
  drop: 0.1
} as const;
/** Of the hours that a line took to put up, so many take it down, put it up once it is cut, and mend it where it stays up. Working assumptions. */
export const LINE_AGAIN = { down: 0.3, up: 0.5, mend: 0.15 } as const;
/** The true hours are within a factor of this, eight times in ten: ground, snow and practice. Working assumption. */
export const LINE_HOURS_SPREAD = 1.5;

/** Person-hours at lines. */
export interface LineWork {
  /** to put all of it up for the first time */
  readonly build: number;
  /** each year: to take down what does not stay up, and to put it up again */
  readonly down: number;
  readonly up: number;
  /** each year: to mend what stays up */
  readonly mend: number;
  /** each year, if all of it stayed up, or all was taken down */
  readonly ifAll: { readonly staysUp: number; readonly comesDown: number };
}

/** What lines cost in work. */
export function workAt(lines: readonly (LineToBuild & { readonly staysUp: boolean })[]): LineWork {
  const hours = (line: LineToBuild) =>
    line.lengthM * (line.wire ? LINE_HOURS.wireMetre : LINE_HOURS.handMetre) +
    (line.joins ? LINE_HOURS.join : 0) +
    CROSSING_TAKES.hours * line.crossings.length +
    LINE_HOURS.drop * line.dropsMm.length;
  const sum = (of: readonly LineToBuild[]) => of.reduce((all, line) => all + hours(line), 0);
  const [build, staying] = [sum(lines), sum(lines.filter(({ staysUp }) => staysUp))];
  const coming = build - staying;
  return {
    build,
    down: LINE_AGAIN.down * coming,
    up: LINE_AGAIN.up * coming,
    mend: LINE_AGAIN.mend * staying,
    ifAll: { staysUp: LINE_AGAIN.mend * build, comesDown: (LINE_AGAIN.down + LINE_AGAIN.up) * build }
  };
}
