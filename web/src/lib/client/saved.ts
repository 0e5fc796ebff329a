import type { BushRecord, WorkRecord } from '@baumkin/core/records';
import { toast } from 'svelte-sonner';

import type { BushState } from './bush.svelte.ts';

/** Long enough to read it, to see that it was wrong, and to get there. */
const SAID_MS = 7000;
/** What takes long to read again stays longer. */
const MANY_MS = 15_000;

/** Says what was done, with a way back. @param undo puts things as they were before */
export function undoable(said: string, undo: () => unknown, options: { readonly duration?: number } = {}): void {
  toast.success(said, { duration: SAID_MS, action: { label: 'Undo', onClick: () => void undo() }, ...options });
}

/** Says what was written down, and takes all of it back where that is wished and hers to do. */
export function saved(bush: BushState, said: string, ...records: readonly (WorkRecord | BushRecord)[]): void {
  void bush.lastDone.add(said, records);
  if (!records.every((record) => bush.mayTakeBack(record))) toast.success(said, { duration: SAID_MS });
  else undoable(said, () => bush.takeBack(...records), records.length > 1 ? { duration: MANY_MS } : {});
}
