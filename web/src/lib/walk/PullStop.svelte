<script lang="ts">
  import { sapOf, spoutsIn } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';

  import Choices from './Choices.svelte';
  import HolesOfSeason from './HolesOfSeason.svelte';
  import type { RowStopProps } from './rowRounds.ts';

  /** The spouts of one tree: how many came out. */
  const { stop, walk }: RowStopProps = $props();
  const bush = useBush();
  /** More than so many that stay in are not told apart by a button. */
  const MOST_STUCK = 2;
  const left = $derived(spoutsIn(stop.row, bush.season));
  const choices = $derived([
    { value: 0, label: left === 1 ? 'It is out' : `All ${left} are out`, meaning: '' },
    ...Array.from({ length: Math.min(left, MOST_STUCK) }, (_, i) => ({
      value: i + 1,
      label: i === 0 ? 'One stays in' : `${counted(i + 1, 'spout')} stay in`,
      meaning: i === 0 ? 'stuck or broken: the tree comes again' : ''
    }))
  ]);
  async function choose(stuck: number): Promise<void> {
    const here = stop;
    const spouts = here.row.drilled - stuck;
    const note = stuck > 0 ? `${counted(stuck, 'spout')} stuck or broken` : '';
    const record = await bush.record(here.treeId, { kind: 'pulling', season: bush.season, spouts, note });
    const says = stuck > 0 ? `${counted(stuck, 'spout')} still in` : `${counted(left, 'spout')} out`;
    walk.finish(here, `Tree ${here.row.tag}: ${says}`, [record]);
  }
</script>

<div class="flex min-h-0 grow flex-col justify-center gap-3" data-testid="asks">
  <p class="font-slab text-2xl leading-snug font-semibold">
    {left < stop.row.drilled
      ? `${counted(left, 'spout')} of ${stop.row.drilled} ${left === 1 ? 'is' : 'are'} still in.`
      : `Pull ${counted(left, 'spout')}.`}
  </p>
  {#if sapOf(stop.row) === 'birch'}<p class="text-lg">
      A birch: its sap goes on after the maples, until its own leaves are out. Come back later, if that is not yet.
    </p>{/if}
  <HolesOfSeason treeId={stop.treeId} />
</div>
<Choices
  {walk}
  {choices}
  columns={1}
  onchoose={choose}
  instead={{ label: 'Come back later', press: () => void walk.putOff(stop) }}
/>
