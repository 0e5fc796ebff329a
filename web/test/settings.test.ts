import { randomUUID } from 'node:crypto';
import { bushSettingsChangeSchema, DEFAULT_BUSH_SETTINGS } from '@baumkin/core/records';
import { QueryTypes } from 'sequelize';
import { describe, expect, it } from 'vitest';

import { bushFor, changeSettings } from '../src/lib/server/bushes.ts';
import { BushChange, connect, migrate } from '../src/lib/server/db/index.ts';
import * as foundation from '../src/lib/server/db/migrations/0001-foundation.ts';
import { bushWithTrees, emptyDatabase, useFreshDatabase } from './database.ts';

useFreshDatabase();

const smooth = { barkGrown: { sugarMaple: { smooth: 60, oneEdge: 40 } } };

describe('a bush’s own numbers', () => {
  it('change one by one, the others stay, and who did it is written down', async () => {
    const { userId, bushId } = await bushWithTrees();
    await changeSettings({ bushId, authorId: userId, seen: 1 }, { clueTable: smooth });
    await changeSettings({ bushId, authorId: userId, seen: 2 }, { depthMm: 50 });
    const bush = (await bushFor(userId, bushId))!;
    expect(bush).toMatchObject({ version: 3, settings: { ...DEFAULT_BUSH_SETTINGS, clueTable: smooth, depthMm: 50 } });
    const changes = await BushChange.findAll({ where: { bushId }, order: [['id', 'ASC']] });
    expect(changes.map((c) => [c.authorId, c.settings])).toEqual([
      [userId, { clueTable: smooth, was: { clueTable: {} } }],
      [userId, { depthMm: 50, was: { depthMm: DEFAULT_BUSH_SETTINGS.depthMm } }]
    ]);
  });

  it('are not overwritten by whoever saw an older version, nor by two at once', async () => {
    const { userId, bushId } = await bushWithTrees();
    const both = await Promise.allSettled([
      changeSettings({ bushId, authorId: userId, seen: 1 }, { depthMm: 50 }),
      changeSettings({ bushId, authorId: userId, seen: 1 }, { depthMm: 60 })
    ]);
    expect(both.map((b) => b.status).sort()).toEqual(['fulfilled', 'rejected']);
    await expect(changeSettings({ bushId, authorId: userId, seen: 1 }, { depthMm: 45 })).rejects.toMatchObject({
      code: 'outdated'
    });
    expect((await bushFor(userId, bushId))!.version).toBe(2);
  });

  it.each([
    ['shares that do not make 100', { clueTable: { barkGrown: { sugarMaple: { smooth: 60 } } } }, /60 per cent/],
    ['a state that the clue does not have', { clueTable: { rub: { beech: { sings: 100 } } } }, /state/],
    ['a clue that is none', { clueTable: { weather: { beech: { wet: 100 } } } }, /./],
    ['a depth beyond all practice', { depthMm: 900 }, /150/]
  ])('refuse %s', (_, change, message) => {
    const { error } = bushSettingsChangeSchema.safeParse(change);
    expect(error?.issues[0]?.message).toMatch(message);
  });
});

describe('the step to the larger clue table', () => {
  it('carries determinations of the version before over', async () => {
    const { userId, bushId, treeIds } = { userId: randomUUID(), bushId: randomUUID(), treeIds: [randomUUID()] };
    const empty = await emptyDatabase();
    const sequelize = connect(empty.url);
    const query = sequelize.getQueryInterface();
    await foundation.up(query);
    const now = new Date();
    await query.bulkInsert('users', [
      { id: userId, signInName: 'old', displayName: 'Old', passwordHash: '-', createdAt: now }
    ]);
    await query.bulkInsert('bushes', [{ id: bushId, name: 'Old Bush', settings: '{}', createdAt: now }]);
    await query.bulkInsert('trees', [{ id: treeIds[0], bushId, tag: '1', walkOrder: 0 }]);
    const determination = (evidence: string) => ({
      id: randomUUID(),
      bushId,
      treeId: treeIds[0],
      authorId: userId,
      doneOn: '2025-02-01',
      recordedAt: now,
      storedAt: now,
      withdrawn: false,
      verdict: 'settled',
      species: 'redMaple',
      probability: 0.97,
      age: 'grown',
      evidence,
      note: ''
    });
    await query.bulkInsert('determinations', [
      determination('{"budShape":"roundedClustered","budColour":"red"}'),
      determination('{}')
    ]);
    await migrate(sequelize);
    const rows = await sequelize.query<{ evidence: string | object; basis: string; lookSeason: string | null }>(
      'SELECT evidence, basis, lookSeason FROM determinations ORDER BY basis',
      { type: QueryTypes.SELECT }
    );
    expect(
      rows.map((r) => ({ ...r, evidence: typeof r.evidence === 'string' ? JSON.parse(r.evidence) : r.evidence }))
    ).toEqual([
      { evidence: { budShape: 'rounded', budColour: 'red' }, basis: 'clues', lookSeason: null },
      { evidence: {}, basis: 'declared', lookSeason: null }
    ]);
    await sequelize.close();
    await empty.drop();
  });
});
