import { randomUUID } from 'node:crypto';
import {
  bushSettingsSchema,
  siteFeatureSchema,
  type BushSettings,
  type Role,
  type SiteFeature,
  standSchema,
  type Stand
} from '@baumkin/core/records';
import type { z } from 'zod';
import { Op, type Model, type ModelStatic, type Transaction } from 'sequelize';

import type { LogKind } from '../labels/log.ts';
import { noted } from './audit.ts';
import { writeToBush, type BushWrite } from './bushWrite.ts';
import type { MemberChangeBy } from './members.ts';
import { leaveStand } from './treeRegistry.ts';
import { Bush, FeatureRow, FORMER, Membership, StandRow } from './db/index.ts';
import { inTransaction } from './db/transaction.ts';
import { Refused } from './refusals.ts';

/** A bush as one of its members sees it. */
export interface BushAccess {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly settings: BushSettings;
  /** of the settings: whoever changes them names the version that she saw */
  readonly version: number;
  readonly origin: { readonly lat: number; readonly lon: number } | null;
  /** a copy to play in is gone after this; null for a bush that stays */
  readonly playUntil: Date | null;
  /** a bush that was given up is only looked at until then, and gone after; null for one that stays */
  readonly goneAt: Date | null;
}

/** Where a bush still stands: a copy to play in that is over is as good as gone, and so is one that was given up long enough ago. */
export const stillStands = (now: Date) => {
  const later = { [Op.or]: [null, { [Op.gt]: now }] };
  return { playUntil: later, goneAt: later };
};

/** The bushes that a member belongs to, and whether each is hers to give up and to take back. */
export async function bushesOf(userId: string, now = new Date()): Promise<(BushAccess & { readonly hers: boolean })[]> {
  const memberships = await Membership.findAll({ where: { userId, role: { [Op.ne]: FORMER } } });
  const where = { id: memberships.map((m) => m.bushId), ...stillStands(now) };
  const bushes = await Bush.findAll({ where, order: [['name', 'ASC']] });
  return bushes.map((bush) => {
    const membership = memberships.find((m) => m.bushId === bush.id)!;
    const hers = membership.role === 'steward' && bush.playUntil === null && mayGiveUp(bush, userId);
    return { ...accessOf(bush), role: roleIn(bush, membership), hers };
  });
}

/** What a member may do: nothing is written in a bush that was given up. */
const roleIn = ({ goneAt }: Bush, { role }: Membership): Role => (goneAt === null ? (role as Role) : 'viewer');

/** A member's way into a bush; null when there is none, whether the bush exists or not. */
export async function bushFor(userId: string, bushId: string, now = new Date()): Promise<BushAccess | null> {
  const membership = await Membership.findOne({ where: { userId, bushId, role: { [Op.ne]: FORMER } } });
  const bush = membership && (await Bush.findOne({ where: { id: bushId, ...stillStands(now) } }));
  return bush ? { ...accessOf(bush), role: roleIn(bush, membership) } : null;
}

/** What a bush is, whoever looks. */
export function accessOf(bush: Bush): Omit<BushAccess, 'role'> {
  const { id, name, version, originLat, originLon, playUntil, goneAt } = bush;
  const origin = originLat !== null && originLon !== null ? { lat: originLat, lon: originLon } : null;
  return { id, name, settings: bushSettingsSchema.parse(bush.settings), version, origin, playUntil, goneAt };
}

/** Makes a bush; whoever makes it is its steward, and its founder. @returns its id */
export const createBush = (userId: string, name: string, createdAt = new Date()): Promise<string> =>
  inTransaction((transaction) => makeBush(userId, { name, createdAt, playUntil: null }, transaction));

/** The same within a larger write. @returns its id */
export async function makeBush(
  userId: string,
  bush: Pick<Bush, 'name' | 'createdAt' | 'playUntil'>,
  transaction: Transaction
): Promise<string> {
  const id = randomUUID();
  const nowhere = { settings: {}, originLat: null, originLon: null };
  await Bush.create({ id, ...bush, ...nowhere, founderId: userId }, { transaction });
  await Membership.create({ userId, bushId: id, role: 'steward' }, { transaction });
  return id;
}

/** A bush that was given up can be taken back for so many days. Working assumption. */
const DAYS_AT_REST = 30;

/**
 * Gives a bush up, or takes it back: by whoever founded it, or where that is not known by any steward. Until it is gone everybody can still
 * look, and nothing is written.
 * @throws Refused 'founder', Refused 'notHere'
 */
export async function giveUp({ bushId, byId }: MemberChangeBy, isGivenUp: boolean): Promise<void> {
  await writeToBush(bushId, async (write) => {
    const { bush, transaction, now } = write;
    const known = await Membership.findOne({ where: { bushId, userId: byId, role: 'steward' }, transaction });
    if (!known || bush.playUntil !== null) throw new Refused('notHere');
    if (!mayGiveUp(bush, byId)) throw new Refused('founder');
    if ((bush.goneAt !== null) === isGivenUp) return;
    const goneAt = isGivenUp ? new Date(now.getTime() + DAYS_AT_REST * 86_400_000) : null;
    await bush.update({ goneAt }, { transaction });
    await noted({ bushId, authorId: byId, at: now }, 'bush', { givenUp: isGivenUp }, transaction);
    write.touches('bush');
  });
}

const mayGiveUp = ({ founderId }: Bush, userId: string) => founderId === null || founderId === userId;

/** Who changes something of which bush. */
export interface ChangeBy {
  readonly bushId: string;
  readonly authorId: string;
  /** the version that the change was made from */
  readonly seen: number;
  readonly now?: Date;
}

/**
 * Changes something of a bush as a whole and writes down who did. All such changes count up one version.
 * @param log what its log tells; as the bush was before, where that is part of it
 * @throws Refused 'outdated' when somebody else was faster
 */
export async function changeBush<T>(
  { bushId, authorId, seen, now = new Date() }: ChangeBy,
  log: { readonly kind: LogKind; readonly change: object | ((write: BushWrite) => object) },
  work: (write: BushWrite) => Promise<T>
): Promise<T & { version: number }> {
  return writeToBush(
    bushId,
    async (write) => {
      const { bush, transaction } = write;
      if (bush.version !== seen) throw new Refused('outdated');
      const change = typeof log.change === 'function' ? log.change(write) : log.change;
      const result = await work(write);
      await bush.update({ version: seen + 1 }, { transaction });
      await noted({ bushId, authorId, at: now }, log.kind, change, transaction);
      write.touches('bush');
      return { ...result, version: seen + 1 };
    },
    now
  );
}

/** Changes some of a bush's settings. @throws Refused 'outdated' */
export async function changeSettings(
  by: ChangeBy,
  change: Partial<BushSettings>
): Promise<Pick<BushAccess, 'settings' | 'version'>> {
  const work = async ({ bush, transaction }: BushWrite) => {
    const settings = bushSettingsSchema.parse({ ...(bush.settings as object), ...change });
    await bush.update({ settings }, { transaction });
    return { settings };
  };
  const told = ({ bush }: BushWrite) => {
    const before = bushSettingsSchema.parse(bush.settings);
    const was = Object.keys(change).map((name) => [name, before[name as keyof BushSettings]]);
    return { ...change, was: Object.fromEntries(was) };
  };
  return changeBush(by, { kind: 'settings', change: told }, work);
}

/** Gives a bush another name or says where on earth it lies. @throws Refused 'outdated' */
export async function changeNameOrOrigin(
  by: ChangeBy,
  change: { readonly name?: string; readonly origin?: { readonly lat: number; readonly lon: number } }
): Promise<{ version: number }> {
  const work = async ({ bush, transaction }: BushWrite) => {
    const { name = bush.name, origin } = change;
    await bush.update({ name, ...(origin ? { originLat: origin.lat, originLon: origin.lon } : {}) }, { transaction });
    return {};
  };
  return changeBush(by, { kind: 'bush', change }, work);
}

/** Stands and what else lies on the ground are drawn, drawn anew and taken away in the same way. */
const DRAWN = { stand: StandRow, feature: FeatureRow } as const;
export type Drawn = keyof typeof DRAWN;

/**
 * Draws a stand or a feature, or another shape of it.
 * @throws Refused 'outdated', Refused 'notHere' when its id belongs to another bush
 */
export async function upsertShape(by: ChangeBy, what: Drawn, shape: Stand | SiteFeature): Promise<{ version: number }> {
  const work = async (write: BushWrite) => {
    const { transaction } = write;
    const model = DRAWN[what] as ModelStatic<Model>;
    const known = await model.findByPk(shape.id, { transaction });
    if (known && known.get('bushId') !== by.bushId) throw new Refused('notHere');
    await model.upsert({ ...shape, bushId: by.bushId }, { transaction });
    write.shape(what, shape.id);
    return {};
  };
  return changeBush(by, { kind: 'ground', change: { [what]: shape } }, work);
}

/** Takes a stand or a feature away. Trees of the stand stay and belong to none. @throws Refused 'outdated', Refused 'notHere' */
export async function deleteShape(by: ChangeBy, what: Drawn, id: string): Promise<{ version: number }> {
  const work = async (write: BushWrite) => {
    const { transaction, now } = write;
    if (what === 'stand') await leaveStand(id, { ...by, now }, write);
    const gone = await (DRAWN[what] as ModelStatic<Model>).destroy({ where: { id, bushId: by.bushId }, transaction });
    if (gone === 0) throw new Refused('notHere');
    write.shape(what, id);
    return {};
  };
  return changeBush(by, { kind: 'ground', change: { [`${what} taken away`]: id } }, work);
}

/** The stands of a bush that can be read. */
export async function standsOf(bushId: string, transaction?: Transaction): Promise<Stand[]> {
  return (await shapesOf(bushId, transaction)).stands;
}

/** A stand or a feature that was stored and cannot be read: it is set aside, and can be taken away. */
export interface Damaged {
  readonly what: Drawn;
  readonly id: string;
  readonly name: string;
  readonly reason: string;
}

/** Stands and features of a bush. One that cannot be read holds up none of the others. */
export async function shapesOf(
  bushId: string,
  transaction?: Transaction
): Promise<{ stands: Stand[]; features: SiteFeature[]; damaged: Damaged[] }> {
  const damaged: Damaged[] = [];
  const read = async <T>(what: Drawn, schema: z.ZodType<T>): Promise<T[]> => {
    const rows = await (DRAWN[what] as ModelStatic<Model>).findAll({
      where: { bushId },
      order: [['name', 'ASC']],
      transaction
    });
    return rows.flatMap((row) => {
      const { bushId: _bush, ...shape } = row.get({ plain: true }) as { bushId: string; id: string; name: string };
      const parsed = schema.safeParse(shape);
      if (parsed.success) return [parsed.data];
      const { path, message } = parsed.error.issues[0]!;
      damaged.push({ what, id: shape.id, name: shape.name, reason: `${path.join('.')}: ${message}` });
      return [];
    });
  };
  const stands = await read('stand', standSchema);
  return { stands, features: await read('feature', siteFeatureSchema), damaged };
}

/** The features of a bush that can be read. */
export async function featuresOf(bushId: string): Promise<SiteFeature[]> {
  return (await shapesOf(bushId)).features;
}
