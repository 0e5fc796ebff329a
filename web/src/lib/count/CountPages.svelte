<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import Pages from '$lib/ui/Pages.svelte';

  /** One tree, all trees, forty years, the habits that the counts rest on. */
  const { treeId = null }: { treeId?: string | null } = $props();
  const base = $derived(`/bush/${useBush().id}/count`);
</script>

<Pages
  label="Pages of Count"
  pages={[
    [treeId ? `${base}/${treeId}` : base, 'One tree'],
    [`${base}/all`, 'All trees'],
    [`${base}/decades`, 'Decades'],
    [`${base}/habits`, 'Habits']
  ]}
/>
