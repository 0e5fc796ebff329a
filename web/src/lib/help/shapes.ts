import { disc, through, type Point, type Stroke } from '../identify/drawings/stroke.ts';

/** The strokes that the drawings of the help are made of, on a sheet 360 wide and 150 high. */

/** One piece of a drawing: a line or area, a word, the number of a step, or a look-card's drawing set into the sheet. */
export type Piece =
  | (Stroke & { readonly dash?: boolean })
  | { readonly says: string; readonly at: Point; readonly anchor?: 'start' | 'middle' | 'end' }
  | { readonly step: number; readonly at: Point }
  | { readonly look: readonly Stroke[]; readonly at: Point; readonly scale: number };

/** what the hand does: the one colour that leads the eye */
export const HAND = 'var(--color-primary)';
const LEAVES = 'var(--color-secondary)';
const BROWN_WOOD = 'var(--wood-stained)';
const CLEAR_WOOD = 'var(--wood-clear)';
/** the dark of a drilled hole, by day and by night */
const HOLE = '#2c2119';
const RIND = '#6d5743';

export const ink = (d: string, width = 1.6): Piece => ({ d, width });
export const faint = (d: string): Piece => ({ d, width: 1.2, opacity: 0.5 });
export const dotted = (d: string, colour?: string): Piece => ({
  d,
  width: 1.4,
  dash: true,
  ...(colour && { ink: colour })
});
export const hand = (d: string, width = 2.6): Piece => ({ d, width, ink: HAND });
export const leaves = (d: string): Piece => ({ d, width: 1.2, ink: LEAVES, fill: LEAVES, opacity: 0.45 });
export const clear = (d: string): Piece => ({ d, width: 1, ink: RIND, fill: CLEAR_WOOD });
export const brown = (d: string): Piece => ({ d, width: 0, fill: BROWN_WOOD });
export const sheet = (d: string): Piece => ({ d, width: 1.4, fill: 'var(--color-base-100)' });
export const word = (says: string, x: number, y: number, anchor: 'start' | 'middle' | 'end' = 'middle'): Piece => ({
  says,
  at: [x, y],
  anchor
});
export const step = (number: number, x: number, y: number): Piece => ({ step: number, at: [x, y] });

export const box = (x: number, y: number, w: number, h: number): string => `M${x} ${y}h${w}v${h}h${-w}Z`;
export const line = (...points: readonly Point[]): string => through(points);
export { disc };

/** An arrow that the hand draws. */
export function arrow([x1, y1]: Point, [x2, y2]: Point, head = 6): string {
  const a = Math.atan2(y2 - y1, x2 - x1);
  const barb = (turn: number) =>
    `${(x2 - head * Math.cos(a + turn)).toFixed(1)} ${(y2 - head * Math.sin(a + turn)).toFixed(1)}`;
  return `M${x1} ${y1}L${x2} ${y2}M${barb(0.5)}L${x2} ${y2}L${barb(-0.5)}`;
}

/** A measure between two places: a line with a bar at both ends. */
export function span([x1, y1]: Point, [x2, y2]: Point): string {
  const a = Math.atan2(y2 - y1, x2 - x1) + Math.PI / 2;
  const [dx, dy] = [4 * Math.cos(a), 4 * Math.sin(a)];
  const bar = (x: number, y: number) =>
    `M${(x - dx).toFixed(1)} ${(y - dy).toFixed(1)}L${(x + dx).toFixed(1)} ${(y + dy).toFixed(1)}`;
  return `M${x1} ${y1}L${x2} ${y2}${bar(x1, y1)}${bar(x2, y2)}`;
}

/** A tree seen from the side, standing on the ground at a place. @param height its height on the sheet */
export function tree(x: number, ground: number, height: number): Piece[] {
  const [r, w] = [height * 0.33, height * 0.045];
  return [
    leaves(disc(x, ground - height * 0.66, r)),
    ink(
      `M${x - w} ${ground}L${x - w * 0.7} ${ground - height * 0.5}M${x + w} ${ground}L${x + w * 0.7} ${ground - height * 0.5}`
    )
  ];
}

/** A tree whose top is bare: its branches stand out of what is left of its leaves. */
export function bareTop(x: number, ground: number, height: number): Piece[] {
  const top = ground - height;
  return [
    leaves(
      `M${x - height * 0.28} ${ground - height * 0.42}a${height * 0.28} ${height * 0.18} 0 0 1 ${height * 0.56} 0Z`
    ),
    ink(
      `M${x} ${ground}V${top + 8}M${x} ${ground - height * 0.5}L${x - 22} ${top + 12}M${x} ${ground - height * 0.56}L${x + 22} ${top + 8}` +
        `M${x} ${top + 26}L${x - 9} ${top + 4}M${x} ${top + 30}L${x + 10} ${top + 2}M${x - 14} ${top + 24}l-10 -2M${x + 14} ${top + 20}l11 0`
    )
  ];
}

/** A crown seen from above, with its trunk. */
export const above = (x: number, y: number, r: number): Piece[] => [
  leaves(disc(x, y, r)),
  { d: disc(x, y, 2.6), width: 0, fill: 'currentColor' }
];

/** A piece of trunk, its bark open. */
export const trunk = (x: number, y: number, w: number, h: number): Piece => ({
  d: `M${x} ${y}V${y + h}M${x + w} ${y}V${y + h}`,
  width: 2.4,
  ink: RIND
});

/** A drilled hole. */
export const hole = (x: number, y: number, r = 4): Piece => ({ d: disc(x, y, r), width: 0, fill: HOLE });

/** A phone, standing. */
export const phone = (x: number, y: number): Piece => ({
  ...sheet(`M${x + 4} ${y}h34a4 4 0 0 1 4 4v66a4 4 0 0 1 -4 4h-34a4 4 0 0 1 -4 -4v-66a4 4 0 0 1 4 -4Z`)
});

/** Lines of writing. @param lengths of each line, from above */
export const writing = (x: number, y: number, lengths: readonly number[], pitch = 11): Piece =>
  faint(lengths.map((length, i) => `M${x} ${y + i * pitch}h${length}`).join(''));

/** A tick. */
export const tick = (x: number, y: number): Piece => hand(`M${x} ${y}l4 5l8 -10`);

/** One of the drawings of look-cards, set into the sheet. */
export const look = (strokes: readonly Stroke[], x: number, y: number, scale: number): Piece => ({
  look: strokes,
  at: [x, y],
  scale
});
