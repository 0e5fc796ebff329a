import { describe, expect, it, vi } from 'vitest';

import { LEFT_COOKIE } from '../../src/lib/leftCookie.ts';
import { device, openBush, store } from './device.ts';
import { BUSH, trees } from './server.ts';

const { keeping, KNOWN_OF_BUSHES, SignedOut } = await import('../../src/lib/client/store.ts');
const { endLeaving } = await import('../../src/lib/client/leaving.ts');
const { keepAnswer } = await import('../../src/lib/client/answers.ts');

/* What somebody leaves on a device that others use: nothing, however busy her pages are when she signs out. */

const known = () => Promise.all(KNOWN_OF_BUSHES.map((table) => table.count()));
const nothing = KNOWN_OF_BUSHES.map(() => 0);

describe('somebody who signs out', () => {
  it('leaves nothing of a bush that is still coming, and her pages write nothing any more', async () => {
    device.server.makeSnapshot(4, 2);
    const bush = await openBush();
    await vi.waitFor(async () => expect((await store.books.get(BUSH))?.taking?.part).toBe(2), { timeout: 30_000 });
    document.cookie = `${LEFT_COOKIE}=1; path=/`;
    await endLeaving();
    expect(document.cookie).not.toContain(`${LEFT_COOKIE}=1`);
    device.server.makeSnapshot(4);
    await bush.refresh();
    await bush.loadTree(trees[0]!.id).catch(() => undefined);
    await expect(keepAnswer('key', BUSH, 'question', 42)).rejects.toThrow(SignedOut);
    await bush.close();
    expect(await known()).toEqual(nothing);
  });

  it('is the only one whose book is cleared away', async () => {
    await store.answers.put({ key: 'k', bushId: BUSH, question: '', answer: 1, at: 1 });
    await endLeaving();
    expect(await store.answers.count()).toBe(1);
  });

  it('leaves the device to whoever signs in next, whose pages are others', async () => {
    await store.holder.put({ key: 'holder', after: 7 });
    await expect(keeping([store.answers], () => Promise.resolve())).rejects.toThrow(SignedOut);
    vi.resetModules();
    const next = await import('../../src/lib/client/store.ts');
    expect(await next.keeping([next.store.answers], () => Promise.resolve('kept'))).toBe('kept');
    next.store.close();
  });
});
