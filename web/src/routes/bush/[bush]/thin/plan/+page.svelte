<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import PlanPage from '$lib/thin/PlanPage.svelte';
  import ThinPages from '$lib/thin/ThinPages.svelte';

  const bush = $derived(useBush());
</script>

<ThinPages />
{#if bush.overview}<PlanPage />{/if}
