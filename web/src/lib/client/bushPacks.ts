import { bushRecordSchema, type BushRecord } from '@baumkin/core/records';
import { group } from 'd3-array';

import { read } from './overview.ts';
import { store } from './store.ts';

/*
 * Records of a bush as a whole on this device, those of a year to a pack: thirty seasons of emptied tanks are tens of thousands,
 * and what comes today touches none but this year's. A pack is text, as those of the lines are.
 */

const pack = (bushId: string, year: string, records: readonly BushRecord[]) => ({
  bushId,
  year,
  text: JSON.stringify(records)
});
const unpack = (text: string) => JSON.parse(text) as BushRecord[];
const byYear = (records: readonly BushRecord[]) => group(records, ({ on }) => on.slice(0, 4));
const packsOf = (bushId: string) => store.bushPacks.where('bushId').equals(bushId);

/** All records of a bush as a whole, the oldest years first. @throws SyntaxError where a pack is spoilt */
export const readBushRecords = async (bushId: string): Promise<readonly BushRecord[]> =>
  (await packsOf(bushId).toArray()).flatMap(({ text }) => unpack(text));

/** Puts these records in the place of all. */
export async function replaceBushRecords(bushId: string, records: readonly BushRecord[]): Promise<void> {
  await packsOf(bushId).delete();
  await store.bushPacks.bulkPut([...byYear(records)].map(([year, those]) => pack(bushId, year, those)));
}

/** Adds records that came. Within the transaction that keeps what they came with. */
export async function addBushRecords(bushId: string, came: readonly BushRecord[]): Promise<void> {
  for (const [year, news] of byYear(came)) {
    const known = await store.bushPacks.get([bushId, year]);
    await store.bushPacks.put(pack(bushId, year, withRecords(known ? unpack(known.text) : [], news)));
  }
}

/** Records of the bush as a whole, and some that came. */
export function withRecords(known: readonly BushRecord[], came: readonly BushRecord[]): readonly BushRecord[] {
  if (came.length === 0) return known;
  const fresh = new Set(came.map(({ id }) => id));
  return [...known.filter(({ id }) => !fresh.has(id)), ...came];
}

/** Such records as the program of before kept them, with the fields that this one knows more of. */
export const recordsUnderThisRelease = (records: readonly BushRecord[]): readonly BushRecord[] =>
  records.map((record) => read(bushRecordSchema, record));
