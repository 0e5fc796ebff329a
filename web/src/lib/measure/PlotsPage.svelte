<script lang="ts">
  import type { PlotRecord } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';

  import PlotEntry from './PlotEntry.svelte';
  import PlotMetrics from './PlotMetrics.svelte';

  /** Sample plots for those who do not tag every tree. */
  const bush = useBush();
  const plots = $derived(bush.bushRecords.filter((record): record is PlotRecord => record.kind === 'plot'));
  /** the stand that is looked at; empty for all */
  let standId = $state('');
</script>

<!-- Whose draft is taken up again is known only once the bush is open. -->
{#if bush.overview}
  <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
    <PlotMetrics {plots} bind:standId />
    <PlotEntry {plots} {standId} />
  </div>
{/if}
