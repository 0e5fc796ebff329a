<script lang="ts">
  import { compassPoint } from '@baumkin/core/math';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';

  import Choices from './Choices.svelte';
  import type { RowStopProps } from './rowRounds.ts';

  /** The spouts of one tree: how many came out. */
  const { stop, walk }: RowStopProps = $props();
  const bush = useBush();
  const holes = $derived(bush.stateOf(stop.treeId).holesThisSeason);
  const choices = $derived([
    { value: stop.row.drilled, label: `${counted(stop.row.drilled, 'spout')} out`, meaning: 'all of them' },
    ...(stop.row.drilled > 0
      ? [{ value: stop.row.drilled - 1, label: 'One stayed in', meaning: 'stuck or broken: noted' }]
      : [])
  ]);
  async function choose(spouts: number): Promise<void> {
    const here = stop;
    const stuck = spouts < here.row.drilled;
    const note = stuck ? 'one is stuck or broken' : '';
    const record = await bush.record(here.treeId, { kind: 'pulling', season: bush.season, spouts, note });
    const says = `${counted(spouts, 'spout')} out${stuck ? ', one stayed in' : ''}`;
    await walk.finish(here, `Tree ${here.row.tag}: ${says}`, [record]);
  }
</script>

<div class="flex min-h-0 grow flex-col justify-center gap-3" data-testid="asks">
  <p class="font-slab text-2xl leading-snug font-semibold">Pull {counted(stop.row.drilled, 'spout')}.</p>
  <ul class="text-lg">
    {#each holes as hole (hole.id)}
      <li>
        {compassPoint(hole.bearingDeg)} side, {Math.round(hole.bearingDeg)}°, {preferences.length(
          hole.heightMm,
          'hand'
        )} up
      </li>
    {/each}
  </ul>
</div>
<Choices
  {choices}
  columns={1}
  onchoose={choose}
  instead={{ label: 'Come back later', press: () => void walk.putOff(stop) }}
/>
