import { shortWalk } from '@baumkin/core/stand';
import { expose } from 'comlink';

/** The search for a short walk off the page's thread. */
const api = { shortWalk };
export type WalkWorker = typeof api;

expose(api);
