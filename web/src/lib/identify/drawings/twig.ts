import { BROWN, GREEN, RED, through, type Point, type Stroke } from './stroke.ts';

/** A twig with its buds in pairs or one by one. */
export function twig(opposite: boolean): Stroke[] {
  const strokes: Stroke[] = [{ d: 'M50 98 C 47 70 53 45 50 14', width: 4 }];
  const levels = [24, 44, 64, 84];
  levels.forEach((y, i) => {
    for (const side of opposite ? [-1, 1] : [i % 2 ? 1 : -1]) {
      const tip = [50 + side * 24, y - 15] as const;
      strokes.push({ d: `M50 ${y} Q ${50 + side * 10} ${y - 4} ${tip[0]} ${tip[1]}`, width: 2.6 });
      strokes.push({ d: leafBud(tip, side * 40, 5, 11), width: 1.4, fill: BROWN });
    }
  });
  strokes.push({ d: leafBud([50, 16], 0, 6, 15), width: 1.6, fill: BROWN });
  return strokes;
}

/** A small pointed bud at a place, leaning by an angle. */
function leafBud([x, y]: Point, lean: number, width: number, height: number): string {
  const a = (lean * Math.PI) / 180;
  const tip = [x + height * Math.sin(a), y - height * Math.cos(a)] as const;
  const [cx, cy] = [Math.cos(a) * width, Math.sin(a) * width];
  return `M${x} ${y} C ${x - cx} ${y - cy} ${tip[0] - cx * 0.5} ${tip[1] - cy * 0.5} ${tip[0]} ${tip[1]} C ${tip[0] + cx * 0.5} ${tip[1] + cy * 0.5} ${x + cx} ${y + cy} ${x} ${y} Z`;
}

/** The end of a twig beside a pencil, for its size. */
export function stoutness(state: string): Stroke[] {
  const [width, bud] = { slim: [3.5, 7], medium: [8, 11], stout: [15, 18] }[state] ?? [8, 11];
  const edge = width! / 2;
  return [
    // The pencil.
    { d: 'M74 99 V30 L79 16 L84 30 V99', width: 1.4, fill: '#e3c36b' },
    { d: 'M77.6 20 L79 16 L80.4 20 Z', width: 1, fill: '#3b332d' },
    {
      d: `M${38 - edge * 1.15} 99 L${38 - edge} 34 H${38 + edge} L${38 + edge * 1.15} 99`,
      width: 1.8,
      fill: '#9a9187'
    },
    ...[52, 76].map((y): Stroke => ({ d: `M${38 - edge} ${y} q${edge} 4 ${width} 0`, width: 1.2 })),
    { d: leafBud([38, 36], 0, bud!, bud! * 1.5), width: 1.5, fill: BROWN }
  ];
}

const COLOURS: Readonly<Record<string, string>> = { brown: BROWN, red: RED, green: GREEN, grey: '#a5a39c' };

/** A length of twig in its colour. */
export function twigOfColour(state: string): Stroke[] {
  const specks: Stroke[] = [22, 40, 58, 76].map((y, i) => ({
    d: `M${44 + (i % 2) * 9} ${y} v5`,
    width: 1.6,
    ink: '#f3ead6',
    opacity: 0.8
  }));
  const sheen: Stroke[] = state === 'green' ? [{ d: 'M45 18 V92', width: 3, ink: '#8d6f93', opacity: 0.8 }] : [];
  return [
    { d: 'M40 96 C 38 60 41 34 43 8 H58 C 60 34 61 60 62 96 Z', width: 1.8, fill: COLOURS[state] ?? BROWN },
    ...sheen,
    ...specks,
    { d: 'M40 48 q-9 -3 -11 -11 q9 0 12 7', width: 1.4, fill: COLOURS[state] ?? BROWN }
  ];
}

/** A broken twig and what the nose gets of it. */
export function smell(state: string): Stroke[] {
  const broken: Stroke[] = [
    { d: 'M24 98 L40 60 L46 52 L52 57 L49 64 L36 98 Z', width: 1.8, fill: BROWN },
    { d: 'M40 60 L46 52 L52 57 L49 64 Z', width: 1.4, fill: '#f1e5c6' }
  ];
  switch (state) {
    case 'rank':
      return [
        ...broken,
        ...[0, 14, 28].map((dx): Stroke => ({ d: `M${50 + dx} 44 l5 -7 l-8 -6 l8 -7 l-7 -7`, width: 2.2 }))
      ];
    case 'wintergreen':
      return [
        ...broken,
        ...[0, 16].map((dx): Stroke => ({ d: `M${52 + dx} 44 q6 -7 0 -14 q-6 -7 0 -14`, width: 1.8 })),
        { d: 'M66 78 q14 -18 26 -4 q-12 16 -26 4 Z M67 77 L90 74', width: 1.5, fill: '#8fae5d' }
      ];
    case 'almond':
      return [
        ...broken,
        ...[0, 16].map((dx): Stroke => ({ d: `M${52 + dx} 44 q6 -7 0 -14 q-6 -7 0 -14`, width: 1.8 })),
        { d: 'M70 90 C 60 82 66 64 78 58 C 86 70 84 86 70 90 Z M73 86 q0 -12 5 -22', width: 1.5, fill: '#c79a63' }
      ];
    default:
      return broken;
  }
}

/** A bare crown seen from a distance: sharply bent or smooth branches, with dry leaves or without. */
export function crown({ bent = false, leaves = false }: { bent?: boolean; leaves?: boolean }): Stroke[] {
  const arms: Point[][] = bent
    ? [
        [
          [50, 70],
          [30, 60],
          [26, 60],
          [24, 30]
        ],
        [
          [50, 58],
          [70, 48],
          [75, 48],
          [77, 18]
        ],
        [
          [50, 44],
          [38, 36],
          [37, 14]
        ]
      ]
    : [
        [
          [50, 70],
          [38, 54],
          [28, 34]
        ],
        [
          [50, 58],
          [62, 40],
          [72, 20]
        ],
        [
          [50, 44],
          [44, 28],
          [40, 12]
        ]
      ];
  const strokes: Stroke[] = [
    { d: 'M50 98 V40 L52 10', width: 4 },
    ...arms.map((points): Stroke => ({ d: through(points), width: 2.8 })),
    { d: 'M28 98 H72', width: 1.2 }
  ];
  if (!leaves) return strokes;
  const hanging = arms
    .flatMap((points) => points.slice(1))
    .concat([
      [52, 16],
      [34, 46],
      [64, 34],
      [44, 24],
      [58, 48]
    ]);
  return [
    ...strokes,
    ...hanging.flatMap(([x, y]): Stroke[] =>
      [-5, 4].map((dx) => ({ d: `M${x + dx} ${y} q-4 7 0 12 q5 -5 0 -12 Z`, width: 1.1, fill: '#d8b27a' }))
    )
  ];
}
