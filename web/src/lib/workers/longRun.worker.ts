import {
  calibrate,
  comparePlacings,
  othersOnPractice,
  type Calibration,
  type ColumnModel,
  type HabitTree,
  type LivedPlacing,
  type LoggedHole
} from '@baumkin/core';
import { expose } from 'comlink';

type Told = (done: number) => void;

const tell = (told: Told) => (done: number) => {
  told(done);
  return true;
};

/** Seasons lived through many times over, and logged holes judged anew, off the page's thread. It is ended by ending the worker. */
const api = {
  compare: (tree: HabitTree, model: ColumnModel, seasons: number, trees: number, told: Told): LivedPlacing[] =>
    comparePlacings(tree, model, { seasons, trees, seed: 1, onProgress: tell(told) })!,
  calibrate: (logged: readonly LoggedHole[], model: ColumnModel, told: Told): Calibration =>
    calibrate(logged, model, { onProgress: tell(told) })!,
  othersOnPractice
};
export type LongRunWorker = typeof api;

expose(api);
