import { tables } from '../web/src/lib/server/db/index.ts';
import { loadDemo } from './load.ts';

/** Puts the demo bush into a database whose tables are up to date. */
const { sequelize } = tables();
try {
  if (await loadDemo()) console.log('Loaded the demo bush.');
} finally {
  await sequelize.close();
}
