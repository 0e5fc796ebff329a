<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import Pages from '$lib/ui/Pages.svelte';

  /** One trunk, the round through the bush, what the shavings say of it, the ways of placing, and a trunk to practise on. */
  const { treeId = null }: { treeId?: string | null } = $props();
  const base = $derived(`/bush/${useBush().id}/place`);
</script>

<Pages
  label="Pages of Place"
  pages={[
    [treeId ? `${base}/${treeId}` : base, 'One trunk'],
    [`${base}/round`, 'Tapping round'],
    [`${base}/brown`, 'Brown wood'],
    [`${base}/habits`, 'Ways of placing'],
    [`${base}/practice`, 'Practice trunk']
  ]}
/>
