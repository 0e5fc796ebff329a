import { LEFT_COOKIE } from '../leftCookie.ts';
import { forgetAll } from './store.ts';

/** Held by the service worker: the bush that was looked at last. */
const LAST_BUSH = 'last-bush';

/**
 * Takes what is known of bushes off this device where somebody has signed out: at once, or, where her page was closed or led
 * elsewhere meanwhile, by whichever page is opened next. What waits in the outbox stays for its writer.
 */
export async function endLeaving(): Promise<void> {
  if (!document.cookie.split('; ').includes(`${LEFT_COOKIE}=1`)) return;
  await forgetAll();
  // The service worker leads to no bush from here.
  if ('caches' in window) await caches.delete(LAST_BUSH);
  document.cookie = `${LEFT_COOKIE}=; path=/; max-age=0; samesite=lax`;
}
