<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import YoungPage from '$lib/thin/YoungPage.svelte';
  import ThinPages from '$lib/thin/ThinPages.svelte';

  const bush = $derived(useBush());
</script>

<ThinPages />
{#if bush.overview}<YoungPage />{/if}
