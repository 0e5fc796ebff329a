import { join } from 'node:path';
import { parseArgs } from 'node:util';

import { readConfig } from './lib/config.mjs';
import { startDatabase } from './lib/database.mjs';
import { say, run, Trouble } from './lib/say.mjs';
import { runCommand } from './lib/server.mjs';

/** Makes a link with which somebody sets a new password: `npm run password -- NAME`. The server may run meanwhile. */
const { values: asked, positionals } = parseArgs({ options: { config: { type: 'string' } }, allowPositionals: true });

await run(async () => {
  const [name] = positionals;
  if (!name) throw new Trouble('Say whose: npm run password -- SIGN-IN-NAME');
  const { data, databaseUrl, origin } = readConfig({ file: asked.config });
  const own = databaseUrl ? null : await startDatabase(join(data, 'db'));
  try {
    const link = await runCommand(databaseUrl ?? own?.url ?? '', 'password-link', name);
    say(`Hand this link over; it opens once, within 48 hours:\n${origin}${link}`);
  } finally {
    if (own && !own.found) await own.stop();
  }
});
