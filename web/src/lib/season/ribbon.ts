import type { StripDay } from '@baumkin/core/bush';
import { Z_EIGHTY } from '@baumkin/core/math';
import { DAY_HOURS, dayAfter, daysBetween, hourlyTemperatures, hourlyShares, RUNS_FROM } from '@baumkin/core/season';

/** How the strip lies on its paper. */
export interface RibbonPaper {
  readonly width: number;
  readonly height: number;
  /** ISO dates, both included */
  readonly from: string;
  readonly until: string;
}

/** A temperature above and below which the paper ends, °C. */
const [TOP_C, FOOT_C] = [18, -16];
/** Half the width of the ribbon where nothing runs, and what a day of index 1 adds at its best hour, px. */
const [THIN, SWELLS] = [1.6, 11];

/** A stretch of the ribbon, as the outline of a shape. */
export interface Stretch {
  readonly path: string;
  readonly what: 'frost' | 'thaw' | 'run';
  readonly foretold: boolean;
  /** run index of its day, 0..1 */
  readonly index: number;
  /** filled, not measured */
  readonly filled: boolean;
}

/** Where a moment lies across. @param on ISO date @param hour of it */
export const acrossAt = ({ width, from, until }: RibbonPaper, on: string, hour = 0): number =>
  ((daysBetween(from, on) + hour / DAY_HOURS) / (daysBetween(from, until) + 1)) * width;

/** Where a temperature lies up the paper. */
export const upAt = ({ height }: Pick<RibbonPaper, 'height'>, c: number): number =>
  ((TOP_C - Math.max(FOOT_C, Math.min(TOP_C, c))) / (TOP_C - FOOT_C)) * height;

/** The day at a place across. */
export const dayAcross = ({ width, from, until }: RibbonPaper, x: number): string =>
  dayAfter(
    from,
    Math.max(0, Math.min(daysBetween(from, until), Math.floor((x / width) * (daysBetween(from, until) + 1))))
  );

/** Days without a gap between them. */
function unbroken(days: readonly StripDay[]): StripDay[][] {
  const runs: StripDay[][] = [];
  for (const day of days) {
    const run = runs.at(-1);
    if (run && dayAfter(run.at(-1)!.on) === day.on) run.push(day);
    else runs.push([day]);
  }
  return runs;
}

/** What lies between two points of the outline. */
interface Point {
  readonly x: number;
  readonly y: number;
  /** what it swells by to both sides, where sap runs, px */
  readonly swells: number;
  readonly what: Stretch['what'];
  readonly day: StripDay;
}

/**
 * The ribbon: the air's own course through nights and days, swelling where sap runs. Each stretch is a shape of its own; they meet
 * without a seam.
 */
export function ribbonOf(days: readonly StripDay[], paper: RibbonPaper): Stretch[] {
  return unbroken(days).flatMap((run) => {
    const temperatures = hourlyTemperatures(run);
    const shares = hourlyShares(temperatures);
    const points = run.flatMap((day, i) =>
      Array.from({ length: DAY_HOURS }, (_, hour): Point => {
        const at = i * DAY_HOURS + hour;
        const runs = day.index >= RUNS_FROM && shares[at]! > 0;
        return {
          x: acrossAt(paper, day.on, hour + 0.5),
          y: upAt(paper, temperatures[at]!),
          swells: runs ? SWELLS * day.index * Math.min(1, shares[at]! * 8) : 0,
          what: runs ? 'run' : temperatures[at]! < 0 ? 'frost' : 'thaw',
          day
        };
      })
    );
    const stretches: Stretch[] = [];
    for (let from = 0; from < points.length - 1;) {
      const first = points[from + 1]!;
      let until = from + 1;
      while (
        until + 1 < points.length &&
        points[until + 1]!.what === first.what &&
        points[until + 1]!.day === first.day
      )
        until += 1;
      const part = points.slice(from, until + 1);
      stretches.push({
        path: outlineOf(part, points, from),
        what: first.what,
        foretold: first.day.from === 'forecast',
        index: first.day.index,
        filled: first.day.from === 'filled'
      });
      from = until;
    }
    return stretches;
  });
}

const px = (value: number) => value.toFixed(1);

/** The outline of a stretch: the line across its course, what it swells by straight up and down. */
function outlineOf(points: readonly Point[], all: readonly Point[], first: number): string {
  const sides = points.map(({ x, y, swells }, i) => {
    const before = all[first + i - 1] ?? points[i]!;
    const after = all[first + i + 1] ?? points[i]!;
    const [dx, dy] = [after.x - before.x, after.y - before.y];
    const length = Math.hypot(dx, dy) || 1;
    const [ax, ay] = [(-dy / length) * THIN, (dx / length) * THIN + swells];
    return [`${px(x - ax)} ${px(y - ay)}`, `${px(x + ax)} ${px(y + ay)}`] as const;
  });
  return `M${sides.map(([one]) => one).join('L')}L${sides
    .map(([, other]) => other)
    .reverse()
    .join('L')}Z`;
}

/** Between what the foretold days may lie, eight times in ten; empty where nothing is foretold. */
export function bandOf(days: readonly StripDay[], paper: RibbonPaper): string {
  const ahead = days.filter(({ sdC }) => sdC > 0);
  if (ahead.length === 0) return '';
  const moved = (by: number) =>
    hourlyTemperatures(ahead.map(({ minC, maxC, sdC }) => ({ minC: minC + by * sdC, maxC: maxC + by * sdC })));
  const points = (temperatures: Float64Array) =>
    Array.from(temperatures, (c, at) => {
      const day = ahead[Math.floor(at / DAY_HOURS)]!;
      return `${px(acrossAt(paper, day.on, (at % DAY_HOURS) + 0.5))} ${px(upAt(paper, c))}`;
    });
  return `M${points(moved(Z_EIGHTY)).join('L')}L${points(moved(-Z_EIGHTY)).reverse().join('L')}Z`;
}
