<script lang="ts">
  import { compassPoint } from '@baumkin/core/math';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** Where the holes of the season are on a trunk. */
  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const holes = $derived(bush.stateOf(treeId).holesThisSeason);
</script>

<ul class="text-lg">
  {#each holes as hole (hole.id)}
    <li>
      {compassPoint(hole.bearingDeg)} side, {Math.round(hole.bearingDeg)}°, {preferences.length(hole.heightMm, 'hand')} up
    </li>
  {/each}
</ul>
