import { seasonOf } from '@baumkin/core/records';

import { today } from '../lib/server/clock.ts';
import { migrate } from '../lib/server/db/migrate.ts';
import { tables } from '../lib/server/db/index.ts';
import { rebuildLines } from '../lib/server/lines.ts';
import { linkForFirst, linkForPassword } from '../lib/server/oneTimeLinks.ts';

const COMMANDS = {
  /** brings the tables up to date, and derives what another core left to be derived: nobody waits for it then */
  migrate: async () => {
    for (const name of await migrate(tables().sequelize)) console.log(`migrated: ${name}`);
    await rebuildLines(seasonOf(today()), { anew: false });
  },
  /** derives the lines of all trees anew, which are kept beside their records */
  lines: () =>
    rebuildLines(seasonOf(today()), { anew: true, told: (name, trees) => console.log(`${name}: ${trees} trees`) }),
  /** says a link for the first account; nothing where there is one */
  'first-link': async () => {
    const code = await linkForFirst();
    if (code !== null) console.log(`/link/${code}`);
  },
  /** says a link with which somebody sets a new password */
  'password-link': async (name = '') => {
    const code = await linkForPassword(name);
    if (code === null) throw new Error(`Nobody with a password signs in as "${name}" here.`);
    console.log(`/link/${code}`);
  }
} as const satisfies Readonly<Record<string, (argument?: string) => Promise<void>>>;

/** The command beside the web server. */
async function main(command = '', argument?: string): Promise<void> {
  if (!Object.hasOwn(COMMANDS, command)) {
    console.error(`Usage: cli.js ${Object.keys(COMMANDS).join('|')}`);
    process.exitCode = 2;
    return;
  }
  // The models are bound to the connection by this.
  const { sequelize } = tables();
  try {
    await COMMANDS[command as keyof typeof COMMANDS](argument);
  } finally {
    await sequelize.close();
  }
}

await main(...process.argv.slice(2, 4));
