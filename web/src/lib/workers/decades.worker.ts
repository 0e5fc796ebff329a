import { projectBush, type BushYear, type ProjectionOptions, type TapPolicy, type TapTree } from '@baumkin/core';
import { expose } from 'comlink';

/** The long view of a bush off the page's thread. It is ended by ending the worker. */
const api = {
  project(
    trees: readonly TapTree[],
    policy: TapPolicy,
    options: Omit<ProjectionOptions, 'onProgress'>,
    onProgress: (done: number) => void
  ): BushYear[] {
    return projectBush(trees, policy, {
      ...options,
      onProgress: (done) => {
        onProgress(done);
        return true;
      }
    })!;
  }
};
export type DecadesWorker = typeof api;

expose(api);
