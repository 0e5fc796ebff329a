import { conditionCap, type ConditionCap } from '../taps/index.ts';
import type { NotOurs } from '../thinning/index.ts';
import type { Role } from './kind.ts';
import { holdsOn, type TapBanReason } from './kinds/index.ts';
import { knownMaple, sapOf } from './maple.ts';
import type { AnyRecord } from './registry.ts';
import type { Stand } from './site.ts';
import { conditionOf, type TreeRow } from './treeRow.ts';

/** Somebody's word on a stand, and until when it holds; null for good. */
export interface StandWord {
  readonly stand: string;
  /** who says so; empty where nobody is named */
  readonly by: string;
  readonly until: string | null;
}

/** Why a tree is not to be tapped, whatever it bears. */
export type TapForbidden =
  | { readonly why: 'lies' | 'girdled' }
  | { readonly why: 'banned'; readonly reasons: readonly TapBanReason[]; readonly until: string | null }
  | ({ readonly why: 'stand' } & StandWord);

type Worded = Pick<Stand, 'name' | 'byWord' | 'wordUntil'>;
const wordOn = ({ name, byWord, wordUntil }: Worded): StandWord => ({ stand: name, by: byWord, until: wordUntil });

/** What forbids to tap a tree; null where nothing does. @param today ISO date */
export function tapForbidden(
  { tapBan, fallen }: Pick<TreeRow, 'tapBan' | 'fallen'>,
  stand: (Worded & Pick<Stand, 'mayTap'>) | null,
  today: string
): TapForbidden | null {
  if (fallen) return { why: fallen.what === 'lying' ? 'lies' : 'girdled' };
  if (tapBan && holdsOn(tapBan.until, today)) return { why: 'banned', reasons: tapBan.reasons, until: tapBan.until };
  return stand && !stand.mayTap && holdsOn(stand.wordUntil, today) ? { why: 'stand', ...wordOn(stand) } : null;
}

/** Whose word forbids to cut in a stand; null where nothing does. @param today ISO date */
export function cutForbidden(stand: (Worded & Pick<Stand, 'mayCut'>) | null, today: string): StandWord | null {
  return stand && !stand.mayCut && holdsOn(stand.wordUntil, today) ? wordOn(stand) : null;
}

/** Why a tree is not ours alone to cut; null for one that is, as far as anybody wrote down. @param today ISO date */
export function notOurs({ tapBan }: Pick<TreeRow, 'tapBan'>, today: string): NotOurs | null {
  if (!tapBan || !holdsOn(tapBan.until, today)) return null;
  return tapBan.reasons.find((reason) => reason === 'boundary' || reason === 'noPermission') ?? null;
}

/** Why no hole is drilled in a tree now. */
export type DrillForbidden = TapForbidden | { readonly why: 'notMaple' | 'unsettled' };

/**
 * What forbids to drill a tree now, whatever was decided once; null where nothing does. A decision lasts a season, and a
 * ban, a girdle or a second look at the species may come after it.
 * @param today ISO date
 */
export function drillForbidden(
  row: Pick<TreeRow, 'species' | 'verdict' | 'tapBan' | 'fallen'>,
  stand: Parameters<typeof tapForbidden>[1],
  today: string
): DrillForbidden | null {
  if (sapOf(row) !== null) return tapForbidden(row, stand, today);
  return { why: knownMaple(row) === false ? 'notMaple' : 'unsettled' };
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

/**
 * May somebody take a record back where it is seen? Stewards always; crew their own, until the day after they wrote it is over. With its
 * entry a tree leaves the book, with all that anybody wrote on it: that is a steward's to do.
 * @param today ISO date
 */
export function mayTakeBack(
  { kind, authorId, recordedAt }: Pick<AnyRecord, 'kind' | 'authorId' | 'recordedAt'>,
  by: { readonly memberId: string; readonly role: Role; readonly today: string }
): boolean {
  if (by.role === 'steward') return true;
  if (by.role === 'viewer' || authorId !== by.memberId || kind === 'entry') return false;
  const until = new Date(recordedAt);
  until.setUTCDate(until.getUTCDate() + 1);
  return by.today <= until.toISOString().slice(0, 10);
}
