<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';

  import LinesFall from './LinesFall.svelte';
  import LinesMissing from './LinesMissing.svelte';
  import LinesRound from './LinesRound.svelte';

  /** Lines of pipe: while they run, what is missing behind them comes first; before and after, how they fall. */
  const bush = useBush();
  const VIEWS = [
    { id: 'missing', label: 'What is missing' },
    { id: 'round', label: 'Round' },
    { id: 'fall', label: 'How they fall' }
  ] as const;
  type View = (typeof VIEWS)[number]['id'];
  const runs = $derived(
    bush.bushRecords.some(
      ({ kind, on }) => (kind === 'collection' || kind === 'lineReading') && on.startsWith(String(bush.season))
    )
  );
  let asked = $state<View | null>(null);
  const view = $derived(asked ?? (runs ? 'missing' : 'fall'));
</script>

<h1 class="sr-only">Lines</h1>
<div class="mb-4 print:hidden">
  <ToggleGroup label="Of the lines" options={VIEWS} value={view} onchange={(id) => (asked = id)} />
</div>
{#if view === 'fall'}<LinesFall />{:else if view === 'round'}<LinesRound />{:else}<LinesMissing />{/if}
