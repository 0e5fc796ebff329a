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

export const oneOf = <T extends string>(...values: [T, ...T[]]) => z.enum(values);

export const speciesIdSchema = z.enum(SPECIES.map((s) => s.id) as [SpeciesId, ...SpeciesId[]]);
export const methodSchema = oneOf<MeasureMethod>('diameterTape', 'girthTape', 'calipers', 'biltmore', 'hug');
export const crownClassSchema = oneOf<CrownClass>('dominant', 'codominant', 'intermediate', 'suppressed', 'open');
export const quantitySchema = oneOf<TrunkQuantity>('girth', 'diameter', 'radius');
export const positionQualitySchema = oneOf<PositionQuality>('surveyed', 'paced', 'phone');
export const verdictSchema = oneOf<Verdict>('settled', 'mapleOpen', 'lookAgain', 'notMaple');
export const ageClassSchema = z.enum(AGE_CLASSES);
export const lookSeasonSchema = z.enum(LOOK_SEASONS);
export const characterIdSchema = z.enum(CHARACTERS.map((c) => c.id) as [CharacterId, ...CharacterId[]]);
export const statesOf = (id: string) => CHARACTERS.find((c) => c.id === id)?.states.map((s) => s.id) ?? [];

/** Ids in one case: two spellings of one id would be two records. */
export const uuid = () => z.uuid().toLowerCase();
/** A day on which work was done, or shall be. The server also refuses what lies beyond the next year. */
export const day = () =>
  z.iso.date().refine((on) => on >= '1900-01-01' && on <= '2200-12-31', 'is no day of this bush');
/** A sap season. The server also refuses what lies beyond the next but one. */
export const season = z.number().int().min(1900).max(2200);
export const bearingDeg = z.number().min(0).lt(360);
export const metres = z.number().min(-100_000).max(100_000);
/** Height above the ground on a trunk, mm. */
export const trunkHeightMm = z.number().min(0).max(5000);
export const bitMm = z.number().min(3).max(25);
/** Depth of a hole in wood, mm. */
export const depthMm = z.number().min(5).max(150);
/** Diameter of a trunk that was seen in passing, mm. */
export const roughDbhMm = z.number().min(10).max(3000);
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
}
export const POINTERS = z.registry<Pointer>();

/** A field that holds the id of something else. */
export const pointer = (to: Pointer['to'], mayDangle?: true) =>
  uuid().register(POINTERS, mayDangle ? { to, mayDangle } : { to });
