import type { Assessment } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';
import type { Draft } from '$lib/client/recordDraft.ts';

/**
 * A look at one thing of a tree's condition: what was not looked at is left open. Defects, hazards and homes rarely end within a year
 * and are taken over from the last look.
 */
export function lookAt(
  bush: BushState,
  treeId: string,
  seen: Partial<Pick<Assessment, 'diebackPct' | 'oldestOpenHoleYears'>>
): Draft {
  const before = bush.stateOf(treeId).assessment;
  return {
    kind: 'assessment',
    diebackPct: null,
    crownClass: null,
    oldestOpenHoleYears: null,
    stressed: null,
    peeledPct: null,
    peelFresh: false,
    defects: [...(before?.defects ?? [])],
    hazards: [...(before?.hazards ?? [])],
    wildlife: [...(before?.wildlife ?? [])],
    note: '',
    ...seen
  };
}
