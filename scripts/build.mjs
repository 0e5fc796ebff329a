import { ensureBuild } from './lib/build.mjs';
import { say, run } from './lib/say.mjs';
import { ensureNodeModules } from './lib/setup.mjs';

/** Installs and builds all that a start needs, and starts nothing: `npm run build`, for a service or an image. */
await run(async () => {
  await ensureNodeModules();
  await ensureBuild();
  say('All is built.');
});
