import { BARK, BLACK, BROWN, DOWN, GREEN, RED, type Point, type Stroke } from './stroke.ts';

export interface BudForm {
  readonly width: number;
  readonly height: number;
  /** 0 a dome, 1 a sharp point */
  readonly point: number;
  readonly scales: number;
  readonly colour: string;
  readonly stalk: number;
  readonly side: boolean;
}

export const BUDS: Readonly<Record<string, BudForm>> = {
  sharpScaly: { width: 17, height: 52, point: 1, scales: 6, colour: BROWN, stalk: 0, side: true },
  rounded: { width: 22, height: 30, point: 0.2, scales: 2, colour: BROWN, stalk: 0, side: true },
  largeBlunt: { width: 30, height: 48, point: 0.4, scales: 2, colour: BROWN, stalk: 0, side: true },
  domed: { width: 34, height: 27, point: 0.05, scales: 1, colour: BROWN, stalk: 0, side: true },
  stalked: { width: 15, height: 44, point: 0.75, scales: 1, colour: BROWN, stalk: 16, side: true },
  downy: { width: 22, height: 34, point: 0.4, scales: 2, colour: DOWN, stalk: 0, side: true },
  longSpear: { width: 8, height: 74, point: 1, scales: 9, colour: BROWN, stalk: 0, side: false }
};

/** A bud at the tip of a twig, with or without its neighbours. */
export function bud(form: BudForm): Stroke[] {
  const base = 84 - form.stalk;
  const stout = form.width > 28 ? 13 : 7;
  const strokes: Stroke[] = [
    {
      d: `M${50 - stout / 2} 99 L${50 - stout / 2} 84 Q50 80 ${50 + stout / 2} 84 L${50 + stout / 2} 99`,
      width: 2,
      fill: BARK
    }
  ];
  if (form.side)
    for (const side of [-1, 1])
      strokes.push(
        ...oneBud(
          { ...form, width: form.width * 0.55, height: form.height * 0.5 },
          50 + side * (form.width * 0.62 + 3),
          base
        )
      );
  if (form.stalk > 0) strokes.push({ d: `M50 86 V${base}`, width: 3.5 });
  strokes.push(...oneBud(form, 50, base));
  return strokes;
}

export function oneBud(form: BudForm, x: number, base: number): Stroke[] {
  const { width: w, height: h, point } = form;
  const shoulder = base - h * (0.35 + 0.25 * (1 - point));
  const tipWidth = (w / 2) * (1 - point) * 0.9;
  const outline = `M${x - w * 0.28} ${base} C ${x - w * 0.62} ${base - h * 0.25} ${x - w * 0.5 - tipWidth * 0.2} ${shoulder} ${x - tipWidth * 0.6} ${base - h + tipWidth * 0.35} Q ${x} ${base - h - tipWidth * 0.2} ${x + tipWidth * 0.6} ${base - h + tipWidth * 0.35} C ${x + w * 0.5 + tipWidth * 0.2} ${shoulder} ${x + w * 0.62} ${base - h * 0.25} ${x + w * 0.28} ${base} Z`;
  const strokes: Stroke[] = [{ d: outline, width: 1.8, fill: form.colour }];
  for (let i = 1; i <= form.scales; i++) {
    const y = base - (h * 0.86 * i) / (form.scales + 1);
    const half = w * 0.42 * (1 - (point * i) / (form.scales + 1.4));
    strokes.push({
      d: `M${x - half} ${y + 2} Q ${x} ${y - h * 0.1 - 3} ${x + half} ${y + 2}`,
      width: 1.1,
      opacity: 0.8
    });
  }
  if (form.colour === DOWN)
    for (let i = 0; i < 7; i++)
      strokes.push({ d: `M${x - w * 0.45 + (i * w) / 7} ${base - h * 0.3 - (i % 3) * h * 0.16} l-3 -4`, width: 0.9 });
  return strokes;
}

const COLOURS: Readonly<Record<string, string>> = { brown: BROWN, red: RED, greenMaroon: GREEN, black: BLACK };

/** One large bud in its colour, and nothing else to look at. */
export function budOfColour(state: string): Stroke[] {
  return bud({ ...BUDS.sharpScaly!, colour: COLOURS[state] ?? BROWN, width: 26, side: false });
}

/** A large bud shining with gum. */
export function stickyBud(): Stroke[] {
  const form: BudForm = { width: 32, height: 56, point: 0.75, scales: 4, colour: BROWN, stalk: 0, side: false };
  return [
    ...bud(form),
    { d: 'M42 70 Q40 54 47 42', width: 2.4, ink: '#ffffff', opacity: 0.9 },
    { d: 'M66 62 q5 6 0 10 q-5 -4 0 -10 Z M33 52 q4 5 0 8 q-4 -3 0 -8 Z', width: 1.2, fill: '#e8d9a8' }
  ];
}

/** A plump bud with one cheek bigger than the other. */
export function lopsidedBud(): Stroke[] {
  return [
    { d: 'M46 99 L46 82 Q50 79 54 82 L54 99', width: 2, fill: BARK },
    { d: 'M46 82 C 28 76 30 46 48 34 C 56 40 72 44 70 62 C 69 74 62 82 54 82 Z', width: 1.8, fill: BROWN },
    { d: 'M48 35 C 42 52 44 68 50 81 M52 44 C 64 50 66 62 58 78', width: 1.2 }
  ];
}

const SMALL: BudForm = { width: 11, height: 22, point: 0.8, scales: 3, colour: BROWN, stalk: 0, side: false };

/** How the buds stand at the tip of a twig. */
export function grouping(state: string): Stroke[] {
  const twig: Stroke = { d: 'M50 99 V46', width: 5, ink: BARK };
  switch (state) {
    case 'bunches': {
      const ball: BudForm = { ...SMALL, width: 13, height: 14, point: 0.15, scales: 1, colour: RED };
      const places: Point[] = [84, 64, 46].flatMap((y) =>
        [-16, -7, 7, 16].map((dx): Point => [50 + dx, y - Math.abs(dx) * 0.2])
      );
      return [twig, ...places.flatMap(([x, y]) => oneBud(ball, x, y)), ...oneBud(ball, 50, 40)];
    }
    case 'single':
      return [
        twig,
        ...oneBud({ ...SMALL, width: 16, height: 32 }, 50, 48),
        ...oneBud({ ...SMALL, width: 9, height: 15 }, 60, 84)
      ];
    case 'thorn':
      return [
        { d: 'M50 99 V40', width: 5, ink: BARK },
        { d: 'M47.5 42 L50 8 L52.5 42 Z', width: 1.4, fill: BROWN },
        ...[-9, 9].flatMap((dx) => oneBud({ ...SMALL, width: 9, height: 17 }, 50 + dx, 62)),
        { d: 'M50 84 L66 74', width: 2.4 }
      ];
    case 'crowded':
      return [
        twig,
        ...[-22, -11, 0, 11, 22].flatMap((dx) =>
          oneBud({ ...SMALL, width: 13, height: 26 }, 50 + dx, 52 + Math.abs(dx) * 0.25)
        )
      ];
    default:
      return [
        twig,
        ...[-13, 13].flatMap((dx) => oneBud({ ...SMALL, width: 10, height: 18 }, 50 + dx, 49)),
        ...oneBud({ ...SMALL, width: 17, height: 38 }, 50, 48)
      ];
  }
}

/** A bud still tight, or swelling. */
export function stage(swollen: boolean): Stroke[] {
  if (!swollen) return bud({ ...BUDS.sharpScaly!, width: 18, side: false });
  return [
    ...bud({ ...BUDS.sharpScaly!, width: 36, height: 58, point: 0.7, colour: RED, side: false }),
    { d: 'M36 66 Q50 56 64 66 M38 52 Q50 43 62 52', width: 3, ink: '#f0e2b8' }
  ];
}
