import { keeping, store } from './store.ts';

/** Trees whose answers are kept: a picture of a trunk's wood weighs some hundred kilobytes. */
const MOST = 200;

/**
 * What was worked out before for the same question, by the same program.
 * @param key what is asked, and of which tree
 * @param question all that the answer follows from
 */
export async function keptAnswer<T>(key: string, question: string): Promise<T | null> {
  const kept = await store.answers.get(key);
  return kept?.question === asked(question) ? (kept.answer as T) : null;
}

/** Keeps what was worked out; the oldest answers go. */
export async function keepAnswer(key: string, bushId: string, question: string, answer: unknown): Promise<void> {
  const kept = { key, bushId, question: asked(question), answer, at: Date.now() };
  await keeping([store.answers], () => store.answers.put(kept));
  const many = await store.answers.count();
  if (many > MOST)
    await store.answers.bulkDelete(
      await store.answers
        .orderBy('at')
        .limit(many - MOST)
        .primaryKeys()
    );
}

const asked = (question: string) => `${CORE} ${question}`;
