import { connect } from './connection.ts';
import { defineModels, type Tables } from './models.ts';

export * from './models.ts';
export * from './peopleModels.ts';
export { recordColumns, type RecordColumn } from './recordTable.ts';
export { connect } from './connection.ts';
export { isHalfRestored, missingColumns } from './check.ts';
export { feedsBeginAnew, migrate, pendingMigrations } from './migrate.ts';

const held = globalThis as { baumkinTables?: Tables };

/** The one connection pool of this process. Reloading modules in development keeps it. */
export function tables(): Tables {
  if (!held.baumkinTables) {
    const url = process.env.DATABASE_URL;
    if (!url) throw new Error('DATABASE_URL is not set; start through "npm run demo" or set it to a MariaDB.');
    held.baumkinTables = defineModels(connect(url));
  }
  return held.baumkinTables;
}
