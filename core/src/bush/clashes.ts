import { barkDistance, type BarkSpot } from '../geometry/index.ts';
import {
  deriveTree,
  effectiveRecords,
  inOrder,
  isGone,
  knownMaple,
  type ClashKind,
  type Taphole,
  type TreeState,
  type WorkRecord
} from '../records/index.ts';
import { AS_PLANNED_MM } from './round.ts';

/** Records of one tree that do not go together. */
export interface Clash {
  readonly about: ClashKind;
  /** the holes that it is about, in the order in which they were written down */
  readonly tapholeIds: readonly string[];
}

/** A trunk that nobody measured is taken to be so thick, mm. */
const UNMEASURED_MM = 300;

/**
 * What of a tree's holes of a season does not go together: two written down at the same spot, more than were decided, some on a
 * tree that rests, is banned or is no maple, some on one that was felled or taken out of the book before. Nobody is asked about
 * what one and the same person wrote, who knew both; two holes at one spot are asked about whoever wrote them.
 * @param records all of the tree
 */
export function clashesOf(records: readonly WorkRecord[], season: number): Clash[] {
  const holes = effectiveRecords(records.filter((record) => record.kind === 'taphole')).filter(
    (hole) => hole.season === season
  );
  if (holes.length === 0) return [];
  const state = deriveTree(records, { season, today: holes.at(-1)!.on });
  const twice = sameSpots(holes, (state.tappingDbhMm ?? UNMEASURED_MM) / 2);
  const spots = holes.filter((hole) => !twice.some(({ later }) => later === hole));
  const clashes: Clash[] = twice.map(({ first, later }) => ({ about: 'sameSpot', tapholeIds: [first.id, later.id] }));
  const ask = (about: ClashKind, against: WorkRecord | null, which: readonly Taphole[]) => {
    const authors = new Set([...(against ? [against] : []), ...which].map(({ authorId }) => authorId));
    if (which.length > 0 && authors.size > 1) clashes.push({ about, tapholeIds: which.map(({ id }) => id) });
  };
  const gone = goneBy(records, state);
  if (gone) {
    ask(
      'gone',
      gone,
      spots.filter(({ on }) => on >= gone.on)
    );
    return clashes;
  }
  const rests = restsBy(state);
  if (rests) ask('resting', rests, spots);
  else if (state.decision && spots.length > state.decision.taps) ask('tooMany', state.decision, spots);
  return clashes;
}

/**
 * The hole that lies at a spot, as exactly as a hand places one; null where none does: whoever writes one down there may mean the same.
 * @param holes of one season @param radiusMm of the trunk, over the bark, mm
 */
export function holeAt(spot: BarkSpot, holes: readonly Taphole[], radiusMm: number): Taphole | null {
  return holes.find((hole) => barkDistance(hole, spot, radiusMm) <= AS_PLANNED_MM) ?? null;
}

/** Holes that lie at the spot of one that was written down before. */
function sameSpots(
  holes: readonly Taphole[],
  radiusMm: number
): { readonly first: Taphole; readonly later: Taphole }[] {
  const pairs: { first: Taphole; later: Taphole }[] = [];
  for (const [i, later] of holes.entries()) {
    const before = holes.slice(0, i).filter((hole) => !pairs.some((pair) => pair.later === hole));
    const first = holeAt(later, before, radiusMm);
    if (first) pairs.push({ first, later });
  }
  return pairs;
}

/** The record by which a tree is not there any more, or lies or dies; null where it stands in the book. */
function goneBy(records: readonly WorkRecord[], { cut, fallen }: TreeState): WorkRecord | null {
  if (isGone(records))
    return records
      .filter(({ kind, withdrawn }) => kind === 'entry' && withdrawn)
      .sort(inOrder)
      .at(-1)!;
  return cut ?? fallen;
}

/** The record by which a tree has no tap this season; null where nothing forbids it. */
function restsBy({ decision, tapBan, determination, line }: TreeState): WorkRecord | null {
  if (decision?.taps === 0) return decision;
  if (tapBan) return tapBan;
  return knownMaple(line) === false ? determination : null;
}
