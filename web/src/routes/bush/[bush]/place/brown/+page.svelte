<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import BrownPage from '$lib/place/BrownPage.svelte';
  import PlacePages from '$lib/place/PlacePages.svelte';

  const bush = $derived(useBush());
</script>

<PlacePages />
{#if bush.overview}<BrownPage />{/if}
