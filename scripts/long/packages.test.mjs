import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterAll, expect, test } from 'vitest';

import { exec, freePort } from '../lib/exec.mjs';
import { root } from '../lib/paths.mjs';
import { ensurePrograms, program } from '../lib/setup.mjs';
import { ownSettings, startCommand } from '../test/started.mjs';

/* The service and the image, as far as they can be tried without either: what they run is run in a clean folder. */

const folder = mkdtempSync(join(tmpdir(), 'baumkin-packages-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

test('the service is one that systemd takes without a word', async () => {
  await ensurePrograms(['systemd-analyze']);
  const unit = join(root, 'packaging/baumkin.service');
  expect(await exec(program('systemd-analyze'), ['verify', unit], { quiet: true })).toEqual({ code: 0, output: '' });
});

test('the image builds from what is in the repository, starts, and is found well by its own check', async () => {
  const [build = '', last = ''] = readFileSync(join(root, 'packaging/Containerfile'), 'utf8')
    .split(/^FROM .*$/m)
    .slice(1);
  const lines = (/** @type {string} */ stage, /** @type {string} */ what) =>
    [...stage.matchAll(new RegExp(`^${what} (.*)$`, 'gm'))].map(([, said = '']) => said);
  const listed = await exec('git', ['ls-files', '-z'], { quiet: true });
  const checkout = join(folder, 'baumkin');
  for (const file of listed.output.split('\0').filter(Boolean)) {
    mkdirSync(dirname(join(checkout, file)), { recursive: true });
    cpSync(join(root, file), join(checkout, file));
  }
  for (const command of lines(build, 'RUN')) {
    const ran = await exec('sh', ['-c', command], { cwd: checkout, quiet: true });
    expect(ran.code, ran.output.slice(-2000)).toBe(0);
  }
  const port = await freePort(28_500);
  const env = Object.fromEntries(
    lines(last, 'ENV')
      .flatMap((said) => said.split(' '))
      .map((pair) => pair.split('='))
  );
  expect(env).toEqual({ BAUMKIN_DATA: '/var/lib/baumkin', BAUMKIN_LISTEN: '0.0.0.0:4780' });
  const [command = '', ...args] = JSON.parse(lines(last, 'CMD')[0] ?? '[]');
  const here = { BAUMKIN_DATA: join(folder, 'data'), BAUMKIN_LISTEN: `127.0.0.1:${port}` };
  const started = startCommand(command, args, { ...ownSettings(), ...here }, checkout);
  expect(await started.until('Ctrl-C stops it')).toMatch(/^\s*(Creating the database \.\.\.)?\s*Baumkin is ready/);
  const check = /^HEALTHCHECK CMD (.*)$/m.exec(last)?.[1]?.replace('4780', String(port)) ?? 'false';
  expect((await exec('sh', ['-c', check], { quiet: true })).code).toBe(0);
  expect(await started.end('SIGTERM')).toBe(0);
  expect((await exec('sh', ['-c', check], { quiet: true })).code).toBe(1);
});
