import { routeLines, type RouteQuestion } from '@baumkin/core/bush';
import { whatIsMissing, type Missing, type MissingTask } from '@baumkin/core/lines';
import { seededRng } from '@baumkin/core/math';
import {
  compareStrategies,
  foresightFrontier,
  othersOnPractice,
  type OthersOnPractice,
  type PracticeKind,
  type RuleTree,
  type LivedStrategy
} from '@baumkin/core/rotation';
import { ownLoss, planRounds } from '@baumkin/core/season';
import { projectBush, type BushYear, type ProjectionOptions, type TapPolicy, type TapTree } from '@baumkin/core/taps';
import {
  calibrate,
  poolColumns,
  type BushColumns,
  type Calibration,
  type ColumnModel,
  type LoggedTree,
  type PooledColumns
} from '@baumkin/core/trunk';
import { expose } from 'comlink';

type Told = (done: number) => void;

const tell = (told: Told) => (done: number) => {
  told(done);
  return true;
};

/** Of the work on logged holes, the share that takes to tell what was expected of them. */
const EXPECTING = 0.05;

/** Seasons lived through many times over, and logged holes judged anew, off the page's thread. It is ended by ending the worker. */
const api = {
  compare: (
    tree: RuleTree,
    model: ColumnModel,
    options: { readonly seasons: number; readonly trees: number },
    told: Told
  ): LivedStrategy[] => compareStrategies(tree, model, { ...options, seed: 1, onProgress: tell(told) })!,
  /** What was expected of the logged holes of a bush, what was seen, and what that teaches. */
  calibrate: (
    trees: readonly LoggedTree[],
    model: ColumnModel,
    bush: BushColumns,
    told: Told
  ): { readonly found: Calibration; readonly pooled: PooledColumns } => ({
    found: calibrate(trees, model, bush, { onProgress: (done) => tell(told)(EXPECTING * done) })!,
    pooled: poolColumns(trees, model, bush, { onProgress: (done) => tell(told)(EXPECTING + (1 - EXPECTING) * done) })!
  }),
  othersOnPractice: (kind: PracticeKind, model: ColumnModel, seed: number, told: Told): OthersOnPractice[] =>
    othersOnPractice(kind, model, seed, tell(told))!,
  foresightFrontier,
  planRounds,
  ownLoss,
  /** What is wrong behind lines: the same chances for the same log, whoever asks. */
  missing: (task: MissingTask): Missing => whatIsMissing(task, seededRng(1)),
  /** Where lines may run. */
  route: (question: RouteQuestion): ReturnType<typeof routeLines> => routeLines(question),
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
