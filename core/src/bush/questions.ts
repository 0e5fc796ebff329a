import type { Answer, BushRecord, Question } from '../records/index.ts';

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
