import { QueryTypes, type QueryInterface, type Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';

import * as foundation from './migrations/0001-foundation.ts';
import * as features from './migrations/0002-features.ts';
import * as identify from './migrations/0003-identify.ts';
import * as plots from './migrations/0004-plots.ts';
import * as statures from './migrations/0005-statures.ts';
import * as book from './migrations/0006-book.ts';
import * as tokensAndGround from './migrations/0007-tokens-and-ground.ts';
import * as condition from './migrations/0008-condition.ts';
import * as place from './migrations/0009-place.ts';
import * as thin from './migrations/0010-thin.ts';
import * as soundAdvice from './migrations/0012-sound-advice.ts';
import * as plantings from './migrations/0013-plantings.ts';
import * as ownFigures from './migrations/0011-own-figures.ts';

/** All migrations, oldest first. Forward only. */
const MIGRATIONS = [
  { name: '0001-foundation', up: foundation.up },
  { name: '0002-features', up: features.up },
  { name: '0003-identify', up: identify.up },
  { name: '0004-plots', up: plots.up },
  { name: '0005-statures', up: statures.up },
  { name: '0006-book', up: book.up },
  { name: '0007-tokens-and-ground', up: tokensAndGround.up },
  { name: '0008-condition', up: condition.up },
  { name: '0009-place', up: place.up },
  { name: '0010-thin', up: thin.up },
  { name: '0011-own-figures', up: ownFigures.up },
  { name: '0012-sound-advice', up: soundAdvice.up },
  { name: '0013-plantings', up: plantings.up }
];

const LOCK = 'baumkin-migrations';
const LOCK_PATIENCE_S = 60;

function umzug(sequelize: Sequelize): Umzug<QueryInterface> {
  return new Umzug<QueryInterface>({
    migrations: MIGRATIONS.map(({ name, up }) => ({ name, up: ({ context }) => up(context) })),
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined
  });
}

/**
 * Runs what is pending, under a lock, so that two servers that start together do not both try. The lock belongs to one
 * connection; the pool keeps it for the whole transaction.
 * @returns names of the migrations that ran
 * @throws when another process holds the lock for more than a minute
 */
export async function migrate(sequelize: Sequelize): Promise<string[]> {
  return sequelize.transaction(async (transaction) => {
    const [row] = await sequelize.query<{ got: number }>('SELECT GET_LOCK(?, ?) AS got', {
      replacements: [LOCK, LOCK_PATIENCE_S],
      type: QueryTypes.SELECT,
      transaction
    });
    if (row?.got !== 1) throw new Error('Another process is bringing the database up to date. Try again in a minute.');
    try {
      return (await umzug(sequelize).up()).map((m) => m.name);
    } finally {
      await sequelize.query('SELECT RELEASE_LOCK(?)', { replacements: [LOCK], type: QueryTypes.SELECT, transaction });
    }
  });
}

/** Names of migrations that have not run; the server refuses to start while there are any. */
export async function pendingMigrations(sequelize: Sequelize): Promise<string[]> {
  return (await umzug(sequelize).pending()).map((m) => m.name);
}
