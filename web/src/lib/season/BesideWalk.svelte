<script lang="ts">
  import { besideWalk, countable, suggestionFor, withinMinutes } from '@baumkin/core/bush';
  import { tapForbidden, type TreeRow } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import Slider from '$lib/ui/Slider.svelte';

  /** Which trees are worth tapping beside a path that is walked every day anyway, and what each adds to it. */
  const bush = useBush();
  const paths = $derived(bush.features.filter(({ kind }) => kind === 'path'));
  let pathId = $state('');
  const path = $derived(paths.find(({ id }) => id === pathId) ?? paths[0] ?? null);
  let minutes = $state(20);
  const settings = $derived(bush.overview!.bush.settings);
  /** What is decided, or what the count suggests where nobody decided. */
  function tapsOf(row: TreeRow): number {
    if (row.decidedTaps !== null) return row.decidedTaps;
    const stand = bush.standOf(row);
    if (!countable(row, stand) || tapForbidden(row, stand, bush.today) !== null) return 0;
    return suggestionFor(row, { settings, season: bush.season, today: bush.today, stand }, null).taps;
  }
  const beside = $derived(path ? besideWalk(path, bush.rows, tapsOf) : []);
  const chosen = $derived(withinMinutes(beside, minutes));
  const taps = $derived(chosen.reduce((sum, tree) => sum + tree.taps, 0));
  const SHOWN = 60;
</script>

{#if path && beside.length > 0}
  <details class="mt-6 max-w-[52rem]">
    <summary class="cursor-pointer font-semibold">Taps beside a walk that is made anyway</summary>
    <div class="mt-2 flex flex-col gap-3">
      {#if paths.length > 1}<label class="flex items-center gap-3"
          >Along <select class="select w-64" value={path.id} onchange={(event) => (pathId = event.currentTarget.value)}
            >{#each paths as each (each.id)}<option value={each.id}>{each.name}</option>{/each}</select
          ></label
        >{:else}<p>Along {path.name}.</p>{/if}
      <div class="max-w-sm">
        <Slider label="Minutes that each walk may take longer" min={5} max={120} step={5} bind:value={minutes}>
          {#snippet says()}Each walk may take {counted(minutes, 'minute')} longer{/snippet}
        </Slider>
      </div>
      <p data-testid="beside-walk">
        {counted(taps, 'tap')} at {counted(chosen.length, 'tree')}, the farthest {preferences.length(
          1000 * Math.max(0, ...chosen.map(({ awayM }) => awayM)),
          'ground'
        )} off the way.
      </p>
      <p class="flex flex-wrap gap-x-4 gap-y-1">
        {#each chosen.slice(0, SHOWN) as tree (tree.row.id)}<span
            ><a class="link" href="/bush/{bush.id}/count/{tree.row.id}">{tree.row.tag}</a>
            <span class="aside">{tree.taps > 1 ? `${tree.taps} taps, ` : ''}{tree.minutes.toFixed(1)} min</span></span
          >{/each}{#if chosen.length > SHOWN}<span class="aside">and {chosen.length - SHOWN} more</span>{/if}
      </p>
      <p class="aside">
        There, emptying and back, each time that you pass; taps as decided, or as the count suggests where nobody
        decided.
      </p>
    </div>
  </details>
{/if}
