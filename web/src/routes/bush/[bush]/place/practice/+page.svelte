<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import PracticePage from '$lib/place/PracticePage.svelte';
  import PlacePages from '$lib/place/PlacePages.svelte';

  const bush = $derived(useBush());
</script>

<PlacePages />
{#if bush.overview}<PracticePage />{/if}
