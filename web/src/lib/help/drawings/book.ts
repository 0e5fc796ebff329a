import {
  above,
  arrow,
  box,
  disc,
  dotted,
  faint,
  hand,
  HAND,
  hole,
  ink,
  line,
  phone,
  sheet,
  step,
  tick,
  trunk,
  word,
  writing,
  type Piece
} from '../shapes.ts';

/** Rows of a list, the chosen ones ticked. */
const listed = (chosen: readonly number[]): Piece[] => [
  sheet(box(40, 14, 190, 122)),
  ...[0, 1, 2, 3, 4].flatMap((i) => {
    const y = 34 + i * 22;
    return [
      ink(box(52, y - 8, 12, 12), 1.2),
      writing(76, y, [90 + ((i * 37) % 50)]),
      ...(chosen.includes(i) ? [tick(53, y - 2)] : [])
    ];
  })
];

/** Drawings of the book itself: map, files, people, lists. */
export const BOOK = {
  nextJob: [
    ...[60, 110, 160, 215, 270].flatMap((x, i) => above(x, [96, 52, 104, 60, 100][i]!, 15)),
    dotted(line([60, 96], [160, 104], [110, 52], [270, 100], [215, 60])),
    hand(line([60, 96], [110, 52], [160, 104], [215, 60], [270, 100])),
    hand(arrow([20, 120], [44, 106])),
    step(1, 22, 104),
    step(2, 128, 36),
    step(3, 246, 58)
  ],
  map: [
    ...above(70, 104, 12),
    faint(arrow([70, 104], [70, 52])),
    word('N', 70, 46),
    hand(arrow([70, 104], [128, 66])),
    word('bearing and distance', 96, 128),
    ...above(134, 62, 12),
    step(1, 150, 82),
    ...[
      [226, 60],
      [256, 84],
      [278, 52]
    ].flatMap(([x, y]) => above(x!, y!, 11)),
    dotted('M206 66C206 30 262 24 292 36S300 104 258 106S206 90 206 66Z', HAND),
    step(2, 206, 32),
    ...above(330, 100, 11),
    { d: disc(330, 100, 11), width: 0, fill: 'var(--paint-blue)', opacity: 0.7 },
    step(3, 330, 124)
  ],
  ground: [
    faint(box(150, 14, 190, 124)),
    { d: 'M40 40L176 22L190 110L54 128Z', width: 1.4, fill: 'var(--color-base-300)' },
    faint('M60 60C90 40 120 80 180 50M62 90C96 70 130 106 186 84'),
    ink('M92 96l8 -10l8 10v10h-16Z'),
    ...[
      [40, 40],
      [176, 22],
      [190, 110],
      [54, 128]
    ].map(([x, y]) => hand(disc(x!, y!, 4), 2)),
    hand(arrow([190, 110], [244, 112])),
    ink('M262 104l8 -10l8 10v10h-16Z'),
    word('the same house', 270, 132)
  ],
  file: [
    sheet(box(24, 24, 84, 96)),
    faint('M24 44H108M24 63H108M24 82H108M24 101H108M52 24V120M80 24V120'),
    step(1, 24, 24),
    hand(arrow([116, 66], [150, 66])),
    sheet('M160 36h64a6 6 0 0 1 6 6v34a6 6 0 0 1 -6 6h-40l-12 12v-12h-12a6 6 0 0 1 -6 -6v-34a6 6 0 0 1 6 -6Z'),
    word('sugar maple?', 192, 56),
    tick(186, 68),
    step(2, 154, 36),
    hand(arrow([238, 66], [268, 66])),
    sheet('M276 36C290 30 302 30 312 38C322 30 336 30 348 36V104C336 98 322 98 312 106C302 98 290 98 276 104Z'),
    ink('M312 38V106', 1.2),
    writing(284, 54, [20, 20, 20, 20]),
    dotted('M300 116C270 140 120 142 92 128', HAND),
    hand('M98 134L92 127L101 126', 2),
    step(3, 196, 138)
  ],
  invite: [
    sheet(box(36, 24, 96, 96)),
    {
      d: [
        [46, 34],
        [100, 34],
        [46, 88]
      ]
        .map(([x, y]) => `M${x} ${y}h22v22h-22Z`)
        .join(''),
      width: 4
    },
    {
      d: 'M80 40h8v8h-8ZM76 66h8v8h-8ZM92 74h8v8h-8ZM108 66h10v8h-10ZM80 92h8v12h-8ZM96 94h10v8h-10ZM112 90h8v16h-8Z',
      width: 0,
      fill: 'currentColor'
    },
    step(1, 36, 24),
    hand(arrow([178, 66], [140, 66])),
    phone(186, 34),
    tick(202, 72),
    phone(250, 50),
    hand(disc(271, 98, 3), 2),
    word('2 wait', 271, 82),
    step(2, 250, 50),
    phone(312, 30),
    hand('M316 48l34 40M350 48l-34 40'),
    step(3, 312, 30)
  ],
  twoNotes: [
    sheet(box(50, 24, 96, 70)),
    word('18.2', 98, 54),
    writing(70, 70, [56]),
    sheet(box(214, 24, 96, 70)),
    word('21.8', 262, 54),
    writing(234, 70, [56]),
    word('or', 180, 64),
    hand(box(210, 20, 104, 78)),
    tick(288, 80),
    dotted('M98 100V122H150'),
    word('stays in the tree’s life', 154, 126, 'start')
  ],
  walk: [
    trunk(54, 12, 44, 126),
    hole(78, 76),
    hand(disc(78, 76, 11)),
    phone(120, 40),
    { d: disc(141, 66, 9), width: 0, fill: HAND },
    writing(128, 90, [26, 18]),
    step(1, 120, 40),
    hand(arrow([180, 76], [236, 76])),
    trunk(258, 12, 36, 126),
    hole(272, 60),
    word('next tree', 208, 98),
    step(2, 208, 56)
  ],
  card: [
    sheet(box(40, 18, 100, 114)),
    writing(52, 38, [60]),
    faint(box(52, 50, 76, 40)),
    hole(78, 66, 3),
    hand('M54 108q8 -10 14 0t14 0t14 -2'),
    hand('M104 100L128 66l8 5l-24 34l-10 5Z', 1.6),
    hand(arrow([156, 76], [196, 76])),
    sheet(box(210, 44, 124, 62)),
    faint(
      [0, 1, 2]
        .map((row) => Array.from({ length: 8 }, (_, i) => box(217 + i * 14, 51 + row * 17, 10, 11)).join(''))
        .join('')
    ),
    word('Place, Cards', 272, 126)
  ],
  life: [
    ink('M30 76H336'),
    ...[58, 130, 202, 274].map((x) => ({ d: disc(x, 76, 6), width: 0, fill: 'currentColor' }) satisfies Piece),
    word('newest', 58, 104),
    word('oldest', 320, 104),
    writing(110, 52, [44]),
    hand('M108 52H156'),
    writing(110, 38, [38]),
    writing(184, 52, [40, 0]),
    writing(38, 52, [42]),
    writing(256, 52, [40])
  ],
  chosen: [...listed([0, 2, 3]), hand(arrow([242, 76], [282, 76])), sheet(box(292, 60, 46, 32)), tick(309, 77)],
  year: [
    sheet(box(120, 8, 118, 134)),
    writing(134, 28, [70]),
    { d: 'M140 96v-26M160 96v-40M180 96v-18M200 96v-34', width: 10, ink: 'var(--color-primary)' },
    ink('M132 98H226', 1.2),
    writing(134, 114, [88, 60], 12)
  ]
} as const satisfies Readonly<Record<string, readonly Piece[]>>;
