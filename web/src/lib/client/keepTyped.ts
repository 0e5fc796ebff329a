import type { SubmitFunction } from '@sveltejs/kit';

/** For `use:enhance`: what was typed into a form stays there when the server refuses it. */
export const keepTyped: SubmitFunction =
  () =>
  ({ update }) =>
    update({ reset: false });
