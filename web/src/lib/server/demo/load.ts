import { randomUUID } from 'node:crypto';
import { hash } from '@node-rs/argon2';

import { Bush, FeatureRow, Membership, StandRow, tables, TreeRecord, User } from '../db/index.ts';
import { storeMany } from '../records.ts';
import { corranHill } from './corranHill.ts';
import { DEMO_BUSH_NAME, DEMO_PEOPLE } from './people.ts';

/**
 * Loads the demo bush, unless it is there. All or nothing: a start that was cut off leaves no half a wood.
 * @returns whether it was loaded now
 */
export async function loadDemo(now = new Date()): Promise<boolean> {
  if (await User.findOne({ where: { signInName: DEMO_PEOPLE[0]!.signInName } })) return false;
  const { stands, features, trees, records, plots } = corranHill();
  const people = await Promise.all(
    DEMO_PEOPLE.map(async ({ signInName, displayName, password, role }) => ({
      id: randomUUID(),
      role,
      signInName,
      displayName,
      passwordHash: await hash(password),
      createdAt: now
    }))
  );
  const bushId = randomUUID();
  await tables().sequelize.transaction(async (transaction) => {
    await User.bulkCreate(
      people.map(({ role: _role, ...user }) => user),
      { transaction }
    );
    await Bush.create(
      { id: bushId, name: DEMO_BUSH_NAME, settings: {}, originLat: null, originLon: null, createdAt: now },
      { transaction }
    );
    await Membership.bulkCreate(
      people.map(({ id, role }) => ({ userId: id, bushId, role })),
      { transaction }
    );
    await StandRow.bulkCreate(
      stands.map((stand) => ({ ...stand, bushId })),
      { transaction }
    );
    await FeatureRow.bulkCreate(
      features.map((feature) => ({ ...feature, bushId })),
      { transaction }
    );
    await TreeRecord.bulkCreate(
      trees.map((tree) => ({ ...tree, bushId })),
      { transaction }
    );
    await storeMany([...records, ...plots], bushId, people[0]!.id, now, transaction);
  });
  return true;
}
