import { z } from 'zod';

import { toDiameter } from '../../measure/index.ts';
import { METHOD_WORD, plainNumber } from '../cells.ts';
import { MEASURED_ON, METHOD_COLUMN } from '../columns.ts';
import { methodSchema, note, quantitySchema, trunkHeightMm } from '../fields.ts';
import { recordKind, type RecordOf } from '../kind.ts';

/** A size of a trunk as it was read. */
export const reading = recordKind({
  kind: 'reading',
  table: 'readings',
  label: 'reading',
  of: 'tree',
  group: 'size',
  writer: 'crew',
  fields: {
    quantity: quantitySchema,
    /** the measured quantity, mm */
    valueMm: z.number().positive().max(20_000),
    /** what was written, word for word */
    asWritten: z.string().max(80),
    method: methodSchema,
    /** height on the trunk, mm */
    heightMm: trunkHeightMm,
    /** the guard asked about it and the steward stands by it */
    confirmed: z.boolean().default(false),
    note
  },
  holds: 'list',
  countsInLine: true,
  csv: {
    title: 'Readings of trunks',
    columns: [
      { name: 'diameter_cm', type: 'number', explains: 'where the diameter was read; else empty', example: '36.6' },
      { name: 'girth_cm', type: 'number', explains: 'where the girth was read; else empty', example: '' },
      MEASURED_ON,
      METHOD_COLUMN,
      {
        name: 'at_cm',
        type: 'number',
        explains: 'height on the trunk; breast height where it is empty',
        example: '130'
      },
      { name: 'as_written', type: 'string', explains: 'what stood in the notebook, word for word', example: '36,6' }
    ],
    cells: (r) => [
      r.quantity === 'girth' ? '' : plainNumber(toDiameter(r.valueMm, r.quantity) / 10),
      r.quantity === 'girth' ? plainNumber(r.valueMm / 10) : '',
      r.on,
      METHOD_WORD[r.method],
      plainNumber(r.heightMm / 10),
      r.asWritten
    ]
  }
});
export type Reading = RecordOf<typeof reading>;
