<script lang="ts">
  import type { TreePlacement } from '@baumkin/core/bush';
  import { compassPoint } from '@baumkin/core/math';
  import type { TreeState } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** The old holes of a trunk as figures, with the wood that has grown over them. */
  const { placing, shavings }: { placing: TreePlacement; shavings: TreeState['shavings'] } = $props();
  const bush = useBush();
</script>

<details class="mt-2">
  <summary class="cursor-pointer">Old holes as a table ({placing.holes.length})</summary>
  <table class="mt-1 text-left">
    <thead
      ><tr
        ><th class="pr-6">Season</th><th class="pr-6">Side</th><th class="pr-6">Height</th><th class="pr-6"
          >Wood grown over it</th
        ><th>Shavings</th></tr
      ></thead
    >
    <tbody>
      {#each [...placing.holes].reverse() as hole (hole.id)}
        <tr>
          <td>{[hole.season, bush.paintOf(hole.season)].filter(Boolean).join(', ')}</td>
          <td>{compassPoint(hole.bearingDeg)} {Math.round(hole.bearingDeg)}°</td>
          <td>{preferences.length(hole.heightMm, 'hand')}</td>
          <td>{preferences.length(placing.task.trunk.holes[placing.holes.indexOf(hole)]!.buriedMm, 'ring')}</td>
          <td>{shavings.get(hole.id)?.seen ?? ''}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</details>
