import { createHash, X509Certificate } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

import { exec } from './exec.mjs';
import { ensurePrograms, program } from './setup.mjs';
import { Trouble } from './say.mjs';

/*
 * A certificate authority of one bush for one season. Whoever trusts an authority lets its holder read everything that goes through
 * it: so this one can vouch for this host's names and addresses alone (RFC 5280, 4.2.1.10), ends with the season, and its key is
 * thrown away as soon as the one certificate that it is for is made.
 */

/** Browsers take no certificate that lasts longer, days (CA/Browser Forum baseline requirements, since 2020). */
const MOST_DAYS = 398;
const DAY_MS = 86_400_000;

/**
 * The last day of the season that a day belongs to: work from July on counts for the coming one.
 * @param {Date} now
 */
export function endOfSeason(now) {
  const year = now.getUTCFullYear() + (now.getUTCMonth() >= 6 ? 1 : 0);
  return new Date(Date.UTC(year, 5, 30, 23, 59, 59));
}

/**
 * The certificate of this host, and of the authority that vouches for it: those that stand, or new ones where they end within a month,
 * belong to another season or do not know one of the names.
 * @param {{ folder: string, names: readonly string[], addresses: readonly string[], now?: Date }} options
 *   names that this host is reached by, and its IPv4 addresses
 * @returns {Promise<{ key: string, cert: string, authority: string, until: Date, fingerprint: string, made: boolean }>}
 */
export async function authorityFor({ folder, names, addresses, now = new Date() }) {
  const files = {
    key: join(folder, 'host.key'),
    cert: join(folder, 'host.crt'),
    authority: join(folder, 'authority.crt')
  };
  const made = !stands(files, { names, addresses, now });
  if (made) await make(folder, files, { names, addresses, now });
  const authority = readFileSync(files.authority, 'utf8');
  const known = new X509Certificate(authority);
  return {
    key: readFileSync(files.key, 'utf8'),
    cert: readFileSync(files.cert, 'utf8'),
    authority,
    until: new Date(known.validTo),
    fingerprint: createHash('sha256').update(known.raw).digest('hex').toUpperCase().match(/../g)?.join(':') ?? '',
    made
  };
}

/**
 * @param {{ key: string, cert: string, authority: string }} files
 * @param {{ names: readonly string[], addresses: readonly string[], now: Date }} wanted
 */
function stands(files, { names, addresses, now }) {
  if (Object.values(files).some((file) => !existsSync(file))) return false;
  const cert = new X509Certificate(readFileSync(files.cert));
  const month = 30 * DAY_MS;
  if (new Date(cert.validTo).getTime() < Math.min(now.getTime() + month, endOfSeason(now).getTime())) return false;
  if (new Date(cert.validFrom).getTime() > now.getTime()) return false;
  return names.every((name) => cert.checkHost(name)) && addresses.every((address) => cert.checkIP(address));
}

/**
 * @param {string} folder
 * @param {{ key: string, cert: string, authority: string }} files
 * @param {{ names: readonly string[], addresses: readonly string[], now: Date }} wanted
 */
async function make(folder, files, { names, addresses, now }) {
  await ensurePrograms(['openssl']);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  chmodSync(folder, 0o700);
  const until = endOfSeason(now);
  const days = Math.max(1, Math.min(MOST_DAYS, Math.floor((until.getTime() - now.getTime()) / DAY_MS)));
  const work = join(folder, 'making');
  rmSync(work, { recursive: true, force: true });
  mkdirSync(work, { mode: 0o700 });
  const at = (/** @type {string} */ name) => join(work, name);
  const permitted = [
    ...names.map((name, i) => `permitted;DNS.${i} = ${name}`),
    ...addresses.map((address, i) => `permitted;IP.${i} = ${address}/255.255.255.255`)
  ];
  const known = [...names.map((name, i) => `DNS.${i} = ${name}`), ...addresses.map((each, i) => `IP.${i} = ${each}`)];
  writeFileSync(
    at('openssl.cnf'),
    `[req]
distinguished_name = who
prompt = no
[who]
CN = Baumkin at ${names[0]}, until ${until.toISOString().slice(0, 10)}
[authority]
basicConstraints = critical, CA:TRUE, pathlen:0
keyUsage = critical, keyCertSign
subjectKeyIdentifier = hash
nameConstraints = critical, @permitted
[permitted]
${permitted.join('\n')}
[host]
basicConstraints = critical, CA:FALSE
keyUsage = critical, digitalSignature
extendedKeyUsage = serverAuth
subjectKeyIdentifier = hash
authorityKeyIdentifier = keyid
subjectAltName = @known
[known]
${known.join('\n')}
`
  );
  const openssl = async (/** @type {string[]} */ ...args) => {
    const { code, output } = await exec(program('openssl'), args, { quiet: true });
    if (code !== 0) throw new Trouble(`openssl could not make a certificate:\n${output.slice(-2000)}`);
  };
  // Keys are written by a process whose files nobody else may read.
  const before = process.umask(0o077);
  try {
    const p256 = ['-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes', '-sha256'];
    const config = ['-config', at('openssl.cnf')];
    await openssl(
      ...['req', '-x509', ...p256, ...config, '-extensions', 'authority', '-days', String(days)],
      ...['-keyout', at('authority.key'), '-out', at('authority.crt')]
    );
    await openssl(
      ...['req', ...p256, ...config, '-subj', `/CN=${names[0]}`, '-keyout', at('host.key'), '-out', at('host.csr')]
    );
    await openssl(
      ...['x509', '-req', '-in', at('host.csr'), '-CA', at('authority.crt'), '-CAkey', at('authority.key')],
      ...['-CAcreateserial', '-sha256', '-days', String(days), '-extfile', at('openssl.cnf'), '-extensions', 'host'],
      ...['-out', at('host.crt')]
    );
  } finally {
    process.umask(before);
  }
  renameSync(at('authority.crt'), files.authority);
  renameSync(at('host.crt'), files.cert);
  renameSync(at('host.key'), files.key);
  rmSync(work, { recursive: true });
}
