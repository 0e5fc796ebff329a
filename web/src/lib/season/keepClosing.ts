import { lastSummer } from '@baumkin/core/bush';
import type { ClosingRecord, Taphole, WorkRecord } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { lookAt } from '$lib/walk/lookAt.ts';

export type HoleState = ClosingRecord['holes'][number]['state'];

/** Holes older than so many seasons are closed, or known to be open. */
const MOST_SEASONS = 4;

/** The holes of a tree over which the last summer has gone, the newest first. */
export function holesToLookAt(bush: BushState, treeId: string): Taphole[] {
  const year = lastSummer(bush.today);
  return bush
    .stateOf(treeId)
    .tapholes.filter(({ season }) => season <= year && season > year - MOST_SEASONS)
    .toSorted((a, b) => b.season - a.season);
}

/** What a look found. */
export interface ClosingSeen {
  readonly states: ReadonlyMap<string, { readonly state: HoleState; readonly gapMm: number | null }>;
  readonly oozing: boolean;
  readonly dyingBark: boolean;
  readonly fungus: boolean;
}

/**
 * Writes a look at closing holes down, hole by hole, and what it says of the tree's condition, which the count goes by.
 * @returns what was written
 */
export async function keepClosing(
  bush: BushState,
  treeId: string,
  { states, ...seen }: ClosingSeen
): Promise<WorkRecord[]> {
  const year = lastSummer(bush.today);
  const holes = holesToLookAt(bush, treeId);
  const stateOf = ({ id }: Taphole) => states.get(id) ?? { state: 'closed' as const, gapMm: null };
  const open = holes.filter((hole) => stateOf(hole).state === 'open');
  // A hole counts its summers: one of this spring has had one.
  const oldestOpenHoleYears = Math.max(0, ...open.map(({ season }) => year - season + 1));
  return bush.recordAll([
    {
      treeId,
      draft: {
        kind: 'closing',
        ...seen,
        holes: holes.map((hole) => {
          const { state, gapMm } = stateOf(hole);
          return { tapholeId: hole.id, state, gapMm: state === 'closed' ? 0 : gapMm };
        }),
        note: ''
      }
    },
    { treeId, draft: lookAt(bush, treeId, { oldestOpenHoleYears }) }
  ]);
}
