import { z } from 'zod';

import { CARRIERS, VESSELS } from '../../season/index.ts';
import { metres, note, oneOf, pointer } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';
import { lineOfText } from '../text.ts';

/** Where sap is collected: a single tree, a cluster of buckets, the vessel of a line, a tank. */
export const collectingPlace = recordKind({
  kind: 'collectingPlace',
  table: 'collectingPlaces',
  label: 'collecting place',
  of: 'bush',
  group: 'season',
  writer: 'steward',
  fields: {
    name: lineOfText(60),
    /** whose sap runs into it: sap of two kinds is never put together */
    of: oneOf('maple', 'birch', 'walnut').default('maple'),
    vessel: z.enum(VESSELS),
    /** does a pump pull on its line? */
    vacuum: z.boolean().default(false),
    /** what one vessel holds, litres, and how many stand there; null: one for each tap */
    litres: z.number().min(0.5).max(100_000),
    vessels: z.number().int().min(1).max(5000).nullable().default(null),
    /** of a pail on the ground: the height of its rim and the length of the tube into it, mm */
    rimMm: z.number().min(50).max(1500).nullable().default(null),
    tubeMm: z.number().min(50).max(3000).nullable().default(null),
    /** by which its sap is carried */
    carrier: z.enum(CARRIERS),
    /** the trees whose sap comes here */
    treeIds: z.array(pointer('tree', true)).max(5000),
    eastM: metres.nullable().default(null),
    northM: metres.nullable().default(null),
    note
  },
  holds: 'list'
});
export type CollectingPlaceRecord = RecordOf<typeof collectingPlace>;
