/** What is laid in a bush. */
export const PIPE_USES = ['main', 'air', 'spur', 'lateral'] as const;
export type PipeUse = (typeof PIPE_USES)[number];

/** What each is usually laid of: the inner diameter, how it is held, and the metres from one post or tie to the next. Common practice. */
export const USUAL_PIPE = {
  main: { boreMm: 19.1, held: 'wire', spanM: 5 },
  air: { boreMm: 19.1, held: 'wire', spanM: 5 },
  spur: { boreMm: 12.7, held: 'wire', spanM: 5 },
  lateral: { boreMm: 7.9, held: 'hand', spanM: 4 }
} as const satisfies Record<PipeUse, { boreMm: number; held: 'wire' | 'hand'; spanM: number }>;

/** Roughness of smooth plastic pipe by Manning. Chow 1959, from memory: 0.009. */
export const SMOOTH = 0.009;

/** Sap that a tap gives in the best hour, litres: with a pump, and by its own fall. From memory; a good day is four litres in some six hours. */
export const BEST_HOUR = { pump: 1.5, fall: 1 } as const;

/** Of the depth of a pipe, sap takes so much at most: where air has its own line, and where both share one. From memory. */
export const FULL_TO = { airLine: 0.8, shared: 0.4 } as const;

/** Litres an hour in a cubic metre a second. By definition. */
const TO_LITRES_AN_HOUR = 3600 * 1000;

/**
 * What runs through a round pipe by its own fall, litres an hour, by Manning.
 * @param boreMm inner diameter @param slope metres a metre @param depth of the sap, as a share of the bore, 0..1
 * @throws RangeError where a figure cannot be
 */
export function litresThrough(boreMm: number, slope: number, depth: number, roughness = SMOOTH): number {
  if (!(boreMm > 0) || !(slope >= 0) || !(depth > 0 && depth <= 1)) throw new RangeError('There is no such pipe.');
  const diameter = boreMm / 1000;
  const angle = 2 * Math.acos(1 - 2 * depth);
  const area = (diameter ** 2 / 8) * (angle - Math.sin(angle));
  const wetted = (diameter * angle) / 2;
  return (TO_LITRES_AN_HOUR / roughness) * area * (area / wetted) ** (2 / 3) * Math.sqrt(slope);
}

/** How a line is driven. */
export interface Driven {
  /** does a pump pull on it? */
  readonly vacuum: boolean;
  /** has the air a line of its own? */
  readonly airLine: boolean;
}

/** How many taps a pipe bears in the best hour. @param boreMm inner diameter @param slope metres a metre */
export function tapsThrough(boreMm: number, slope: number, { vacuum, airLine }: Driven): number {
  // Without a pump no air has to get past the sap.
  const depth = vacuum && !airLine ? FULL_TO.shared : FULL_TO.airLine;
  return Math.floor(litresThrough(boreMm, Math.max(0, slope), depth) / (vacuum ? BEST_HOUR.pump : BEST_HOUR.fall));
}

/** Bores that are sold, mm: five sixteenths of an inch for laterals and drops, then half an inch to an inch and a half. */
export const BORES_MM = [7.9, 12.7, 19.1, 25.4, 31.8, 38.1] as const;

/** The least bore that is sold and bears so many taps. @returns null where none does */
export const boreFor = (taps: number, slope: number, driven: Driven): number | null =>
  BORES_MM.find((bore) => tapsThrough(bore, slope, driven) >= taps) ?? null;

/** Newtons by which a wire, or a pipe drawn tight by hand, holds. From memory. */
export const PULL_N = { wire: 1000, hand: 100 } as const;

/** What polyethylene weighs, kg/m³, and how thick a pipe's wall is, of its bore. From memory. */
const PLASTIC = { kgM3: 950, wall: 0.1 } as const;
/** Newtons that a kilogram weighs. Physics. */
const GRAVITY = 9.81;

/** What a metre of pipe weighs with sap to half its bore, newtons. @param boreMm inner diameter */
export function newtonsAMetre(boreMm: number): number {
  const bore = boreMm / 1000;
  const sap = (Math.PI * bore ** 2 * 1000) / 8;
  const wall = Math.PI * (bore * PLASTIC.wall) * bore * (1 + PLASTIC.wall) * PLASTIC.kgM3;
  return GRAVITY * (sap + wall);
}

/**
 * How much less than the whole of it a span falls at its lower end, since it sags: four times its sag over its length, the slope
 * at the end of a parabola.
 * @param pullN by which it is held @returns metres a metre
 */
export const sagSlope = (spanM: number, boreMm: number, pullN: number): number =>
  (newtonsAMetre(boreMm) * spanM) / (2 * pullN);

/** A pipe as it hangs. */
export interface HeldPipe {
  /** inner diameter */
  readonly boreMm: number;
  /** newtons by which it is held */
  readonly pullN: number;
  /** metres from one post, tie or tree to the next */
  readonly spanM: number;
}

/**
 * Posts or ties that a stretch wants more, so that it falls everywhere.
 * @param slope of the stretch, metres a metre @returns infinity where it does not fall
 */
export function postsMore(lengthM: number, slope: number, { boreMm, pullN, spanM }: HeldPipe): number {
  if (slope <= 0) return Infinity;
  const spans = Math.ceil(lengthM / spanM);
  const longest = (slope * 2 * pullN) / newtonsAMetre(boreMm);
  return Math.max(0, Math.ceil(lengthM / longest) - spans);
}
