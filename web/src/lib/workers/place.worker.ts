import { askSpot, placeHoles } from '@baumkin/core';
import { expose } from 'comlink';

/** The placement off the page's thread: thin wrappers round the core. */
const api = { placeHoles, askSpot };
export type PlaceWorker = typeof api;

expose(api);
