<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import Pages from '$lib/ui/Pages.svelte';

  /** One tree, all trees, the table behind it, practice. */
  const { treeId = null }: { treeId?: string | null } = $props();
  const base = $derived(`/bush/${useBush().id}/identify`);
</script>

<Pages
  label="Pages of Identify"
  pages={[
    [treeId ? `${base}/${treeId}` : base, 'One tree'],
    [`${base}/all`, 'All trees'],
    [`${base}/clues`, 'Clue table'],
    [`${base}/practice`, 'Practice']
  ]}
/>
