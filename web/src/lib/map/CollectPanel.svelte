<script lang="ts">
  import type { TappedTree } from '@baumkin/core/bush';
  import type { CollectingPoint } from '@baumkin/core/stand';

  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** Where many taps hang close together: the places to carry buckets to. */
  interface Props {
    tapped: readonly TappedTree[];
    points: readonly CollectingPoint[];
    /** how far a full bucket is carried */
    reachM: number;
    /** a place with fewer taps is none */
    leastTaps: number;
    onchoose: (ids: string[]) => void;
  }
  let { tapped, points, reachM = $bindable(), leastTaps = $bindable(), onchoose }: Props = $props();
  const bush = useBush();
  const metric = $derived(preferences.units === 'metric');
  const STEP = $derived(metric ? 1 : 0.3048 * 5);

  const undecided = $derived(tapped.filter(({ decided }) => !decided).length);
  const all = $derived(tapped.reduce((sum, tree) => sum + tree.taps, 0));
  const held = $derived(points.reduce((sum, point) => sum + point.taps, 0));
  const reach = $derived(preferences.length(reachM * 1000, 'ground'));
</script>

<section aria-labelledby="collect" class="flex flex-col gap-3" data-testid="collect">
  <h2 id="collect">Where to collect</h2>
  {#if all === 0}
    <p>No maple with a place on the map bears a tap yet.</p>
  {:else}
    <p class="text-lg">
      <b>{held}</b> of {all} taps hang within {reach} of <b>{points.length}</b>
      {points.length === 1 ? 'place' : 'places'}. The other {all - held} stand apart: worth a line, or leaving out.
    </p>
    {#if undecided > 0}
      <p class="aside">
        {counted(undecided, 'tree is', 'trees are')} not decided yet: counted by size, after the bush’s ladder.
      </p>
    {/if}
  {/if}
  <label class="flex flex-col gap-1"
    >A full bucket is carried up to {reach}
    <input
      type="range"
      class="range range-sm"
      min={STEP * (metric ? 8 : 5)}
      max={STEP * (metric ? 60 : 40)}
      step={STEP}
      bind:value={reachM}
    /></label
  >
  <label class="flex flex-col gap-1"
    >A place is worth it from {leastTaps} taps
    <input type="range" class="range range-sm" min="2" max="20" bind:value={leastTaps} /></label
  >
  <ol class="text-sm">
    {#each points as point, i (point.at.id)}
      <li class="flex items-baseline gap-2 border-b border-base-300/60 py-1">
        <b class="w-6 text-right">{i + 1}</b>
        <span class="grow">{point.taps} taps on {point.trees.length} trees, at {bush.byId.get(point.at.id)?.tag}</span>
        <button class="link" onclick={() => onchoose(point.trees.map((tree) => tree.id))}>Choose</button>
      </li>
    {/each}
  </ol>
</section>
