<script lang="ts">
  import { compassPoint } from '@baumkin/core/math';
  import { SvelteMap } from 'svelte/reactivity';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { HOLE_STATE_WORDS } from '$lib/labels/season.ts';
  import { holesToLookAt, keepClosing, type HoleState } from '$lib/season/keepClosing.ts';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { entriesOf } from '$lib/words/entriesOf.ts';

  import Choices from './Choices.svelte';
  import type { RowStopProps } from './rowRounds.ts';

  /** Old holes of a trunk: closed by wood, a slit, or open. One touch where all are closed. */
  const { stop, walk }: RowStopProps = $props();
  const bush = useBush();
  const holes = $derived(holesToLookAt(bush, stop.treeId));
  const states = new SvelteMap<string, HoleState>();
  const seen = $state({ oozing: false, dyingBark: false, fungus: false });
  const open = $derived(holes.filter(({ id }) => (states.get(id) ?? 'closed') !== 'closed').length);
  const odd = $derived(seen.oozing || seen.dyingBark || seen.fungus);
  const STATES = entriesOf(HOLE_STATE_WORDS).map(([id, label]) => ({ id, label }));
  const choices = $derived([
    open === 0 && !odd
      ? { value: 0, label: 'All closed', meaning: 'wood across each' }
      : { value: 1, label: 'As I set it', meaning: open === 0 ? 'all closed' : `${counted(open, 'hole')} not closed` }
  ]);
  async function choose(): Promise<void> {
    const here = stop;
    const records = await keepClosing(bush, here.treeId, {
      ...$state.snapshot(seen),
      states: new Map([...states].map(([id, state]) => [id, { state, gapMm: null }]))
    });
    const says = open === 0 ? 'old holes closed' : `${counted(open, 'hole')} not closed`;
    walk.finish(here, `Tree ${here.row.tag}: ${says}`, records);
    states.clear();
    [seen.oozing, seen.dyingBark, seen.fungus] = [false, false, false];
  }
</script>

<div class="flex min-h-0 grow flex-col gap-3 overflow-y-auto" data-testid="asks">
  <p class="font-slab text-2xl leading-snug font-semibold">How have its holes closed?</p>
  <ul class="flex flex-col gap-2 text-lg [&_button]:min-h-12">
    {#each holes as hole (hole.id)}
      <li>
        <span class="block"
          ><b>{hole.season}</b>{bush.paintOf(hole.season) ? `, ${bush.paintOf(hole.season)} paint` : ''}: {compassPoint(
            hole.bearingDeg
          )} side, {preferences.length(hole.heightMm, 'hand')} up</span
        >
        <ToggleGroup
          look="boxes"
          label="The hole of {hole.season}"
          options={STATES}
          value={states.get(hole.id) ?? 'closed'}
          onchange={(id) => states.set(hole.id, id)}
        />
      </li>
    {:else}<li>Its holes are not written down one by one.</li>{/each}
  </ul>
  <div class="flex flex-wrap gap-x-5">
    <label class="flex min-h-12 items-center gap-2"
      ><input type="checkbox" class="checkbox" bind:checked={seen.oozing} /> oozes</label
    >
    <label class="flex min-h-12 items-center gap-2"
      ><input type="checkbox" class="checkbox" bind:checked={seen.dyingBark} /> bark dies round it</label
    >
    <label class="flex min-h-12 items-center gap-2"
      ><input type="checkbox" class="checkbox" bind:checked={seen.fungus} /> fungus</label
    >
  </div>
</div>
<Choices
  {walk}
  {choices}
  columns={1}
  onchoose={choose}
  instead={{ label: 'Come back later', press: () => void walk.putOff(stop) }}
/>
