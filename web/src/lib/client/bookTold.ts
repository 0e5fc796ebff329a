import type { BushRecord } from '@baumkin/core/records';

import type { LineNews } from './linePacks.ts';
import type { KeptGlance } from './store.ts';

/* What the book of a bush on this device tells of. */

/** How far the bush has come onto this device. */
export interface Progress {
  readonly trees: number;
  readonly of: number;
}

/** What a look at the server came to; a problem is a sentence for people, with no status where nobody answered. */
export type Synced =
  { readonly kind: 'inStep' } | { readonly kind: 'problem'; readonly status: number | null; readonly problem: string };

/** A page of the feed that is on this device now. */
export interface BookNews extends LineNews {
  /** the number after which it tells */
  readonly after: number;
  readonly kept: KeptGlance;
  /** records of the bush as a whole that came */
  readonly bushRecords: readonly BushRecord[];
}

/** The bush at a glance, all of it, that is being put onto this device. */
export interface Replaced {
  readonly kept: KeptGlance;
  /** packs of lines */
  readonly texts: readonly string[];
  readonly bushRecords: readonly BushRecord[];
}

/** What the book tells of while it comes into step. */
export interface BookOwner {
  readonly progress: (progress: Progress | null) => void;
  readonly changed: (news: BookNews) => void;
  /** what is shown of the bush is another now */
  readonly replaced: (now: Replaced) => void;
  /** records of trees may be others now */
  readonly refilled: () => void;
}
