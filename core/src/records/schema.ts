import { z } from 'zod';

import {
  AGE_CLASSES,
  CHARACTERS,
  LOOK_SEASONS,
  SPECIES,
  type CharacterId,
  type SpeciesId,
  type Verdict
} from '../identify/index.ts';
import type { CrownClass, MeasureMethod } from '../measure/index.ts';
import { PLACING_IDS } from '../rotation/index.ts';
import { SIDES, type PositionQuality, type SiteFeatureKind } from '../stand/index.ts';
import {
  DEFAULT_LIMITS,
  DEFAULT_QUIET,
  DEFAULT_RATE,
  KEPT_FOR,
  MARK_PURPOSES,
  SEEDLING_CLASSES,
  GUARDS,
  SEEDLING_GROUPS,
  STOCKING_SCHOOLS,
  type SeedlingClass,
  type SeedlingGroup
} from '../thinning/index.ts';
import { DEFECT_KINDS, HAZARD_KINDS, LADDERS, WILDLIFE_KINDS, type LadderId } from '../taps/index.ts';
import { DEFAULT_COLUMNS, DEFAULT_PRACTICE, TRUNK_FEATURES } from '../trunk/index.ts';
import type { TrunkQuantity } from '../units/index.ts';
import { PAINT_PLACES, PAINTS } from './season.ts';
import { lineOfText } from './text.ts';

/**
 * The one schema of every record of work: forms, routes, import and storage all read it from here.
 * Records are never changed. A correction is a new record that points at the old one; a withdrawal is a correction that
 * says nothing instead. Ids are made by whoever makes the record, so that work without a network has ids, and sending
 * twice stores once.
 */

const oneOf = <T extends string>(...values: [T, ...T[]]) => z.enum(values);

export const speciesIdSchema = z.enum(SPECIES.map((s) => s.id) as [SpeciesId, ...SpeciesId[]]);
export const methodSchema = oneOf<MeasureMethod>('diameterTape', 'girthTape', 'calipers', 'biltmore', 'hug');
export const crownClassSchema = oneOf<CrownClass>('dominant', 'codominant', 'intermediate', 'suppressed', 'open');
export const quantitySchema = oneOf<TrunkQuantity>('girth', 'diameter', 'radius');
export const positionQualitySchema = oneOf<PositionQuality>('surveyed', 'paced', 'phone');
export const ladderIdSchema = z.enum(['own', ...LADDERS.map((l) => l.id)] as [LadderId, ...LadderId[]]);
export const roleSchema = oneOf<Role>('steward', 'crew', 'viewer');
export const verdictSchema = oneOf<Verdict>('settled', 'mapleOpen', 'lookAgain', 'notMaple');
export const ageClassSchema = z.enum(AGE_CLASSES);
export const lookSeasonSchema = z.enum(LOOK_SEASONS);
export const shavingsSeenSchema = oneOf('pale', 'partly', 'brown', 'dry');
export const markPurposeSchema = z.enum([...MARK_PURPOSES, 'none']);
export const bindingSchema = oneOf('forbidden', 'species', 'size', 'condition', 'growth', 'room');

/** steward: everything; crew: records of work; viewer: looks. */
export type Role = 'steward' | 'crew' | 'viewer';

/** Ids in one case: two spellings of one id would be two records. */
const uuid = () => z.uuid().toLowerCase();
/** A day on which work was done, or shall be. The server also refuses what lies beyond the next year. */
const day = () => z.iso.date().refine((on) => on >= '1900-01-01' && on <= '2200-12-31', 'is no day of this bush');
/** A sap season. The server also refuses what lies beyond the next but one. */
const season = z.number().int().min(1900).max(2200);
const bearingDeg = z.number().min(0).lt(360);
const metres = z.number().min(-100_000).max(100_000);
const note = z.string().max(500).default('');

const dated = {
  id: uuid(),
  /** the day the work was done */
  on: day(),
  /** the moment it was written down, by the writer's clock; orders records of one day */
  recordedAt: z.iso.datetime(),
  correctsId: uuid().nullable().default(null),
  withdrawn: z.boolean().default(false)
};
const envelope = { ...dated, treeId: uuid() };

function crownReach() {
  return z.number().min(0).max(20);
}

const characterIdSchema = z.enum(CHARACTERS.map((c) => c.id) as [CharacterId, ...CharacterId[]]);
const statesOf = (id: string) => CHARACTERS.find((c) => c.id === id)?.states.map((s) => s.id) ?? [];

const evidenceSchema = z
  .partialRecord(characterIdSchema, z.string().max(40))
  .refine(
    (evidence) => Object.entries(evidence).every(([id, state]) => statesOf(id).includes(state)),
    'a clue names a state that its character does not have'
  );

export const determinationSchema = z.object({
  ...envelope,
  kind: z.literal('determination'),
  verdict: verdictSchema,
  /** the leading species; null when none is named */
  species: speciesIdSchema.nullable(),
  probability: z.number().min(0).max(1),
  age: ageClassSchema,
  /** judged by clues, or declared by somebody who knows: seen in leaf, planted, taken from an older list */
  basis: oneOf('clues', 'declared').default('clues'),
  /** what the year let one see; null where it was not said */
  lookSeason: lookSeasonSchema.nullable().default(null),
  evidence: evidenceSchema,
  note
});

export const readingSchema = z.object({
  ...envelope,
  kind: z.literal('reading'),
  quantity: quantitySchema,
  /** the measured quantity, mm */
  valueMm: z.number().positive().max(20_000),
  /** what was written, word for word */
  asWritten: z.string().max(80),
  method: methodSchema,
  /** height on the trunk, mm */
  heightMm: z.number().min(0).max(5000),
  /** the guard asked about it and the steward stands by it */
  confirmed: z.boolean().default(false),
  note
});

const treeTag = lineOfText(20);

/** A tree comes into the book, or its line there changes. Taking the last of them back takes the tree out of the book. */
export const entrySchema = z.object({
  ...envelope,
  kind: z.literal('entry'),
  tag: treeTag,
  /** hangs a tag on the trunk? Neighbours that were noted in passing have a name in the book alone */
  tagged: z.boolean().default(true),
  standId: uuid().nullable(),
  /** the tree whose base this stem grows from; null for a tree of its own */
  stemOf: uuid().nullable().default(null),
  /** the tree after which a new one is walked; null for the end of the walk */
  afterId: uuid().nullable().default(null),
  note
});

/** Where a tree stands, and how well that is known. */
export const placeSchema = z.object({
  ...envelope,
  kind: z.literal('place'),
  eastM: metres,
  northM: metres,
  quality: positionQualitySchema,
  /** one standard deviation as the instrument gave it, metres; null: as the quality says */
  accuracyM: z.number().positive().max(500).nullable().default(null),
  /** how it was found: "12.4 m at 215 degrees from 41" */
  asTaken: z.string().max(120).default('')
});

/** How tall a tree stands and how far its crown reaches, where that was measured. */
export const statureSchema = z
  .object({
    ...envelope,
    kind: z.literal('stature'),
    heightM: z.number().min(0.5).max(80).nullable(),
    /** reach of the crown to the north, east, south and west, metres */
    crownRadiiM: z.tuple([crownReach(), crownReach(), crownReach(), crownReach()]).nullable(),
    note
  })
  .refine((s) => s.withdrawn || s.heightM !== null || s.crownRadiiM !== null, 'neither a height nor a crown');

/** A defect with its place on the trunk; the place is null where it is all along it, or was not noted. */
const trunkDefectSchema = z.object({
  kind: z.enum(DEFECT_KINDS),
  bearingDeg: bearingDeg.nullable(),
  heightMm: z.number().min(0).max(5000).nullable()
});

export const assessmentSchema = z.object({
  ...envelope,
  kind: z.literal('assessment'),
  /** dead fine branches in the live crown, per cent; null where nobody looked up */
  diebackPct: z.number().int().min(0).max(100).nullable(),
  crownClass: crownClassSchema.nullable(),
  /** age of the oldest hole that is still open; 0 where all have closed, null where nobody looked */
  oldestOpenHoleYears: z.number().int().min(0).max(50).nullable(),
  /** a hard summer before the look; null where nobody said */
  stressed: z.boolean().nullable(),
  /** share of the girth whose bark was peeled off, per cent; null where nobody looked */
  peeledPct: z.number().int().min(0).max(100).nullable().default(null),
  peelFresh: z.boolean().default(false),
  defects: z.array(trunkDefectSchema).max(20).default([]),
  hazards: z.array(z.enum(HAZARD_KINDS)).max(HAZARD_KINDS.length).default([]),
  wildlife: z.array(z.enum(WILDLIFE_KINDS)).max(WILDLIFE_KINDS.length).default([]),
  note
});

export const decisionSchema = z.object({
  ...envelope,
  kind: z.literal('decision'),
  season,
  taps: z.number().int().min(0).max(8),
  suggested: z.number().int().min(0).max(8),
  binding: bindingSchema,
  /** why the steward decided otherwise; empty when she follows */
  reason: z.string().max(500).default('')
});

export const tapholeSchema = z.object({
  ...envelope,
  kind: z.literal('taphole'),
  season,
  bearingDeg,
  heightMm: z.number().min(0).max(5000),
  bitMm: z.number().min(3).max(25),
  /** depth in wood, mm */
  depthMm: z.number().min(5).max(150),
  /** chance of clear wood that was predicted when it was placed; null for holes that were not planned here */
  predictedClear: z.number().min(0).max(1).nullable().default(null),
  /** the way of placing that it followed; null where nobody said */
  school: z.enum(PLACING_IDS).nullable().default(null)
});

export const shavingsSchema = z.object({
  ...envelope,
  kind: z.literal('shavings'),
  tapholeId: uuid(),
  seen: shavingsSeenSchema,
  /** share of brown shavings where partly brown */
  brownShare: z.number().min(0).max(1).nullable().default(null),
  /** depth in wood at which they turned brown, mm; null where nobody looked */
  brownFromMm: z.number().min(0).max(150).nullable().default(null)
});

/** What stands on a trunk besides its holes: what a hand sees, keeps away from, or measures from. */
export const trunkFeatureSchema = z.object({
  ...envelope,
  kind: z.literal('trunkFeature'),
  what: z.enum(TRUNK_FEATURES),
  bearingDeg,
  heightMm: z.number().min(0).max(5000),
  note
});

/** Old holes of which nobody wrote down the year: one scar that can be seen, or "about eight on the south side before 2010". */
export const scarsSchema = z
  .object({
    ...envelope,
    kind: z.literal('scars'),
    many: z.number().int().min(1).max(40),
    /** the middle of where they are; null: anywhere round the trunk */
    bearingDeg: bearingDeg.nullable(),
    /** one standard deviation about it */
    spreadDeg: z.number().min(0).max(180),
    /** the middle of their heights; null: anywhere in the band */
    heightMm: z.number().min(0).max(5000).nullable(),
    fromSeason: season,
    toSeason: season,
    bitMm: z.number().min(3).max(25),
    depthMm: z.number().min(5).max(150),
    note
  })
  .refine((s) => s.fromSeason <= s.toSeason, 'the first season lies after the last');

export const markSchema = z.object({
  ...envelope,
  kind: z.literal('mark'),
  purpose: markPurposeSchema,
  reason: z.string().max(500).default(''),
  /** taken although something lives in it, or it is among the last of its kind */
  despite: z.boolean().default(false),
  /** what a kept tree is kept for; null where nobody said */
  keepFor: z.enum(KEPT_FOR).nullable().default(null),
  /** when a tree that is watched or braced is to be looked at again */
  reviewOn: day().nullable().default(null),
  /** where a tree leans, degrees; null where it stands straight or nobody said */
  leanDeg: bearingDeg.nullable().default(null)
});

/** The steward's word on a tree as a crop tree: chosen, or never to be. */
export const cropChoiceSchema = z.object({
  ...envelope,
  kind: z.literal('cropChoice'),
  choice: oneOf('crop', 'veto', 'none'),
  reason: z.string().max(500).default('')
});

const sideSeenSchema = oneOf('free', 'blocked').nullable();

/** What somebody saw from under a crop tree: each side of its crown, and what blocks it. */
export const crownCardSchema = z.object({
  ...envelope,
  kind: z.literal('crownCard'),
  north: sideSeenSchema,
  east: sideSeenSchema,
  south: sideSeenSchema,
  west: sideSeenSchema,
  blockers: z
    .array(
      z.object({
        side: z.enum(SIDES),
        treeId: uuid().nullable(),
        species: speciesIdSchema.nullable(),
        dbhMm: z.number().min(10).max(3000).nullable(),
        fate: oneOf('stands', 'take', 'gone')
      })
    )
    .max(24),
  note
});

/**
 * What became of a tree: felled or fallen it is gone; girdled it dies standing, over people, for years; lying it may live on
 * with its root plate under tension.
 */
export const cutSchema = z.object({
  ...envelope,
  kind: z.literal('cut'),
  what: oneOf('felled', 'fallen', 'girdled', 'lying'),
  /** who did it; nobody where it fell by itself */
  by: z.string().trim().max(80).default(''),
  /** kept trees that were hurt */
  damaged: z.array(uuid()).max(20).default([]),
  /** when one that stands dead or lies alive is to be looked at again */
  reviewOn: day().nullable().default(null),
  note
});

/** Why a tree is never tapped, whatever it bears. */
export const TAP_BANS = ['insecticide', 'salt', 'septic', 'sprayed', 'boundary', 'noPermission'] as const;
export type TapBanReason = (typeof TAP_BANS)[number];

/** A tree that is not to be tapped: its sap would not be food, or it is not ours. */
export const tapBanSchema = z.object({
  ...envelope,
  kind: z.literal('tapBan'),
  reasons: z.array(z.enum(TAP_BANS)).min(1).max(TAP_BANS.length),
  /** last day on which it holds; null for good */
  until: day().nullable().default(null),
  note
});

export const recordSchema = z.discriminatedUnion('kind', [
  entrySchema,
  placeSchema,
  determinationSchema,
  readingSchema,
  statureSchema,
  assessmentSchema,
  decisionSchema,
  tapholeSchema,
  shavingsSchema,
  trunkFeatureSchema,
  scarsSchema,
  markSchema,
  cropChoiceSchema,
  crownCardSchema,
  cutSchema,
  tapBanSchema
]);

/** A sample plot of a cruise: it belongs to the bush, not to one of its trees. */
export const plotSchema = z.object({
  ...dated,
  kind: z.literal('plot'),
  standId: uuid().nullable(),
  /** what it is called on the ground: a number, mostly */
  name: lineOfText(40),
  /** where its centre lies; null where that was not taken */
  centre: z.object({ eastM: metres, northM: metres }).nullable().default(null),
  design: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('fixed'), radiusM: z.number().min(1).max(50) }),
    z.object({ kind: z.literal('gauge'), bafM2PerHa: z.number().min(0.2).max(20) })
  ]),
  trees: z
    .array(z.object({ species: speciesIdSchema.nullable(), dbhMm: z.number().min(10).max(3000).nullable() }))
    .max(400),
  note
});

const seedlingCounts = z.object(
  Object.fromEntries(SEEDLING_CLASSES.map((each) => [each, z.number().int().min(0).max(10_000)])) as Record<
    SeedlingClass,
    z.ZodNumber
  >
);

/** A small plot on which seedlings were counted. */
export const seedlingsSchema = z.object({
  ...dated,
  kind: z.literal('seedlings'),
  standId: uuid().nullable(),
  name: lineOfText(40),
  radiusM: z.number().min(0.5).max(10),
  counts: z.object(
    Object.fromEntries(SEEDLING_GROUPS.map((group) => [group, seedlingCounts])) as Record<
      SeedlingGroup,
      typeof seedlingCounts
    >
  ),
  /** share of the maples whose tips are bitten off; null where nobody looked */
  browsed: z.number().min(0).max(1).nullable().default(null),
  fenced: z.boolean().default(false),
  note
});

/** A group of planted trees; the day of the record is the one on which they were counted and measured last. */
export const plantingSchema = z
  .object({
    ...dated,
    kind: z.literal('planting'),
    standId: uuid().nullable(),
    name: lineOfText(60),
    species: speciesIdSchema,
    year: z.number().int().min(1900).max(2200),
    many: z.number().int().min(1).max(100_000),
    /** that live; null where nobody has counted again */
    alive: z.number().int().min(0).max(100_000).nullable().default(null),
    /** their middle height; null where nobody measured */
    heightM: z.number().min(0.05).max(30).nullable().default(null),
    guard: oneOf(...GUARDS),
    note
  })
  .refine(({ alive, many }) => alive === null || alive <= many, {
    path: ['alive'],
    message: 'no more can live than were planted'
  })
  .refine(({ year, on }) => year <= Number(on.slice(0, 4)) + 1, {
    path: ['year'],
    message: 'they were planted after they were counted'
  });

/** A thinning that was thought out and kept, to be compared. */
export const thinningPlanSchema = z.object({
  ...dated,
  kind: z.literal('thinningPlan'),
  standId: uuid().nullable(),
  name: lineOfText(60),
  taken: z.array(uuid()).max(5000),
  note
});

/** Records of the bush as a whole. */
export const bushRecordSchema = z.discriminatedUnion('kind', [
  plotSchema,
  seedlingsSchema,
  plantingSchema,
  thinningPlanSchema
]);

/** A record as it is kept: with who wrote it down, which the server sets and never takes from a client. */
type Kept<T> = T & { readonly authorId?: string };

export type Entry = Kept<z.infer<typeof entrySchema>>;
export type TreePlace = Kept<z.infer<typeof placeSchema>>;
export type Determination = Kept<z.infer<typeof determinationSchema>>;
export type Reading = Kept<z.infer<typeof readingSchema>>;
export type Stature = Kept<z.infer<typeof statureSchema>>;
export type Assessment = Kept<z.infer<typeof assessmentSchema>>;
export type Decision = Kept<z.infer<typeof decisionSchema>>;
export type Taphole = Kept<z.infer<typeof tapholeSchema>>;
export type Shavings = Kept<z.infer<typeof shavingsSchema>>;
export type TrunkFeature = Kept<z.infer<typeof trunkFeatureSchema>>;
export type Scars = Kept<z.infer<typeof scarsSchema>>;
export type Mark = Kept<z.infer<typeof markSchema>>;
export type CropChoice = Kept<z.infer<typeof cropChoiceSchema>>;
export type CrownCardRecord = Kept<z.infer<typeof crownCardSchema>>;
export type Cut = Kept<z.infer<typeof cutSchema>>;
export type TapBan = Kept<z.infer<typeof tapBanSchema>>;
export type WorkRecord = Kept<z.infer<typeof recordSchema>>;
export type RecordKind = WorkRecord['kind'];
/** A record as it is written: what has a default may be left out. */
export type RecordInput = z.input<typeof recordSchema>;
export type PlotRecord = Kept<z.infer<typeof plotSchema>>;
export type SeedlingsRecord = Kept<z.infer<typeof seedlingsSchema>>;
export type PlantingRecord = Kept<z.infer<typeof plantingSchema>>;
export type ThinningPlanRecord = Kept<z.infer<typeof thinningPlanSchema>>;
export type BushRecord = Kept<z.infer<typeof bushRecordSchema>>;
export type BushRecordKind = BushRecord['kind'];

export const BUSH_RECORD_KINDS: readonly BushRecordKind[] = bushRecordSchema.options.map((o) => o.shape.kind.value);
export const RECORD_KINDS: readonly RecordKind[] = recordSchema.options.map((o) => o.shape.kind.value);

/** A batch as the outbox sends it. */
export const recordBatchSchema = z.object({ records: z.array(z.unknown()).min(1).max(500) });

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

/** The bush's own ladder: thicker trees never bear fewer taps. */
export const ownLadderSchema = z
  .array(z.object({ diameterMm: z.number().min(100).max(3000), taps: z.number().int().min(1).max(8) }))
  .max(8)
  .refine((steps) => {
    const sorted = [...steps].sort((a, b) => a.diameterMm - b.diameterMm);
    return sorted.every(
      (step, i) => i === 0 || (step.diameterMm > sorted[i - 1]!.diameterMm && step.taps > sorted[i - 1]!.taps)
    );
  }, 'each step of a ladder needs a greater diameter and more taps than the one before');

/** The warm side, and the bark under a big limb or over a big root: said to run better. */
export const FAVOURS = ['warmSide', 'limbsAndRoots'] as const;

const dayOfYear = z.string().regex(/^(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, 'a day of the year is month-day: 04-15');

/** The bush's own numbers. */
const settings = {
  ladder: ladderIdSchema,
  ownLadder: ownLadderSchema,
  bitMm: z.number().min(3).max(25),
  depthMm: z.number().min(10).max(150),
  lowestMm: z.number().min(0).max(3000),
  highestMm: z.number().min(300).max(4000),
  spacingMm: z.number().min(0).max(2000),
  acceptedShare: z.number().min(0.01).max(0.5),
  /** height at which trunks are measured, mm */
  breastHeightMm: z.number().min(1000).max(1500),
  /** how holes are placed */
  school: z.enum(PLACING_IDS),
  /** upward slope of a hole, degrees */
  angleDeg: z.number().min(0).max(20),
  /** snow on the ground at tapping, mm */
  snowMm: z.number().min(0).max(2500),
  /** drop line from the tubing to the spout, mm; null where buckets hang */
  dropMm: z.number().min(100).max(3000).nullable(),
  /** how thick the wood is that carries sap, mm */
  sapwoodMm: z.number().min(15).max(300),
  /** the bush's own correction of its columns, accepted from its logged holes: factors on volume and on errors of place */
  columnFactor: z.number().min(0.2).max(5),
  positionFactor: z.number().min(0.2).max(5),
  /** minutes that a crew takes for a hole, walking and looking included */
  minutesAHole: z.number().min(1).max(60),
  /** what one thinning may do: shares of basal area, m2/ha that stay, metres of an opening, the price of a tap */
  removalShare: z.number().min(0.02).max(0.6),
  stockingSchool: z.enum(STOCKING_SCHOOLS),
  residualM2PerHa: z.number().min(0).max(40),
  coverLeft: z.number().min(0).max(0.95),
  othersShare: z.number().min(0).max(0.6),
  openingM: z.number().min(6).max(60).nullable(),
  tapCost: z.number().min(0).max(100),
  /** crop trees stand at least so far apart, metres */
  cropSpacingM: z.number().min(3).max(25),
  /** work that gets done: stacked firewood and brush a day, m3, and days a month */
  stackedM3ADay: z.number().min(0.1).max(50),
  brushM3ADay: z.number().min(0.5).max(500),
  daysAMonth: z.number().min(0.5).max(31),
  /** nothing is cut or cleared between these days of the year, month-day */
  quietFrom: dayOfYear,
  quietTo: dayOfYear,
  /** the ash borer was found in this bush or near it */
  ashBorer: z.boolean(),
  /** sides liked better between equally clear places outside the planned rotation */
  favours: z.array(z.enum(FAVOURS)).max(FAVOURS.length),
  /** paint under a season's holes, by turns; none where nobody paints */
  paints: z.array(z.enum(PAINTS)).max(PAINTS.length),
  /** the season in which the first was used, and after how many seasons a mark is gone; null: always, and never */
  paintSince: season.nullable(),
  paintLasts: z.number().int().min(1).max(60).nullable(),
  paintPlace: z.enum(PAINT_PLACES),
  /** what the trees to take are painted with */
  markPaint: lineOfText(60),
  clueTable: adjustmentsSchema
};

/** A change of some of them. */
export const bushSettingsChangeSchema = z.object(settings).partial();

/** Everything has a default; stored settings may name only some. */
export const bushSettingsSchema = z.object({
  ladder: settings.ladder.default('twelveEighteen'),
  ownLadder: settings.ownLadder.default([]),
  bitMm: settings.bitMm.default(7.9375),
  depthMm: settings.depthMm.default(38.1),
  lowestMm: settings.lowestMm.default(600),
  highestMm: settings.highestMm.default(1500),
  spacingMm: settings.spacingMm.default(300),
  acceptedShare: settings.acceptedShare.default(0.1),
  breastHeightMm: settings.breastHeightMm.default(1300),
  school: settings.school.default('rotation'),
  angleDeg: settings.angleDeg.default(DEFAULT_PRACTICE.angleDeg),
  snowMm: settings.snowMm.default(0),
  dropMm: settings.dropMm.default(null),
  sapwoodMm: settings.sapwoodMm.default(DEFAULT_COLUMNS.sapwoodMm),
  columnFactor: settings.columnFactor.default(1),
  positionFactor: settings.positionFactor.default(1),
  minutesAHole: settings.minutesAHole.default(4),
  removalShare: settings.removalShare.default(DEFAULT_LIMITS.share),
  stockingSchool: settings.stockingSchool.default(DEFAULT_LIMITS.school),
  residualM2PerHa: settings.residualM2PerHa.default(DEFAULT_LIMITS.residualM2PerHa),
  coverLeft: settings.coverLeft.default(DEFAULT_LIMITS.cover),
  othersShare: settings.othersShare.default(DEFAULT_LIMITS.othersShare),
  openingM: settings.openingM.default(DEFAULT_LIMITS.openingM),
  tapCost: settings.tapCost.default(DEFAULT_LIMITS.tapCost),
  cropSpacingM: settings.cropSpacingM.default(9),
  stackedM3ADay: settings.stackedM3ADay.default(DEFAULT_RATE.stackedM3ADay),
  brushM3ADay: settings.brushM3ADay.default(DEFAULT_RATE.brushM3ADay),
  daysAMonth: settings.daysAMonth.default(4),
  quietFrom: settings.quietFrom.default(DEFAULT_QUIET.from),
  quietTo: settings.quietTo.default(DEFAULT_QUIET.to),
  ashBorer: settings.ashBorer.default(false),
  favours: settings.favours.default([]),
  paints: settings.paints.default([]),
  paintSince: settings.paintSince.default(null),
  paintLasts: settings.paintLasts.default(null),
  paintPlace: settings.paintPlace.default('below'),
  markPaint: settings.markPaint.default('a pale ring, a dot at the foot'),
  clueTable: settings.clueTable.default({})
});
export type BushSettings = z.infer<typeof bushSettingsSchema>;
export const DEFAULT_BUSH_SETTINGS: BushSettings = bushSettingsSchema.parse({});

/** What a stand is kept for. Only the first two are managed for maple. */
export const standPurposeSchema = oneOf('syrup', 'mixed', 'timber', 'food', 'wildlife');
export type StandPurpose = z.infer<typeof standPurposeSchema>;

/** Is a stand kept for syrup, alone or beside other things? Trees without a stand are. */
export function isSugarbush(stand: Pick<Stand, 'purpose'> | null): boolean {
  return stand === null || stand.purpose === 'syrup' || stand.purpose === 'mixed';
}

export const wetnessSchema = oneOf('dry', 'moist', 'wet');
export type Wetness = z.infer<typeof wetnessSchema>;

const coursePoint = z.tuple([metres, metres]);

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

/** A tree's line in the book, as its entries and places leave it. */
export const treeSchema = z.object({
  id: uuid(),
  tag: treeTag,
  tagged: z.boolean(),
  standId: uuid().nullable(),
  stemOf: uuid().nullable(),
  walkOrder: z.number().int().min(0),
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
export const groundFitSchema = z
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
export type GroundFit = z.infer<typeof groundFitSchema>;
