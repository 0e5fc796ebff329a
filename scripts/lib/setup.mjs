import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { join } from 'node:path';

import { exec } from './exec.mjs';
import { root } from './paths.mjs';
import { Trouble, say } from './say.mjs';

/** Where Debian puts what we need; /usr/sbin is not on everyone's PATH. */
const programs = {
  mariadbd: { paths: ['/usr/sbin/mariadbd', '/usr/bin/mariadbd'], package: 'mariadb-server-core' },
  'mariadb-install-db': { paths: ['/usr/bin/mariadb-install-db'], package: 'mariadb-server-core' },
  'mariadb-admin': { paths: ['/usr/bin/mariadb-admin'], package: 'mariadb-client' },
  mariadb: { paths: ['/usr/bin/mariadb'], package: 'mariadb-client' },
  'mariadb-dump': { paths: ['/usr/bin/mariadb-dump'], package: 'mariadb-client' },
  chromium: { paths: ['/usr/bin/chromium'], package: 'chromium' },
  nginx: { paths: ['/usr/sbin/nginx'], package: 'nginx-light' },
  'systemd-analyze': { paths: ['/usr/bin/systemd-analyze'], package: 'systemd' },
  openssl: { paths: ['/usr/bin/openssl'], package: 'openssl' },
  certutil: { paths: ['/usr/bin/certutil'], package: 'libnss3-tools' }
};

/**
 * The path of a program from Debian's packages.
 * @param {keyof typeof programs} name
 */
export function program(name) {
  const found = programs[name].paths.find((path) => existsSync(path));
  if (!found) throw new Trouble(`${name} is missing (Debian package ${programs[name].package}).`);
  return found;
}

/**
 * Installs the Debian packages behind the named programs where they are missing.
 * @param {(keyof typeof programs)[]} names
 */
export async function ensurePrograms(names) {
  const missing = names.filter((name) => !programs[name].paths.some((path) => existsSync(path)));
  if (missing.length === 0) return;
  const packages = [...new Set(missing.map((name) => programs[name].package))];
  const isRoot = process.getuid?.() === 0;
  const prefix = isRoot ? [] : ['sudo', '-n'];
  if (!isRoot && (await exec('sudo', ['-n', 'true'], { quiet: true })).code !== 0) {
    throw new Trouble(
      `These Debian packages are missing: ${packages.join(', ')}.\n` +
        `I may not install them without root. Please run:\n\n  sudo apt-get install --no-install-recommends ${packages.join(' ')}\n\nand start again.`
    );
  }
  say(`Installing from Debian: ${packages.join(', ')} ...`);
  const apt = (/** @type {string[]} */ args) => {
    const [command, ...rest] = [...prefix, 'env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args];
    return exec(command, rest, { quiet: true });
  };
  const install = ['install', '-y', '--no-install-recommends', ...packages];
  let result = await apt(install);
  if (result.code !== 0) {
    await apt(['update']);
    result = await apt(install);
  }
  if (result.code !== 0) {
    throw new Trouble(`Debian's packages could not be installed:\n${result.output.slice(-2000)}`);
  }
}

/** Installs the npm packages of the lock file, once for each version of it. */
export async function ensureNodeModules() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major !== 20 || minor < 19) {
    throw new Trouble(`Node 20.19 or a newer Node 20 is needed; this is ${process.versions.node}.`);
  }
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules/.baumkin-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('Installing npm packages ...');
  const result = await exec('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { quiet: true });
  if (result.code !== 0) throw new Trouble(`npm ci failed:\n${result.output.slice(-2000)}`);
  writeFileSync(stamp, lock);
}
