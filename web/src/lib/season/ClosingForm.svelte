<script lang="ts">
  import { compassPoint } from '@baumkin/core/math';
  import { untrack } from 'svelte';
  import { SvelteMap } from 'svelte/reactivity';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { HOLE_STATE_WORDS } from '$lib/labels/season.ts';
  import { entriesOf } from '$lib/words/entriesOf.ts';

  import { holesToLookAt, keepClosing, type HoleState } from './keepClosing.ts';

  /** A summer's look at the holes of one tree, with the width that is still open. */
  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const holes = $derived(holesToLookAt(bush, treeId));
  const last = $derived(bush.stateOf(treeId).closings.at(-1) ?? null);
  const states = new SvelteMap<string, { state: HoleState; gapMm: number | null }>();
  let oozing = $state(false);
  let dyingBark = $state(false);
  let fungus = $state(false);
  const stateOf = (id: string) => states.get(id) ?? { state: 'closed' as const, gapMm: null };
  const open = $derived(holes.filter(({ id }) => stateOf(id).state !== 'closed').length);
  const problem = $derived(
    holes.some(({ id, bitMm }) => (stateOf(id).gapMm ?? 0) > bitMm + 2)
      ? 'A gap is no wider than the hole was: is it in millimetres?'
      : null
  );
  async function keep(): Promise<void> {
    const records = await keepClosing(bush, treeId, { states: new Map(states), oozing, dyingBark, fungus });
    states.clear();
    untrack(() => ([oozing, dyingBark, fungus] = [false, false, false]));
    saved(bush, open === 0 ? 'All closed.' : `${counted(open, 'hole')} not closed.`, ...records);
  }
</script>

{#if holes.length > 0}
  <form
    class="flex flex-col gap-2"
    data-testid="closing-form"
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    <h2>How its holes close</h2>
    {#if last}<p class="aside">Last looked at on {last.on}.</p>{/if}
    {#each holes as hole (hole.id)}
      {@const now = stateOf(hole.id)}
      <div class="flex flex-wrap items-center gap-3 border-t border-base-300 pt-2">
        <span class="w-60"
          ><b>{hole.season}</b>: {compassPoint(hole.bearingDeg)} side, {preferences.length(hole.heightMm, 'hand')} up</span
        >
        <select
          class="select w-28"
          aria-label="The hole of {hole.season}"
          value={now.state}
          onchange={(event) => states.set(hole.id, { ...now, state: event.currentTarget.value as HoleState })}
        >
          {#each entriesOf(HOLE_STATE_WORDS) as [id, label] (id)}<option value={id}>{label}</option>{/each}
        </select>
        {#if now.state !== 'closed'}<label class="flex items-center gap-2"
            >still <input
              class="input w-20"
              type="number"
              min="0"
              max="60"
              step="0.5"
              value={now.gapMm}
              onchange={(event) =>
                states.set(hole.id, {
                  ...now,
                  gapMm: event.currentTarget.value === '' ? null : event.currentTarget.valueAsNumber
                })}
            /> mm wide</label
          >{/if}
      </div>
    {/each}
    <div class="flex flex-wrap gap-x-5">
      <label class="flex items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={oozing} /> oozes</label
      >
      <label class="flex items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={dyingBark} /> bark dies round it</label
      >
      <label class="flex items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={fungus} /> fungus</label
      >
    </div>
    {#if problem}<p role="alert" class="text-error">{problem}</p>{/if}
    {#if bush.mayRecord}<button class="btn self-start btn-primary" disabled={problem !== null}
        >{open === 0 ? 'All closed' : 'Write it down'}</button
      >{/if}
  </form>
{/if}
