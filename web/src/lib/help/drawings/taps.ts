import { drawingOf } from '../../identify/drawings/index.ts';
import {
  above,
  arrow,
  box,
  brown,
  clear,
  disc,
  dotted,
  faint,
  hand,
  hole,
  ink,
  line,
  look,
  sheet,
  span,
  step,
  trunk,
  word,
  writing,
  type Piece
} from '../shapes.ts';

/** A curve that rises and one that falls away from it, over years. */
const overYears = (better: string, worse: string): Piece[] => [
  ink('M40 20V125H330'),
  word('years', 330, 141, 'end'),
  { d: 'M40 70C120 60 220 46 320 24V58C220 66 120 72 40 74Z', width: 0, fill: 'var(--color-secondary)', opacity: 0.3 },
  hand('M40 72C120 66 220 56 320 40'),
  dotted('M40 72C120 80 220 96 320 112'),
  word(better, 318, 78, 'end'),
  word(worse, 318, 97, 'end')
];

/** Drawings of holes, and of sap. */
export const TAPS = {
  schools: overYears('one way of tapping', 'another'),
  thirty: overYears('with thinning', 'without'),
  bark: [
    trunk(40, 6, 150, 138),
    clear(box(42, 6, 146, 138)),
    brown('M84 10C92 10 94 40 92 54C94 70 92 104 84 104C76 104 74 70 76 54C74 40 76 10 84 10Z'),
    hole(84, 56),
    word('old hole', 84, 122),
    hand(disc(146, 34, 9)),
    hole(146, 34, 3),
    step(1, 168, 20),
    ink(span([96, 56], [134, 56])),
    ink(span([112, 34], [112, 52])),
    step(2, 60, 30),
    { d: 'M236 100q10 -22 20 0t20 -2t18 2', width: 5, ink: 'var(--wood-clear)' },
    { d: 'M236 100q10 -22 20 0t20 -2t18 2', width: 1, ink: '#9b8a63' },
    word('pale: clear wood', 266, 122),
    { d: 'M236 50q10 -22 20 0t20 -2t18 2', width: 5, ink: 'var(--wood-stained)' },
    word('brown', 266, 70),
    step(3, 216, 76)
  ],
  stretches: [
    ...[
      [40, 100],
      [80, 56],
      [124, 96],
      [166, 50],
      [212, 92],
      [254, 46],
      [300, 88],
      [334, 48]
    ].flatMap(([x, y]) => above(x!, y!, 10)),
    hand(line([40, 100], [80, 56], [124, 96], [166, 50])),
    ink(line([212, 92], [254, 46], [300, 88], [334, 48]), 2.6),
    word('one person', 100, 134),
    word('another', 274, 134)
  ],
  shavings: [
    trunk(30, 8, 62, 134),
    hole(78, 74, 5),
    { d: 'M86 74q14 -24 24 0t24 -2t20 2', width: 6, ink: 'var(--wood-stained)' },
    word('what was drilled', 102, 104, 'start'),
    ink('M212 122H340M212 122V18'),
    { d: box(232, 76, 34, 46), width: 1.2, dash: true },
    { d: box(286, 44, 34, 78), width: 0, fill: 'var(--wood-stained)' },
    word('foretold', 249, 138),
    word('seen', 303, 138)
  ],
  frost: [
    ink('M30 76H336'),
    word('0 °', 24, 80, 'end'),
    hand('M34 70C60 130 80 130 104 80S144 16 168 66S210 130 236 84S280 18 330 60'),
    {
      d: 'M144 40c6 10 8 13 8 17a8 8 0 0 1 -16 0c0 -4 2 -7 8 -17ZM280 42c6 10 8 13 8 17a8 8 0 0 1 -16 0c0 -4 2 -7 8 -17Z',
      width: 1.2,
      fill: 'var(--color-info)',
      opacity: 0.7
    },
    word('frost', 76, 136),
    word('sap runs', 144, 20),
    word('frost', 214, 136)
  ],
  whenToDrill: [
    faint(Array.from({ length: 9 }, (_, i) => box(30 + i * 34, 50, 34, 34)).join('')),
    hand(box(166, 50, 34, 34), 3.4),
    hole(183, 67, 5),
    word('a week earlier', 100, 42),
    word('a week later', 266, 42),
    hand(arrow([166, 104], [110, 104])),
    hand(arrow([200, 104], [256, 104])),
    word('each has its price', 183, 136)
  ],
  bucket: [
    trunk(60, 6, 60, 138),
    ink('M112 54l20 6'),
    sheet('M124 62h62l-7 62h-48Z'),
    { d: 'M127 88h56l-4 36h-48Z', width: 0, fill: 'var(--color-info)', opacity: 0.4 },
    hand(span([198, 88], [198, 124])),
    sheet(box(236, 44, 92, 62)),
    writing(248, 62, [66, 50, 60], 14),
    word('so much, from here', 282, 126)
  ],
  sag: [
    ink('M16 96L344 138'),
    ...[50, 190, 320].map((x) => trunk(x, 8, 14, 90 + x / 9)),
    hand('M64 44L190 62C230 92 276 96 320 78', 3),
    {
      d: 'M250 92c5 8 7 11 7 15a7 7 0 0 1 -14 0c0 -4 2 -7 7 -15Z',
      width: 1.2,
      fill: 'var(--color-info)',
      opacity: 0.7
    },
    word('falls evenly', 130, 40),
    word('sags: sap stands', 256, 60)
  ],
  boil: [
    ink('M40 82h120l-10 34h-100Z'),
    faint('M70 70c-6 -10 6 -14 0 -26M100 70c-6 -10 6 -14 0 -26M130 70c-6 -10 6 -14 0 -26'),
    { d: 'M46 92h108l-6 24h-96Z', width: 0, fill: 'var(--color-info)', opacity: 0.35 },
    ink('M76 138q6 -18 12 0M100 138q6 -18 12 0'),
    word('sap', 100, 110),
    hand(arrow([180, 96], [228, 96])),
    sheet('M250 66h30v12l8 10v36h-46v-36l8 -10Z'),
    { d: 'M243 92h44v31h-44Z', width: 0, fill: 'var(--color-primary)', opacity: 0.75 },
    word('syrup', 265, 142)
  ],
  pull: [
    trunk(50, 6, 60, 138),
    hole(100, 66, 5),
    ink('M132 62h26l8 6v6h-8l-26 -2Z'),
    hand(arrow([112, 66], [130, 66], 5)),
    look(drawingOf('budStage', 'swollen'), 218, 10, 1.1),
    word('buds swell: the season ends', 268, 136)
  ],
  closing: [
    ...[0, 1, 2].flatMap((i): Piece[] => {
      const x = 70 + i * 110;
      return [clear(disc(x, 70, 34)), hole(x, 70, [13, 6, 0.1][i]!), ink(disc(x, 70, [15, 9, 3][i]!), 3)];
    }),
    word('open', 70, 126),
    word('closing', 180, 126),
    word('closed', 290, 126)
  ],
  gear: [
    ink('M40 60h44l10 8v8h-10l-44 -4Z'),
    word('× 40', 66, 106),
    sheet('M140 48h50l-6 44h-38Z'),
    ink('M144 48c0 -22 42 -22 42 0'),
    word('× 40', 165, 112),
    ink('M236 68l10 -6l10 10l10 -10l10 10l10 -10l10 10l12 -4'),
    hand('M306 68h28', 4),
    word('× 2', 270, 106),
    word('and some to spare', 180, 140)
  ],
  others: [
    trunk(50, 8, 46, 130),
    ink('M54 30h12M76 52h14M58 82h16M72 112h14', 2.4),
    word('birch', 112, 128, 'start'),
    hand('M150 84h56', 3),
    hand('M222 84h70', 3),
    faint('M130 84H340'),
    word('maples', 178, 72),
    word('birches', 256, 72),
    word('spring', 340, 104, 'end')
  ]
} as const satisfies Readonly<Record<string, readonly Piece[]>>;
