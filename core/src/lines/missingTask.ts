/** Why a tap on a line may give nothing: its wood is brown or dead, or nobody ever set its spout into the line. */
export const TAP_FAULTS = ['dry', 'notSet'] as const;
export type TapFault = (typeof TAP_FAULTS)[number];

/** A tap whose sap runs together with that of others. */
export interface TapBehind {
  /** by how much it gives more than a usual one, as a factor */
  readonly weight: number;
  /** sites that its sap runs through: of `LeakSite`s, by their number */
  readonly path: readonly number[];
  /** chance of each fault before anything came, 0..1 */
  readonly chances: Readonly<Record<TapFault, number>>;
  /** it was found so, and mended on a day */
  readonly mended?: { readonly fault: TapFault; readonly day: number };
}

/** A part of a line where air gets in, or sap out: all of it, or a stretch. */
export interface LeakSite {
  /** chance that a leak begins there between the days, 0..1; close to 1 where one was found */
  readonly chance: number;
  /** days of the year between which it can have leaked: since it was found tight, until it was mended */
  readonly from: number;
  readonly until: number;
}

/** Sap that came from some of the taps together. */
export interface SapThatCame {
  /** taps that are told apart, by their number, and the weight of others that ran with them */
  readonly taps: readonly number[];
  readonly besides: number;
  /** sites that lie above where it came out */
  readonly through: ReadonlySet<number>;
  /** day of the year on which the middle of it ran */
  readonly day: number;
  /** litres that came, and that a tap of weight 1 gives in the same time with nothing but what is usual wrong */
  readonly litres: number;
  readonly usualLitres: number;
  /** what it strays by for itself, as a logarithm, 1 sd, and what it strays by together with others: of `together` */
  readonly sd: number;
  readonly with: readonly number[];
}

/** A vacuum gauge as it was read. */
export interface GaugeRead {
  readonly kPa: number;
  readonly day: number;
  /** gauges that were read in one go, of one pump, share a number */
  readonly occasion: number;
  /** metres of pipe from the pump, or from the foot, to the gauge */
  readonly distanceM: number;
  /** metres of that way that air from each site takes as well */
  readonly sharedM: readonly number[];
}

/** What came, and all that it may hang on. */
export interface MissingTask {
  readonly taps: readonly TapBehind[];
  readonly sites: readonly LeakSite[];
  readonly came: readonly SapThatCame[];
  /** what several strayed by together, as a logarithm, 1 sd each: a place, a season, a day, an hour */
  readonly together: readonly number[];
  readonly gauges: readonly GaugeRead[];
  /** day of the year that is asked about */
  readonly today: number;
  /** taps together of which it is asked what they give of what they would */
  readonly asked: readonly { readonly taps: readonly number[]; readonly through: ReadonlySet<number> }[];
}
