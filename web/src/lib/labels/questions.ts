import type { Answer, ClashKind, Question, WorkRecord } from '@baumkin/core/records';

import { counted } from './counted.ts';

type Says = Answer['says'];

/** Why a clash is asked about. @param holes how many holes it is about */
const ASKED: Readonly<Record<ClashKind, (holes: number) => string>> = {
  sameSpot: () => 'Two holes are written down at the same spot. Is it one hole?',
  tooMany: (holes) => `${counted(holes, 'hole is', 'holes are')} written down, more than were decided for this tree.`,
  resting: (holes) =>
    `${counted(holes, 'hole is', 'holes are')} written down on a tree that is not to be tapped this season.`,
  gone: (holes) =>
    `${counted(holes, 'hole is', 'holes are')} written down on a tree that was felled, fell or was taken out of the book by then.`
};

/** What a question asks. @param said the proposed record as the life of a tree tells it */
export function questionWords({ about, tapholeIds, proposal }: Question, said: string | null): string {
  if (about !== 'proposal') return ASKED[about](tapholeIds.length);
  return `Proposed to the stewards: “${said ?? String(proposal?.kind)}”.`;
}

/** An answer on its button, and what it does. */
export const ANSWER_LABELS: Readonly<Record<Says, readonly [label: string, meaning: string]>> = {
  once: ['One hole', 'the second entry is crossed out'],
  never: ['Never drilled', 'the last entry is crossed out'],
  stays: ['All as written', 'every hole is there and stays'],
  pulled: ['Spout pulled', 'the hole is there and left to close'],
  taken: ['Write it down so', 'under your name'],
  left: ['Leave it', 'nothing is changed'],
  settled: ['Settled', 'by what was written since']
};

/** What was answered, in a few words. */
export const ANSWERED: Readonly<Record<Says, string>> = {
  once: 'one hole, written down twice',
  never: 'the last one was never drilled',
  stays: 'all is as written',
  pulled: 'the spout is pulled, the hole left to close',
  taken: 'written down as proposed',
  left: 'left as it was',
  settled: 'settled by what was written since'
};

/** Whom a question is for. @param last the hole that was written last, where it is at hand */
export function addressee(
  { about }: Question,
  last: WorkRecord | null,
  nameOf: (record: WorkRecord) => string
): string {
  return about === 'proposal' || !last ? 'for a steward' : `for ${nameOf(last)} or a steward`;
}
