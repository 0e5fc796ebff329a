import type { Remote } from 'comlink';

import { asking } from '$lib/workers/asking.ts';
import type { PlaceWorker } from '$lib/workers/place.worker.ts';

let remote: Remote<PlaceWorker> | undefined;

/** The page's one placement worker, started when it is first asked, and anew after it broke off. */
export function placeWorker(): Remote<PlaceWorker> {
  remote ??= asking<PlaceWorker>(
    new Worker(new URL('../workers/place.worker.ts', import.meta.url), { type: 'module' }),
    () => (remote = undefined)
  );
  return remote;
}
