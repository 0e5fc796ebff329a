import { tables } from '../lib/server/db/index.ts';
import { migrate } from '../lib/server/db/migrate.ts';

/** The command beside the web server: `migrate` brings the tables up to date. */
async function main(command: string | undefined): Promise<void> {
  if (command !== 'migrate') {
    console.error('Usage: cli.js migrate');
    process.exitCode = 2;
    return;
  }
  const { sequelize } = tables();
  try {
    for (const name of await migrate(sequelize)) console.log(`migrated: ${name}`);
  } finally {
    await sequelize.close();
  }
}

await main(process.argv[2]);
