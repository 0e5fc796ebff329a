/** Crown vigour by dieback, classes of the North American Maple Project (from memory). */
export type VigourClass = 'healthy' | 'light' | 'moderate' | 'severe' | 'dead';

/** What was seen when looking up, and at the old holes. */
export interface Condition {
  /** dead fine branches in the live crown, percent; 100 is a dead tree */
  readonly diebackPct: number;
  /** age of the oldest hole that is still open, years; null when all are closed or none was looked at */
  readonly oldestOpenHoleYears: number | null;
  /** defoliation, drought, ice or root damage last year */
  readonly stressed: boolean;
}

export function vigourClass(diebackPct: number): VigourClass {
  if (diebackPct >= 100) return 'dead';
  if (diebackPct > 50) return 'severe';
  if (diebackPct > 25) return 'moderate';
  if (diebackPct > 10) return 'light';
  return 'healthy';
}

/** A cap on the count, with its reason. */
export interface ConditionCap {
  readonly taps: number;
  readonly reason: string;
}

/** No cap: the tree's condition allows what its size allows. */
const NO_CAP = 4;

/**
 * What the tree's condition allows. The caps are common practice turned into numbers (working assumption): light
 * dieback one tap, more dieback none; holes still open after three years, or last year's stress, a rest.
 * @param condition null when nobody looked up yet
 */
export function conditionCap(condition: Condition | null): ConditionCap {
  if (!condition) return { taps: NO_CAP, reason: 'Nobody has looked up at this crown yet.' };
  const caps: ConditionCap[] = [{ taps: NO_CAP, reason: 'Nothing in its condition asks for fewer taps.' }];
  const dieback = `${condition.diebackPct} % of the crown has died back`;
  switch (vigourClass(condition.diebackPct)) {
    case 'dead':
      caps.push({ taps: 0, reason: 'The tree is dead.' });
      break;
    case 'severe':
    case 'moderate':
      caps.push({ taps: 0, reason: `${dieback}: it needs its sap.` });
      break;
    case 'light':
      caps.push({ taps: 1, reason: `${dieback}: one tap at the most.` });
      break;
    case 'healthy':
  }
  if (condition.oldestOpenHoleYears !== null && condition.oldestOpenHoleYears >= 3)
    caps.push({
      taps: 0,
      reason: `A hole is still open after ${condition.oldestOpenHoleYears} years: the tree is weak.`
    });
  if (condition.stressed) caps.push({ taps: 0, reason: 'It was stressed last year: let it recover.' });
  return caps.reduce((least, cap) => (cap.taps < least.taps ? cap : least));
}
