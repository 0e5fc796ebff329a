import { conditionCap, type Condition } from './condition.ts';
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
  /** why this tree is not to be tapped whatever it bears, as a sentence; null where nothing forbids it */
  readonly forbidden: string | null;
  /** false when the tree is known not to be a maple, null while nobody knows */
  readonly isMaple: boolean | null;
  /** clear places found on the trunk as it is; null while they are not worked out */
  readonly room: number | null;
  /** seasons since the tree was last tapped; null when it never was */
  readonly seasonsSinceTapped: number | null;
}

export interface Suggestion {
  readonly taps: number;
  readonly binding: BindingLimit;
  /** the reason first, in a sentence or two */
  readonly reason: string;
  /** what would change it; null where nothing sensible would */
  readonly change:
    { readonly kind: 'grow'; readonly toDbhMm: number } | { readonly kind: 'say'; readonly text: string } | null;
  readonly limits: {
    readonly size: number;
    /** Infinity where its condition asks for no fewer */
    readonly condition: number;
    readonly growth: number;
    readonly room: number | null;
  };
  readonly balance: Balance;
  /** nobody has looked up lately: nothing says that the tree is well */
  readonly conditionUnknown: boolean;
}

/**
 * The suggestion: the smallest of guideline, condition, growth balance (or its rest rhythm) and room on the trunk. The
 * steward decides.
 */
export function suggestTaps(input: SuggestionInput): Suggestion {
  const balance = growthBalance(input);
  const size = guidelineTaps(input.guideline, input.dbhMm);
  const condition = conditionCap(input.condition, input.today);
  const growth = growthLimit(balance, input.seasonsSinceTapped);
  const limits = { size, condition: condition.taps, growth: growth.taps, room: input.room };
  const answer = (taps: number, binding: BindingLimit, reason: string, change: Suggestion['change']): Suggestion => ({
    taps,
    binding,
    reason,
    change,
    limits,
    balance,
    conditionUnknown: condition.unknown
  });

  if (input.forbidden !== null) return answer(0, 'forbidden', input.forbidden, null);
  if (input.isMaple === false)
    return answer(0, 'species', 'This is not a maple: leave it.', {
      kind: 'say',
      text: 'Look at the twigs and bark again if you doubt it.'
    });
  const room = input.room ?? Infinity;
  const taps = Math.min(size, condition.taps, growth.taps, room);
  if (size === taps) {
    const step = nextStep(input.guideline, input.dbhMm);
    return answer(
      taps,
      'size',
      sizeReason(taps, input.guideline, condition.unknown, input.room === null),
      step ? { kind: 'grow', toDbhMm: step.diameterMm } : null
    );
  }
  if (condition.taps === taps)
    return answer(taps, 'condition', condition.reason, {
      kind: 'say',
      text: 'Look up again next summer; a fuller crown lifts this limit.'
    });
  if (growth.taps === taps) return answer(taps, 'growth', growth.reason, { kind: 'say', text: growth.change });
  return answer(
    taps,
    'room',
    taps === 0
      ? 'No place on this trunk is clear enough now: rest it while new wood grows.'
      : 'The trunk has no more clear places within reach this season.',
    { kind: 'say', text: 'A longer band, by snow, ladder-free reach or drop line, may reach fresh wood.' }
  );
}

function sizeReason(taps: number, guideline: TapGuideline, unseen: boolean, roomOpen: boolean): string {
  if (taps === 0) return `Too thin to tap by the ${guideline.name.toLowerCase()} rule.`;
  const size = `Its size allows ${taps === 1 ? 'one' : taps} by the ${guideline.name.toLowerCase()} rule`;
  const open = [
    ...(unseen ? ['nobody has looked up at it lately'] : []),
    ...(roomOpen ? ['clear places have not been looked for yet'] : [])
  ];
  return open.length > 0
    ? `${size}. That is not the last word: ${open.join(', and ')}.`
    : `${size}, and nothing else asks for fewer.`;
}

function growthLimit(
  balance: Balance,
  seasonsSinceTapped: number | null
): { taps: number; reason: string; change: string } {
  const change = 'More light from a thinning, a smaller bit or a longer band would carry more.';
  if (balance.suggested >= 1)
    return {
      taps: balance.suggested,
      reason: `New wood replaces what ${balance.suggested === 1 ? 'one hole' : `${balance.suggested} holes`} a year kill${balance.suggested === 1 ? 's' : ''}, not more.`,
      change
    };
  const rhythm = balance.restRhythmYears;
  if (!Number.isFinite(rhythm))
    return { taps: 0, reason: 'It lays no new wood: every hole would stay for good.', change };
  const rested = seasonsSinceTapped === null || seasonsSinceTapped >= rhythm;
  return {
    taps: rested ? 1 : 0,
    reason: rested
      ? `It grows too slowly for a hole every year; one every ${rhythm} years is in balance, and it has rested long enough.`
      : `It grows too slowly for a hole every year; one every ${rhythm} years is in balance, so it rests now.`,
    change
  };
}
