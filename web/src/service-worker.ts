/// <reference types="@sveltejs/kit" />
/// <reference lib="webworker" />
import { build, files, version } from '$service-worker';

import { shortcutIn } from './lib/frame/shortcuts.ts';

declare const self: ServiceWorkerGlobalScope;

/*
 * Keeps the program on the device, in one version. Pages of a bush are drawn by the browser from what the device holds, so one
 * empty page, kept with the program that it belongs to, serves all of them with and without a network. Data is never kept
 * here: that is the device store's job. Another version is kept beside this one, and waits until a person takes it.
 */
const PREFIX = 'program-';
const PROGRAM = PREFIX + version;
const SHELL = '/bush/shell';
/** Holds the bush that was looked at last, under this address. */
const LAST = 'last-bush';

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches.open(PROGRAM).then(async (cache) => {
      await cache.addAll([...build, ...files]);
      await cache.add(new Request(SHELL, { cache: 'reload' }));
    })
  );
});

self.addEventListener('activate', (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) => {
        const others = names.filter((name) => name.startsWith(PREFIX) && name !== PROGRAM);
        // The one before this stays: another tab may still run it.
        return Promise.all(others.slice(0, -1).map((name) => caches.delete(name)));
      })
      .then(() => self.clients.claim())
  );
});

/** A person takes the version that waits. */
self.addEventListener('message', ({ data }) => {
  if (data === 'take') void self.skipWaiting();
});

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== self.location.origin) return;
  if (build.includes(url.pathname) || files.includes(url.pathname) || url.pathname.startsWith('/_app/immutable/'))
    event.respondWith(keptFirst(request));
  else if (request.mode === 'navigate')
    event.respondWith(url.pathname.startsWith('/bush/') ? shell(request, url) : networkThenBush(request, url));
});

async function keptFirst(request: Request): Promise<Response> {
  return (await caches.match(request, { ignoreSearch: true })) ?? fetch(request);
}

async function shell(request: Request, { pathname }: URL): Promise<Response> {
  const last = await caches.open(LAST);
  await last.put(LAST, new Response(pathname.split('/')[2]));
  return (await (await caches.open(PROGRAM)).match(SHELL)) ?? fetch(request);
}

/** Pages that the server alone draws: without it the way leads to the bush that is on this device. */
async function networkThenBush(request: Request, url: URL): Promise<Response> {
  try {
    return await fetch(request);
  } catch (error) {
    const last = await (await caches.open(LAST)).match(LAST);
    if (!last) throw error;
    return Response.redirect(`/bush/${await last.text()}${shortcutIn(url)}`);
  }
}
