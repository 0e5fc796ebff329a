<script lang="ts">
  import { compassPoint } from '@baumkin/core/math';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import Choices from './Choices.svelte';
  import { lookAt } from './lookAt.ts';
  import type { RowStopProps } from './rowRounds.ts';

  /** Old holes of a trunk: which of them is still open. */
  const { stop, walk }: RowStopProps = $props();
  const bush = useBush();
  const MOST_SEASONS = 4;
  const year = $derived(Number(bush.today.slice(0, 4)));
  const holes = $derived(
    bush
      .stateOf(stop.treeId)
      .tapholes.filter(({ season }) => season <= year && season > year - MOST_SEASONS)
      .toSorted((a, b) => b.season - a.season)
  );
  const seasons = $derived([...new Set(holes.map(({ season }) => season))].slice(0, MOST_SEASONS));
  const choices = $derived([
    { value: 0, label: 'All closed', meaning: 'wood across each' },
    // A hole counts its summers: one of this spring has had one.
    ...seasons.map((season) => ({
      value: year - season + 1,
      label: `One of ${season}`,
      meaning: year - season === 0 ? 'after one summer' : `after ${year - season + 1} summers`
    }))
  ]);
  async function choose(oldestOpenHoleYears: number, label: string): Promise<void> {
    const here = stop;
    const record = await bush.record(here.treeId, lookAt(bush, here.treeId, { oldestOpenHoleYears }));
    const says = oldestOpenHoleYears === 0 ? 'old holes closed' : `${label.toLowerCase()} open`;
    await walk.finish(here, `Tree ${here.row.tag}: ${says}`, [record]);
  }
</script>

<div class="flex min-h-0 grow flex-col justify-center gap-3 overflow-y-auto" data-testid="asks">
  <p class="font-slab text-2xl leading-snug font-semibold">Which is the oldest hole that is open?</p>
  <ul class="text-lg">
    {#each holes as hole (hole.id)}
      <li>
        <b>{hole.season}</b>{bush.paintOf(hole.season) ? `, ${bush.paintOf(hole.season)} paint` : ''}: {compassPoint(
          hole.bearingDeg
        )} side, {preferences.length(hole.heightMm, 'hand')} up
      </li>
    {:else}<li>Its holes are not written down one by one.</li>{/each}
  </ul>
</div>
<Choices {choices} onchoose={choose} instead={{ label: 'Come back later', press: () => void walk.putOff(stop) }} />
