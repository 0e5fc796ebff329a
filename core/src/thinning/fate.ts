import type { WildlifeKind } from '../taps/index.ts';
import { releases, type KeptFor, type MarkPurpose } from './marking.ts';

/** How a tree is not ours alone: on a boundary, or without leave. */
export type NotOurs = 'boundary' | 'noPermission';

/** What is known of a tree that bears on whether a plan may take it. */
export interface TreeStanding {
  readonly mark: MarkPurpose | null;
  readonly markReason: string;
  readonly keepFor: KeptFor | null;
  /** the steward takes it although it is not ours alone, something lives in it, or it is among the last of its kind */
  readonly despite: boolean;
  readonly wildlife: readonly WildlifeKind[];
  /** why it is not ours alone to cut; null for one that is */
  readonly notOurs: NotOurs | null;
  /** a hazard stands within its own length of a path, building or line */
  readonly threatens: boolean;
  /** trees of its species in the stand, itself included; null where its species is open */
  readonly ofItsKind: number | null;
  /** a beech or ash that was looked at and is sound: the kind to breed from */
  readonly resistant: boolean;
  /** girdled and dying on its feet */
  readonly girdled: boolean;
}

/** Why a tree is kept. */
export type HoldReason =
  | { readonly why: 'girdled' | 'markedWatch' | 'markedBrace' | 'resistant' }
  | { readonly why: 'markedKeep'; readonly reason: string; readonly keepFor: KeptFor | null }
  | { readonly why: 'notOurs'; readonly how: NotOurs }
  | { readonly why: 'home'; readonly home: WildlifeKind }
  | { readonly why: 'fewOfItsKind'; readonly many: number };

/** Two things that contradict each other at a tree. */
export interface Clash {
  /** why it ought to come down: a mark, a hazard over what it can hit */
  readonly going: readonly ('marked' | 'threatens')[];
  readonly hold: HoldReason;
}

/** What a plan does with a tree. */
export interface Fate {
  /** why it is not taken; null for one that may be */
  readonly hold: HoldReason | null;
  /** taken in any case */
  readonly must: boolean;
  /** it stays until the steward decides; null where nothing contradicts itself */
  readonly clash: Clash | null;
}

/** So few of a species in a stand are kept. Working assumption. */
export const FEW_OF_A_KIND = 3;

/**
 * Whether a plan may take a tree. What somebody wants to keep, and every home, goes before what has to go: the two are
 * named together and the tree stays until the steward decides.
 */
export function fateOf(
  tree: TreeStanding,
  wishes: { readonly keepMarks: boolean; readonly takeHazards: boolean }
): Fate {
  const marked = releases(tree.mark);
  const hold = holdOf(tree);
  const going = [
    ...(wishes.keepMarks && marked ? (['marked'] as const) : []),
    ...(wishes.takeHazards && tree.threatens && !marked ? (['threatens'] as const) : [])
  ];
  if (hold === null) return { hold: null, must: going.length > 0, clash: null };
  return { hold, must: false, clash: going.length > 0 ? { going, hold } : null };
}

function holdOf({
  mark,
  markReason,
  despite,
  wildlife,
  notOurs,
  ofItsKind,
  resistant,
  girdled,
  keepFor
}: TreeStanding): HoldReason | null {
  if (girdled) return { why: 'girdled' };
  if (mark === 'keep') return { why: 'markedKeep', reason: markReason, keepFor };
  if (mark === 'watch') return { why: 'markedWatch' };
  if (mark === 'brace') return { why: 'markedBrace' };
  if (despite && releases(mark)) return null;
  if (notOurs !== null) return { why: 'notOurs', how: notOurs };
  if (wildlife[0]) return { why: 'home', home: wildlife[0] };
  if (ofItsKind !== null && ofItsKind <= FEW_OF_A_KIND && !releases(mark))
    return { why: 'fewOfItsKind', many: ofItsKind };
  return resistant && !releases(mark) ? { why: 'resistant' } : null;
}
