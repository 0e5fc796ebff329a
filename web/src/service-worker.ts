/// <reference types="@sveltejs/kit" />
/// <reference lib="webworker" />
import { build, files, version } from '$service-worker';

declare const self: ServiceWorkerGlobalScope;

/*
 * Keeps the program on the device. Pages of a bush are drawn by the browser from what the device holds, so one kept
 * page serves for all of them when there is no network. Data is never kept here: that is the device store's job.
 */
const PROGRAM = `program-${version}`;
const SHELL = '/bush/shell';

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(PROGRAM)
      .then((cache) => cache.addAll([...build, ...files]))
      .then(() => self.skipWaiting())
  );
});

self.addEventListener('activate', (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(names.filter((name) => name !== PROGRAM).map((name) => caches.delete(name))))
      .then(() => self.clients.claim())
  );
});

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== self.location.origin) return;
  if (build.includes(url.pathname) || files.includes(url.pathname)) event.respondWith(keptFirst(request));
  else if (request.mode === 'navigate' && url.pathname.startsWith('/bush/'))
    event.respondWith(networkThenShell(request));
});

async function keptFirst(request: Request): Promise<Response> {
  return (await caches.match(request, { ignoreSearch: true })) ?? fetch(request);
}

async function networkThenShell(request: Request): Promise<Response> {
  const cache = await caches.open(PROGRAM);
  try {
    const response = await fetch(request);
    if (response.ok && !response.redirected) await cache.put(SHELL, response.clone());
    return response;
  } catch (error) {
    const shell = await cache.match(SHELL);
    if (shell) return shell;
    throw error;
  }
}
