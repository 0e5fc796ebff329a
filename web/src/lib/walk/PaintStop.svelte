<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { MARK_SAID } from '$lib/labels/thinning.ts';
  import { HAZARD_WORDS, WILDLIFE_WORDS } from '$lib/labels/taps.ts';

  import { askStewards, markOff } from '$lib/questions/handing.ts';

  import Choices from './Choices.svelte';
  import type { RowStopProps } from './rowRounds.ts';

  /** A mark that is put on a trunk, or put in question by whoever stands before it. */
  const { stop, walk }: RowStopProps = $props();
  const bush = useBush();
  const { row } = $derived(stop);
  const mark = $derived(bush.stateOf(stop.treeId).mark);
  const seen = $derived([
    ...row.hazards.map((each) => HAZARD_WORDS[each]),
    ...row.wildlife.map((each) => WILDLIFE_WORDS[each])
  ]);
  const choices = [
    { value: 'painted' as const, label: 'It is on', meaning: 'the mark stands on the trunk' },
    { value: 'doubted' as const, label: 'Not this tree', meaning: 'the steward is asked' }
  ];
  async function choose(what: 'painted' | 'doubted'): Promise<void> {
    const here = stop;
    if (!mark) return;
    if (what === 'painted') {
      const record = await bush.record(here.treeId, { kind: 'painted', markId: mark.id, note: '' });
      walk.finish(here, `Tree ${here.row.tag}: its mark is on`, [record]);
      return;
    }
    const question = await askStewards(bush, markOff(mark, bush.today), 'Doubted by whoever came to paint it.');
    walk.finish(here, `Tree ${here.row.tag}: the steward is asked`, [question]);
  }
</script>

<div class="flex min-h-0 grow flex-col justify-center gap-3 text-lg" data-testid="asks">
  <p class="font-slab text-2xl leading-snug font-semibold">
    {MARK_SAID[row.mark ?? 'none']}{row.markReason ? `: ${row.markReason}` : ''}.
  </p>
  <p>Put on: {bush.overview!.bush.settings.markPaint}.</p>
  {#if seen.length > 0}<p class="caution text-base">Noted of it: {seen.join(', ')}.</p>{/if}
</div>
<Choices
  {walk}
  {choices}
  columns={1}
  onchoose={choose}
  instead={{ label: 'Come back later', press: () => void walk.putOff(stop) }}
/>
