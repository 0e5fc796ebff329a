import { X509Certificate } from 'node:crypto';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';

import { chromium } from '@playwright/test';

import { authorityFor, endOfSeason } from '../lib/authority.mjs';
import { wholeBook } from '../lib/deviceStore.mjs';
import { exec } from '../lib/exec.mjs';
import { ensurePrograms, program } from '../lib/setup.mjs';
import { startDemo, STARTS_MS } from './started.mjs';

/* `npm run serve:lan` as phones in the same network meet it: under a name that is not this machine itself, and by trusting its authority. */

const scratch = mkdtempSync(join(tmpdir(), 'baumkin-lan-'));
const NAME = 'bush.test';
// Below the ports that the system gives to whoever connects somewhere: one of those may be any.
const PORT = 27995;
const there = `https://${NAME}:${PORT}`;
/** @type {ReturnType<typeof startDemo>} */
let served;

beforeAll(async () => {
  await ensurePrograms(['openssl', 'certutil']);
  const args = ['--lan', '--demo', '--name', NAME, '--listen', '127.0.0.1', '--port', String(PORT)];
  served = startDemo(args, { BAUMKIN_STATE_DIR: join(scratch, 'state'), PORT: '27990' });
  expect(await served.until('Ctrl-C stops it')).toContain('Ctrl-C stops it');
}, STARTS_MS);
afterAll(async () => {
  await served.end('SIGINT');
  rmSync(scratch, { recursive: true, force: true });
}, STARTS_MS);

const folder = join(scratch, 'state', 'lan');
const authority = () => readFileSync(join(folder, 'authority.crt'));

/** Asks by TLS, trusting the authority alone. @param {string} host @param {string} path */
const ask = (host, path = '/sign-in') =>
  new Promise((/** @type {(answer: { status: number, body: string }) => void} */ resolve, reject) => {
    const options = { host: '127.0.0.1', port: PORT, path, servername: NAME, ca: authority(), headers: { host } };
    request(options, (res) => {
      let body = '';
      res.on('data', (chunk) => (body += chunk));
      res.on('end', () => resolve({ status: Number(res.statusCode), body }));
    })
      .on('error', reject)
      .end();
  });

/** A browser that reaches the name here, with a store of trusted authorities of its own. @param {string} home */
const browserOf = (home) =>
  chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', `--host-resolver-rules=MAP ${NAME} 127.0.0.1`],
    env: { ...process.env, HOME: home, XDG_DATA_HOME: join(home, '.local/share') }
  });

describe('the authority of a bush', () => {
  test('vouches for this host alone, until the season ends, and nobody else can read the key', async () => {
    const known = new X509Certificate(authority());
    const host = new X509Certificate(readFileSync(join(folder, 'host.crt')));
    const { output: told } = await exec(
      program('openssl'),
      ['x509', '-in', join(folder, 'authority.crt'), '-noout', '-text'],
      {
        quiet: true
      }
    );
    expect(told).toMatch(/Name Constraints: critical\s+Permitted:\s+DNS:bush\.test/);
    expect(told).toMatch(/CA:TRUE, pathlen:0/);
    expect(host.checkIssued(known) && host.verify(known.publicKey)).toBe(true);
    expect([host.checkHost(NAME), host.checkHost('elsewhere.test')]).toEqual([NAME, undefined]);
    const days = (Date.parse(host.validTo) - Date.parse(host.validFrom)) / 86_400_000;
    expect(days).toBeLessThanOrEqual(398);
    expect(Date.parse(known.validTo) - endOfSeason(new Date()).getTime()).toBeLessThan(86_400_000 * 1.01);
    expect(statSync(join(folder, 'host.key')).mode & 0o777).toBe(0o600);
    expect(statSync(folder).mode & 0o777).toBe(0o700);
    // With its key it could vouch for this host again, next year: it is gone.
    expect(readdirSync(folder).sort()).toEqual(['authority.crt', 'host.crt', 'host.key']);
  });

  test('stays the same at every start of a season, and is another for another name or season', async () => {
    const at = join(scratch, 'again');
    const now = new Date('2027-01-10T12:00:00Z');
    const start = (/** @type {string[]} */ names, /** @type {Date} */ on) =>
      authorityFor({ folder: at, names, addresses: ['10.0.0.7'], now: on });
    // Certificates begin when they are made, whatever day is asked about: days of the future stand for later starts.
    const later = (/** @type {number} */ days) => new Date(Date.now() + days * 86_400_000);
    const first = await start(['bush.test'], new Date());
    expect(first.made).toBe(true);
    expect((await start(['bush.test'], later(1))).fingerprint).toBe(first.fingerprint);
    expect((await start(['other.test'], later(1))).fingerprint).not.toBe(first.fingerprint);
    expect((await start(['other.test'], later(400))).made).toBe(true);
    expect(endOfSeason(now).toISOString()).toMatch(/^2027-06-30/);
    expect(endOfSeason(new Date('2026-07-01T00:00:00Z')).toISOString()).toMatch(/^2027-06-30/);
  });
});

describe('a phone in the same network', () => {
  test('is told on plain http how to come in, with the fingerprint that the computer shows', async () => {
    const page = await (await fetch(`http://127.0.0.1:${PORT}/`)).text();
    const fingerprint = /([0-9A-F]{2}:){31}[0-9A-F]{2}/.exec(served.output())?.[0] ?? 'none';
    expect(page).toContain(fingerprint);
    for (const kind of [
      'Android',
      'iPhone',
      'Laptop',
      'To remove it',
      there,
      `vouches for this computer alone (${NAME}:${PORT}`
    ])
      expect(page).toContain(kind);
    expect(page.match(/data:image\/svg\+xml/g)).toHaveLength(2);
    const fetched = await fetch(`http://127.0.0.1:${PORT}/baumkin.crt`);
    expect(fetched.headers.get('content-type')).toBe('application/x-x509-ca-cert');
    expect(new X509Certificate(await fetched.text()).fingerprint256).toBe(fingerprint);
  });

  test('is told so where it asks under another name', async () => {
    expect(await ask(`${NAME}:${PORT}`)).toMatchObject({ status: 200 });
    const other = await ask(`192.0.2.1:${PORT}`);
    expect([other.status, other.body.includes(there)]).toEqual([421, true]);
  });

  test('is refused by its own browser before it trusts, and works once it does: signed in, and without a network', async () => {
    const stranger = join(scratch, 'stranger');
    mkdirSync(stranger);
    const before = await browserOf(stranger);
    await expect((await before.newPage()).goto(`${there}/sign-in`)).rejects.toThrow(/ERR_CERT_AUTHORITY_INVALID/);
    await before.close();

    const home = join(scratch, 'home');
    for (const store of ['.pki/nssdb', '.local/share/pki/nssdb']) {
      mkdirSync(join(home, store), { recursive: true });
      const at = ['-d', `sql:${join(home, store)}`];
      await exec(program('certutil'), ['-N', '--empty-password', ...at], { quiet: true });
      const add = ['-A', '-t', 'C,,', '-n', 'baumkin', '-i', join(folder, 'authority.crt'), ...at];
      expect((await exec(program('certutil'), add, { quiet: true })).code).toBe(0);
    }
    const browser = await browserOf(home);
    try {
      const context = await browser.newContext({ baseURL: there });
      const page = await context.newPage();
      await page.goto('/sign-in');
      expect(await page.evaluate(() => isSecureContext && typeof crypto.randomUUID === 'function')).toBe(true);
      await page.getByLabel('Sign-in name').fill('hedda');
      await page.getByLabel('Password').fill('pale-shavings');
      await page.getByRole('button', { name: 'Sign in', exact: true }).click();
      await page.waitForURL(/\/bush\//);
      expect((await context.cookies()).find(({ name }) => name === 'baumkin_session')).toMatchObject({
        secure: true,
        httpOnly: true,
        domain: NAME
      });
      await page.getByTestId('saved').getByText('All saved').waitFor();
      await page.evaluate(async () => void (await navigator.serviceWorker.ready));
      await page.reload();
      await page.getByTestId('saved').getByText('All saved').waitFor();
      const bush = /** @type {RegExpExecArray} */ (/[0-9a-f-]{36}/.exec(page.url()))[0];
      await wholeBook(page, bush);
      await context.setOffline(true);
      await page.goto(`/bush/${bush}/walk`);
      await page.getByTestId('walk-start').waitFor();
    } finally {
      await browser.close();
    }
  });
});
