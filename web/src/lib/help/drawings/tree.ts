import { drawingOf } from '../../identify/drawings/index.ts';
import {
  above,
  arrow,
  bareTop,
  box,
  clear,
  disc,
  dotted,
  faint,
  hand,
  HAND,
  hole,
  ink,
  leaves,
  look,
  sheet,
  span,
  step,
  tick,
  tree,
  trunk,
  word,
  writing,
  type Piece
} from '../shapes.ts';

/** Drawings of a tree that is told, measured and given room. */
export const TREE = {
  looks: [
    look(drawingOf('arrangement', 'opposite'), 22, 14, 1.05),
    word('in pairs', 76, 136),
    look(drawingOf('arrangement', 'alternate'), 132, 14, 1.05),
    word('one by one', 184, 136),
    step(1, 30, 26),
    look(drawingOf('budShape', 'sharpScaly'), 240, 14, 1.05),
    hand(disc(292, 62, 44)),
    step(2, 336, 26),
    word('the next look', 292, 136)
  ],
  shares: [
    ...[0, 1, 2].flatMap((i) => {
      const y = 34 + i * 36;
      return [
        faint(`M80 ${y}H320`),
        { d: `M80 ${y}h${[190, 96, 30][i]!}`, width: 8, ink: 'var(--color-secondary)' } satisfies Piece,
        word(['79', '40', '12'][i]!, 68, y + 4, 'end')
      ];
    }),
    hand(disc(176, 70, 8)),
    hand(arrow([190, 70], [222, 70])),
    word('of a hundred trees', 320, 138, 'end')
  ],
  comesBack: [
    sheet(box(34, 24, 92, 96)),
    look(drawingOf('arrangement', 'opposite'), 44, 26, 0.72),
    hand(arrow([136, 72], [172, 72])),
    sheet(box(182, 30, 138, 24)),
    word('a maple, species open', 251, 46),
    tick(322, 42),
    sheet(box(182, 66, 138, 24)),
    word('sugar maple', 251, 82),
    dotted('M250 96C250 140 90 146 82 126', HAND),
    hand('M77 133L82 125L89 131', 2),
    word('said too soon: comes again', 96, 110, 'start')
  ],
  tape: [
    ink('M20 66L340 132'),
    trunk(150, 8, 44, 106),
    hand('M146 36h52', 4),
    ink(span([134, 36], [134, 92])),
    word('breast height,', 126, 42, 'end'),
    word('uphill side', 126, 56, 'end'),
    step(1, 134, 22),
    sheet(box(226, 18, 112, 34)),
    faint(Array.from({ length: 10 }, (_, i) => `M${234 + i * 11} 18v${i % 5 ? 8 : 14}`).join('')),
    hand('M278 12v34'),
    word('112.4', 284, 47, 'start'),
    step(2, 226, 18),
    clear(disc(296, 90, 24)),
    ink(disc(296, 90, 15), 1),
    step(3, 268, 76)
  ],
  growth: [
    clear(disc(92, 76, 58)),
    { d: disc(92, 76, 44), width: 1.4, dash: true, ink: '#2c2119' },
    { d: disc(92, 76, 4), width: 0, fill: '#2c2119' },
    hand(span([136, 76], [150, 76])),
    word('laid since the first reading', 160, 80, 'start'),
    ink('M176 118H336'),
    hand('M256 104V130'),
    word('too slow to cover a hole', 250, 142, 'end'),
    word('covers', 264, 142, 'start')
  ],
  plots: [
    ...[
      [40, 40],
      [96, 28],
      [150, 48],
      [60, 86],
      [110, 80],
      [164, 100],
      [220, 36],
      [276, 30],
      [318, 58],
      [238, 84],
      [292, 96],
      [210, 118],
      [80, 124],
      [330, 124]
    ].flatMap(([x, y]) => above(x!, y!, 8)),
    hand(disc(100, 78, 42)),
    hand(disc(266, 78, 42))
  ],
  stick: [
    ink(disc(44, 58, 8)),
    ink('M44 66V112M44 78L128 66'),
    hand('M128 40V92', 4),
    faint('M52 56L300 26M52 60L300 112'),
    { d: 'M52 58L128 46L290 22M52 58L128 86L290 118', width: 1, dash: true },
    trunk(282, 6, 48, 134),
    word('your arm', 88, 92),
    word('printed scale', 128, 110)
  ],
  crown: [
    ...tree(84, 132, 112),
    tick(40, 26),
    word('full', 120, 34, 'start'),
    step(2, 152, 30),
    ...bareTop(226, 132, 112),
    word('dead ends above', 254, 30, 'start'),
    hole(84, 116, 3),
    hole(76, 112, 3),
    hole(226, 116, 3),
    step(1, 104, 120)
  ],
  lateral: [
    ...above(100, 76, 34),
    ...above(40, 76, 32),
    faint('M76 52L124 100M124 52L76 100'),
    word('blocked', 40, 124),
    word('free', 148, 80, 'start'),
    ...bareTop(266, 132, 112),
    hand('M236 26H296'),
    word('how much is dead?', 266, 146)
  ],
  sides: [
    ...above(180, 76, 40),
    ...above(112, 66, 36),
    ...above(190, 8, 30),
    faint('M152 48L208 104M208 48L152 104'),
    step(1, 140, 100),
    hand('M100 54l24 24M124 54l-24 24'),
    step(2, 82, 40),
    word('free', 232, 80, 'start'),
    word('free', 180, 136)
  ],
  entry: [
    ...[
      [50, 60],
      [104, 96],
      [150, 46],
      [206, 92],
      [256, 50],
      [312, 90]
    ].flatMap(([x, y]) => above(x!, y!, 24)),
    hand('M94 86l20 20M114 86l-20 20M246 40l20 20M266 40l-20 20'),
    word('one entry takes so much, and no more', 180, 140)
  ],
  paint: [
    ...[50, 120, 190].flatMap((x) => [trunk(x, 8, 36, 130)]),
    hand('M50 62h36', 9),
    hand('M190 58h36', 9),
    sheet(box(262, 24, 76, 100)),
    writing(274, 44, [40, 50, 36, 46, 30], 15),
    word('who fells', 300, 140)
  ],
  young: [
    ink('M16 126H344'),
    ...tree(56, 126, 110),
    ...tree(304, 126, 110),
    dotted('M140 8L128 112M180 8L180 112M220 8L232 112', HAND),
    ...[136, 164, 196, 224].flatMap((x, i) => [
      ink(`M${x} 126v-${[18, 26, 14, 22][i]!}`),
      leaves(`M${x} ${126 - [18, 26, 14, 22][i]!}q-10 -4 -12 -12q10 0 12 12q2 -10 12 -12q0 10 -12 12Z`)
    ]),
    hand('M188 108l16 0'),
    word('bitten off', 180, 144)
  ]
} as const satisfies Readonly<Record<string, readonly Piece[]>>;
