<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import YearsPage from '$lib/thin/YearsPage.svelte';
  import ThinPages from '$lib/thin/ThinPages.svelte';

  const bush = $derived(useBush());
</script>

<ThinPages />
{#if bush.overview}<YearsPage />{/if}
