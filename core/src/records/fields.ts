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
import type { PositionQuality } from '../stand/index.ts';
import type { TrunkQuantity } from '../units/index.ts';
import { lineOfText } from './text.ts';

/* What the schemas of records, settings and the site are put together from. */

/** One of a few words. */
export const oneOf = <T extends string>(...values: [T, ...T[]]) => z.enum(values);

/** A species of the clue table. */
export const speciesIdSchema = z.enum(SPECIES.map((s) => s.id) as [SpeciesId, ...SpeciesId[]]);
/** How a trunk was measured. */
export const methodSchema = oneOf<MeasureMethod>(
  'diameterTape',
  'girthTape',
  'calipers',
  'biltmore',
  'plainStick',
  'hug'
);
/** Where a crown stands in the canopy. */
export const crownClassSchema = oneOf<CrownClass>('dominant', 'codominant', 'intermediate', 'suppressed', 'open');
/** What of a trunk was measured. */
export const quantitySchema = oneOf<TrunkQuantity>('girth', 'diameter', 'radius');
/** How a position was found. */
export const positionQualitySchema = oneOf<PositionQuality>('surveyed', 'paced', 'phone');
/** What looks at a tree amount to. */
export const verdictSchema = oneOf<Verdict>('settled', 'mapleOpen', 'lookAgain', 'notMaple');
/** How old a trunk looks by its bark. */
export const ageClassSchema = z.enum(AGE_CLASSES);
/** The season of a look. */
export const lookSeasonSchema = z.enum(LOOK_SEASONS);
/** What was looked at. */
export const characterIdSchema = z.enum(CHARACTERS.map((c) => c.id) as [CharacterId, ...CharacterId[]]);
/** The states in which a character is found. @param id of the character */
export const statesOf = (id: string) => CHARACTERS.find((c) => c.id === id)?.states.map((s) => s.id) ?? [];

/** Ids in one case: two spellings of one id would be two records. */
export const uuid = () => z.uuid().toLowerCase();
/** A day on which work was done, or shall be. The server also refuses what lies beyond the next year. */
export const day = () =>
  z.iso.date().refine((on) => on >= '1900-01-01' && on <= '2200-12-31', 'is no day of this bush');
/** A moment, as `recordedAt` says it. Kept as it is written. */
export const moment = z
  .string()
  .max(40)
  .refine((at) => z.iso.datetime().safeParse(at).success, 'is no moment');
/** A sap season. The server also refuses what lies beyond the next but one. */
export const season = z.number().int().min(1900).max(2200);
/** Compass bearing, degrees from north, clockwise. */
export const bearingDeg = z.number().min(0).lt(360);
/** A length on the ground or a place in the bush's own grid, metres. */
export const metres = z.number().min(-100_000).max(100_000);
/** Height above the ground on a trunk, mm. */
export const trunkHeightMm = z.number().min(0).max(5000);
/** Diameter of a tapping bit, mm. */
export const bitMm = z.number().min(3).max(25);
/** Depth of a hole in wood, mm. */
export const depthMm = z.number().min(5).max(150);
/** Diameter of a trunk that was seen in passing, mm. */
export const roughDbhMm = z.number().min(10).max(3000);
/** What is written on the tag of a tree. */
export const treeTag = lineOfText(20);
/** Why, in the writer's words; empty where nothing was said. */
export const reason = z.string().max(500).default('');
/** Anything worth a line. */
export const note = z.string().max(500).default('');

/** What a field with an id points at. */
export interface Pointer {
  /** `self`: the record's own id; `sameKind`: a record of its kind and owner; `tree`, `stand`; else a kind of record */
  readonly to: string;
  /** it may name what is no longer there */
  readonly mayDangle?: true;
  /** it means whatever that record was corrected to: a place that was renamed is the same place */
  readonly follows?: true;
}
/** What the fields of schemas point at, told by the schema that a field has. */
export const POINTERS = z.registry<Pointer>();

/** A field that holds the id of something else. */
export const pointer = (to: Pointer['to'], mayDangle?: true) =>
  uuid().register(POINTERS, mayDangle ? { to, mayDangle } : { to });
/** One that names a record as it is now, however often it was corrected; it may be gone. */
export const lastingPointer = (to: Pointer['to']) => uuid().register(POINTERS, { to, mayDangle: true, follows: true });
