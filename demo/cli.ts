import { tables } from '../web/src/lib/server/db/index.ts';
import { loadDemo } from './load.ts';

/** Puts the demo bush into a database whose tables are up to date. */
const { sequelize } = tables();
try {
  console.log((await loadDemo()) ? 'Loaded the demo bush.' : 'The demo bush is there already.');
} finally {
  await sequelize.close();
}
