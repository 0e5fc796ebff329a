import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';

import { backupsTold } from '../src/lib/server/backups.ts';

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'baumkin-told-'));
});
afterEach(() => rm(folder, { recursive: true }));

const note = async (day: string, withFile = true) => {
  const file = `baumkin-${day}T033000Z.sql.gz`;
  const madeAt = `${day}T03:30:00.000Z`;
  await writeFile(
    join(folder, file.replace('.sql.gz', '.json')),
    JSON.stringify({ format: 'baumkin-backup', madeAt, file })
  );
  if (withFile) await writeFile(join(folder, file), '');
};

it('tells the newest backup whose file is there, and a failure only since', async () => {
  expect(await backupsTold('')).toBeNull();
  expect(await backupsTold(join(folder, 'unplugged'))).toEqual({ lastGood: null, failedAt: null });
  await note('2027-03-08');
  await note('2027-03-09');
  await note('2027-03-10', false);
  await writeFile(join(folder, 'baumkin-2027-03-11T033000Z.json'), '{');
  await writeFile(join(folder, 'last-failure.json'), JSON.stringify({ at: '2027-03-08T04:30:00.000Z', says: 'full' }));
  const lastGood = new Date('2027-03-09T03:30:00.000Z');
  expect(await backupsTold(folder)).toEqual({ lastGood, failedAt: null });
  await writeFile(join(folder, 'last-failure.json'), JSON.stringify({ at: '2027-03-10T03:30:00.000Z', says: 'full' }));
  expect(await backupsTold(folder)).toEqual({ lastGood, failedAt: new Date('2027-03-10T03:30:00.000Z') });
});
