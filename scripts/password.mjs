import { parseArgs } from 'node:util';

import { ensureBuild } from './lib/build.mjs';
import { readConfig } from './lib/config.mjs';
import { withDatabase } from './lib/ownDatabase.mjs';
import { say, run, Trouble } from './lib/say.mjs';
import { runCommand } from './lib/server.mjs';

/** Makes a link with which somebody sets a new password: `npm run password -- NAME`. The server may run meanwhile. */
const { values: asked, positionals } = parseArgs({ options: { config: { type: 'string' } }, allowPositionals: true });

await run(async () => {
  const [name] = positionals;
  if (!name) throw new Trouble('Say whose: npm run password -- SIGN-IN-NAME');
  const config = readConfig({ file: asked.config });
  await ensureBuild();
  const link = await withDatabase(config, (url) => runCommand(url, 'password-link', name));
  say(`Hand this link over; it opens once, within 48 hours:\n${config.origin}${link}`);
});
