import { migrate } from '../lib/server/db/migrate.ts';
import { tables } from '../lib/server/db/index.ts';
import { dropLines } from '../lib/server/lines.ts';

const COMMANDS = {
  /** brings the tables up to date */
  migrate: async () => {
    for (const name of await migrate(tables().sequelize)) console.log(`migrated: ${name}`);
  },
  /** drops the lines of all trees that are kept beside their records; they are derived anew when somebody asks */
  lines: async () => {
    await dropLines();
    console.log('The lines of all trees will be derived anew.');
  }
} as const;

/** The command beside the web server. */
async function main(command: string | undefined): Promise<void> {
  if (command === undefined || !(command in COMMANDS)) {
    console.error(`Usage: cli.js ${Object.keys(COMMANDS).join('|')}`);
    process.exitCode = 2;
    return;
  }
  try {
    await COMMANDS[command as keyof typeof COMMANDS]();
  } finally {
    await tables().sequelize.close();
  }
}

await main(process.argv[2]);
