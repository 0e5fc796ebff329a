<script lang="ts">
  import CountPages from '$lib/count/CountPages.svelte';
  import WholeBush from '$lib/count/WholeBush.svelte';
  import { useBush } from '$lib/client/bush.svelte.ts';

  const bush = $derived(useBush());
</script>

<CountPages />
{#if bush.overview}<WholeBush />{/if}
