<script lang="ts">
  import { FIRST_STEPS, type FirstStep } from '@baumkin/core/bush';
  import type { Station } from '@baumkin/core/records';
  import { untrack } from 'svelte';

  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import Begin from '$lib/begin/Begin.svelte';
  import { FEW_TREES } from '$lib/begin/few.ts';
  import FirstSteps from '$lib/begin/FirstSteps.svelte';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { PAGES } from '$lib/frame/pages.ts';
  import StationTabs from '$lib/frame/StationTabs.svelte';
  import NotHereYet from '$lib/ui/NotHereYet.svelte';
  import TreeTitle from '$lib/ui/TreeTitle.svelte';

  const bush = useBush();
  const station = $derived(page.params.station as Station | 'life');
  const treeId = $derived(page.params.tree ?? null);
  const row = $derived(treeId ? (bush.byId.get(treeId) ?? null) : null);
  const sheet = $derived(station === 'life' ? import('$lib/life/LifeSheet.svelte') : PAGES[station].sheet());

  // Without a tree in the address: the first one that waits here, else the first of the walk.
  $effect(() => {
    if (treeId || bush.rows.length === 0) return;
    const waiting = station === 'life' ? undefined : bush.rows.find((r) => bush.isOutstanding(station, r));
    void goto(`/bush/${bush.id}/${station}/${(waiting ?? bush.rows[0]!).id}`, { replaceState: true });
  });
  $effect(() => {
    const [opened, id] = [bush, treeId];
    // Loading reads and writes the records; it must run for a new tree only, not for its own answer.
    if (id) untrack(() => void opened.loadTree(id));
  });
</script>

{#if bush.overview && bush.rows.length === 0}
  <Begin />
{:else if bush.overview && treeId && !row}
  <EmptyState title="No such tree">
    There is no tree at this address in {bush.overview.bush.name}. Press <b>/</b> to find one by its tag.
  </EmptyState>
{:else if row}
  {#if !bush.hasLife(row.id)}
    <TreeTitle {row} {station} />
    <NotHereYet />
  {:else}
    {#await sheet then { default: Sheet }}
      <TreeTitle {row} {station} />
      {#if bush.rows.length <= FEW_TREES && FIRST_STEPS.includes(station as FirstStep)}<FirstSteps
          {row}
          {station}
        />{/if}
      {#if station !== 'life'}<StationTabs {station} treeId={row.id} />{/if}
      {#key row.id}<Sheet treeId={row.id} />{/key}
    {:catch}
      <p role="alert">This sheet could not be loaded. Without a network, open it once while there is one.</p>
    {/await}
  {/if}
{/if}
