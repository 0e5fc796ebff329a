import { z } from 'zod';

import { CROSSING_WAYS, PIPE_USES } from '../../lines/index.ts';
import { lastingPointer, metres, moment, note, oneOf, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';
import { lineOfText } from '../text.ts';

/** A pipe that is shorter than this is none, metres. Working assumption. */
const LEAST_LENGTH_M = 0.5;

/** A pipe that is laid, or planned, in a bush: drawn from its upper end to its foot. */
export const pipeLine = recordKind({
  kind: 'pipeLine',
  table: 'pipeLines',
  label: 'line',
  of: 'bush',
  group: 'season',
  writer: 'steward',
  fields: {
    name: lineOfText(60),
    use: z.enum(PIPE_USES),
    /** where it bends or is held, metres east and north, the upper end first */
    points: z
      .array(z.tuple([metres, metres]))
      .min(2)
      .max(500),
    /** inner diameter, mm */
    boreMm: z.number().min(4).max(110),
    /** does it hang on a wire of its own, or is it drawn tight by hand? */
    held: oneOf('wire', 'hand'),
    /** metres from one post, tie or tree that holds it to the next */
    spanM: z.number().min(0.3).max(100),
    /** the line that it runs into at its foot; null where it runs into a vessel */
    intoId: lastingPointer('sameKind').nullable().default(null),
    /** the collecting place at its foot */
    placeId: lastingPointer('collectingPlace').nullable().default(null),
    /** the trees that are tapped into it, and the length of tube that each hangs on, mm */
    drops: z.array(z.object({ treeId: pointer('tree', true), dropMm: z.number().min(50).max(5000) })).max(500),
    /** since when it runs as it is drawn: what was levelled before is of another course; null: since it was laid */
    runsSince: moment.nullable().default(null),
    /** how it crosses paths: where, metres east and north, overhead or through a culvert, and whether it is wrapped there */
    crossings: z
      .array(z.object({ at: z.tuple([metres, metres]), how: z.enum(CROSSING_WAYS), insulated: z.boolean() }))
      .max(100)
      .default([]),
    /** does it stay up when the season is over? */
    staysUp: z.boolean().default(false),
    note
  },
  rules: [
    {
      holds: ({ points }) =>
        points.some(([east, north]) => Math.hypot(east - points[0]![0], north - points[0]![1]) >= LEAST_LENGTH_M),
      path: ['points'],
      message: 'is no line: its points lie in one place'
    }
  ],
  holds: 'list'
});
export type PipeLineRecord = RecordOf<typeof pipeLine>;
