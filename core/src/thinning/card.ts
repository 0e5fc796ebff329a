import type { SpeciesId } from '../identify/index.ts';
import { basalArea, crownSides, SIDES, type Side, type StandTree } from '../stand/index.ts';

/** A neighbour that somebody saw from under a crop tree. */
export interface SeenBlocker {
  readonly side: Side;
  /** the tree in the registry; null for one without a tag, noted here alone */
  readonly treeId: string | null;
  readonly species: SpeciesId | null;
  /** diameter, mm; null where nobody judged it. Trees in the registry have their own */
  readonly dbhMm: number | null;
  /** what is to become of one without a tag; a tree in the registry has its mark */
  readonly fate: 'stands' | 'take' | 'gone';
}

/** What was seen looking up: each side free, blocked, or not looked at. */
export interface CrownCard {
  readonly north: SideSeen;
  readonly east: SideSeen;
  readonly south: SideSeen;
  readonly west: SideSeen;
  readonly blockers: readonly SeenBlocker[];
}
export type SideSeen = 'free' | 'blocked' | null;

/** One side of a crown, as the map or somebody under the tree has it. */
export interface SideState {
  readonly side: Side;
  /** does anything say how it is? */
  readonly known: boolean;
  /** trees in the registry that block it */
  readonly blockers: readonly string[];
  /** trees without a tag that block it and stay, or something that nobody named */
  readonly others: number;
  readonly seenBy: 'card' | 'map' | null;
}

/**
 * The four sides of a crown: what somebody saw from below goes before what the map makes of the positions.
 * @param subject null for a tree without a place; then only the card can say anything
 */
export function sideStates(
  subject: StandTree | null,
  others: readonly StandTree[],
  card: CrownCard | null
): SideState[] {
  const mapped = subject ? crownSides(subject, others, new Set()) : null;
  return SIDES.map((side): SideState => {
    const seen = card?.[side] ?? null;
    if (seen !== null) {
      const named = card!.blockers.filter((b) => b.side === side && b.fate !== 'gone');
      const blockers = seen === 'free' ? [] : named.flatMap(({ treeId }) => treeId ?? []);
      const untagged = named.filter(({ treeId }) => treeId === null);
      const stay = untagged.filter(({ fate }) => fate === 'stands').length;
      const unnamed = seen === 'blocked' && named.length === 0 ? 1 : 0;
      return { side, known: true, blockers, others: seen === 'free' ? 0 : stay + unnamed, seenBy: 'card' };
    }
    if (!mapped?.known) return { side, known: false, blockers: [], others: 0, seenBy: null };
    return { side, known: true, blockers: mapped.blocked[side].map(({ tree }) => tree.id), others: 0, seenBy: 'map' };
  });
}

/** Sides that are free once the given trees are gone. Unknown ones are not counted. */
export function freeSides(states: readonly SideState[], gone: ReadonlySet<string>): number {
  return states.filter((s) => s.known && s.others === 0 && s.blockers.every((id) => gone.has(id))).length;
}

/** Trees without a tag that a card marks, with their basal area, m2; null dbh counts as nothing. */
export function untaggedMarks(card: CrownCard): { many: number; basalAreaM2: number } {
  const marked = card.blockers.filter((b) => b.treeId === null && b.fate === 'take');
  return { many: marked.length, basalAreaM2: marked.reduce((sum, b) => sum + (b.dbhMm ? basalArea(b.dbhMm) : 0), 0) };
}
