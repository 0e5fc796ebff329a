<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import Pages from '$lib/ui/Pages.svelte';

  /** One tree, the growth of all, sample plots, gauges to print. */
  const { treeId = null }: { treeId?: string | null } = $props();
  const base = $derived(`/bush/${useBush().id}/measure`);
</script>

<Pages
  label="Pages of Measure"
  pages={[
    [treeId ? `${base}/${treeId}` : base, 'One tree'],
    [`${base}/growth`, 'Growth'],
    [`${base}/plots`, 'Plots'],
    [`${base}/gauges`, 'Gauges']
  ]}
/>
