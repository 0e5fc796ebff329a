import { createHash } from 'node:crypto';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The checkout's root folder. */
export const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

/** Everything that a run leaves behind lies here and is ignored by git. Tests of the start use a folder of their own. */
export const stateDir = process.env.BAUMKIN_STATE_DIR ?? join(root, '.baumkin');

/** The production server and the command-line bundle, made by `vite build`. */
export const serverEntry = join(root, 'web/build/index.js');
export const cliEntry = join(root, 'web/build-cli/cli.js');
export const demoEntry = join(root, 'web/build-cli/demo.js');

/**
 * A socket path that stays under the system's limit of 107 bytes however deep the checkout lies.
 * @param {string} home folder of what listens there
 */
export function socketPath(home) {
  const inside = join(home, 'mariadbd.sock');
  // In its own folder, where whoever shares no folder for temporary files with it finds it too.
  if (Buffer.byteLength(inside) <= 100) return inside;
  const mark = createHash('sha256').update(home).digest('hex').slice(0, 12);
  return join(tmpdir(), `baumkin-${mark}.sock`);
}
