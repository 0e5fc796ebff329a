<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import Pages from '$lib/ui/Pages.svelte';

  /** One crown, the plan for a stand, the years after it, the list for the woods, and who comes next. */
  const { treeId = null }: { treeId?: string | null } = $props();
  const base = $derived(`/bush/${useBush().id}/thin`);
</script>

<Pages
  label="Pages of Thin"
  pages={[
    [treeId ? `${base}/${treeId}` : base, 'One crown'],
    [`${base}/plan`, 'The plan'],
    [`${base}/years`, 'Thirty years'],
    [`${base}/list`, 'Marking list'],
    [`${base}/young`, 'Next generation']
  ]}
/>
