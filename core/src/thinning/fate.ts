import type { WildlifeKind } from '../taps/index.ts';
import { frees, type KeptFor, type MarkPurpose } from './marking.ts';

/** What is known of a tree that bears on whether a plan may take it. */
export interface TreeStanding {
  readonly mark: MarkPurpose | null;
  readonly markReason: string;
  readonly keepFor: KeptFor | null;
  /** the steward takes it although it is not ours alone, something lives in it, or it is among the last of its kind */
  readonly despite: boolean;
  readonly wildlife: readonly WildlifeKind[];
  /** why it is not ours alone to cut; null for one that is */
  readonly notOurs: string | null;
  /** a hazard stands within its own length of a path, building or line */
  readonly threatens: boolean;
  /** trees of its species in the stand, itself included; null where its species is open */
  readonly ofItsKind: number | null;
  /** a beech or ash that was looked at and is sound: the kind to breed from */
  readonly resistant: boolean;
  /** girdled and dying on its feet */
  readonly girdled: boolean;
}

/** What a plan does with a tree. */
export interface Fate {
  /** why it is not taken; null for one that may be */
  readonly hold: string | null;
  /** taken in any case */
  readonly must: boolean;
  /** two things contradict each other here, in a sentence: it stays until the steward decides; null otherwise */
  readonly clash: string | null;
}

/** So few of a species in a stand are kept. Working assumption. */
export const FEW_OF_A_KIND = 3;

const HOME_WORDS: Readonly<Record<WildlifeKind, string>> = {
  cavity: 'something lives in its cavity',
  nest: 'a nest is in it',
  den: 'a den is in it',
  woodpeckers: 'woodpeckers live in it',
  batRoost: 'bats roost in it'
};

/**
 * Whether a plan may take a tree. What somebody wants to keep, and every home, goes before what has to go: the two are
 * named together and the tree stays until the steward decides.
 */
export function fateOf(
  tree: TreeStanding,
  wishes: { readonly keepMarks: boolean; readonly takeHazards: boolean }
): Fate {
  const marked = frees(tree.mark);
  const hold = holdOf(tree);
  const going = [
    ...(wishes.keepMarks && marked ? ['it is marked to come down'] : []),
    ...(wishes.takeHazards && tree.threatens && !marked ? ['it is a hazard over a path, building or line'] : [])
  ];
  if (hold === null) return { hold: null, must: going.length > 0, clash: null };
  return { hold, must: false, clash: going.length > 0 ? `${going.join(' and ')}, but ${hold}` : null };
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
}: TreeStanding): string | null {
  if (girdled) return 'it was girdled and is left to stand';
  if (mark === 'keep')
    return `it is marked to keep${markReason ? ` (${markReason})` : keepFor ? KEPT_SAID[keepFor] : ''}`;
  if (mark === 'watch') return 'it is marked to watch';
  if (mark === 'brace') return 'it is marked for a brace';
  if (despite && frees(mark)) return null;
  if (notOurs !== null) return notOurs;
  if (wildlife[0]) return HOME_WORDS[wildlife[0]];
  if (ofItsKind !== null && ofItsKind <= FEW_OF_A_KIND && !frees(mark))
    return ofItsKind === 1 ? 'it is the last of its kind here' : `only ${ofItsKind} of its kind stand here`;
  return resistant && !frees(mark) ? 'it is sound where its kind is dying: such trees are kept' : null;
}

const KEPT_SAID: Readonly<Record<KeptFor, string>> = {
  home: ' as a home',
  lastOfKind: ' as one of the last of its kind',
  seed: ' for seed',
  fibre: ' for fibre',
  handles: ' for handles',
  nuts: ' for nuts',
  story: ' for its story',
  other: ''
};
