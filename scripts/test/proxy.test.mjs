import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';

import { exec, freePort, pause, stop } from '../lib/exec.mjs';
import { root } from '../lib/paths.mjs';
import { ensurePrograms, program } from '../lib/setup.mjs';
import { ownSettings, startScript, STARTS_MS } from './started.mjs';

/* A server behind nginx, set up as docs/operations.md says, by TLS on loopback. The build stands already. */

vi.setConfig({ testTimeout: STARTS_MS, hookTimeout: STARTS_MS });

const folder = mkdtempSync(join(tmpdir(), 'baumkin-proxy-'));
/** @type {number} */
let port;
/** @type {ReturnType<typeof startScript>} */
let own;
/** @type {number} */
let nginx = 0;

beforeAll(async () => {
  await ensurePrograms(['nginx', 'openssl']);
  const server = await freePort(28_200);
  port = await freePort(28_300);
  const key = join(folder, 'bush.key');
  const crt = join(folder, 'bush.crt');
  const made = await exec(
    program('openssl'),
    [
      'req',
      '-x509',
      '-newkey',
      'rsa:2048',
      '-nodes',
      '-days',
      '2',
      '-subj',
      '/CN=localhost',
      '-keyout',
      key,
      '-out',
      crt
    ],
    { quiet: true }
  );
  expect(made.code, made.output).toBe(0);
  // The example as it stands in the docs, with this machine's places in it.
  const said =
    /```\n(server \{[\s\S]*?\n\})\n```/.exec(readFileSync(join(root, 'docs/operations.md'), 'utf8'))?.[1] ?? '';
  const block = [
    ['listen 443 ssl', `listen 127.0.0.1:${port} ssl`],
    ['server_name bush.example', 'server_name localhost'],
    ['/etc/ssl/bush.crt', crt],
    ['/etc/ssl/bush.key', key],
    ['127.0.0.1:4780', `127.0.0.1:${server}`]
  ].reduce((text, [from, to]) => {
    expect(text).toContain(from);
    return text.replace(from ?? '', to ?? '');
  }, said);
  mkdirSync(join(folder, 'tmp'));
  const temps = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']
    .map((name) => `${name}_temp_path ${join(folder, 'tmp', name)};`)
    .join('\n');
  writeFileSync(
    join(folder, 'nginx.conf'),
    `daemon off;\npid ${join(folder, 'nginx.pid')};\nerror_log ${join(folder, 'error.log')};\nevents {}\nhttp {\naccess_log off;\n${temps}\n${block}\n}\n`
  );
  own = startScript('start.mjs', [], {
    ...ownSettings(),
    BAUMKIN_DATA: join(folder, 'data'),
    BAUMKIN_LISTEN: `127.0.0.1:${server}`,
    BAUMKIN_ORIGIN: `https://localhost:${port}`,
    BAUMKIN_PROXIES: '1'
  });
  await own.until('Ctrl-C stops it');
  const child = spawn(program('nginx'), ['-p', folder, '-c', join(folder, 'nginx.conf')], { stdio: 'ignore' });
  nginx = child.pid ?? 0;
  for (const given = Date.now() + STARTS_MS; Date.now() < given; await pause(100))
    if (
      await ask('GET', '/health').then(
        ({ status }) => status === 200,
        () => false
      )
    )
      break;
});
afterAll(async () => {
  await stop(nginx);
  await own.end('SIGINT');
  rmSync(folder, { recursive: true, force: true });
});

/**
 * @param {string} method @param {string} path @param {Record<string, string>} headers @param {string} body
 * @returns {Promise<{ status: number, headers: import('node:http').IncomingHttpHeaders, text: string }>}
 */
function ask(method, path, headers = {}, body = '') {
  return new Promise((done, failed) => {
    const options = { host: '127.0.0.1', port, method, path, rejectUnauthorized: false };
    const sent = request({ ...options, headers: { host: `localhost:${port}`, ...headers } }, (answer) => {
      let text = '';
      answer.on('data', (chunk) => (text += chunk));
      answer.on('end', () => done({ status: answer.statusCode ?? 0, headers: answer.headers, text }));
    });
    sent.on('error', failed);
    sent.end(body);
  });
}
/** @param {string} path @param {Record<string, string>} fields @param {Record<string, string>} headers */
const form = (path, fields, headers = {}) =>
  ask(
    'POST',
    path,
    {
      accept: 'text/html',
      origin: `https://localhost:${port}`,
      'content-type': 'application/x-www-form-urlencoded',
      ...headers
    },
    new URLSearchParams(fields).toString()
  );
const anna = { name: 'anna', displayName: 'Anna', password: 'a long enough one' };
let cookie = '';

describe('behind nginx as the docs set it up', () => {
  test('browsers are told to stay with TLS, and cookies go by nothing else', async () => {
    const link = /\/link\/[\w-]{22}/.exec(own.output())?.[0] ?? '';
    expect(own.output()).toContain(`made at https://localhost:${port}/link/`);
    const { status, headers } = await form(link, anna);
    expect(status).toBe(303);
    expect(headers['strict-transport-security']).toBe('max-age=31536000');
    for (const set of headers['set-cookie'] ?? []) expect(set).toMatch(/; Secure/);
    cookie = (headers['set-cookie'] ?? []).map((set) => set.split(';')[0]).join('; ');
    expect(cookie).toContain('baumkin_session');
  });

  test('a page of another site is one, also by its scheme', async () => {
    const { status } = await form('/sign-out', {}, { origin: `http://localhost:${port}`, cookie });
    expect(status).toBe(403);
  });

  test('who guesses is known by the address that nginx saw, whatever she says of herself', async () => {
    const guesses = [];
    for (let i = 0; i < 45; i++)
      guesses.push(
        await form('/sign-in', { name: `nobody.${i}`, password: 'guess' }, { 'x-forwarded-for': `10.9.8.${i}` })
      );
    expect(guesses.filter(({ status }) => status === 400)).toHaveLength(40);
    const last = guesses.at(-1);
    expect([last?.status, Number(last?.headers['retry-after']) > 0]).toEqual([429, true]);
  });

  test('the stream of events comes as it is told, not when it ends', async () => {
    const { headers } = await form('/bushes?/make', { name: 'Behind' }, { cookie });
    const bush = /bush\/([0-9a-f-]{36})/.exec(headers.location ?? '')?.[1];
    const first = await new Promise((done, failed) => {
      const options = { host: '127.0.0.1', port, path: `/api/v1/bushes/${bush}/events`, rejectUnauthorized: false };
      const sent = request({ ...options, headers: { host: `localhost:${port}`, cookie } }, (answer) => {
        answer.once('data', (chunk) => {
          done({ status: answer.statusCode, text: String(chunk) });
          sent.destroy();
        });
      });
      sent.on('error', failed);
      sent.end();
    });
    expect(first).toEqual({ status: 200, text: expect.stringMatching(/^event: changed/) });
  });
});
