import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

import { exec } from './exec.mjs';
import { cliEntry, root, serverEntry } from './paths.mjs';
import { Trouble, say } from './say.mjs';

const SOURCES = [
  'core/src',
  'demo',
  'web/src',
  'web/static',
  'web/bundledText.ts',
  'web/coreSource.ts',
  'web/svelte.config.js',
  'web/vite.config.ts',
  'web/vite.cli.config.ts',
  'package-lock.json'
];

/** Builds the server and the command-line bundle, unless they stand and no source has changed since. */
export async function ensureBuild() {
  const stamp = join(root, 'web/build-cli/build.stamp');
  const now = fingerprint();
  if (existsSync(serverEntry) && existsSync(cliEntry) && existsSync(stamp) && readFileSync(stamp, 'utf8') === now)
    return;
  say('Building ...');
  const result = await exec('npm', ['run', '--silent', 'build', '-w', 'web'], { quiet: true });
  if (result.code !== 0) throw new Trouble(`The build failed:\n${result.output.slice(-3000)}`);
  writeFileSync(stamp, now);
}

/** A fingerprint of all that goes into a build, from the files' contents. */
function fingerprint() {
  const hash = createHash('sha256');
  const visit = (/** @type {string} */ path) => {
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) visit(join(path, name));
    else hash.update(path.slice(root.length)).update(readFileSync(path));
  };
  for (const source of SOURCES) visit(join(root, source));
  return hash.digest('hex');
}
