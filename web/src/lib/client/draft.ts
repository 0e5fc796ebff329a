import { store } from './store.ts';

const keyOf = (sheet: string, treeId: string) => `${sheet}/${treeId}`;

/** What was left half done on a sheet of this tree; null when nothing was. */
export async function readDraft<T>(sheet: string, treeId: string): Promise<{ value: T; at: number } | null> {
  const kept = await store.drafts.get(keyOf(sheet, treeId));
  return kept ? { value: kept.value as T, at: kept.at } : null;
}

/** Keeps what is half done on a sheet of this tree. */
export async function keepDraft(bushId: string, sheet: string, treeId: string, value: unknown): Promise<void> {
  await store.drafts.put({ key: keyOf(sheet, treeId), bushId, value, at: Date.now() });
}

export async function dropDraft(sheet: string, treeId: string): Promise<void> {
  await store.drafts.delete(keyOf(sheet, treeId));
}
