<script lang="ts">
  import { page } from '$app/state';
  import { useBush } from '$lib/client/bush.svelte.ts';

  /** The pages of this station: one tree, all trees, the table behind it, practice. */
  const { treeId = null }: { treeId?: string | null } = $props();
  const bush = $derived(useBush());
  const pages = $derived([
    [`/bush/${bush.id}/identify${treeId ? `/${treeId}` : ''}`, 'One tree'],
    [`/bush/${bush.id}/identify/all`, 'All trees'],
    [`/bush/${bush.id}/identify/clues`, 'Clue table'],
    [`/bush/${bush.id}/identify/practice`, 'Practice']
  ] as const);
</script>

<nav aria-label="Pages of Identify" class="mb-3 flex gap-x-1 border-b border-base-300 print:hidden">
  {#each pages as [href, name] (name)}
    {@const here = page.url.pathname === href}
    <a
      {href}
      aria-current={here ? 'page' : undefined}
      class="px-2.5 py-1.5 whitespace-nowrap max-md:py-2.5 {here
        ? 'border-b-[3px] border-base-content font-bold'
        : 'hover:underline'}">{name}</a
    >
  {/each}
</nav>
