import { randomUUID } from 'node:crypto';
import { standSchema } from '@baumkin/core/records';
import { bushFor } from '../src/lib/server/bushes.ts';
import { importFile } from '../src/lib/server/importTrees.ts';
import { storeRecords } from '../src/lib/server/records.ts';
import { bushWithTrees } from './database.ts';

export const TODAY = '2026-11-23';

export const NOW = new Date('2026-11-23T12:00:00.000Z');

export const made = (treeId: string, change: object) => ({
  id: randomUUID(),
  treeId,
  on: TODAY,
  recordedAt: '2026-11-23T10:00:00.000Z',
  correctsId: null,
  withdrawn: false,
  ...change
});

export const entry = (treeId: string, tag: string, change: object = {}) =>
  made(treeId, { kind: 'entry', tag, standId: null, ...change });

export const reading = (treeId: string, valueMm: number, change: object = {}) =>
  made(treeId, {
    kind: 'reading',
    quantity: 'diameter',
    valueMm,
    asWritten: `${valueMm}`,
    method: 'diameterTape',
    heightMm: 1300,
    ...change
  });

export const hill = (change: object = {}) =>
  standSchema.parse({
    id: randomUUID(),
    name: 'Hill',
    purpose: 'syrup',
    areaHa: null,
    outline: [
      [0, 0],
      [50, 0],
      [50, 50]
    ],
    ...change
  });

export async function book() {
  const { userId, bushId, treeIds } = await bushWithTrees();
  const send = async (...records: object[]) =>
    (await storeRecords(bushId, { id: userId, role: 'steward' }, records, NOW)).map((o) => o.reason ?? o.status);
  const access = async () => (await bushFor(userId, bushId))!;
  const bring = async (text: string) =>
    importFile(
      await access(),
      userId,
      { text, newTrees: true, defaultUnit: 'cm', sizesAre: {}, today: TODAY, told: { undatedOn: TODAY } } as never,
      NOW
    );
  return { userId, bushId, treeIds, send, access, bring };
}
