import { isSick, type Stop } from '@baumkin/core/bush';
import type { Taphole } from '@baumkin/core/records';

import type { RoundLine } from '$lib/place/tappingRound.svelte.ts';

/** A tree of the tapping round where something is left to do. */
export interface TapStop extends Stop {
  readonly line: RoundLine;
  /** a hole whose shavings are asked for; null where the next one is to be drilled */
  readonly asks: Taphole | null;
}

/** Whose walk it is, and on which day. */
export interface WalkedBy {
  readonly memberId: string;
  /** ISO date */
  readonly today: string;
}

/** The holes of a tree that somebody drilled today. */
export function drilledToday({ state }: RoundLine, { memberId, today }: WalkedBy): Taphole[] {
  return state.holesThisSeason.filter(({ authorId, on }) => authorId === memberId && on === today);
}

/**
 * The trees of a tapping round where something is left to do: a hole to drill, or to say what came out of one that she drilled.
 * @param passed holes whose shavings she did not look at
 */
export function tapStops(
  lines: readonly RoundLine[],
  by: WalkedBy,
  passed: { readonly has: (holeId: string) => boolean }
): TapStop[] {
  return lines.flatMap((line): TapStop[] => {
    const unsaid = drilledToday(line, by).filter(({ id }) => !line.state.shavings.has(id) && !passed.has(id));
    const asks = unsaid.at(-1) ?? null;
    if (line.left === 0 && asks === null) return [];
    const { id, walkOrder } = line.row;
    return [{ treeId: id, walkOrder, sick: isSick(line.row), line, asks }];
  });
}
