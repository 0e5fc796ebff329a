<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import GroundPage from '$lib/map/GroundPage.svelte';

  const bush = $derived(useBush());
</script>

{#if bush.overview}<GroundPage />{/if}
