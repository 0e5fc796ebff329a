import { z } from 'zod';

import type { SiteFeatureKind } from '../stand/index.ts';
import { day, metres, note, oneOf, positionQualitySchema, treeTag, uuid } from './fields.ts';
import { lineOfText } from './text.ts';

/** What a stand is kept for. Only the first two are managed for maple. */
export const standPurposeSchema = oneOf('syrup', 'mixed', 'timber', 'food', 'wildlife');
export type StandPurpose = z.infer<typeof standPurposeSchema>;

/** Is a stand kept for syrup, alone or beside other things? Trees without a stand are. */
export function isSugarbush(stand: Pick<Stand, 'purpose'> | null): boolean {
  return stand === null || stand.purpose === 'syrup' || stand.purpose === 'mixed';
}

/** How wet the ground of a stand is. */
export const wetnessSchema = oneOf('dry', 'moist', 'wet');
export type Wetness = z.infer<typeof wetnessSchema>;

const coursePoint = z.tuple([metres, metres]);

/** A stand: its outline, ground and what is known of its soil. */
export const standSchema = z.object({
  id: uuid(),
  name: lineOfText(80),
  purpose: standPurposeSchema,
  /** ground in hectares; null while unknown; an outline's own area goes before it */
  areaHa: z.number().positive().max(10_000).nullable(),
  wetness: wetnessSchema.nullable().default(null),
  /** how deep roots reach, whether a hard pan stops them, how acid the soil is; null where nobody looked */
  soilDepth: oneOf('deep', 'shallow').nullable().default(null),
  hardPan: z.boolean().nullable().default(null),
  soilPh: z.number().min(2.5).max(9).nullable().default(null),
  /** does the sun of late winter warm its trunks? null where nobody said */
  sun: oneOf('sunny', 'shady').nullable().default(null),
  /** may it be tapped, may trees be cut in it, by whose word, and until when: a reserve, a lease */
  mayTap: z.boolean().default(true),
  mayCut: z.boolean().default(true),
  byWord: z.string().trim().max(120).default(''),
  wordUntil: day().nullable().default(null),
  /** outline, east and north in metres from the bush's origin; null where none was drawn */
  outline: z.array(coursePoint).min(3).max(2000).nullable().default(null),
  /** what it is managed for, in the steward's words */
  note
});
export type Stand = z.infer<typeof standSchema>;

/** What stands or runs in a bush beside its trees. */
export const siteFeatureSchema = z
  .object({
    id: uuid(),
    kind: oneOf<SiteFeatureKind>('building', 'path', 'line', 'water', 'fence', 'boundary', 'entrance'),
    name: lineOfText(80),
    /** outline of a building, place of an entrance, course of the others: east and north in metres from the bush's origin */
    points: z.array(coursePoint).min(1).max(5000)
  })
  .refine(({ kind, points }) => (kind === 'entrance' ? points.length === 1 : points.length >= 2), {
    path: ['points'],
    message: 'An entrance is one point; everything else has a course.'
  });
export type SiteFeature = z.infer<typeof siteFeatureSchema>;

/** A tree's line in the registry, as its entries and places leave it. */
export const treeSchema = z.object({
  id: uuid(),
  tag: treeTag,
  tagged: z.boolean(),
  standId: uuid().nullable(),
  stemOf: uuid().nullable(),
  /** its step on the walk: between those of its neighbours, and seldom a whole number */
  walkOrder: z.number().min(0),
  eastM: metres.nullable(),
  northM: metres.nullable(),
  positionQuality: positionQualitySchema.nullable(),
  positionAccuracyM: z.number().positive().nullable()
});
export type Tree = z.infer<typeof treeSchema>;

/**
 * How a picture lies under the map: two of its pixels with their places, which fix its scale, turn and shift.
 * Pixels count from the picture's upper left corner.
 */
const pinSchema = z.object({
  x: z.number().min(0).max(100_000),
  y: z.number().min(0).max(100_000),
  eastM: metres,
  northM: metres
});
/** How a picture is laid on the map: a scale, a turn and a shift, from the points that were named on it. */
export const baseMapFitSchema = z
  .object({
    widthPx: z.number().int().min(1).max(30_000),
    heightPx: z.number().int().min(1).max(30_000),
    pins: z.tuple([pinSchema, pinSchema])
  })
  .refine(
    ({ pins: [a, b] }) =>
      Math.hypot(a.x - b.x, a.y - b.y) >= 10 && Math.hypot(a.eastM - b.eastM, a.northM - b.northM) >= 1,
    'the two points lie too close to each other to fit a picture by them'
  );
export type BaseMapFit = z.infer<typeof baseMapFitSchema>;
