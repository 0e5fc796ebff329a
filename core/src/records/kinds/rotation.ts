import { z } from 'zod';

import { bearingDeg, depthMm, oneOf, season, trunkHeightMm } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/**
 * What a plan follows from. Each is kept as a stamp, so that whoever looks at a plan can tell whether anything was learned
 * since it was made, and what.
 */
export const RESTS_ON = [
  'holes',
  'shavings',
  'growth',
  'trunk',
  'count',
  'band',
  'snow',
  'practice',
  'wishes',
  'columns',
  'planner'
] as const;
/** One of the things that a plan follows from. */
export type RestsOn = (typeof RESTS_ON)[number];

const stamp = z.string().max(12);
const chance = z.number().min(0).max(1);
const tap = z.number().int().min(0).max(8);
/** Bearing, degrees; height above the ground, mm; share of the path that was expected in stained wood. */
const place = z.tuple([bearingDeg, trunkHeightMm, chance]);

/**
 * The holes that are planned for a trunk: those of one season with their chances, which every list, card and phone names, and
 * the seasons behind them. Planned anew only where what was learned makes another plan better by more than a change costs in trust.
 */
export const rotation = recordKind({
  kind: 'rotation',
  table: 'rotations',
  label: 'planned holes',
  of: 'tree',
  group: 'holes',
  writer: 'crew',
  fields: {
    season,
    /** holes of that season, with the chance of clear wood that was predicted */
    holes: z.array(z.object({ bearingDeg, heightMm: trunkHeightMm, pClear: chance })).max(8),
    /** how deep they are drilled, mm of wood, where this tree carries no sap as deep as the bush drills; null elsewhere */
    depthMm: depthMm.nullable().default(null),
    /** `first` plan; `carried` on from the season before; `holds` after it was looked at again; `changed` */
    verdict: oneOf('first', 'carried', 'holds', 'changed'),
    /** what was learned since it was looked at before */
    news: z.array(z.enum(RESTS_ON)).max(RESTS_ON.length),
    /** what the best other plan saves or saved in the mean of the holes, as a share of a path; null where none was looked for */
    saves: chance.nullable(),
    restsOn: z.object(Object.fromEntries(RESTS_ON.map((each) => [each, stamp])) as Record<RestsOn, typeof stamp>),
    /** where chance begins in the search for it */
    seed: z.number().int(),
    /** the plan from a season on; null where it is as it was */
    coming: z
      .object({
        from: season,
        taps: tap,
        /** ring that the trunk was taken to lay, mm */
        ringMm: z.number().min(0).max(30),
        /** by season, the first one `from` */
        holes: z.array(z.array(place).max(8)).max(120)
      })
      .nullable()
  },
  holds: { said: ['coming'] }
});
export type RotationRecord = RecordOf<typeof rotation>;
