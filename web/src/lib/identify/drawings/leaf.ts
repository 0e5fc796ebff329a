import { LEAF, through, type Point, type Stroke } from './stroke.ts';

/** Leaves from a few numbers: where the lobes point, how deep and how round the notches are, what the edge is like. */
interface LobedForm {
  /** directions of the lobes, degrees from straight up */
  readonly lobes: readonly number[];
  /** length of each lobe */
  readonly lengths: readonly number[];
  /** how far out the notches end, as a share of the shorter lobe beside them */
  readonly notch: number;
  /** a bay between the lobes instead of a point */
  readonly round: boolean;
  /** half the width of a lobe at its shoulders, degrees */
  readonly broad: number;
}

/** Number of teeth on a stretch of edge and how far they stand out. */
interface Teeth {
  readonly count: number;
  readonly depth: number;
}

const SMOOTH: Teeth = { count: 0, depth: 0 };
const FINE: Teeth = { count: 11, depth: 1.3 };
const BASE: Point = [50, 70];

const MAPLE: LobedForm = {
  lobes: [-108, -50, 0, 50, 108],
  lengths: [34, 50, 60, 50, 34],
  notch: 0.5,
  round: true,
  broad: 13
};

const polar = (angle: number, r: number): Point => [
  BASE[0] + r * Math.sin((angle * Math.PI) / 180),
  BASE[1] - r * Math.cos((angle * Math.PI) / 180)
];
const at = (angle: number, r: number) =>
  polar(angle, r)
    .map((n) => n.toFixed(1))
    .join(' ');

/** A leaf with lobes and ribs from one point. */
function lobed({ lobes, lengths, notch, round, broad }: LobedForm, fill = LEAF): Stroke[] {
  let outline = `M${BASE[0]} ${BASE[1] + 2}`;
  lobes.forEach((angle, i) => {
    const length = lengths[i]!;
    outline += ` L${at(angle - broad, length * 0.74)} L${at(angle, length)} L${at(angle + broad, length * 0.74)}`;
    if (i + 1 === lobes.length) return;
    const depth = notch * Math.min(length, lengths[i + 1]!);
    const middle = (angle + lobes[i + 1]!) / 2;
    outline += round
      ? ` C${at(middle - 9, depth * 0.82)} ${at(middle + 9, depth * 0.82)} ${at(lobes[i + 1]! - broad, lengths[i + 1]! * 0.74)}`
      : ` L${at(middle, depth)}`;
  });
  return [
    { d: 'M50 70 L50 97', width: 2 },
    { d: `${outline} Z`, width: 1.6, fill },
    ...lobes.map((angle, i): Stroke => ({ d: through([BASE, polar(angle, lengths[i]! * 0.86)]), width: 1 }))
  ];
}

/** One plain blade with a rib. */
function blade(at: Point, length: number, lean: number, teeth: Teeth): Stroke[] {
  const turn = (x: number, y: number): Point => {
    const a = (lean * Math.PI) / 180;
    return [at[0] + x * Math.cos(a) - y * Math.sin(a), at[1] + x * Math.sin(a) + y * Math.cos(a)];
  };
  const STEPS = 40;
  const edge = (side: number) =>
    Array.from({ length: STEPS + 1 }, (_, k) => {
      const t = k / STEPS;
      const width = 0.3 * length * Math.sin(Math.PI * t ** 0.85);
      const saw = teeth.count === 0 ? 0 : teeth.depth * ((t * teeth.count) % 1);
      return turn(side * (width + saw), -t * length);
    });
  return [
    { d: through([...edge(-1), ...edge(1).reverse()], true), width: 1.5, fill: LEAF },
    { d: through([turn(0, length * 0.12), turn(0, -length * 0.9)]), width: 1 }
  ];
}

export function leafForm(state: string): Stroke[] {
  switch (state) {
    case 'five':
      return lobed(MAPLE);
    case 'three':
      return lobed({
        lobes: [-118, -46, 0, 46, 118],
        lengths: [22, 46, 58, 46, 22],
        notch: 0.6,
        round: false,
        broad: 14
      });
    case 'feather':
      return [
        { d: 'M50 97 V30', width: 2 },
        ...[80, 58, 38].flatMap((y) => [-1, 1].flatMap((side) => blade([50 + side * 3, y], 34, side * 62, SMOOTH))),
        ...blade([50, 34], 30, 0, SMOOTH)
      ];
    case 'hand':
      return [
        { d: 'M50 97 V62', width: 2 },
        ...[-100, -62, -28, 0, 28, 62, 100].flatMap((lean) => blade([50, 62], 44, lean, FINE))
      ];
    case 'alongRib':
      return [
        {
          d: 'M50 88 C 40 84 36 78 42 72 C 26 74 20 62 40 58 C 20 58 18 44 40 42 C 26 40 28 26 43 28 C 42 18 46 12 50 10 C 54 12 58 18 57 28 C 72 26 74 40 60 42 C 82 44 80 58 60 58 C 80 62 74 74 58 72 C 64 78 60 84 50 88 Z',
          width: 1.6,
          fill: LEAF
        },
        {
          d: 'M50 98 V14 M50 70 L34 66 M50 70 L66 66 M50 54 L30 50 M50 54 L70 50 M50 38 L36 34 M50 38 L64 34',
          width: 1
        }
      ];
    case 'needles':
      return needles();
    default:
      return [{ d: 'M50 98 V84', width: 2 }, ...blade([50, 86], 76, 0, SMOOTH)];
  }
}

export function leafNotch(state: string): Stroke[] {
  const form = {
    rounded: { notch: 0.5, round: true, broad: 12 },
    sharp: { notch: 0.5, round: false, broad: 15 },
    deep: { notch: 0.2, round: false, broad: 12 },
    shallow: { notch: 0.86, round: false, broad: 12 }
  }[state];
  return lobed({ ...MAPLE, ...form });
}

export function leafMargin(state: string): Stroke[] {
  const teeth = { smooth: SMOOTH, coarse: { count: 9, depth: 5 }, fine: { count: 26, depth: 2.2 } }[state] ?? SMOOTH;
  return blade([50, 96], 92, 0, teeth);
}

export function leafUnderside(state: string): Stroke[] {
  const fill = { paleGreen: '#bcd198', whitened: '#e9ece2', silver: '#c9d3d8', velvet: '#b3c48a' }[state];
  const strokes = lobed(MAPLE, fill);
  if (state === 'silver')
    strokes.push({ d: 'M40 34 l8 8 M58 30 l8 8 M44 52 l8 8 M28 48 l6 6', width: 2, ink: '#ffffff' });
  if (state === 'whitened')
    strokes.push({ d: 'M38 40 h6 M56 36 h6 M48 52 h6 M32 52 h5 M62 50 h5', width: 1.4, opacity: 0.5 });
  if (state === 'velvet')
    for (let i = 0; i < 22; i++)
      strokes.push({ d: `M${30 + (i % 7) * 6.5} ${34 + Math.floor(i / 7) * 9} l1.6 -4.5`, width: 0.9 });
  return strokes;
}

/** A sprig with needles on both sides. */
export function needles(): Stroke[] {
  return [
    { d: 'M50 98 C 49 70 51 40 50 12', width: 2.4 },
    ...Array.from({ length: 15 }, (_, i) => 16 + i * 5.4).flatMap((y): Stroke[] =>
      [-1, 1].map((side) => ({ d: `M50 ${y} l${side * 17} -6`, width: 2, ink: '#5c7a3a' }))
    )
  ];
}

/** Winged seeds as they lie on the ground. */
export function fallenKeys(state: string): Stroke[] {
  return [
    ...keys(state),
    { d: 'M4 92 q12 -5 24 0 t24 0 t24 0 t20 0', width: 2 },
    { d: 'M14 97 h8 M40 98 h10 M70 97 h9', width: 1.4, opacity: 0.6 }
  ];
}

/** A broken leaf stalk with white drops, or none. */
export function stalkSap(milky: boolean): Stroke[] {
  return [
    { d: 'M20 4 C 34 10 44 18 50 30 C 56 18 66 10 80 4', width: 1.6, fill: LEAF },
    { d: 'M50 26 C 49 38 51 48 50 60', width: 6, ink: '#7c9150' },
    { d: 'M46 60 l3 -3 l3 3 l3 -3', width: 1.6 },
    ...(milky
      ? [{ d: 'M50 62 q12 16 0 23 q-12 -7 0 -23 Z M62 78 q7 9 0 14 q-7 -5 0 -14 Z', width: 1.6, fill: '#ffffff' }]
      : [])
  ];
}

/** Winged seeds by the angle between the wings; a single paddle; or something without wings. */
export function keys(state: string): Stroke[] {
  const wing = (lean: number, length: number): Stroke[] => {
    const a = (lean * Math.PI) / 180;
    const at = (along: number, across: number): string => {
      const [x, y] = [50 + along * Math.sin(a) + across * Math.cos(a), 36 + along * Math.cos(a) - across * Math.sin(a)];
      return `${x.toFixed(1)} ${y.toFixed(1)}`;
    };
    const s = lean > 0 ? 1 : -1;
    return [
      {
        d: `M${at(4, 0)} C ${at(length * 0.4, s * 5)} ${at(length * 0.6, s * 6)} ${at(length, s * 3)} C ${at(length * 1.08, s * -8)} ${at(length * 0.7, s * -15)} ${at(14, s * -6)} Z`,
        width: 1.5,
        fill: '#cdb98a'
      },
      {
        d: `M${at(0, 0)} C ${at(6, s * 7)} ${at(14, s * 5)} ${at(15, s * -2)} C ${at(10, s * -9)} ${at(2, s * -6)} ${at(0, 0)} Z`,
        width: 1.5,
        fill: '#8fae5d'
      }
    ];
  };
  const pair = (half: number, length: number): Stroke[] => [
    { d: 'M50 8 V36', width: 1.8 },
    ...wing(-half, length),
    ...wing(half, length)
  ];
  switch (state) {
    case 'horseshoe':
      return pair(16, 50);
    case 'vee':
      return pair(36, 40);
    case 'wide':
      return pair(82, 44);
    case 'paddle':
      return [30, 50, 70].flatMap((x, i): Stroke[] => [
        { d: `M50 4 Q${x} 10 ${x} 24`, width: 1.4 },
        {
          d: `M${x} 24 C ${x - 3} 34 ${x - 8} 52 ${x - 5} ${84 + (i % 2) * 8} Q${x} ${94 + (i % 2) * 4} ${x + 5} ${84 + (i % 2) * 8} C ${x + 8} 52 ${x + 3} 34 ${x} 24 Z`,
          width: 1.5,
          fill: '#cdb98a'
        }
      ]);
    default:
      return [
        { d: 'M32 40 C 24 56 28 76 38 82 C 48 76 52 56 44 40 Z', width: 1.6, fill: '#a9793f' },
        { d: 'M28 42 q10 -16 20 0 q-10 6 -20 0 Z', width: 1.6, fill: '#7c6a4d' },
        { d: 'M70 20 q5 8 0 14 q5 8 0 14 q5 8 0 14 q5 8 0 14', width: 5, ink: '#b59a55' }
      ];
  }
}
