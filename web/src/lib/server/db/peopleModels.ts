import {
  DataTypes,
  Model,
  type CreationOptional,
  type ForeignKey,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize
} from 'sequelize';

import { bigint, flag, id, int, text, uuid } from './columns.ts';

/* People: who they are, how they are signed in, and into which bush they came. */

export class User extends Model<InferAttributes<User>, InferCreationAttributes<User>> {
  declare id: string;
  declare signInName: string;
  declare displayName: string;
  declare passwordHash: string;
  declare createdAt: Date;
  /** until when a guest, who has no password, is in; null for everybody else */
  declare guestUntil: CreationOptional<Date | null>;
}

export class Session extends Model<InferAttributes<Session>, InferCreationAttributes<Session>> {
  /** SHA-256 of the cookie's token: a stolen table opens no door */
  declare tokenHash: string;
  declare id: string;
  declare userId: ForeignKey<string>;
  /** in words, as its browser told it */
  declare device: CreationOptional<string>;
  declare expiresAt: Date;
  /** when it was last used, to a few minutes; null for one of before that was written down */
  declare seenAt: CreationOptional<Date | null>;
}

/** A way into a bush that ends by itself. */
export class Invitation extends Model<InferAttributes<Invitation>, InferCreationAttributes<Invitation>> {
  declare id: string;
  declare bushId: ForeignKey<string>;
  /** SHA-256 of the code in its link */
  declare codeHash: string;
  declare role: string;
  declare note: string;
  declare forMany: boolean;
  declare madeById: ForeignKey<string>;
  declare madeAt: Date;
  declare expiresAt: Date;
  /** when it was used up, or taken back */
  declare endedAt: Date | null;
}

/** What a signed-in device holds of a bush, as it said when it asked last. */
export class HeldBook extends Model<InferAttributes<HeldBook>, InferCreationAttributes<HeldBook>> {
  declare bushId: ForeignKey<string>;
  declare sessionId: string;
  declare userId: ForeignKey<string>;
  declare device: string;
  declare number: number;
  declare waiting: number;
  declare seenAt: Date;
}

/** A key that a member gave to a program of hers. */
export class AccessToken extends Model<InferAttributes<AccessToken>, InferCreationAttributes<AccessToken>> {
  declare id: string;
  declare userId: ForeignKey<string>;
  declare name: string;
  declare tokenHash: string;
  declare mayWrite: boolean;
  declare createdAt: Date;
  declare expiresAt: Date;
}

/** How often something was tried lately, and when it may be tried again. */
export class Tries extends Model<InferAttributes<Tries>, InferCreationAttributes<Tries>> {
  /** what by whom: "name:hedda" */
  declare key: string;
  declare tries: number;
  declare freeAt: Date;
  declare at: Date;
}

/** A device on which somebody was signed in before: it has a throttle of its own. */
export class KnownDevice extends Model<InferAttributes<KnownDevice>, InferCreationAttributes<KnownDevice>> {
  declare tokenHash: string;
  declare userId: ForeignKey<string>;
  declare at: Date;
}

/** A key that a device keeps, with which somebody signs in. */
export class Passkey extends Model<InferAttributes<Passkey>, InferCreationAttributes<Passkey>> {
  /** as the device calls it, base64url */
  declare id: string;
  declare userId: ForeignKey<string>;
  declare name: string;
  declare publicKey: Buffer;
  declare counter: number;
  declare transports: unknown;
  declare createdAt: Date;
  declare usedAt: Date | null;
}

/** What a device was asked to sign, which it may answer once. */
export class Challenge extends Model<InferAttributes<Challenge>, InferCreationAttributes<Challenge>> {
  declare challengeHash: string;
  declare expiresAt: Date;
}

/** A link that opens an account once: somebody's own, with a new password, or the first of a server. */
export class OneTimeLink extends Model<InferAttributes<OneTimeLink>, InferCreationAttributes<OneTimeLink>> {
  /** SHA-256 of the code in it */
  declare codeHash: string;
  /** whose password it sets; null for the link that makes the first account */
  declare userId: ForeignKey<string> | null;
  declare expiresAt: Date;
}

/** The role of somebody who wrote records of a bush once and has no way in any more. */
export const FORMER = 'former';

export class Membership extends Model<InferAttributes<Membership>, InferCreationAttributes<Membership>> {
  declare userId: ForeignKey<string>;
  declare bushId: ForeignKey<string>;
  declare role: string;
  /** may the others see her share of brown wood under her name? */
  declare showsHoles: CreationOptional<boolean>;
  /** by which she came; null for whoever made the bush, or came before there were any */
  declare invitationId: CreationOptional<string | null>;
}

/** Binds the models of people to a connection. */
export function definePeople(sequelize: Sequelize): void {
  const time = () => ({ type: DataTypes.DATE(3), allowNull: false });
  const hash = () => ({ type: DataTypes.CHAR(64), primaryKey: true });
  User.init(
    {
      id: id(),
      signInName: text(80),
      displayName: text(80),
      passwordHash: text(255),
      createdAt: time(),
      guestUntil: { type: DataTypes.DATE(3), allowNull: true }
    },
    { sequelize, tableName: 'users' }
  );
  Session.init(
    {
      tokenHash: hash(),
      id: uuid(),
      userId: uuid(),
      device: { ...text(60), defaultValue: '' },
      expiresAt: time(),
      seenAt: { type: DataTypes.DATE(3), allowNull: true }
    },
    { sequelize, tableName: 'sessions' }
  );
  Invitation.init(
    {
      id: id(),
      bushId: uuid(),
      codeHash: { type: DataTypes.CHAR(64), allowNull: false },
      role: text(20),
      note: text(80),
      forMany: flag(),
      madeById: uuid(),
      madeAt: time(),
      expiresAt: time(),
      endedAt: { type: DataTypes.DATE(3), allowNull: true }
    },
    { sequelize, tableName: 'invitations' }
  );
  HeldBook.init(
    {
      bushId: id(),
      sessionId: id(),
      userId: uuid(),
      device: text(60),
      number: bigint(),
      waiting: int(),
      seenAt: time()
    },
    { sequelize, tableName: 'heldBooks' }
  );
  AccessToken.init(
    {
      id: id(),
      userId: uuid(),
      name: text(80),
      tokenHash: { type: DataTypes.CHAR(64), allowNull: false },
      mayWrite: flag(),
      createdAt: time(),
      expiresAt: time()
    },
    { sequelize, tableName: 'accessTokens' }
  );
  Tries.init(
    { key: { type: DataTypes.STRING(160), primaryKey: true }, tries: int(), freeAt: time(), at: time() },
    { sequelize, tableName: 'tries' }
  );
  KnownDevice.init({ tokenHash: hash(), userId: uuid(), at: time() }, { sequelize, tableName: 'knownDevices' });
  Passkey.init(
    {
      id: { type: DataTypes.STRING(255), primaryKey: true },
      userId: uuid(),
      name: text(60),
      publicKey: { type: DataTypes.BLOB, allowNull: false },
      counter: bigint(),
      transports: { type: DataTypes.JSON, allowNull: false },
      createdAt: time(),
      usedAt: { type: DataTypes.DATE(3), allowNull: true }
    },
    { sequelize, tableName: 'passkeys' }
  );
  Challenge.init(
    { challengeHash: { type: DataTypes.CHAR(64), primaryKey: true }, expiresAt: time() },
    { sequelize, tableName: 'challenges' }
  );
  OneTimeLink.init(
    { codeHash: hash(), userId: { type: DataTypes.UUID, allowNull: true }, expiresAt: time() },
    { sequelize, tableName: 'oneTimeLinks' }
  );
  Membership.init(
    {
      userId: { ...uuid(), primaryKey: true },
      bushId: { ...uuid(), primaryKey: true },
      role: text(20),
      showsHoles: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      invitationId: { type: DataTypes.UUID, allowNull: true }
    },
    { sequelize, tableName: 'memberships' }
  );
}
