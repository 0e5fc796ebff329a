import { z } from 'zod';

import type { CrownClass } from '../../measure/index.ts';
import {
  DEFECT_KINDS,
  HAZARD_KINDS,
  LOOKED_AT,
  WILDLIFE_KINDS,
  type DefectKind,
  type EarlierLooks,
  type HazardKind,
  type WildlifeKind
} from '../../taps/index.ts';
import { bearingDeg, crownClassSchema, note, trunkHeightMm } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

const percent = z.number().int().min(0).max(100).nullable();

/** A defect with its place on the trunk; the place is null where it is all along it, or was not noted. */
const trunkDefectSchema = z.object({
  kind: z.enum(DEFECT_KINDS),
  bearingDeg: bearingDeg.nullable(),
  heightMm: trunkHeightMm.nullable()
});

export interface AssessmentLine {
  readonly crownClass: CrownClass | null;
  readonly diebackPct: number | null;
  readonly oldestOpenHoleYears: number | null;
  readonly stressed: boolean | null;
  readonly peeledPct: number | null;
  readonly peelFresh: boolean;
  /** the day of the last look at crown, holes and trunk */
  readonly lookedOn: string | null;
  /** when that was seen which the last look left open and an earlier one told */
  readonly earlierLooks: EarlierLooks;
  readonly defects: readonly DefectKind[];
  readonly hazards: readonly HazardKind[];
  readonly wildlife: readonly WildlifeKind[];
}

/** A look at crown, old holes and trunk. */
export const assessment = recordKind({
  kind: 'assessment',
  table: 'assessments',
  label: 'look at the condition',
  of: 'tree',
  group: 'condition',
  writer: 'crew',
  fields: {
    /** dead fine branches in the live crown, per cent; null where nobody looked up */
    diebackPct: percent,
    crownClass: crownClassSchema.nullable(),
    /** age of the oldest hole that is still open; 0 where all have closed, null where nobody looked */
    oldestOpenHoleYears: z.number().int().min(0).max(50).nullable(),
    /** a hard summer before the look; null where nobody said */
    stressed: z.boolean().nullable(),
    /** share of the girth whose bark was peeled off, per cent; null where nobody looked */
    peeledPct: percent.default(null),
    peelFresh: z.boolean().default(false),
    defects: z.array(trunkDefectSchema).max(20).default([]),
    hazards: z.array(z.enum(HAZARD_KINDS)).max(HAZARD_KINDS.length).default([]),
    wildlife: z.array(z.enum(WILDLIFE_KINDS)).max(WILDLIFE_KINDS.length).default([]),
    note
  },
  holds: { said: LOOKED_AT },
  line: (look): AssessmentLine => ({
    crownClass: look?.crownClass ?? null,
    diebackPct: look?.diebackPct ?? null,
    oldestOpenHoleYears: look?.oldestOpenHoleYears ?? null,
    stressed: look?.stressed ?? null,
    peeledPct: look?.peeledPct ?? null,
    peelFresh: look?.peelFresh ?? false,
    lookedOn: look?.on ?? null,
    earlierLooks: look?.earlier ?? {},
    defects: look?.defects.map(({ kind }) => kind) ?? [],
    hazards: look?.hazards ?? [],
    wildlife: look?.wildlife ?? []
  })
});
export type Assessment = RecordOf<typeof assessment>;
