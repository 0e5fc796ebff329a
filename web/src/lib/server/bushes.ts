import { randomUUID } from 'node:crypto';
import {
  bushSettingsSchema,
  siteFeatureSchema,
  type BushSettings,
  type Role,
  type SiteFeature,
  type Stand,
  type StandPurpose
} from '@baumkin/core';

import { Bush, BushChange, FeatureRow, Membership, StandRow, tables, User } from './db/index.ts';

/** A bush as one of its members sees it. */
export interface BushAccess {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly settings: BushSettings;
  /** of the settings: whoever changes them names the version that she saw */
  readonly version: number;
  readonly origin: { readonly lat: number; readonly lon: number } | null;
}

/** The bushes that a member belongs to. */
export async function bushesOf(userId: string): Promise<BushAccess[]> {
  const memberships = await Membership.findAll({ where: { userId } });
  const bushes = await Bush.findAll({ where: { id: memberships.map((m) => m.bushId) }, order: [['name', 'ASC']] });
  return bushes.map((bush) => access(bush, memberships.find((m) => m.bushId === bush.id)!.role));
}

/** A member's way into a bush; null when there is none, whether the bush exists or not. */
export async function bushFor(userId: string, bushId: string): Promise<BushAccess | null> {
  const membership = await Membership.findOne({ where: { userId, bushId } });
  const bush = membership && (await Bush.findByPk(bushId));
  return bush ? access(bush, membership.role) : null;
}

function access(bush: Bush, role: string): BushAccess {
  const { id, name, version, originLat, originLon } = bush;
  const origin = originLat !== null && originLon !== null ? { lat: originLat, lon: originLon } : null;
  return { id, name, role: role as Role, settings: bushSettingsSchema.parse(bush.settings), version, origin };
}

/** Makes a bush; whoever makes it is its steward. */
export async function createBush(userId: string, name: string, now = new Date()): Promise<string> {
  const id = randomUUID();
  await tables().sequelize.transaction(async (transaction) => {
    await Bush.create({ id, name, settings: {}, originLat: null, originLon: null, createdAt: now }, { transaction });
    await Membership.create({ userId, bushId: id, role: 'steward' }, { transaction });
  });
  return id;
}

/**
 * Changes some of a bush's settings and writes down who did.
 * @param seen the version that the change was made from
 * @throws Outdated when somebody else was faster
 */
export async function changeSettings(
  bushId: string,
  authorId: string,
  seen: number,
  change: Partial<BushSettings>,
  now = new Date()
): Promise<Pick<BushAccess, 'settings' | 'version'>> {
  return tables().sequelize.transaction(async (transaction) => {
    const bush = (await Bush.findByPk(bushId, { transaction, lock: true }))!;
    if (bush.version !== seen) throw new Outdated();
    const settings = bushSettingsSchema.parse({ ...(bush.settings as object), ...change });
    await bush.update({ settings, version: seen + 1 }, { transaction });
    await BushChange.create({ bushId, authorId, at: now, settings: change }, { transaction });
    return { settings, version: seen + 1 };
  });
}

export class Outdated extends Error {
  constructor() {
    super('Somebody else has changed these settings meanwhile. Nothing was overwritten; look at theirs and try again.');
  }
}

export async function standsOf(bushId: string): Promise<Stand[]> {
  const stands = await StandRow.findAll({ where: { bushId }, order: [['name', 'ASC']] });
  return stands.map(({ id, name, purpose, areaHa }) => ({ id, name, purpose: purpose as StandPurpose, areaHa }));
}

export async function featuresOf(bushId: string): Promise<SiteFeature[]> {
  const features = await FeatureRow.findAll({ where: { bushId }, order: [['name', 'ASC']] });
  return features.map(({ id, kind, name, points }) => siteFeatureSchema.parse({ id, kind, name, points }));
}

/** Lets somebody with an account into a bush, or changes what she may do. @throws UnknownName */
export async function admit(bushId: string, signInName: string, role: Role): Promise<void> {
  const user = await User.findOne({ where: { signInName: signInName.trim().toLowerCase() } });
  if (!user) throw new UnknownName(signInName);
  await Membership.upsert({ userId: user.id, bushId, role });
}

export class UnknownName extends Error {
  constructor(name: string) {
    super(`Nobody here signs in as "${name}". Ask them to make an account first.`);
  }
}

/** Who belongs to a bush. */
export async function membersOf(
  bushId: string
): Promise<{ id: string; displayName: string; signInName: string; role: Role }[]> {
  const memberships = await Membership.findAll({ where: { bushId } });
  const users = await User.findAll({
    where: { id: memberships.map((m) => m.userId) },
    order: [['displayName', 'ASC']]
  });
  return users.map((user) => ({
    id: user.id,
    displayName: user.displayName,
    signInName: user.signInName,
    role: memberships.find((m) => m.userId === user.id)!.role as Role
  }));
}
