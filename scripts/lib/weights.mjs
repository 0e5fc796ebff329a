import { chromium } from '@playwright/test';

import { signIn } from './signIn.mjs';
import { program } from './setup.mjs';

/*
 * What a page weighs: its scripts on their way, and its memory and that of its workers while it works.
 */

const WATCH_EVERY_MS = 150;

/**
 * Watches the memory of a page and of its workers.
 * @param {import('@playwright/test').BrowserContext} context
 * @param {import('@playwright/test').Page} page
 * @returns what tells the most of it so far, bytes
 */
export async function watchHeaps(context, page) {
  const session = await context.newCDPSession(page);
  const most = { page: 0, worker: 0 };
  /** @type {Set<string>} */
  const workers = new Set();
  session.on('Target.attachedToTarget', ({ sessionId, targetInfo }) => {
    if (targetInfo.type === 'worker') workers.add(sessionId);
  });
  session.on('Target.detachedFromTarget', ({ sessionId }) => workers.delete(sessionId));
  session.on('Target.receivedMessageFromTarget', ({ message }) => {
    most.worker = Math.max(most.worker, JSON.parse(message).result?.usedSize ?? 0);
  });
  await session.send('Target.setAutoAttach', { autoAttach: true, waitForDebuggerOnStart: false, flatten: false });
  const message = JSON.stringify({ id: 1, method: 'Runtime.getHeapUsage' });
  const look = async () => {
    for (const sessionId of workers) await session.send('Target.sendMessageToTarget', { sessionId, message });
    most.page = Math.max(most.page, (await session.send('Runtime.getHeapUsage')).usedSize);
  };
  // A page or worker that goes while it is looked at says nothing.
  const timer = setInterval(() => void look().catch(() => undefined), WATCH_EVERY_MS);
  return async () => {
    clearInterval(timer);
    await session.detach();
    return most;
  };
}

/**
 * Scripts that a browser that was never here takes before a page of a bush can be used, as they are sent.
 * @param {string} origin
 * @param {string} path
 * @param {(page: import('@playwright/test').Page) => Promise<void>} usable
 * @returns bytes of the page and of its workers
 */
export async function scriptWeight(origin, path, usable) {
  const browser = await chromium.launch({
    executablePath: program('chromium'),
    args: ['--no-sandbox', '--disable-gpu']
  });
  try {
    const context = await browser.newContext({ baseURL: origin, serviceWorkers: 'block' });
    const page = await context.newPage();
    await signIn(page);
    await page.goto('about:blank');
    const client = await context.newCDPSession(page);
    await client.send('Network.clearBrowserCache');
    const sent = { page: 0, worker: 0 };
    context.on('requestfinished', (request) => {
      if (!new URL(request.url()).pathname.endsWith('.js')) return;
      void request.sizes().then(({ responseBodySize }) => (sent.page += responseBodySize));
    });
    // What a worker asks for is no request of its page: its one script is asked for once more.
    /** @type {Set<string>} */
    const workers = new Set();
    page.on('worker', (worker) => workers.add(worker.url()));
    await page.goto(path);
    await usable(page);
    for (const url of workers) {
      const response = await fetch(url, { headers: { 'accept-encoding': 'br' } });
      sent.worker += Number(response.headers.get('content-length'));
      await response.body?.cancel();
    }
    return sent;
  } finally {
    await browser.close();
  }
}
