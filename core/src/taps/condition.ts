/** Crown vigour by dieback, classes of the North American Maple Project (from memory). */
export type VigourClass = 'healthy' | 'light' | 'moderate' | 'severe' | 'dead';

/** What was seen when looking up, and at the old holes. */
export interface Condition {
  /** the day of the look, ISO */
  readonly on: string;
  /** dead fine branches in the live crown, per cent; 100 is a dead tree; null where nobody looked up */
  readonly diebackPct: number | null;
  /** age of the oldest hole that is still open, years; 0 where all are closed, null where nobody looked */
  readonly oldestOpenHoleYears: number | null;
  /** defoliation, drought, ice or root damage in the summer before the look; null where nobody said */
  readonly stressed: boolean | null;
  /** share of the girth whose bark porcupines or squirrels peeled, per cent; null where nobody looked */
  readonly peeledPct: number | null;
  /** the peeling is fresh */
  readonly peelFresh: boolean;
  /** when that was seen which the last look left open and an earlier one told */
  readonly earlier?: EarlierLooks;
  /** what was seen on the trunk, and what may fall or break */
  readonly defects?: readonly DefectKind[];
  readonly hazards?: readonly HazardKind[];
}

/** What a look may leave open. */
export const LOOKED_AT = ['diebackPct', 'crownClass', 'oldestOpenHoleYears', 'stressed', 'peeledPct'] as const;
/** ISO dates of earlier looks by what they told. */
export type EarlierLooks = Partial<Record<(typeof LOOKED_AT)[number], string>>;

/** Defects of the trunk: what a hole keeps away from, and what weakens the tree. */
export const DEFECT_KINDS = [
  'seam',
  'frostCrack',
  'canker',
  'hollow',
  'decay',
  'split',
  'wound',
  'peeled',
  'sunscald',
  'rootDamage',
  'borers',
  'swelling',
  'vines',
  'metal'
] as const;
export type DefectKind = (typeof DEFECT_KINDS)[number];

/** What may fall or break: for trained people to look at before anyone works under the tree. */
export const HAZARD_KINDS = [
  'deadTop',
  'brokenTop',
  'hangingLimb',
  'hungUp',
  'hollowButt',
  'conks',
  'rootPlate',
  'splitFork',
  'includedBark',
  'lean',
  'touchesLine'
] as const;
export type HazardKind = (typeof HAZARD_KINDS)[number];

/** Who lives there. Each is a home, and a home is kept. */
export const WILDLIFE_KINDS = ['cavity', 'nest', 'den', 'woodpeckers', 'batRoost'] as const;
export type WildlifeKind = (typeof WILDLIFE_KINDS)[number];

/** Vigour of a crown by the share of it that died back. @param diebackPct 0..100 */
export function vigourClass(diebackPct: number): VigourClass {
  if (diebackPct >= 100) return 'dead';
  if (diebackPct > 50) return 'severe';
  if (diebackPct > 25) return 'moderate';
  if (diebackPct > 10) return 'light';
  return 'healthy';
}

/** What in a tree's condition bears on its count. */
export type ConditionReason =
  | { readonly why: 'notLookedUp' | 'dead' | 'fullCrown' | 'holesClosed' | 'freshPeeling' | 'nothing' }
  /** of the crown or of the girth, per cent, and the taps that it leaves */
  | { readonly why: 'dieback' | 'peeled'; readonly pct: number; readonly allows: 0 | 1 }
  | { readonly why: 'oldLook' | 'stressed'; readonly on: string }
  /** of a tree that declines, or of rot */
  | {
      readonly why: 'signs';
      readonly defects: readonly DefectKind[];
      readonly hazards: readonly HazardKind[];
      readonly allows: 0 | 1;
    }
  | {
      readonly why: 'openHole';
      /** its age by now */
      readonly years: number;
      readonly weak: boolean;
      /** its age when somebody last looked, where that is a year ago or more */
      readonly seen: { readonly years: number; readonly on: string } | null;
    };

/** A cap on the count, with its reason. */
export interface ConditionCap {
  /** Infinity where it asks for no fewer */
  readonly taps: number;
  readonly reason: ConditionReason;
  /** nothing here says that the tree is well: nobody looked, or the look is too old */
  readonly unknown: boolean;
}

const NO_CAP = Infinity;
/** A look is asked for again after so many years. Working assumption; common practice is every year or two. */
export const LOOK_LASTS_YEARS = 3;
/** A hole that is still open after so many years tells of a weak tree. Common practice. */
const WEAK_AFTER_YEARS = 3;
/** Stress of one summer is over after so many growing seasons. Common practice. */
const STRESS_LASTS_SEASONS = 2;
/** A growing season is over by this day. */
const SEASON_ENDS = '-09-15';
/** Bark peeled round this share of the girth asks for one tap at the most, percent. Working assumption. */
const PEELED_SOME_PCT = 15;
/** Bark peeled round this share of the girth asks for a rest, percent. Working assumption. */
const PEELED_MUCH_PCT = 35;

/** Hazards that tell of a tree that declines or rots. Common practice. */
const DECLINE_HAZARDS: readonly HazardKind[] = ['deadTop', 'brokenTop', 'hollowButt', 'conks', 'rootPlate'];
/** Defects that tell of it too. Common practice. */
const DECLINE_DEFECTS: readonly DefectKind[] = ['canker', 'hollow', 'decay', 'rootDamage', 'borers'];
/** So many signs of decline ask for a rest; one asks for one tap at the most. Working assumption. */
const SIGNS_TO_REST = 2;

/** Growing seasons that have ended after one day and up to another. @param from ISO date @param to ISO date */
export function growingSeasonsBetween(from: string, to: string): number {
  const endedBy = (day: string) => Number(day.slice(0, 4)) - (day.slice(4) < SEASON_ENDS ? 1 : 0);
  return Math.max(0, endedBy(to) - endedBy(from));
}

const yearsBetween = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / (365.25 * 86_400_000);

/** Is a look too old to say that all is well? */
export function lookIsOld(on: string, today: string): boolean {
  return yearsBetween(on, today) > LOOK_LASTS_YEARS;
}

/**
 * What each thing that was seen does to the count. The caps are common practice turned into numbers (working assumption):
 * light dieback one tap, more dieback none; holes still open after three years, or the last summer's stress, a rest; one sign of decline
 * or rot on trunk and top one tap, two a rest. What
 * a look forbids holds until somebody looks again; what it allows grows old.
 * @param condition null when nobody looked yet
 * @param today ISO date
 */
export function conditionEffects(condition: Condition | null, today: string): ConditionCap[] {
  if (!condition || condition.diebackPct === null)
    return [
      { taps: NO_CAP, reason: { why: 'notLookedUp' }, unknown: true },
      ...(condition ? besides(condition, today) : [])
    ];
  const { diebackPct: pct } = condition;
  const on = condition.earlier?.diebackPct ?? condition.on;
  const crown: Record<VigourClass, ConditionCap> = {
    dead: cap(0, { why: 'dead' }),
    severe: cap(0, { why: 'dieback', pct, allows: 0 }),
    moderate: cap(0, { why: 'dieback', pct, allows: 0 }),
    light: cap(1, { why: 'dieback', pct, allows: 1 }),
    healthy: lookIsOld(on, today)
      ? { taps: NO_CAP, reason: { why: 'oldLook', on }, unknown: true }
      : cap(NO_CAP, { why: 'fullCrown' })
  };
  return [crown[vigourClass(pct)], ...besides(condition, today)];
}

const cap = (taps: number, reason: ConditionReason): ConditionCap => ({ taps, reason, unknown: false });

/** What else than the crown asks for fewer taps. */
function besides(
  { on: lastOn, earlier = {}, oldestOpenHoleYears: open, stressed, peeledPct, peelFresh, ...seen }: Condition,
  today: string
): ConditionCap[] {
  const effects: ConditionCap[] = [];
  const hazards = DECLINE_HAZARDS.filter((hazard) => seen.hazards?.includes(hazard));
  // A hollow is one sign, whichever way it was written down.
  const defects = DECLINE_DEFECTS.filter(
    (defect) => seen.defects?.includes(defect) && !(defect === 'hollow' && hazards.includes('hollowButt'))
  );
  const signs = hazards.length + defects.length;
  if (signs > 0) {
    const allows = signs >= SIGNS_TO_REST ? 0 : 1;
    effects.push(cap(allows, { why: 'signs', defects, hazards, allows }));
  }
  const holesOn = earlier.oldestOpenHoleYears ?? lastOn;
  const stressOn = earlier.stressed ?? lastOn;
  const since = Math.floor(yearsBetween(holesOn, today));
  if (open === 0) effects.push(cap(NO_CAP, { why: 'holesClosed' }));
  else if (open !== null) {
    const years = open + since;
    const weak = years >= WEAK_AFTER_YEARS;
    const seen = since > 0 ? { years: open, on: holesOn } : null;
    effects.push(cap(weak ? 0 : NO_CAP, { why: 'openHole', years, weak, seen }));
  }
  if (stressed && growingSeasonsBetween(stressOn, today) < STRESS_LASTS_SEASONS)
    effects.push(cap(0, { why: 'stressed', on: stressOn }));
  if (peeledPct !== null && peeledPct >= PEELED_SOME_PCT) {
    const allows = peeledPct >= PEELED_MUCH_PCT ? 0 : 1;
    effects.push(cap(allows, { why: 'peeled', pct: peeledPct, allows }));
  }
  if (peelFresh) effects.push(cap(NO_CAP, { why: 'freshPeeling' }));
  return effects;
}

/** What the tree's condition allows in all: the least of its effects. @param today ISO date */
export function conditionCap(condition: Condition | null, today: string): ConditionCap {
  const effects = conditionEffects(condition, today);
  const least = effects.reduce((a, b) => (b.taps < a.taps ? b : a));
  if (least.taps < NO_CAP) return least;
  return effects.find(({ unknown }) => unknown) ?? cap(NO_CAP, { why: 'nothing' });
}
