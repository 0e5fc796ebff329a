import type { OtherSap } from '../identify/index.ts';
import { conditionCap, type Condition, type ConditionReason } from './condition.ts';
import { growthBalance, type Balance, type BalanceInput } from './balance.ts';
import { guidelineTaps, nextStep, type TapGuideline } from './guidelines.ts';

/** Which of the limits is the smallest. */
export type BindingLimit = 'forbidden' | 'species' | 'size' | 'condition' | 'growth' | 'room';

/** What the suggestion is made from. */
export interface SuggestionInput extends BalanceInput {
  readonly guideline: TapGuideline;
  readonly condition: Condition | null;
  /** ISO date: looks grow old */
  readonly today: string;
  /** is something else than size and health against tapping it at all: a ban, a reserve, its end? */
  readonly forbidden: boolean;
  /** false where it is known to give no sap that this bush boils, null while nobody knows */
  readonly givesSap: boolean | null;
  /** of what kind its sap is, where it is no maple's and some tap it all the same */
  readonly otherSap?: OtherSap | null;
  /** clear places found on the trunk as it is; null while they are not worked out */
  readonly room: number | null;
  /** seasons since the tree was last tapped; null when it never was */
  readonly seasonsSinceTapped: number | null;
  /** share of its growth that rests on its own readings and rings, 0..1: at 0 it is what trees like it lay */
  readonly ownGrowth: number;
}

/** Why so many and no more. */
export type SuggestionReason =
  | { readonly why: 'forbidden' | 'notMaple' }
  /** no maple, and this bush does not tap its kind */
  | { readonly why: 'otherSap'; readonly kind: OtherSap }
  | { readonly why: 'tooThin'; readonly guideline: TapGuideline }
  | {
      readonly why: 'size';
      readonly guideline: TapGuideline;
      readonly taps: number;
      /** nobody has looked up lately */
      readonly unseen: boolean;
      /** clear places have not been looked for yet */
      readonly roomOpen: boolean;
      /** how fast it grows is taken from trees like it */
      readonly growthOpen: boolean;
    }
  | { readonly why: 'condition'; readonly condition: ConditionReason }
  /** every hole would stay for good. In this and the two below, `measured` is false where trees like it are what is known. */
  | { readonly why: 'noNewWood'; readonly measured: boolean }
  /** new wood replaces what so many holes a year kill */
  | { readonly why: 'growth'; readonly holes: number; readonly measured: boolean }
  /**
   * One hole in so many years is in balance: the tree lays too little wood for one a year (`slow`), or perhaps lays enough, which
   * is not known well enough (`doubt`).
   */
  | {
      readonly why: 'slow' | 'doubt';
      readonly everyYears: number;
      readonly rested: boolean;
      readonly measured: boolean;
    }
  | { readonly why: 'room'; readonly anyLeft: boolean };

export interface Suggestion {
  readonly taps: number;
  readonly binding: BindingLimit;
  readonly reason: SuggestionReason;
  /** what would change it; null where nothing sensible would */
  readonly change:
    | { readonly kind: 'grow'; readonly toDbhMm: number }
    | { readonly kind: 'lookAtTwigs' | 'lookUp' | 'carryMore' | 'measureAgain' | 'longerBand' }
    | null;
  readonly limits: {
    readonly size: number;
    /** Infinity where its condition asks for no fewer */
    readonly condition: number;
    /** in a rest rhythm 0 or 1, as the tree has rested: see `balance` for what new wood surely replaces */
    readonly growth: number;
    readonly room: number | null;
  };
  readonly balance: Balance;
  /** nobody has looked up lately: nothing says that the tree is well */
  readonly conditionUnknown: boolean;
  /** its own readings or rings say something of its growth; else trees like it are what is known */
  readonly growthMeasured: boolean;
}

/**
 * The suggestion: the smallest of guideline, condition, growth balance (or its rest rhythm) and room on the trunk. The
 * steward decides.
 */
export function suggestTaps(input: SuggestionInput): Suggestion {
  const balance = growthBalance(input);
  const size = guidelineTaps(input.guideline, input.dbhMm);
  const condition = conditionCap(input.condition, input.today);
  const measured = input.ownGrowth > 0;
  const growth = growthLimit(balance, input.seasonsSinceTapped, measured);
  const limits = { size, condition: condition.taps, growth: growth.taps, room: input.room };
  const answer = (
    taps: number,
    binding: BindingLimit,
    reason: SuggestionReason,
    change: Suggestion['change']
  ): Suggestion => ({
    taps,
    binding,
    reason,
    change,
    limits,
    balance,
    conditionUnknown: condition.unknown,
    growthMeasured: measured
  });

  if (input.forbidden) return answer(0, 'forbidden', { why: 'forbidden' }, null);
  if (input.givesSap === false)
    return input.otherSap
      ? answer(0, 'species', { why: 'otherSap', kind: input.otherSap }, null)
      : answer(0, 'species', { why: 'notMaple' }, { kind: 'lookAtTwigs' });
  const room = input.room ?? Infinity;
  const taps = Math.min(size, condition.taps, growth.taps, room);
  // A tree that bears a hole now and then is not told that nothing asks for fewer.
  const rests = balance.suggested === 0 && growth.taps === taps && taps > 0;
  if (size === taps && !rests) {
    const step = nextStep(input.guideline, input.dbhMm);
    return answer(
      taps,
      'size',
      taps === 0
        ? { why: 'tooThin', guideline: input.guideline }
        : {
            why: 'size',
            guideline: input.guideline,
            taps,
            unseen: condition.unknown,
            roomOpen: input.room === null,
            growthOpen: !measured
          },
      step ? { kind: 'grow', toDbhMm: step.diameterMm } : null
    );
  }
  if (condition.taps === taps && !rests)
    return answer(taps, 'condition', { why: 'condition', condition: condition.reason }, { kind: 'lookUp' });
  if (growth.taps === taps)
    return answer(taps, 'growth', growth.reason, {
      kind: growth.reason.why === 'doubt' || !measured ? 'measureAgain' : 'carryMore'
    });
  return answer(taps, 'room', { why: 'room', anyLeft: taps > 0 }, { kind: 'longerBand' });
}

function growthLimit(
  balance: Balance,
  seasonsSinceTapped: number | null,
  measured: boolean
): { readonly taps: number; readonly reason: SuggestionReason } {
  const { suggested, restRhythmYears: everyYears } = balance;
  if (suggested >= 1) return { taps: suggested, reason: { why: 'growth', holes: suggested, measured } };
  if (!Number.isFinite(everyYears)) return { taps: 0, reason: { why: 'noNewWood', measured } };
  const rested = seasonsSinceTapped === null || seasonsSinceTapped >= everyYears;
  const why = balance.tapsCarried >= 1 ? 'doubt' : 'slow';
  return { taps: rested ? 1 : 0, reason: { why, everyYears, rested, measured } };
}
