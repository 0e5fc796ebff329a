<script lang="ts">
  import CountPages from '$lib/count/CountPages.svelte';
  import HabitsPage from '$lib/count/HabitsPage.svelte';
  import { useBush } from '$lib/client/bush.svelte.ts';

  const bush = $derived(useBush());
</script>

<CountPages />
{#if bush.overview}<HabitsPage />{/if}
