import { randomBytes, randomUUID } from 'node:crypto';
import { afterAll, beforeAll } from 'vitest';

import type { Role } from '@baumkin/core/records';
import { createAccount } from '../src/lib/server/accounts.ts';
import { createBush } from '../src/lib/server/bushes.ts';
import { invite, joinBy } from '../src/lib/server/invitations.ts';
import type { MemberChangeBy } from '../src/lib/server/members.ts';
import { connect, migrate, tables, TreeRecord } from '../src/lib/server/db/index.ts';

const base = process.env.DATABASE_URL ?? '';

/** Makes an empty database on the server that DATABASE_URL names. */
export async function emptyDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  if (!base) throw new Error('DATABASE_URL is not set: run the tests through "npm test".');
  const name = `baumkin_${randomBytes(6).toString('hex')}`;
  const server = connect(base);
  await server.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  return {
    url: base.replace(/\/[^/]*$/, `/${name}`),
    drop: async () => {
      await server.query(`DROP DATABASE ${name}`);
      await server.close();
    }
  };
}

/** A database of its own for a test file, brought up to date; dropped afterwards. */
export function useFreshDatabase(): void {
  let database: Awaited<ReturnType<typeof emptyDatabase>>;
  beforeAll(async () => {
    database = await emptyDatabase();
    process.env.DATABASE_URL = database.url;
    await migrate(tables().sequelize);
  });
  afterAll(async () => {
    await tables().sequelize.close();
    await database.drop();
  });
}

/** Somebody comes into a bush as people do: by an invitation of its steward. */
export async function letIn(by: MemberChangeBy, userId: string, role: Role): Promise<void> {
  await joinBy(await invite(by.bushId, by.byId, { role, note: '', forMany: false, days: 1 }), userId);
}

/** Somebody with a bush of three trees. */
export async function bushWithTrees(): Promise<{ userId: string; bushId: string; treeIds: string[] }> {
  const member = await createAccount({
    name: `s-${randomBytes(4).toString('hex')}`,
    displayName: 'Steward',
    password: 'a long enough one'
  });
  const bushId = await createBush(member.id, 'Test Bush');
  const treeIds = [randomUUID(), randomUUID(), randomUUID()];
  await TreeRecord.bulkCreate(
    treeIds.map((id, i) => ({
      id,
      bushId,
      standId: null,
      tag: String(i + 1),
      tagKey: String(i + 1),
      walkOrder: i,
      eastM: 5 * i,
      northM: 0,
      positionQuality: 'surveyed'
    }))
  );
  return { userId: member.id, bushId, treeIds };
}
