import { shareSeen, type Clue } from './clues.ts';
import { SHRUB_GROWN, SPECIES, type CharacterId } from './table.ts';

/** Two clues that no species on the list shows together. */
export interface Conflict {
  readonly a: { readonly character: CharacterId; readonly state: string };
  readonly b: { readonly character: CharacterId; readonly state: string };
}

/** Fewer than this share of any species show both states. Working assumption. */
export const EXCLUDES_BELOW = 0.005;

const excluding = new WeakMap<Clue, WeakMap<Clue, boolean>>();

/** No species on the list shows both. Looked up once for each pair. */
function exclude(a: Clue, b: Clue): boolean {
  let known = excluding.get(a);
  if (!known) excluding.set(a, (known = new WeakMap()));
  let answer = known.get(b);
  if (answer === undefined) {
    const grown = [a, b].some(({ character }) => !character.ages.includes('young'));
    answer = SPECIES.every(
      ({ id, shrub }) =>
        (shrub && grown ? SHRUB_GROWN : 1) * shareSeen(a.character, a.state, id) * shareSeen(b.character, b.state, id) <
        EXCLUDES_BELOW
    );
    known.set(b, answer);
  }
  return answer;
}

const counts = (clue: Clue) => clue.strength !== 'weak';

/** Does any pair of clues exclude each other? */
export function conflicting(clues: readonly Clue[]): boolean {
  return clues.some((a, i) => counts(a) && clues.some((b, j) => j > i && counts(b) && exclude(a, b)));
}

/**
 * Pairs of clues that exclude each other by the table itself: opposite twigs and papery bark, for example. At least one
 * of the two was misread, belongs to another tree, or the tree is none of the list. Weak clues exclude nothing.
 */
export function conflictsIn(clues: readonly Clue[]): Conflict[] {
  const named = ({ character, state }: Clue) => ({ character: character.id, state });
  const strong = clues.filter(counts);
  return strong.flatMap((a, i) =>
    strong.slice(i + 1).flatMap((b) => (exclude(a, b) ? [{ a: named(a), b: named(b) }] : []))
  );
}
