<script lang="ts">
  import { compassPoint } from '@baumkin/core/math';
  import type { PlannedHole } from '@baumkin/core/rotation';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** The holes that are planned with this season's, as figures. */
  let { plan, open = $bindable(false) }: { plan: readonly PlannedHole[]; open?: boolean } = $props();
  const bush = useBush();
</script>

<details class="mt-3" bind:open>
  <summary class="cursor-pointer">The coming seasons as a list ({plan.length} holes)</summary>
  <p class="aside mt-1 max-w-xl">
    Planned together, so that the later ones keep clear wood. They stay where they are from season to season, and move
    only where something new makes another plan clearly better.
  </p>
  <table class="mt-1 text-left" data-testid="rotation">
    <thead
      ><tr><th class="pr-6">Season</th><th class="pr-6">Side</th><th class="pr-6">Height</th><th>Expected loss</th></tr
      ></thead
    >
    <tbody>
      {#each plan as hole, i (i)}
        <tr>
          <td>{[bush.season + hole.season, bush.paintOf(bush.season + hole.season)].filter(Boolean).join(', ')}</td>
          <td>{compassPoint(hole.bearingDeg)} {Math.round(hole.bearingDeg)}°</td>
          <td>{preferences.length(hole.heightMm, 'hand')}</td>
          <td>{hole.lost < 0.005 ? 'none' : `${Math.round(100 * hole.lost)} %`}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</details>
