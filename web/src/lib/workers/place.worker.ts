import { PlacedTrunk, type Placement, type PlacementTask, type SpotAnswer } from '@baumkin/core/rotation';
import { expose } from 'comlink';

/** The last trunks that were asked about keep their drawn truths: a dragged spot is answered at once. */
const trunks = new Map<string, PlacedTrunk>();
const KEPT = 3;

function trunkOf(task: PlacementTask): PlacedTrunk {
  const key = JSON.stringify(task);
  const known = trunks.get(key) ?? new PlacedTrunk(task);
  trunks.delete(key);
  trunks.set(key, known);
  if (trunks.size > KEPT) trunks.delete(trunks.keys().next().value!);
  return known;
}

/** The placement off the page's thread: thin wrappers round the core. */
const api = {
  place: (task: PlacementTask): Placement => trunkOf(task).place(),
  ask: (task: PlacementTask, spot: { bearingDeg: number; heightMm: number }): SpotAnswer => trunkOf(task).ask(spot)
};
export type PlaceWorker = typeof api;

expose(api);
