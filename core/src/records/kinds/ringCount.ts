import { z } from 'zod';

import { note, oneOf, trunkHeightMm } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

const widthMm = z.number().positive().max(300).nullable().default(null);

/** Rings that were counted on a core, or on a stump or sawn face. */
export const ringCount = recordKind({
  kind: 'ringCount',
  table: 'ringCounts',
  label: 'counted rings',
  of: 'tree',
  group: 'size',
  writer: 'crew',
  fields: {
    source: oneOf('core', 'stump'),
    heightMm: trunkHeightMm,
    /** all that could be counted */
    rings: z.number().int().min(1).max(600).nullable().default(null),
    /** counted to the pith: the tree's age at that height */
    toPith: z.boolean().default(false),
    /** width of the outermost 5, 10 and 20 rings along one radius, mm of wood; null where it was not measured */
    last5Mm: widthMm,
    last10Mm: widthMm,
    last20Mm: widthMm,
    /** sound wood from under the bark to where the hollow begins, mm; null where none was met */
    hollowFromMm: z.number().min(0).max(1000).nullable().default(null),
    note
  },
  rules: [
    {
      holds: ({ withdrawn, rings, last5Mm, last10Mm, last20Mm, hollowFromMm }) =>
        withdrawn || [rings, last5Mm, last10Mm, last20Mm, hollowFromMm].some((each) => each !== null),
      message: 'neither rings nor widths nor a hollow'
    },
    {
      holds: ({ last5Mm, last10Mm, last20Mm }) => {
        const told = [last5Mm, last10Mm, last20Mm].filter((each) => each !== null);
        return told.every((each, i) => i === 0 || each > told[i - 1]!);
      },
      message: 'more rings cannot be narrower than fewer'
    },
    {
      holds: ({ rings, last5Mm, last10Mm, last20Mm }) => {
        const measured = last20Mm !== null ? 20 : last10Mm !== null ? 10 : last5Mm !== null ? 5 : 0;
        return rings === null || rings >= measured;
      },
      message: 'more rings were measured than counted'
    },
    {
      holds: ({ toPith, hollowFromMm }) => !toPith || hollowFromMm === null,
      message: 'where a hollow begins, no pith can be counted to'
    }
  ],
  holds: 'list',
  line: (counts) => {
    const met = counts.filter(({ hollowFromMm }) => hollowFromMm !== null).at(-1);
    return {
      /** sound wood before a hollow that a core or stump met, mm, and on which day; null where none was met */
      hollow: met ? { fromMm: met.hollowFromMm!, on: met.on } : null
    };
  }
});
export type RingCount = RecordOf<typeof ringCount>;
