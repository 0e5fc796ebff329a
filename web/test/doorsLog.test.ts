import { randomUUID } from 'node:crypto';
import pino from 'pino';
import { describe, expect, it, vi } from 'vitest';

import { createAccount } from '../src/lib/server/accounts.ts';
import { User } from '../src/lib/server/db/index.ts';
import { log } from '../src/lib/server/log.ts';
import { pathHere } from '../src/lib/server/pathHere.ts';
import { readiness } from '../src/lib/server/readiness.ts';
import { useFreshDatabase } from './database.ts';

useFreshDatabase();

/** What the log writes while something is done. */
async function written(work: () => Promise<unknown>): Promise<string> {
  const { [pino.symbols.streamSym]: stream } = log as unknown as Record<symbol, { write: (line: string) => void }>;
  const write = vi.spyOn(stream!, 'write').mockImplementation(() => undefined);
  try {
    await work().catch((err: unknown) => log.error({ err }, 'It did not go'));
    return write.mock.calls.join('\n');
  } finally {
    write.mockRestore();
  }
}

describe('the log of what a database refused', () => {
  it('holds neither values nor the query with them: a failing INSERT carries hashes of passwords', async () => {
    const person = { name: `anna.${Date.now()}`, displayName: 'Anna Birchwater', password: 'a long enough one' };
    const { id } = await createAccount(person);
    const { passwordHash, signInName } = await User.findByPk(id, { rejectOnEmpty: true });
    const line = await written(() =>
      User.create({ id: randomUUID(), signInName, displayName: 'Birchwater', passwordHash, createdAt: new Date() })
    );
    expect(line).toContain('ER_DUP_ENTRY');
    expect(line).toContain('INSERT INTO `users`');
    expect(line).toContain('doorsLog.test.ts');
    for (const secret of [passwordHash, passwordHash.slice(-20), signInName, 'Birchwater'])
      expect(line).not.toContain(secret);
  });

  it('says what another fault was, and what it came from', async () => {
    const line = await written(() => Promise.reject(new Error('No room left', { cause: new TypeError('a hole') })));
    expect(JSON.parse(line)).toMatchObject({
      err: { type: 'Error', message: 'No room left', cause: { type: 'TypeError' } }
    });
  });
});

describe('whether a server can serve', () => {
  it('is yes, part by part, and a full disk is told as one', async () => {
    expect(await readiness()).toEqual({ database: true, migrations: true, disk: true });
    vi.stubEnv('BAUMKIN_DATA', '/nowhere/at/all');
    let found;
    const line = await written(async () => (found = await readiness()));
    vi.unstubAllEnvs();
    expect(found).toEqual({ database: true, migrations: true, disk: false });
    expect(line).toContain('Not ready');
  });
});

describe('where a link of somebody else’s may lead', () => {
  const here = 'https://bush.example';
  it.each(['/bush/1?tree=2#top', '/', '/join/abc', '/%2F%2Fevil.example'])('%j is on this site', (to) => {
    expect(pathHere(to, here)).toBe(to);
  });
  it.each([
    null,
    '',
    'https://evil.example',
    '//evil.example',
    '/\\evil.example',
    '/\t/evil.example',
    '/\n/evil.example',
    '/\r\\evil.example',
    '\t//evil.example',
    '/.//evil.example',
    '/a/..//evil.example',
    'javascript:alert(1)',
    '///'
  ])('%j is not', (to) => {
    // As a browser goes there: by the rules of URLs.
    expect(new URL(pathHere(to, here), here).origin).toBe(here);
    expect(pathHere(to, here)).toBe('/');
  });
});
