import { z } from 'zod';

import { FORESIGHT_IDS, PLACEMENT_STRATEGY_IDS } from '../rotation/index.ts';
import { OTHER_SAPS } from '../identify/index.ts';
import { TAP_GUIDELINES, type TapGuidelineId } from '../taps/index.ts';
import { CARRIERS, CLEARINGS, VESSELS } from '../season/index.ts';
import { DEFAULT_LIMITS, DEFAULT_QUIET, DEFAULT_RATE, STOCKING_GUIDES } from '../thinning/index.ts';
import { DEFAULT_COLUMNS, DEFAULT_PRACTICE, LARGEST_CORRECTION, LEAST_CORRECTION } from '../trunk/index.ts';
import { bearingDeg, bitMm, characterIdSchema, season, speciesIdSchema, statesOf, uuid } from './fields.ts';
import { PAINT_PLACES, PAINTS } from './season.ts';
import { lineOfText } from './text.ts';

/** A tap guideline: the bush's own, or a published one. */
export const tapGuidelineIdSchema = z.enum(['own', ...TAP_GUIDELINES.map((l) => l.id)] as [
  TapGuidelineId,
  ...TapGuidelineId[]
]);

/** The bush's own shares in the clue table, per cent; those of one species and character make 100. */
export const adjustmentsSchema = z
  .partialRecord(
    characterIdSchema,
    z.partialRecord(speciesIdSchema, z.record(z.string().max(40), z.number().min(0).max(100)))
  )
  .superRefine((adjustments, context) => {
    for (const [id, bySpecies] of Object.entries(adjustments))
      for (const [species, shares] of Object.entries(bySpecies ?? {})) {
        const path = [id, species];
        if (!Object.keys(shares ?? {}).every((state) => statesOf(id).includes(state)))
          context.addIssue({ code: 'custom', path, message: 'names a state that its character does not have' });
        const total = Object.values(shares ?? {}).reduce((sum, share) => sum + share, 0);
        if (Math.abs(total - 100) > 0.5)
          context.addIssue({ code: 'custom', path, message: `the shares make ${total} per cent instead of 100` });
      }
  });

/** The bush's own guideline: thicker trees never bear fewer taps. */
export const ownGuidelineSchema = z
  .array(z.object({ diameterMm: z.number().min(100).max(3000), taps: z.number().int().min(1).max(8) }))
  .max(8)
  .refine((steps) => {
    const sorted = [...steps].sort((a, b) => a.diameterMm - b.diameterMm);
    return sorted.every(
      (step, i) => i === 0 || (step.diameterMm > sorted[i - 1]!.diameterMm && step.taps > sorted[i - 1]!.taps)
    );
  }, 'each step of a ladder needs a greater diameter and more taps than the one before');

/** The warm side, the bark under a big limb or over a big root, which are said to run better; the side of the tubing line. */
export const FAVOURS = ['warmSide', 'limbsAndRoots', 'lineSide'] as const;

const times = z.number().min(LEAST_CORRECTION).max(LARGEST_CORRECTION);
const leanDeg = z.number().min(-20).max(20);
const dayOfYear = z.string().regex(/^(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, 'a day of the year is month-day: 04-15');

/** The bush's own numbers. Everything has a default; stored settings may name only some. */
export const bushSettingsSchema = z.object({
  tapGuideline: tapGuidelineIdSchema.default('twelveEighteen'),
  ownGuideline: ownGuidelineSchema.default([]),
  /** kinds of trees that are tapped beside the maples */
  alsoTaps: z.array(z.enum(OTHER_SAPS)).max(OTHER_SAPS.length).default([]),
  bitMm: bitMm.default(7.9375),
  depthMm: z.number().min(10).max(150).default(38.1),
  lowestMm: z.number().min(0).max(3000).default(600),
  highestMm: z.number().min(300).max(4000).default(1500),
  spacingMm: z.number().min(0).max(2000).default(300),
  acceptedShare: z.number().min(0.01).max(0.5).default(0.1),
  /** height at which trunks are measured, mm */
  breastHeightMm: z.number().min(1000).max(1500).default(1300),
  /** how holes are placed */
  strategy: z.enum(PLACEMENT_STRATEGY_IDS).default('rotation'),
  /** how far ahead the holes of a trunk are planned */
  foresight: z.enum(FORESIGHT_IDS).default('generation'),
  /** upward slope of a hole, degrees */
  angleDeg: z.number().min(0).max(20).default(DEFAULT_PRACTICE.angleDeg),
  /** snow on the ground at tapping, mm */
  snowMm: z.number().min(0).max(2500).default(0),
  /** drop line from the tubing to the spout, mm; null where buckets hang */
  dropMm: z.number().min(100).max(3000).nullable().default(null),
  /** how thick the wood is that carries sap, mm */
  sapwoodMm: z.number().min(15).max(300).default(DEFAULT_COLUMNS.sapwoodMm),
  /** what the bush has shown of its columns, accepted from its logged holes: factors on volume, errors of place, reach sideways */
  columnFactor: times.default(1),
  positionFactor: times.default(1),
  marginFactor: times.default(1),
  /** errors of place of each who drills, against all in the bush */
  hands: z.record(uuid(), times).default({}),
  /** lean of the grain: the bush's mean, what a stand or a species adds to it, and how far single trees stray, degrees */
  leanDeg: leanDeg.default(0),
  leanStands: z.record(uuid(), leanDeg).default({}),
  leanSpecies: z.partialRecord(speciesIdSchema, leanDeg).default({}),
  leanSdDeg: z.number().min(1).max(12).default(DEFAULT_COLUMNS.grainSdDeg),
  /** litres of syrup that are wished for in a year; null where nobody said */
  wishLitres: z.number().min(0.1).max(100_000).nullable().default(null),
  /** share of its sap that a tap loses whose path is all stained; less in proportion */
  stainLoss: z.number().min(0).max(1).default(1),
  /** minutes that a crew takes for a hole, walking and looking included */
  minutesAHole: z.number().min(1).max(60).default(4),
  /** what one thinning may do: shares of basal area, m2/ha that stay, metres of an opening, the price of a tap */
  removalShare: z.number().min(0.02).max(0.6).default(DEFAULT_LIMITS.share),
  stockingGuide: z.enum(STOCKING_GUIDES).default(DEFAULT_LIMITS.guide),
  residualM2PerHa: z.number().min(0).max(40).default(DEFAULT_LIMITS.residualM2PerHa),
  coverLeft: z.number().min(0).max(0.95).default(DEFAULT_LIMITS.cover),
  othersShare: z.number().min(0).max(0.6).default(DEFAULT_LIMITS.othersShare),
  openingM: z.number().min(6).max(60).nullable().default(DEFAULT_LIMITS.openingM),
  tapCost: z.number().min(0).max(100).default(DEFAULT_LIMITS.tapCost),
  /** crop trees stand at least so far apart, metres */
  cropSpacingM: z.number().min(3).max(25).default(9),
  /** work that gets done: stacked firewood and brush a day, m3, and days a month */
  stackedM3ADay: z.number().min(0.1).max(50).default(DEFAULT_RATE.stackedM3ADay),
  brushM3ADay: z.number().min(0.5).max(500).default(DEFAULT_RATE.brushM3ADay),
  daysAMonth: z.number().min(0.5).max(31).default(4),
  /** nothing is cut or cleared between these days of the year, month-day */
  quietFrom: dayOfYear.default(DEFAULT_QUIET.from),
  quietTo: dayOfYear.default(DEFAULT_QUIET.to),
  /** the ash borer was found in this bush or near it */
  ashBorer: z.boolean().default(false),
  /** sides liked better between equally clear places */
  favours: z.array(z.enum(FAVOURS)).max(FAVOURS.length).default([]),
  /** a side of every trunk that is liked better: the lee, or towards the path; null where there is none */
  favouredDeg: bearingDeg.nullable().default(null),
  /** paint under a season's holes, by turns; none where nobody paints */
  paints: z.array(z.enum(PAINTS)).max(PAINTS.length).default([]),
  /** the season in which the first was used, and after how many seasons a mark is gone; null: always, and never */
  paintSince: season.nullable().default(null),
  paintLasts: z.number().int().min(1).max(60).nullable().default(null),
  paintPlace: z.enum(PAINT_PLACES).default('below'),
  /** what the trees to take are painted with */
  markPaint: lineOfText(60).default('a pale ring, a dot at the foot'),
  /** is there a page for visitors, who have no account; and what the stewards say on it */
  openToVisitors: z.boolean().default(false),
  visitorWords: z.string().trim().max(1200).default(''),
  clueTable: adjustmentsSchema.default({}),
  /** how the bush collects where a tree belongs to no collecting place: vessel, what one holds in litres, what it is carried by */
  vessel: z.enum(VESSELS).default('bucket'),
  vacuum: z.boolean().default(false),
  vesselLitres: z.number().min(0.5).max(100_000).default(13),
  carrier: z.enum(CARRIERS).default('hand'),
  /** people who drill and carry, and hours a day that they do */
  people: z.number().int().min(1).max(500).default(2),
  hoursADay: z.number().min(0.5).max(16).default(5),
  /** litres of sap for which it is worth an hour of somebody's walking and carrying */
  litresAnHour: z.number().min(1).max(500).default(30),
  /** a tap that brings fewer litres in what is left of a season is not drilled */
  leastLitres: z.number().min(0).max(60).default(8),
  /** days between drilling and hanging the vessel; nought where both are done at once */
  hangAfterDays: z.number().int().min(0).max(14).default(0),
  /** what is done about the shavings in a hole */
  clearing: z.enum(CLEARINGS).default('leave'),
  /** per cent of sugar that syrup is finished at */
  finishBrix: z.number().min(60).max(70).default(66),
  /** surface of the pan, m²; null while nobody measured it */
  panM2: z.number().min(0.02).max(20).nullable().default(null),
  /** height of the sugarhouse above the sea, metres; null where it is not known */
  altitudeM: z.number().min(-430).max(4500).nullable().default(null)
});
export type BushSettings = z.infer<typeof bushSettingsSchema>;
/** The settings of a new bush. */
export const DEFAULT_BUSH_SETTINGS: BushSettings = bushSettingsSchema.parse({});

type Bare = {
  [K in keyof typeof bushSettingsSchema.shape]: z.ZodOptional<
    ReturnType<(typeof bushSettingsSchema.shape)[K]['removeDefault']>
  >;
};
/** A change of some of them. */
export const bushSettingsChangeSchema = z.object(
  Object.fromEntries(
    Object.entries(bushSettingsSchema.shape).map(([name, field]) => [name, field.removeDefault().optional()])
  ) as unknown as Bare
);
