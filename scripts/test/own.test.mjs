import { mkdtempSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';

import { readConfig } from '../lib/config.mjs';
import { freePort, isAlive, pause } from '../lib/exec.mjs';
import { ownSettings, startScript, STARTS_MS } from './started.mjs';

/* `npm start`: a server with its own data, as its operator meets it, and its doors as a stranger tries them. The build stands already. */

vi.setConfig({ testTimeout: STARTS_MS, hookTimeout: STARTS_MS });

const folder = mkdtempSync(join(tmpdir(), 'baumkin-own-'));
const settings = join(folder, 'baumkin.env');
/** @type {string} */
let origin;
/** @type {ReturnType<typeof startScript>} */
let own;
const env = () => ({
  ...ownSettings(),
  BAUMKIN_DATA: join(folder, 'data'),
  BAUMKIN_CONFIG: settings,
  BAUMKIN_BACKUP_AT: 'never'
});
const start = () => startScript('start.mjs', [], env());

beforeAll(async () => {
  const port = await freePort(28_100);
  origin = `http://127.0.0.1:${port}`;
  writeFileSync(settings, `# her own\nBAUMKIN_LISTEN=127.0.0.1:${port}\n`);
  own = start();
  await own.until('Ctrl-C stops it');
});
afterAll(async () => {
  await own.end('SIGINT');
  rmSync(folder, { recursive: true, force: true });
});

const ask = (/** @type {string} */ path, /** @type {RequestInit} */ init = {}) =>
  fetch(`${origin}${path}`, { redirect: 'manual', ...init });
const form = (/** @type {string} */ path, /** @type {Record<string, string>} */ fields, headers = {}) =>
  ask(path, {
    method: 'POST',
    headers: { accept: 'text/html', origin, ...headers },
    body: new URLSearchParams(fields)
  });
const cookies = (/** @type {Response} */ response) =>
  response.headers
    .getSetCookie()
    .map((set) => set.split(';')[0])
    .join('; ');
const ready = async () => (await ask('/ready').catch(() => null))?.status ?? 0;
async function untilReady() {
  for (const given = Date.now() + STARTS_MS; (await ready()) !== 200 && Date.now() < given;) await pause(200);
  expect(await ready()).toBe(200);
}
const serverPid = () => JSON.parse(readFileSync(join(folder, 'data/running'), 'utf8')).serverPid;
const anna = { name: 'anna', displayName: 'Anna', password: 'a long enough one' };

describe('a first start', () => {
  test('says the address, and a link for the first account, which opens once; nobody else makes one', async () => {
    const said = own.output();
    expect(said).toContain(`Baumkin is ready: ${origin}`);
    expect(statSync(join(folder, 'data')).mode & 0o077).toBe(0);
    const link = /\/link\/[\w-]{22}/.exec(said)?.[0] ?? '';
    expect((await form('/sign-up', anna)).status).toBe(403);
    expect(await (await ask('/sign-up')).text()).toContain('for those who were asked in');
    expect((await ask('/link/nothing-of-the-kind')).status).toBe(410);
    expect(await (await ask(link)).text()).toContain('The first account');
    const twice = await Promise.all([1, 2].map((i) => form(link, { ...anna, name: `anna.${i}` })));
    expect(twice.map(({ status }) => status).sort()).toEqual([303, 410]);
    expect((await ask(link)).status).toBe(410);
  });

  test('another start on the same data says so, and spoils nothing', async () => {
    const second = start();
    expect(await second.until('running already')).toMatch(/is running already \(process \d+\)/);
    expect(await second.end(undefined)).toBe(1);
    expect(await ready()).toBe(200);
  });
});

describe('doors', () => {
  test('every page and answer says what browsers may do with it, and is kept by nobody on the way', async () => {
    for (const path of ['/sign-in', '/api/v1/bushes', '/bush/shell', '/health']) {
      const { headers } = await ask(path);
      expect(headers.get('x-content-type-options'), path).toBe('nosniff');
      expect(headers.get('permissions-policy'), path).toContain('microphone=()');
      expect(headers.get('cross-origin-resource-policy'), path).toBe('same-origin');
      expect(headers.get('cache-control'), path).toContain('no-store');
    }
  });

  test('a page of another site ends no session and sends nothing', async () => {
    for (const headers of [{ origin: 'https://evil.example' }, { 'sec-fetch-site': 'cross-site' }, { origin: 'null' }])
      for (const path of ['/sign-out', '/sign-in', '/api/v1/bushes']) {
        const answer = await ask(path, { method: 'POST', headers });
        expect([answer.status, answer.headers.getSetCookie()], `${path} ${JSON.stringify(headers)}`).toEqual([403, []]);
      }
    expect((await form('/sign-out', {})).status).toBe(303);
  });

  test('a link of somebody else’s leads nowhere else', async () => {
    const signedIn = cookies(await form('/sign-in', { name: 'anna.1', password: anna.password }));
    const other = cookies(await form('/sign-in', { name: 'anna.2', password: anna.password }));
    const cookie = signedIn.includes('baumkin_session') ? signedIn : other;
    for (const to of ['//evil.example', '/%09/evil.example', '/%5Cevil.example']) {
      const answer = await ask(`/sign-in?to=${to}`, { headers: { cookie } });
      expect([answer.status, answer.headers.get('location')], to).toEqual([303, '/']);
    }
  });

  test('a password that was lost is set anew by the operator’s link, which signs every device out', async () => {
    const names = ['anna.1', 'anna.2'];
    const before = await Promise.all(names.map((name) => form('/sign-in', { name, password: anna.password })));
    const mine = before.findIndex(({ status }) => status === 303);
    const cookie = cookies(before[mine]);
    const command = startScript('password.mjs', [names[mine] ?? ''], env());
    await command.end(undefined);
    const link = /\/link\/[\w-]{22}/.exec(command.output())?.[0] ?? '';
    expect(await (await ask(link)).text()).toContain('A new password');
    expect((await form(link, { password: 'short' })).status).toBe(400);
    expect((await form(link, { password: 'another long one' })).status).toBe(303);
    expect((await ask('/bushes', { headers: { cookie } })).headers.get('location')).toContain('/sign-in');
    expect((await form('/sign-in', { name: names[mine] ?? '', password: anna.password })).status).toBe(400);
    expect((await form('/sign-in', { name: names[mine] ?? '', password: 'another long one' })).status).toBe(303);
    const nobody = startScript('password.mjs', ['nobody'], env());
    expect(await nobody.end(undefined)).toBe(1);
    expect(nobody.output()).toContain('Nobody with a password signs in as "nobody" here');
  });
});

test('a steward is told of the last good backup, which is made while the server runs', async () => {
  const names = ['anna.1', 'anna.2'];
  const answers = await Promise.all(names.map((name) => form('/sign-in', { name, password: 'another long one' })));
  const cookie = cookies(answers.find(({ status }) => status === 303) ?? answers[0]);
  expect((await form('/bushes?/make', { name: 'Hers' }, { cookie })).status).toBe(303);
  const page = async () => (await ask('/bushes', { headers: { cookie } })).text();
  expect(await page()).toContain('There is no backup of this server yet');
  const backup = startScript('backup.mjs', [], env());
  expect(await backup.end(undefined)).toBe(0);
  expect(await page()).toContain('Backed up, and read back on trial');
});

describe('what dies is started again', () => {
  test('the server', async () => {
    const died = serverPid();
    process.kill(died, 'SIGKILL');
    await own.until('The server runs again');
    await untilReady();
    expect(serverPid()).not.toBe(died);
    expect(own.output()).toContain('kept on their devices');
  });

  test('the database, and meanwhile the server says that it is away', async () => {
    const pid = Number(readFileSync(join(folder, 'data/db/mariadbd.pid'), 'utf8'));
    process.kill(pid, 'SIGKILL');
    for (const given = Date.now() + 20_000; (await ready()) === 200 && Date.now() < given;) await pause(20);
    expect(await (await ask('/health')).json()).toEqual({ alive: true });
    await own.until('The database runs again');
    await untilReady();
  });

  test('and all of it ends by a signal', async () => {
    const pids = [serverPid(), Number(readFileSync(join(folder, 'data/db/mariadbd.pid'), 'utf8'))];
    expect(await own.end('SIGTERM')).toBe(0);
    expect(pids.filter(isAlive)).toEqual([]);
    expect(readdirSync(join(folder, 'data'))).toEqual(['backups', 'db']);
  });
});

describe('settings', () => {
  const wrong = (/** @type {Record<string, string>} */ said) => {
    try {
      readConfig({ env: said });
      return '';
    } catch (error) {
      return /** @type {Error} */ (error).message;
    }
  };
  test('that are wrong are all said at once, each with what it wants', () => {
    const says = wrong({
      BAUMKIN_LISTEN: 'everywhere',
      BAUMKIN_ORIGIN: 'http://bush.example',
      BAUMKIN_SIGN_UP: 'yes',
      BAUMKIN_WEATHER: '{',
      BAUMKIN_TODAY: '2027-03-10',
      DATABASE_URL: 'mysql://somewhere'
    });
    for (const each of [
      /BAUMKIN_LISTEN is "everywhere"; it wants an address and a port/,
      /phones need https/,
      /BAUMKIN_SIGN_UP is "yes"; it wants open or invited/,
      /BAUMKIN_WEATHER is "{"; it wants a list in JSON/,
      /BAUMKIN_TODAY is no setting of a server/,
      /DATABASE_URL wants the form/
    ])
      expect(says).toMatch(each);
    expect(wrong({ BAUMKIN_ORIGIN: 'https://bush.example' })).toMatch(/BAUMKIN_PROXIES=1/);
    expect(wrong({ BAUMKIN_ORIGIN: 'https://bush.example/path', BAUMKIN_PROXIES: '1' })).toMatch(/nothing behind it/);
    expect(wrong({ BAUMKIN_CONFIG: '/nowhere/baumkin.env' })).toMatch(/no file of settings/);
  });
  test('of the environment go before those of the file; accounts are for those who were asked in unless it is said', () => {
    writeFileSync(settings, 'BAUMKIN_ORIGIN=https://bush.example\nBAUMKIN_PROXIES=1\nLOG_LEVEL=info\n');
    const { origin: said, server, listen } = readConfig({ file: settings, env: { LOG_LEVEL: 'error' } });
    expect([said, listen.port]).toEqual(['https://bush.example', 4780]);
    expect(server).toMatchObject({
      LOG_LEVEL: 'error',
      BAUMKIN_SIGN_UP: 'invited',
      ADDRESS_HEADER: 'x-forwarded-for',
      XFF_DEPTH: '1'
    });
  });
});
