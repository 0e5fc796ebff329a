import { seededRng } from '../src/math/index.ts';

/* Two files as a steward has them: fifteen hundred trees and what was drilled, with faults in known numbers. */

/** How often each fault was put into the file of trees. */
export const IN_TREES = {
  trees: 1500,
  girthsAsDiameters: 200,
  undated: 90,
  short: { sm: 700, acsa3: 120, '?': 40 },
  strange: { 'hrd mpl': 7 },
  twoSizes: 12,
  sameTwice: 8,
  future: 5,
  noSize: 9
} as const;

const TODAY = { year: 2026, text: '2026-11-23' };
const two = (n: number) => String(n).padStart(2, '0');

/** The file of trees: semicolons, decimal commas, day before month, units in some cells. */
export function messyTrees(seed = 1): {
  readonly text: string;
  readonly girthLines: ReadonlySet<number>;
  readonly lines: number;
} {
  const rng = seededRng(seed);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(rng.uniform() * of.length)]!;
  const words = [
    ...Array<string>(IN_TREES.short.sm).fill('SM'),
    ...Array<string>(IN_TREES.short.acsa3).fill('ACSA3'),
    ...Array<string>(IN_TREES.short['?']).fill('?'),
    ...Array<string>(IN_TREES.strange['hrd mpl']).fill('hrd mpl')
  ];
  while (words.length < IN_TREES.trees) words.push(pick(['hard maple', 'A. rubrum', 'Sugar Maple', 'beech', 'maple']));
  shuffle(words, rng.uniform);

  // Girths were written down on two days, by somebody who had another tape.
  const girthDays = ['14/09/2023', '15/09/2023'];
  const others = Array.from({ length: 40 }, (_, i) => `${two(1 + (i % 28))}/${two(5 + (i % 5))}/${2019 + (i % 7)}`);
  const lines: string[] = [];
  const girthLines = new Set<number>();
  const faulty = (from: number, many: number) => (i: number) => i >= from && i < from + many;
  const [undated, future, noSize] = [
    faulty(300, IN_TREES.undated),
    faulty(500, IN_TREES.future),
    faulty(600, IN_TREES.noSize)
  ];
  const girth = faulty(800, IN_TREES.girthsAsDiameters);
  for (let i = 0; i < IN_TREES.trees; i++) {
    const cm = 34 * Math.exp(rng.normal(0, 0.22));
    const comma = (value: number) => value.toFixed(1).replace('.', ',');
    const size = girth(i)
      ? comma(cm * Math.PI)
      : noSize(i)
        ? pick(['a lot', 'big', 'see map'])
        : i % 25 === 0
          ? `${Math.floor(cm / 2.54)} ${pick(['1/2', '3/8', '1/4'])}"`
          : comma(cm);
    const day = undated(i) ? '' : future(i) ? '14/10/2027' : girth(i) ? girthDays[i % 2]! : others[i % others.length]!;
    if (girth(i)) girthLines.add(lines.length + 2);
    lines.push([i + 1, words[i], size, day, i % 30 === 0 ? 'seam on the S side' : ''].join(';'));
  }
  // The same tree twice: with another size of the same day, and word for word.
  for (let k = 0; k < IN_TREES.twoSizes; k++) {
    const [tag, word, , day] = lines[1020 + k]!.split(';');
    lines.push([tag, word, '61,5', day, ''].join(';'));
  }
  for (let k = 0; k < IN_TREES.sameTwice; k++) lines.push(lines[1100 + k]!);
  return { text: ['Tree #;Sp.;DBH;Date;Comments', ...lines].join('\r\n'), girthLines, lines: lines.length };
}

/** How often each fault was put into the file of holes. */
export const IN_HOLES = { holes: 4500, future: 6, twice: 15, mistyped: 10 } as const;

/** The file of holes: compass points, bits as fractions of an inch, some tags mistyped. */
export function messyHoles(seed = 2): string {
  const rng = seededRng(seed);
  const points = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'];
  const lines: string[] = [];
  for (let i = 0; i < IN_HOLES.holes; i++) {
    const tag = 1 + (i % IN_TREES.trees);
    const season = TODAY.year - Math.floor(i / IN_TREES.trees);
    // A letter for a figure, as in 1O1 for 101.
    const written =
      i >= 100 && i < 100 + IN_HOLES.mistyped ? String(tag).replace('1', 'I').replace('0', 'O') : String(tag);
    const year = i >= 40 && i < 40 + IN_HOLES.future ? 2199 : season;
    lines.push(
      `${written},${year},${points[Math.floor(rng.uniform() * 8)]},${90 + (i % 60)},${i % 2 ? '5/16' : '7/16'}`
    );
  }
  for (let k = 0; k < IN_HOLES.twice; k++) lines.push(lines[2000 + k]!);
  return ['Tag,Year tapped,Side,Height (cm),Bit', ...lines].join('\n');
}

function shuffle<T>(list: T[], uniform: () => number): void {
  for (let i = list.length - 1; i > 0; i--) {
    const j = Math.floor(uniform() * (i + 1));
    [list[i], list[j]] = [list[j]!, list[i]!];
  }
}
