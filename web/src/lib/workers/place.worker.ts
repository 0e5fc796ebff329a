import {
  DrawnWood,
  PlacedTrunk,
  woodQuestion,
  type HolePrice,
  type PlacedRotation,
  type Placement,
  type PlacementTask,
  type SpotAnswer
} from '@baumkin/core/rotation';
import { expose } from 'comlink';

/** The wood of the last trunks that were asked about is kept: a dragged spot, or another plan, is answered at once. */
const woods = new Map<string, DrawnWood>();
const KEPT = 3;

function trunkOf(task: PlacementTask): PlacedTrunk {
  const key = woodQuestion(task);
  const wood = woods.get(key) ?? new DrawnWood(task);
  woods.delete(key);
  woods.set(key, wood);
  if (woods.size > KEPT) woods.delete(woods.keys().next().value!);
  return new PlacedTrunk(task, wood);
}

/** The placement off the page's thread: thin wrappers round the core. */
const api = {
  place: (task: PlacementTask): Placement => trunkOf(task).place(),
  plan: (task: PlacementTask): PlacedRotation => trunkOf(task).plan(),
  price: (task: PlacementTask): HolePrice | null => trunkOf(task).price(),
  dearest: (task: PlacementTask): HolePrice | null => trunkOf(task).dearest(),
  ask: (task: PlacementTask, spot: { bearingDeg: number; heightMm: number }): SpotAnswer => trunkOf(task).ask(spot)
};
export type PlaceWorker = typeof api;

expose(api);
