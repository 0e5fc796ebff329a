import { seededRng, seedFrom, type CharacterId, type Rng } from '@baumkin/core';

/**
 * Line drawings of what to look for, made from parameters in a square of 100 by 100. Every drawing of a state is the
 * same each time: its jitter is seeded by its name.
 */
export interface Stroke {
  readonly d: string;
  /** line width; 0 for no line */
  readonly width?: number;
  /** fill colour; none by default */
  readonly fill?: string;
  readonly opacity?: number;
}

const BROWN = '#8a5a33';
const RED = '#a32f35';
const GREEN = '#6f8b3d';
const BLACK = '#3b332d';
const DOWN = '#d9d3c4';
const BARK = '#9a9187';

/** The drawing of a character's state. */
export function drawingOf(character: CharacterId, state: string): readonly Stroke[] {
  const rng = seededRng(seedFrom(`${character}/${state}`));
  switch (character) {
    case 'arrangement':
      return twig(state === 'opposite');
    case 'budShape':
      return bud(BUDS[state] ?? BUDS.sharpScaly!);
    case 'budColour':
      return bud({ ...BUDS.sharpScaly!, colour: BUD_COLOURS[state] ?? BROWN, width: 24, side: false });
    case 'barkYoung':
    case 'barkGrown':
      return bark(state, rng);
    case 'rub':
      return rub(state, rng);
    case 'staining':
      return stained(state === 'yes', rng);
    case 'oldTapholes':
      return tapholes(state === 'yes', rng);
  }
}

const BUD_COLOURS: Readonly<Record<string, string>> = { brown: BROWN, red: RED, greenMaroon: GREEN, black: BLACK };

function twig(opposite: boolean): Stroke[] {
  const strokes: Stroke[] = [{ d: 'M50 98 C 47 70 53 45 50 14', width: 4 }];
  const levels = [24, 44, 64, 84];
  levels.forEach((y, i) => {
    for (const side of opposite ? [-1, 1] : [i % 2 ? 1 : -1]) {
      const tip = [50 + side * 24, y - 15] as const;
      strokes.push({ d: `M50 ${y} Q ${50 + side * 10} ${y - 4} ${tip[0]} ${tip[1]}`, width: 2.6 });
      strokes.push({ d: leafBud(tip[0], tip[1], side * 40, 5, 11), width: 1.4, fill: BROWN });
    }
  });
  strokes.push({ d: leafBud(50, 16, 0, 6, 15), width: 1.6, fill: BROWN });
  return strokes;
}

/** A small pointed bud at a place, leaning by an angle. */
function leafBud(x: number, y: number, lean: number, width: number, height: number): string {
  const a = (lean * Math.PI) / 180;
  const tip = [x + height * Math.sin(a), y - height * Math.cos(a)] as const;
  const [cx, cy] = [Math.cos(a) * width, Math.sin(a) * width];
  return `M${x} ${y} C ${x - cx} ${y - cy} ${tip[0] - cx * 0.5} ${tip[1] - cy * 0.5} ${tip[0]} ${tip[1]} C ${tip[0] + cx * 0.5} ${tip[1] + cy * 0.5} ${x + cx} ${y + cy} ${x} ${y} Z`;
}

interface BudForm {
  readonly width: number;
  readonly height: number;
  /** 0 a dome, 1 a sharp point */
  readonly point: number;
  readonly scales: number;
  readonly colour: string;
  readonly stalk: number;
  readonly side: boolean;
  readonly cluster: boolean;
}

const BUDS: Readonly<Record<string, BudForm>> = {
  sharpScaly: { width: 17, height: 52, point: 1, scales: 6, colour: BROWN, stalk: 0, side: true, cluster: false },
  roundedClustered: { width: 15, height: 24, point: 0.25, scales: 2, colour: RED, stalk: 4, side: true, cluster: true },
  largeBlunt: { width: 30, height: 48, point: 0.4, scales: 2, colour: GREEN, stalk: 0, side: true, cluster: false },
  domed: { width: 34, height: 27, point: 0.05, scales: 1, colour: BLACK, stalk: 0, side: true, cluster: false },
  stalked: { width: 15, height: 44, point: 0.75, scales: 1, colour: RED, stalk: 16, side: true, cluster: false },
  downy: { width: 22, height: 34, point: 0.4, scales: 2, colour: DOWN, stalk: 0, side: true, cluster: false },
  longSpear: { width: 8, height: 74, point: 1, scales: 9, colour: BROWN, stalk: 0, side: false, cluster: false }
};

function bud(form: BudForm): Stroke[] {
  const base = 84 - form.stalk;
  const stout = form.width > 28 ? 13 : 7;
  const strokes: Stroke[] = [
    {
      d: `M${50 - stout / 2} 99 L${50 - stout / 2} 84 Q50 80 ${50 + stout / 2} 84 L${50 + stout / 2} 99`,
      width: 2,
      fill: BARK
    }
  ];
  if (form.cluster)
    for (const [dx, dy, s] of [
      [-17, 4, 0.8],
      [17, 4, 0.8],
      [-10, -10, 0.9],
      [11, -11, 0.9]
    ] as const)
      strokes.push(...oneBud({ ...form, width: form.width * s, height: form.height * s }, 50 + dx, base + dy));
  else if (form.side)
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

function oneBud(form: BudForm, x: number, base: number): Stroke[] {
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

/** A patch of bark, its plates fastened in the state's way. */
function bark(state: string, rng: Rng): Stroke[] {
  const strokes: Stroke[] = [{ d: 'M12 4 H88 V96 H12 Z', width: 0, fill: barkTone(state), opacity: 0.42 }];
  switch (state) {
    case 'oneEdge':
      for (let column = 0; column < 4; column++)
        for (let row = 0; row < 3; row++) {
          const x = 15 + column * 18 + rng.normal(0, 1.5);
          const y = 7 + row * 30 + (column % 2) * 9;
          const h = 22 + rng.uniform() * 6;
          // One firm edge, thin; the other lifts and throws a shadow.
          strokes.push({ d: `M${x} ${y} q-2 ${h / 2} 0 ${h}`, width: 1 });
          strokes.push({
            d: `M${x} ${y} C ${x + 8} ${y - 2} ${x + 15} ${y + 2} ${x + 13} ${y + 6} C ${x + 10} ${y + h * 0.4} ${x + 17} ${y + h * 0.7} ${x + 12} ${y + h} L${x} ${y + h}`,
            width: 1.3
          });
          strokes.push({
            d: `M${x + 14} ${y + 7} C ${x + 11} ${y + h * 0.45} ${x + 18} ${y + h * 0.7} ${x + 13} ${y + h}`,
            width: 3.4,
            opacity: 0.85
          });
        }
      break;
    case 'strips':
      for (let i = 0; i < 6; i++) {
        const x = 16 + i * 13 + rng.normal(0, 0.8);
        const y = 5 + rng.uniform() * 14;
        strokes.push({ d: `M${x} ${y} C ${x - 2} ${y + 25} ${x + 2} ${y + 50} ${x} ${y + 74}`, width: 2.4 });
        strokes.push({
          d: `M${x + 8} ${y + 4} C ${x + 10} ${y + 28} ${x + 6} ${y + 50} ${x + 9} ${y + 72}`,
          width: 2.4
        });
        strokes.push({ d: `M${x} ${y} l4 -3 l4 7 M${x} ${y + 74} l5 4 l4 -6`, width: 1.1 });
      }
      break;
    case 'diamonds':
      for (let i = 0; i < 6; i++) {
        const x = 12 + i * 15;
        const points = Array.from(
          { length: 9 },
          (_, k) => `${x + ((k + i) % 2 ? 6 : -6) + rng.normal(0, 0.8)} ${4 + k * 11.5}`
        );
        strokes.push({ d: `M${points.join(' L')}`, width: 2.2 });
      }
      break;
    case 'papery':
      for (let i = 0; i < 9; i++) {
        const y = 10 + i * 10;
        const x = 14 + rng.uniform() * 30;
        const length = 20 + rng.uniform() * 26;
        strokes.push({ d: `M${x} ${y} H${x + length} c7 0 8 -7 2 -7 c-4 0 -4 5 0 5`, width: 1.4 });
      }
      break;
    case 'burnt':
      for (let column = 0; column < 5; column++)
        for (let row = 0; row < 5; row++) {
          const x = 16 + column * 15 + rng.normal(0, 1.5);
          const y = 10 + row * 18 + (column % 2) * 8;
          strokes.push({
            d: `M${x} ${y} q6 -8 12 0 q-1 8 -5 11 q-6 -3 -7 -11 Z`,
            width: 1.5,
            fill: BLACK,
            opacity: 0.9
          });
        }
      break;
    case 'shreds':
      for (let i = 0; i < 22; i++) {
        const x = 14 + i * 3.4;
        const y = 4 + rng.uniform() * 40;
        strokes.push({
          d: `M${x} ${y} q${rng.normal(0, 1.5)} 20 ${rng.normal(0, 2)} ${26 + rng.uniform() * 26}`,
          width: 1.1
        });
      }
      break;
    case 'furrows':
      for (let i = 0; i < 6; i++) {
        const x = 17 + i * 13;
        strokes.push({
          d: `M${x} 4 C ${x + 5} 25 ${x - 5} 50 ${x + 2} 70 S ${x - 2} 90 ${x} 96`,
          width: 4.6,
          opacity: 0.8
        });
      }
      break;
    case 'stripes':
      for (let i = 0; i < 7; i++) {
        const x = 18 + i * 11;
        strokes.push({
          d: `M${x} 4 C ${x + 3} 30 ${x - 3} 60 ${x + 1} 96 h1.8 C ${x - 1} 60 ${x + 5} 30 ${x + 2} 4 Z`,
          width: 0,
          fill: '#ffffff'
        });
      }
      break;
    case 'dashes':
      for (let i = 0; i < 26; i++)
        strokes.push({
          d: `M${15 + rng.uniform() * 60} ${8 + rng.uniform() * 86} h${4 + rng.uniform() * 9}`,
          width: 1.9
        });
      break;
    case 'smoothBumps':
      for (let i = 0; i < 46; i++) {
        const [x, y] = [15 + rng.uniform() * 70, 7 + rng.uniform() * 86];
        strokes.push({ d: `M${x - 1.6} ${y} q1.6 -2.4 3.2 0`, width: 1.1 });
      }
      break;
    case 'greenish':
      for (let i = 0; i < 5; i++) {
        const [x, y] = [20 + rng.uniform() * 60, 12 + rng.uniform() * 76];
        strokes.push({ d: `M${x - 3} ${y} l3 -4 l3 4 l-3 4 Z`, width: 1.1 });
      }
      strokes.push({ d: 'M15 30 q34 6 70 0 M15 68 q34 6 70 0', width: 0.9 });
      break;
    default:
      // Smooth: a few faint level folds, as on skin.
      for (let i = 0; i < 4; i++)
        strokes.push({ d: `M15 ${18 + i * 21} q35 ${4 + rng.uniform() * 4} 70 0`, width: 0.9 });
      strokes.push({ d: 'M40 52 q10 -7 20 0 q-10 6 -20 0', width: 1.1 });
  }
  strokes.push({ d: 'M12 2 V98 M88 2 V98', width: 2.4 });
  return strokes;
}

function barkTone(state: string): string {
  switch (state) {
    case 'stripes':
    case 'greenish':
      return GREEN;
    case 'papery':
      return '#d8a94e';
    case 'burnt':
    case 'dashes':
      return '#6e5348';
    default:
      return BARK;
  }
}

function rub(state: string, rng: Rng): Stroke[] {
  const strokes = bark('oneEdge', rng).slice(0, 20);
  const glove: Stroke = {
    d: 'M30 96 L34 62 Q36 50 46 52 L70 54 Q80 56 78 66 L72 96 Z M46 52 L44 38 Q44 31 50 33 L54 52 M56 53 L57 34 Q59 28 64 32 L64 54',
    width: 2,
    fill: '#c9b79a'
  };
  if (state === 'holds') return [...strokes, glove];
  if (state === 'chips') {
    const chips = Array.from({ length: 9 }, (): Stroke => {
      const [x, y] = [18 + rng.uniform() * 64, 62 + rng.uniform() * 32];
      return { d: `M${x} ${y} l6 -3 l4 5 l-7 4 Z`, width: 1.2, fill: BROWN };
    });
    return [...strokes, glove, ...chips];
  }
  return [
    ...strokes,
    glove,
    { d: 'M26 30 C 36 20 60 22 66 30 C 74 40 64 48 56 42', width: 3 },
    { d: 'M22 44 C 34 36 50 40 54 48', width: 2.4 }
  ];
}

function stained(yes: boolean, rng: Rng): Stroke[] {
  const strokes = bark('smooth', rng);
  if (!yes) return strokes;
  for (let row = 0; row < 2; row++)
    for (let i = 0; i < 5; i++) {
      const [x, y] = [26 + i * 11, 20 + row * 12];
      strokes.push({ d: `M${x - 1.6} ${y} h3.2 v3 h-3.2 Z`, width: 1, fill: BLACK });
      strokes.push({
        d: `M${x - 2} ${y + 3} C ${x - 3} ${y + 25} ${x - 1} ${y + 34} ${x} ${y + 40 + rng.uniform() * 24} C ${x + 2} ${y + 30} ${x + 3} ${y + 16} ${x + 2} ${y + 3} Z`,
        width: 0,
        fill: BLACK,
        opacity: 0.75
      });
    }
  return strokes;
}

function tapholes(yes: boolean, rng: Rng): Stroke[] {
  const strokes = bark('smooth', rng);
  if (!yes) return strokes;
  for (const [x, y] of [
    [34, 34],
    [62, 48],
    [42, 70]
  ] as const) {
    strokes.push({ d: `M${x - 6} ${y} a6 7 0 1 0 12 0 a6 7 0 1 0 -12 0`, width: 1.6 });
    strokes.push({ d: `M${x - 2.2} ${y} a2.2 2.6 0 1 0 4.4 0 a2.2 2.6 0 1 0 -4.4 0`, width: 1, fill: BLACK });
    strokes.push({ d: `M${x} ${y + 7} v8`, width: 1 });
  }
  return strokes;
}
