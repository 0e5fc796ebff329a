import type { BushRecord } from '../records/index.ts';
import { writeRows } from './safeCells.ts';

const said = (value: number | string | null): string => (value === null ? '' : String(value));

/** The sap log of a bush, a line for each emptying. @param records of the bush that hold */
export function writeSapLog(records: readonly BushRecord[]): string {
  const places = new Map(
    records.flatMap((record) => (record.kind === 'collectingPlace' ? [[record.id, record] as const] : []))
  );
  return writeRows(
    [
      [
        'date',
        'hour',
        'place',
        'sap',
        'litres',
        'taps',
        'drilled_on',
        'brix',
        'look',
        'rain',
        'ran_over',
        'went',
        'note'
      ],
      ...records.flatMap((record) =>
        record.kind === 'collection'
          ? [
              [
                record.on,
                record.hour.toFixed(2),
                (record.placeId !== null && places.get(record.placeId)?.name) || '',
                (record.placeId !== null && places.get(record.placeId)?.of) || 'maple',
                said(record.litres),
                said(record.taps),
                said(record.drilledOn),
                said(record.brix),
                record.look,
                said(record.rain ? 'yes' : ''),
                said(record.ranOver ? 'yes' : ''),
                record.went,
                record.note
              ]
            ]
          : []
      )
    ],
    '\r\n'
  );
}

/** The batches of a bush, a line for each. @param records of the bush that hold */
export function writeBatches(records: readonly BushRecord[]): string {
  return writeRows(
    [
      [
        'date',
        'season',
        'of',
        'sap_l',
        'sap_brix',
        'ice_l',
        'became',
        'syrup_l',
        'syrup_brix',
        'hours',
        'wood_m3',
        'colour',
        'note'
      ],
      ...records.flatMap((record) =>
        record.kind === 'batch'
          ? [
              [
                record.on,
                said(record.season),
                record.of,
                said(record.sapLitres),
                said(record.sapBrix),
                said(record.iceLitres),
                record.became,
                said(record.syrupLitres),
                said(record.syrupBrix),
                said(record.hours),
                said(record.woodM3),
                said(record.colour),
                record.note
              ]
            ]
          : []
      )
    ],
    '\r\n'
  );
}
