import type { Rng } from '@baumkin/core/math';

import { BARK, BLACK, BROWN, disc, DOWN, GREEN, scattered, type Stroke } from './stroke.ts';

/** A patch of bark, its plates fastened in the state's way. */
export function bark(state: string, rng: Rng): Stroke[] {
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
    case 'shaggy':
      for (let i = 0; i < 5; i++) {
        const x = 17 + i * 15;
        const y = 6 + (i % 2) * 16;
        strokes.push({
          d: `M${x + 3} ${y + 22} C ${x - 4} ${y + 10} ${x - 5} ${y + 4} ${x - 4} ${y} L${x + 10} ${y + 3} C ${x + 8} ${y + 24} ${x + 8} ${y + 40} ${x + 13} ${y + 62} L${x - 2} ${y + 66} C ${x + 1} ${y + 50} ${x + 3} ${y + 40} ${x + 3} ${y + 22} Z`,
          width: 1.8,
          fill: BARK
        });
      }
      break;
    case 'corky':
      for (let i = 0; i < 34; i++) {
        const [x, y] = scattered(rng, [15, 8], [82, 92]);
        strokes.push({ d: `M${x} ${y} q4 -5 9 -1 q1 5 -4 6 q-5 0 -5 -5 Z`, width: 1.1, fill: DOWN });
      }
      break;
    case 'checkered':
      for (let row = 0; row < 7; row++)
        for (let column = 0; column < 6; column++) {
          const [x, y] = [14 + column * 12.6 + rng.normal(0, 0.5), 5 + row * 13.2 + rng.normal(0, 0.5)];
          strokes.push({ d: `M${x} ${y} h10 v10.4 h-10 Z`, width: 1.6, fill: BARK });
        }
      break;
    case 'patches':
      for (let i = 0; i < 13; i++) {
        const [x, y] = scattered(rng, [20, 10], [76, 88]);
        strokes.push({
          d: `M${x - 8} ${y - 2} q3 -9 10 -6 q9 1 7 8 q0 8 -9 7 q-8 0 -8 -9 Z`,
          width: 1.2,
          fill: i % 3 ? '#e9e4d2' : '#b9b795'
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
      // Smooth: a few faint level folds, as in cloth.
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
    case 'green':
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

/** The rub test: a glove on the bark, and what comes off. */
export function rub(state: string, rng: Rng): Stroke[] {
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

/** Black streaks below sapsucker holes, or none. */
export function stained(yes: boolean, rng: Rng): Stroke[] {
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

/** Healed tapholes, or none. */
export function tapholes(yes: boolean, rng: Rng): Stroke[] {
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

const TONES: Readonly<Record<string, string>> = {
  brownGrey: '#a08f7c',
  darkGrey: '#6d6c6a',
  paleGrey: '#c3c2bc',
  blackBrown: '#3f3431',
  bronze: '#c9a04e',
  white: '#ffffff',
  green: '#8a9a6b'
};

/** A trunk in its tone, with no more of its surface than a shadow. */
export function tone(state: string): Stroke[] {
  return [
    { d: 'M24 2 C 26 40 22 70 18 98 H82 C 78 70 74 40 76 2 Z', width: 2, fill: TONES[state] ?? BARK },
    { d: 'M66 4 C 68 40 69 70 72 96', width: 7, ink: '#000000', opacity: 0.18 },
    { d: 'M38 20 v16 M46 58 v18 M56 30 v14 M34 70 v14', width: 1.2, opacity: 0.5 }
  ];
}

/** Old bark: the same fastenings as on a grown tree, wider and deeper. */
export function oldBark(state: string, rng: Rng): Stroke[] {
  return bark(state, rng).map((stroke) => (stroke.width ? { ...stroke, width: stroke.width * 1.6 } : stroke));
}

/** Pale patches of lichen, or plain bark. */
export function lichen(yes: boolean, rng: Rng): Stroke[] {
  const strokes = bark('smooth', rng);
  if (!yes) return strokes;
  const patches = Array.from({ length: 9 }, (): Stroke => {
    const [x, y] = scattered(rng, [22, 12], [74, 88]);
    return { d: disc(x, y, 4 + rng.uniform() * 6), width: 1, fill: '#eef1ea' };
  });
  return [...strokes, ...patches];
}
