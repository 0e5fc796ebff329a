import { randomUUID } from 'node:crypto';
import { hash } from '@node-rs/argon2';

import { linesOf, type BushRecord, type WorkRecord } from '@baumkin/core/records';

import { storeLines } from '../web/src/lib/server/treeRegistry.ts';
import { Bush, FeatureRow, Membership, StandRow, tables, User } from '../web/src/lib/server/db/index.ts';
import { storeMany } from '../web/src/lib/server/recordRows.ts';
import { corranHill } from './corranHill.ts';
import { crewTrees } from './paced.ts';
import { SETTINGS } from './planned.ts';
import invented from './people.json' with { type: 'json' };

/** Open ocean: an invented hill stands on no real one. */
const NOWHERE = { lat: 46.5, lon: -40 };

/**
 * Loads the demo bush, unless it is there. All or nothing: a start that was cut off leaves no half a wood.
 * @returns whether it was loaded now
 */
export async function loadDemo(now = new Date()): Promise<boolean> {
  if (await User.findOne({ where: { signInName: invented.people[0]!.signInName } })) return false;
  const { stands, features, walk, records, ofBush } = corranHill(process.env.BAUMKIN_TODAY || undefined);
  const people = await Promise.all(
    invented.people.map(async ({ signInName, displayName, password, role }) => ({
      id: randomUUID(),
      role,
      signInName,
      displayName,
      passwordHash: await hash(password),
      createdAt: now
    }))
  );
  const { bushId } = invented;
  await tables().sequelize.transaction(async (transaction) => {
    await User.bulkCreate(
      people.map(({ role: _role, ...user }) => user),
      { transaction }
    );
    await Bush.create(
      {
        id: bushId,
        name: invented.bush,
        settings: SETTINGS,
        originLat: NOWHERE.lat,
        originLon: NOWHERE.lon,
        founderId: people[0]!.id,
        createdAt: now
      },
      { transaction }
    );
    await Membership.bulkCreate(
      people.map(({ id, role }) => ({ userId: id, bushId, role, showsHoles: role === 'steward' })),
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
    await storeLines(walk, linesOf(walk, records), { bushId, from: 0 }, transaction);
    const crews = crewTrees(walk);
    const byCrew = (r: WorkRecord | BushRecord) =>
      (r.kind === 'taphole' || r.kind === 'shavings') && crews.has(r.treeId);
    const all = [...records, ...ofBush];
    const [steward, crew] = people;
    const [here, there] = [
      { bushId, authorId: steward!.id, now },
      { bushId, authorId: crew!.id, now }
    ];
    await storeMany(
      all.filter((r) => !byCrew(r)),
      here,
      transaction
    );
    await storeMany(all.filter(byCrew), there, transaction);
  });
  return true;
}
