<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import MapPage from '$lib/map/MapPage.svelte';

  const bush = $derived(useBush());
</script>

{#if bush.overview}<MapPage />{/if}
