<script lang="ts">
  import { counted } from '$lib/labels/counted.ts';
  import { drillForbidden, isSugarbush } from '@baumkin/core/records';
  import { collectingPoints, type CollectingPoint } from '@baumkin/core/stand';
  import { tapGuidelineOf, guidelineTaps } from '@baumkin/core/taps';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** Where many taps hang close together: the places to carry buckets to. */
  let {
    points = $bindable(),
    reachM = $bindable(),
    onchoose
  }: {
    points: readonly CollectingPoint[];
    reachM: number;
    onchoose: (ids: string[]) => void;
  } = $props();
  const bush = useBush();
  let leastTaps = $state(5);
  const metric = $derived(preferences.units === 'metric');
  const STEP = $derived(metric ? 1 : 0.3048 * 5);

  const tapped = $derived.by(() => {
    const guideline = tapGuidelineOf(bush.overview!.bush.settings);
    return bush.rows.flatMap((row) => {
      const stand = bush.standOf(row);
      if (row.eastM === null || row.northM === null || !isSugarbush(stand)) return [];
      if (drillForbidden(row, stand, bush.today) !== null) return [];
      const taps = row.decidedTaps ?? (row.dbhMm === null ? 0 : guidelineTaps(guideline, row.dbhMm));
      return taps > 0 ? [{ id: row.id, eastM: row.eastM, northM: row.northM, taps }] : [];
    });
  });
  const undecided = $derived(tapped.filter((tree) => bush.byId.get(tree.id)!.decidedTaps === null).length);
  const found = $derived(collectingPoints(tapped, reachM, leastTaps));
  $effect(() => {
    points = found;
  });
  const all = $derived(tapped.reduce((sum, tree) => sum + tree.taps, 0));
  const held = $derived(found.reduce((sum, point) => sum + point.taps, 0));
  const reach = $derived(preferences.length(reachM * 1000, 'ground'));
</script>

<section aria-labelledby="collect" class="flex flex-col gap-3" data-testid="collect">
  <h2 id="collect">Where to collect</h2>
  {#if all === 0}
    <p>No maple with a place on the map bears a tap yet.</p>
  {:else}
    <p class="text-lg">
      <b>{held}</b> of {all} taps hang within {reach} of <b>{found.length}</b>
      {found.length === 1 ? 'place' : 'places'}. The other {all - held} stand apart: worth a line, or leaving out.
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
    {#each found as point, i (point.at.id)}
      <li class="flex items-baseline gap-2 border-b border-base-300/60 py-1">
        <b class="w-6 text-right">{i + 1}</b>
        <span class="grow">{point.taps} taps on {point.trees.length} trees, at {bush.byId.get(point.at.id)?.tag}</span>
        <button class="link" onclick={() => onchoose(point.trees.map((tree) => tree.id))}>Choose</button>
      </li>
    {/each}
  </ol>
</section>
