import type { Answer, BushRecord, Question, Role, Taphole } from '../records/index.ts';

/**
 * The questions of a bush, each with what was answered; null while it is open.
 * @param records of the bush that stand
 */
export function questionsIn(
  records: readonly BushRecord[]
): { readonly question: Question; readonly answer: Answer | null }[] {
  const answers = new Map(records.flatMap((each) => (each.kind === 'answer' ? [[each.questionId, each]] : [])));
  return records.flatMap((each) =>
    each.kind === 'question' ? { question: each, answer: answers.get(each.id) ?? null } : []
  );
}

type Says = Answer['says'];

/** What a person may answer to each question, the likeliest first. That it is settled the book says by itself. */
export const ANSWERS: Readonly<Record<Question['about'], readonly Says[]>> = {
  sameSpot: ['once', 'stays'],
  tooMany: ['pulled', 'never', 'stays'],
  resting: ['pulled', 'never', 'stays'],
  gone: ['never', 'pulled', 'stays'],
  proposal: ['taken', 'left']
};

/**
 * Is a question for this member to answer? A steward answers all; crew those about what they wrote: of the holes that it is about the
 * last one that stands, and no proposal.
 * @param holes that the question is about and that stand, in the order in which they were written
 */
export function isAddressed(
  { about }: Pick<Question, 'about'>,
  holes: readonly Pick<Taphole, 'authorId'>[],
  { memberId, role }: { readonly memberId: string; readonly role: Role }
): boolean {
  if (role !== 'crew') return role === 'steward';
  return about !== 'proposal' && holes.at(-1)?.authorId === memberId;
}
