import { once } from 'node:events';
import { userFacing } from '@baumkin/core/errors';
import { nameKey, seasonOf } from '@baumkin/core/records';
import { Op } from 'sequelize';

import { archiveText, restoreArchive } from '../lib/server/archive.ts';
import { spooled } from '../lib/server/archiveStream.ts';
import { accessOf, bushFor, createBush } from '../lib/server/bushes.ts';
import { today } from '../lib/server/clock.ts';
import { migrate } from '../lib/server/db/migrate.ts';
import { Bush, feedsBeginAnew, isHalfRestored, tables, User } from '../lib/server/db/index.ts';
import { rebuildLines } from '../lib/server/lines.ts';
import { errorNote } from '../lib/server/log.ts';
import { linkForFirst, linkForPassword } from '../lib/server/oneTimeLinks.ts';

/** What the operator is told as it is. */
class Told extends Error {}

async function upToDate(): Promise<void> {
  for (const name of await migrate(tables().sequelize)) console.log(`migrated: ${name}`);
  await rebuildLines(seasonOf(today()), { anew: false });
}

/** A bush by its id or its name. */
async function bushCalled(said: string): Promise<Bush> {
  const found = await Bush.findAll({ where: { [Op.or]: [{ id: said }, { name: said }], playUntil: null } });
  if (found.length === 1) return found[0]!;
  if (found.length === 0) throw new Told(`There is no bush called "${said}" here.`);
  const ids = found.map(({ id }) => `  ${id}`).join('\n');
  throw new Told(`${found.length} bushes are called "${said}". Say which by its id:\n${ids}`);
}

const COMMANDS = {
  /** brings the tables up to date, and derives what another core left to be derived: nobody waits for it then */
  migrate: async () => {
    if (await isHalfRestored(tables().sequelize))
      throw new Told('Reading a backup into this database was cut off. Run that again: it begins anew.');
    await upToDate();
  },
  /** after a backup was read back: brings its tables up to date, and has every device begin anew with what it holds */
  restored: async () => {
    await upToDate();
    await feedsBeginAnew(tables().sequelize.getQueryInterface());
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
  'password-link': async (name) => {
    const code = await linkForPassword(name);
    if (code === null) throw new Told(`Nobody with a password signs in as "${name}" here.`);
    console.log(`/link/${code}`);
  },
  /** writes the archive of a bush, by its id or name, to standard output */
  archive: async (said) => {
    const bush = await bushCalled(said);
    for await (const piece of archiveText({ ...accessOf(bush), role: 'steward' }))
      if (!process.stdout.write(piece)) await once(process.stdout, 'drain');
  },
  /** reads an archive from standard input into a new bush, of which somebody is the steward */
  'read-archive': async (signInName) => {
    const steward = await User.findOne({ where: { signInName: nameKey(signInName), guestUntil: null } });
    if (!steward?.passwordHash.startsWith('$')) throw new Told(`Nobody signs in as "${signInName}" here.`);
    const id = await createBush(steward.id, 'From an archive');
    try {
      const bush = (await bushFor(steward.id, id))!;
      const { name, trees, records } = await spooled(process.stdin, (source) =>
        restoreArchive({ bush, memberId: steward.id }, source)
      );
      await Bush.update({ name }, { where: { id } });
      console.log(`"${name}" was read: ${trees} trees, ${records} records.`);
    } catch (error) {
      await Bush.destroy({ where: { id } });
      throw error;
    }
  }
} as const satisfies Readonly<Record<string, (argument: string) => Promise<void>>>;

/** The command beside the web server. */
async function main(command = '', argument = ''): Promise<void> {
  if (!Object.hasOwn(COMMANDS, command)) {
    console.error(`Usage: cli.js ${Object.keys(COMMANDS).join('|')}`);
    process.exitCode = 2;
    return;
  }
  // The models are bound to the connection by this.
  const { sequelize } = tables();
  try {
    await COMMANDS[command as keyof typeof COMMANDS](argument);
  } catch (error) {
    // What a database refuses comes with the values that it refused.
    console.error(
      error instanceof Told ? error.message : (userFacing(error)?.message ?? JSON.stringify(errorNote(error), null, 2))
    );
    process.exitCode = 1;
  } finally {
    await sequelize.close();
  }
}

await main(...process.argv.slice(2, 4));
