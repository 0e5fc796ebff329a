import type { BushState } from './bush.svelte.ts';
import { store } from './store.ts';

/** A draft is its writer's: another member on the same device begins her own. */
const keyOf = (bush: BushState, sheet: string, subject: string) =>
  `${bush.overview?.member.id ?? ''}/${sheet}/${subject}`;

/** What this member left half done on a sheet of a tree, or of the bush; null when nothing was. */
export async function readDraft<T>(
  bush: BushState,
  sheet: string,
  subject: string
): Promise<{ value: T; at: number } | null> {
  const kept = await store.drafts.get(keyOf(bush, sheet, subject));
  return kept ? { value: kept.value as T, at: kept.at } : null;
}

/** Keeps what is half done. */
export async function keepDraft(bush: BushState, sheet: string, subject: string, value: unknown): Promise<void> {
  await store.drafts.put({ key: keyOf(bush, sheet, subject), bushId: bush.id, value, at: Date.now() });
}

/** Forgets what was half done: it was finished, or given up. */
export async function dropDraft(bush: BushState, sheet: string, subject: string): Promise<void> {
  await store.drafts.delete(keyOf(bush, sheet, subject));
}
