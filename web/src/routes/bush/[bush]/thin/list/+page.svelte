<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import ListPage from '$lib/thin/ListPage.svelte';
  import ThinPages from '$lib/thin/ThinPages.svelte';

  const bush = $derived(useBush());
</script>

<ThinPages />
{#if bush.overview}<ListPage />{/if}
