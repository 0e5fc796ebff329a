import { isSick, type Stop } from '@baumkin/core/bush';
import type { Taphole } from '@baumkin/core/records';

import type { RoundLine } from '$lib/place/tappingRound.svelte.ts';

/** A tree of the tapping round where something is left to do. */
export interface TapStop extends Stop {
  readonly line: RoundLine;
  /** a hole whose shavings are asked for; null where the next one is to be drilled */
  readonly asks: Taphole | null;
}

/** Whose holes are asked about, and what is not asked again. */
interface AskedOf {
  readonly memberId: string;
  /** ISO date */
  readonly today: string;
  /** holes whose shavings nobody looked at */
  readonly passed: { readonly has: (holeId: string) => boolean };
}

/** Holes that one drilled oneself today and said nothing of yet. */
function unsaid({ state }: RoundLine, { memberId, today, passed }: AskedOf): Taphole[] {
  return state.holesThisSeason.filter(
    ({ id, authorId, on }) => authorId === memberId && on === today && !state.shavings.has(id) && !passed.has(id)
  );
}

/** The trees of a tapping round where something is left to do: a hole to drill, or to say what came out of one. */
export function tapStops(lines: readonly RoundLine[], of: AskedOf): TapStop[] {
  return lines.flatMap((line): TapStop[] => {
    const asks = unsaid(line, of).at(-1) ?? null;
    if (line.left === 0 && asks === null) return [];
    const { id, walkOrder } = line.row;
    return [{ treeId: id, walkOrder, sick: isSick(line.row), line, asks }];
  });
}
