import { conditionCap, type ConditionCap } from '../taps/index.ts';
import { holdsOn, type TapBan } from './kinds/index.ts';
import { knownMaple } from './maple.ts';
import type { Stand } from './site.ts';
import { conditionOf, type TreeRow } from './treeRow.ts';

const BAN_WORDS: Readonly<Record<TapBan['reasons'][number], string>> = {
  insecticide: 'it was treated with an insecticide that moves in the sap',
  salt: 'it stands where road salt reaches its roots',
  septic: 'it stands by a septic field',
  sprayed: 'it stands at the edge of sprayed ground',
  boundary: 'it is a boundary tree, and not ours alone',
  noPermission: 'nobody gave leave to tap it'
};

/** Why a tree is not to be tapped, whatever it bears, as a sentence; null where nothing forbids it. @param today ISO date */
export function tapForbidden(
  row: Pick<TreeRow, 'tapBan' | 'fallen'>,
  stand: Pick<Stand, 'name' | 'mayTap' | 'byWord' | 'wordUntil'> | null,
  today: string
): string | null {
  const { tapBan, fallen } = row;
  if (fallen) return fallen.what === 'lying' ? 'It lies: no taps; look again next summer.' : 'It was girdled to die.';
  if (tapBan && holdsOn(tapBan.until, today))
    return `Never tapped: ${tapBan.reasons.map((reason) => BAN_WORDS[reason]).join('; ')}${tapBan.until ? ` (until ${tapBan.until})` : ''}.`;
  if (stand && !stand.mayTap && holdsOn(stand.wordUntil, today))
    return `${stand.name} is not to be tapped${whoseWord(stand)}.`;
  return null;
}

const whoseWord = ({ byWord, wordUntil }: Pick<Stand, 'byWord' | 'wordUntil'>) =>
  `${byWord ? ` (${byWord} says so)` : ''}${wordUntil ? `, until ${wordUntil}` : ''}`;

/** Why nothing is cut in a stand, as a sentence; null where nothing forbids it. @param today ISO date */
export function cutForbidden(
  stand: Pick<Stand, 'name' | 'mayCut' | 'byWord' | 'wordUntil'> | null,
  today: string
): string | null {
  return stand && !stand.mayCut && holdsOn(stand.wordUntil, today)
    ? `Nothing is cut in ${stand.name}${whoseWord(stand)}.`
    : null;
}

/** Why a tree is not ours alone to cut; null for one that is, as far as anybody wrote down. @param today ISO date */
export function notOurs({ tapBan }: Pick<TreeRow, 'tapBan'>, today: string): string | null {
  if (!tapBan || !holdsOn(tapBan.until, today)) return null;
  const whose = tapBan.reasons.find((reason) => reason === 'boundary' || reason === 'noPermission');
  return whose === undefined
    ? null
    : whose === 'boundary'
      ? BAN_WORDS.boundary
      : 'nobody gave leave for anything to be done to it';
}

/**
 * Why no hole is drilled in a tree now, whatever was decided once, as a sentence; null where nothing speaks against it.
 * A decision lasts a season, and a ban, a girdle or a second look at the species may come after it.
 * @param today ISO date
 */
export function drillForbidden(
  row: Pick<TreeRow, 'species' | 'verdict' | 'tapBan' | 'fallen'>,
  stand: Parameters<typeof tapForbidden>[1],
  today: string
): string | null {
  switch (knownMaple(row)) {
    case false:
      return 'This is not a maple: nothing is drilled.';
    case null:
      return 'Its species is not settled: do not drill yet. In bare woods an ash is easily taken for a maple.';
    case true:
      return tapForbidden(row, stand, today);
  }
}

type Conditioned = Parameters<typeof conditionOf>[0] & Pick<TreeRow, 'decidedTaps' | 'lookedSinceDecided'>;

/**
 * What a tree's condition allows, where it was seen after the count was decided and allows fewer taps; null otherwise.
 * @param today ISO date
 */
export function fewerSinceDecided(row: Conditioned, today: string): ConditionCap | null {
  if (row.decidedTaps === null || !row.lookedSinceDecided) return null;
  const cap = conditionCap(conditionOf(row), today);
  return cap.taps < row.decidedTaps ? cap : null;
}

/** Taps decided for a tree that nothing has forbidden, and no worse look has put in doubt since. @param today ISO date */
export function tapsToHang(
  row: Parameters<typeof drillForbidden>[0] & Conditioned,
  stand: Parameters<typeof tapForbidden>[1],
  today: string
): number {
  if (drillForbidden(row, stand, today) !== null) return 0;
  return Math.min(row.decidedTaps ?? 0, fewerSinceDecided(row, today)?.taps ?? Infinity);
}
