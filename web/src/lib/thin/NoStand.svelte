<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';

  /** Said in the place of a page that works on a whole stand, where the bush has none. */
  const { title }: { title: string } = $props();
  const bush = useBush();
</script>

<EmptyState {title} next={{ label: 'The map', href: `/bush/${bush.id}/map` }}>
  This is worked out for a whole stand, and this bush has none yet. Draw one on the map, under Stands, and put its trees
  into it. A few trees need none: each has its own sheet under One crown.
</EmptyState>
