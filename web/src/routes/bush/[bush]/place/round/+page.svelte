<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import RoundPage from '$lib/place/RoundPage.svelte';
  import PlacePages from '$lib/place/PlacePages.svelte';

  const bush = $derived(useBush());
</script>

<PlacePages />
{#if bush.overview}<RoundPage />{/if}
