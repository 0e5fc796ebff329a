import {
  compareStrategies,
  foresightFrontier,
  othersOnPractice,
  type RuleTree,
  type LivedStrategy
} from '@baumkin/core/rotation';
import { projectBush, type BushYear, type ProjectionOptions, type TapPolicy, type TapTree } from '@baumkin/core/taps';
import { calibrate, type Calibration, type ColumnModel, type LoggedHole } from '@baumkin/core/trunk';
import { expose } from 'comlink';

type Told = (done: number) => void;

const tell = (told: Told) => (done: number) => {
  told(done);
  return true;
};

/** Seasons lived through many times over, and logged holes judged anew, off the page's thread. It is ended by ending the worker. */
const api = {
  compare: (
    tree: RuleTree,
    model: ColumnModel,
    options: { readonly seasons: number; readonly trees: number },
    told: Told
  ): LivedStrategy[] => compareStrategies(tree, model, { ...options, seed: 1, onProgress: tell(told) })!,
  calibrate: (logged: readonly LoggedHole[], model: ColumnModel, told: Told): Calibration =>
    calibrate(logged, model, { onProgress: tell(told) })!,
  othersOnPractice,
  foresightFrontier,
  /** Several ways of tapping, one after the other, on the same trees. */
  project: (
    trees: readonly TapTree[],
    policies: readonly TapPolicy[],
    options: Omit<ProjectionOptions, 'onProgress'>,
    told: Told
  ): BushYear[][] =>
    policies.map((policy, i) =>
      projectBush(trees, policy, {
        ...options,
        onProgress: (draws) => tell(told)((i + draws / options.draws) / policies.length)
      })!
    )
};
export type LongRunWorker = typeof api;

expose(api);
