import { seasonOf } from '@baumkin/core/records';

import { today } from '../lib/server/clock.ts';
import { migrate } from '../lib/server/db/migrate.ts';
import { tables } from '../lib/server/db/index.ts';
import { rebuildLines } from '../lib/server/lines.ts';

const COMMANDS = {
  /** brings the tables up to date, and derives what another core left to be derived: nobody waits for it then */
  migrate: async () => {
    for (const name of await migrate(tables().sequelize)) console.log(`migrated: ${name}`);
    await rebuildLines(seasonOf(today()), { anew: false });
  },
  /** derives the lines of all trees anew, which are kept beside their records */
  lines: () =>
    rebuildLines(seasonOf(today()), { anew: true, told: (name, trees) => console.log(`${name}: ${trees} trees`) })
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
