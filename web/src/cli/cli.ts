import { tables } from '../lib/server/db/index.ts';
import { migrate } from '../lib/server/db/migrate.ts';
import { loadDemo } from '../lib/server/demo/load.ts';
import { DEMO_PEOPLE } from '../lib/server/demo/people.ts';

/** Commands beside the web server: `migrate` brings the tables up to date; `demo` loads the demo bush as well. */
async function main(command: string | undefined): Promise<void> {
  const { sequelize } = tables();
  try {
    switch (command) {
      case 'migrate':
        for (const name of await migrate(sequelize)) console.log(`migrated: ${name}`);
        return;
      case 'demo': {
        await migrate(sequelize);
        if (await loadDemo()) console.log('Loaded the demo bush.');
        const { signInName, password } = DEMO_PEOPLE[0]!;
        console.log(`demo sign-in: ${signInName} / ${password}`);
        return;
      }
      default:
        console.error('Usage: cli.js migrate | demo');
        process.exitCode = 2;
    }
  } finally {
    await sequelize.close();
  }
}

await main(process.argv[2]);
