<script lang="ts">
  import CountPages from '$lib/count/CountPages.svelte';
  import DecadesPage from '$lib/count/DecadesPage.svelte';
  import { useBush } from '$lib/client/bush.svelte.ts';

  const bush = $derived(useBush());
</script>

<CountPages />
{#if bush.overview}<DecadesPage />{/if}
