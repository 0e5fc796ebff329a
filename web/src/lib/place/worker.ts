import { wrap, type Remote } from 'comlink';

import type { PlaceWorker } from '$lib/workers/place.worker.ts';

let remote: Remote<PlaceWorker> | undefined;

/** The page's one placement worker, started when it is first asked. */
export function placeWorker(): Remote<PlaceWorker> {
  remote ??= wrap<PlaceWorker>(new Worker(new URL('../workers/place.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}
