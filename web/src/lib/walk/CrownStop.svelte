<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';

  import Choices from './Choices.svelte';
  import { lookAt } from './lookAt.ts';
  import type { RowStopProps } from './rowRounds.ts';

  /** One look up: how much of the crown died back. */
  const { stop, walk }: RowStopProps = $props();
  const bush = useBush();
  const CLASSES = [
    { value: 5, label: 'Full', meaning: 'to 10 % dead twigs' },
    { value: 20, label: 'Thin in places', meaning: 'to a quarter' },
    { value: 40, label: 'Half of it thin', meaning: 'to a half' },
    { value: 70, label: 'Mostly dead', meaning: 'more than half' },
    { value: 100, label: 'Dead', meaning: 'nothing lives' }
  ];
  async function choose(diebackPct: number, label: string): Promise<void> {
    const here = stop;
    const record = await bush.record(here.treeId, lookAt(bush, here.treeId, { diebackPct }));
    walk.finish(here, `Tree ${here.row.tag}: crown ${label.toLowerCase()}`, [record]);
  }
</script>

<div class="flex min-h-0 grow flex-col justify-center gap-3" data-testid="asks">
  <p class="font-slab text-2xl leading-snug font-semibold">Look up. How full is its crown?</p>
  <p class="text-lg">Fine dead branches in the live crown; big dead limbs low in the shade do not count.</p>
  <a class="inline-flex min-h-12 link items-center text-lg" href="/bush/{bush.id}/count/{stop.treeId}"
    >Something else to say of it</a
  >
</div>
<Choices
  {walk}
  choices={CLASSES}
  onchoose={choose}
  instead={{ label: 'Come back later', press: () => void walk.putOff(stop) }}
/>
