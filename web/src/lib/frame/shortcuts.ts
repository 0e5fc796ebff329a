/** Pages of a bush that the installed program's icon leads to at once, by the names that its manifest has for them. */
const SHORTCUTS: Readonly<Record<string, string>> = { walk: '/walk', find: '?find' };

/** Where in a bush an address of the installed program leads: to its first page where it names none. */
export function shortcutIn({ searchParams }: URL): string {
  return SHORTCUTS[searchParams.get('to') ?? ''] ?? '';
}
