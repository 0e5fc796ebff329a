/**
 * Asks a worker one question after the other, and of those that come meanwhile the last alone: while something is dragged, the
 * answers to where it was a moment ago would only keep the worker from the one that is wanted.
 * @param take gets an answer, unless something else is asked by then
 */
export function lastAsked<Question, Answer>(
  ask: (question: Question) => Promise<Answer>,
  take: (question: Question, answer: Answer) => void
): (question: Question) => void {
  let wanted: { readonly question: Question } | null = null;
  let busy = false;
  async function work(): Promise<void> {
    busy = true;
    try {
      while (wanted) {
        const { question } = wanted;
        wanted = null;
        const answer = await ask(question);
        if (!wanted) take(question, answer);
      }
    } finally {
      busy = false;
    }
  }
  return (question) => {
    wanted = { question };
    if (!busy) void work();
  };
}
