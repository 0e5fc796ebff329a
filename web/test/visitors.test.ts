import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';

import { bushFor, changeSettings, createBush } from '../src/lib/server/bushes.ts';
import { Bush } from '../src/lib/server/db/index.ts';
import { visitorPage } from '../src/lib/server/visitors.ts';
import { restoreText, writeArchive } from './archives.ts';
import { bushWithTrees, useFreshDatabase } from './database.ts';
import { book, entry, made, reading } from './doorsSupport.ts';

useFreshDatabase();

async function openBush() {
  const bush = await book();
  const tree = randomUUID();
  const species = {
    kind: 'determination',
    verdict: 'settled',
    species: 'sugarMaple',
    probability: 1,
    age: 'grown',
    basis: 'declared',
    evidence: {},
    note: ''
  };
  const sent = await bush.send(
    entry(tree, '41'),
    reading(tree, 460),
    made(tree, species),
    made(tree, { kind: 'taphole', season: 2026, bearingDeg: 180, heightMm: 1000, bitMm: 7.9, depthMm: 38 })
  );
  expect(sent).toEqual(['stored', 'stored', 'stored', 'stored']);
  const { version } = await bush.access();
  const by = { bushId: bush.bushId, authorId: bush.userId, seen: version };
  await changeSettings(by, { openToVisitors: true, visitorWords: 'Welcome.' });
  return { ...bush, tree };
}

describe('the page for visitors', () => {
  it('is there where the stewards opened it, and holds no people, places or records', async () => {
    const bush = await openBush();
    const page = (await visitorPage(bush.bushId))!;
    expect(page).toMatchObject({ name: 'Test Bush', words: 'Welcome.', maples: 1 });
    expect(page.trees).toMatchObject([{ tag: '41', species: 'sugarMaple', lastTapped: 2026 }]);
    const told = JSON.stringify(page);
    for (const secret of [bush.userId, bush.tree, 'Steward', 'eastM', 'lat', 'authorId'])
      expect(told).not.toContain(secret);
    // What was written since shows.
    await bush.send(entry(randomUUID(), '42'));
    expect((await visitorPage(bush.bushId))!.trees).toHaveLength(1);
  });

  it('is not there for others, for no bush, and once it is closed', async () => {
    const { bushId } = await bushWithTrees();
    for (const id of [bushId, randomUUID(), '1 OR 1=1', '']) expect(await visitorPage(id)).toBeNull();
    const bush = await openBush();
    const { version } = await bush.access();
    await changeSettings({ bushId: bush.bushId, authorId: bush.userId, seen: version }, { openToVisitors: false });
    expect(await visitorPage(bush.bushId)).toBeNull();
  });

  it('does not open by itself in a bush that was read back from an archive, nor stay open in one that is over', async () => {
    const bush = await openBush();
    const other = await bushWithTrees();
    const id = await createBush(other.userId, 'Read back');
    const archive = JSON.stringify(await writeArchive(await bush.access()));
    await restoreText((await bushFor(other.userId, id))!, other.userId, archive);
    expect(await visitorPage(id)).toBeNull();
    await Bush.update({ playUntil: new Date(Date.now() - 1000) }, { where: { id: bush.bushId } });
    expect(await visitorPage(bush.bushId)).toBeNull();
  });
});
