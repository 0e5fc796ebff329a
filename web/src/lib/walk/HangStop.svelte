<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';

  import Choices from './Choices.svelte';
  import HolesOfSeason from './HolesOfSeason.svelte';
  import type { RowStopProps } from './rowRounds.ts';

  /** The vessels of one tree: hung, or a spout that does not hold. */
  const { stop, walk }: RowStopProps = $props();
  const bush = useBush();
  const choices = [
    { value: '', label: 'All hang', meaning: 'each spout sat when tugged' },
    { value: 'a spout sat loose and was set anew', label: 'One was loose', meaning: 'set anew, and hung' }
  ];
  async function choose(note: string): Promise<void> {
    const here = stop;
    const record = await bush.record(here.treeId, { kind: 'hanging', season: bush.season, note });
    walk.finish(here, `Tree ${here.row.tag}: ${counted(here.row.drilled, 'vessel')} hung`, [record]);
  }
</script>

<div class="flex min-h-0 grow flex-col justify-center gap-3" data-testid="asks">
  <p class="font-slab text-2xl leading-snug font-semibold">Hang {counted(stop.row.drilled, 'vessel')}.</p>
  <HolesOfSeason treeId={stop.treeId} />
</div>
<Choices
  {walk}
  {choices}
  columns={1}
  onchoose={choose}
  instead={{ label: 'Come back later', press: () => void walk.putOff(stop) }}
/>
