import { median } from '../math/index.ts';
/** A hole with who wrote it down and when. */
export interface WrittenHole {
  readonly authorId?: string;
  readonly on: string;
  /** ISO moment */
  readonly recordedAt: string;
}

/** Longer than this between two holes is a rest and no pace, minutes. Working assumption. */
const REST_MINUTES = 30;

/** From this many steps on a pace is one. */
const ENOUGH = 5;

/**
 * Minutes that a crew takes for a hole, walking and looking included: the median step between holes that one person wrote
 * down one after another on one day. Careful beats fast: it is for knowing when to start, not for hurrying.
 * @returns null where too few were written down one after another
 */
export function minutesAHole(holes: readonly WrittenHole[]): number | null {
  const days = new Map<string, number[]>();
  for (const { authorId = '', on, recordedAt } of holes) {
    const key = `${authorId}/${on}`;
    days.set(key, [...(days.get(key) ?? []), Date.parse(recordedAt) / 60_000]);
  }
  const steps = [...days.values()].flatMap((times) => {
    const sorted = [...times].sort((a, b) => a - b);
    return sorted.slice(1).map((time, i) => time - sorted[i]!);
  });
  // Several holes written down in the same breath are one visit.
  const walked = steps.filter((step) => step > 0.2 && step <= REST_MINUTES);
  return walked.length < ENOUGH ? null : median(walked);
}
