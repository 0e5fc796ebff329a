<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import PlacingsPage from '$lib/place/PlacingsPage.svelte';
  import PlacePages from '$lib/place/PlacePages.svelte';

  const bush = $derived(useBush());
</script>

<PlacePages />
{#if bush.overview}<PlacingsPage />{/if}
