<script lang="ts">
  import type { TreePlacement } from '@baumkin/core/bush';
  import { barkThickness } from '@baumkin/core/measure';
  import { CLEAR_ENOUGH, type SpotAnswer } from '@baumkin/core/rotation';
  import type { SpotOutlook } from '@baumkin/core/trunk';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { chanceInWords } from '$lib/labels/chance.ts';
  import { inTheWayWords, objectionWords } from '$lib/labels/placement.ts';
  import Term from '$lib/ui/Term.svelte';

  /** What a hole at a spot promises, what is in its way, and where the tape goes on the bit. */
  interface Props {
    outlook: SpotOutlook;
    placing: TreePlacement;
    objections: SpotAnswer['objections'];
    dbhMm: number;
    /** how deep it is drilled, mm of wood */
    depthMm: number;
  }
  const { outlook, placing, objections, dbhMm, depthMm }: Props = $props();
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  /** Less of the path in the way than this is not worth a word. */
  const WORTH_NAMING = 0.02;
  const inTheWay = $derived(
    outlook.inTheWay
      .filter((w) => w.share >= WORTH_NAMING)
      .slice(0, 3)
      .map((w) => ({
        name: inTheWayWords(placing.holes[w.hole], placing.task.trunk.holes[w.hole]!),
        share: w.share
      }))
  );
</script>

<dl class="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5" data-testid="outlook">
  <dt><Term of="likely">Clear wood</Term></dt>
  <dd><b>{chanceInWords(outlook.pClear)}</b>{outlook.pClear < CLEAR_ENOUGH ? ', not clear enough' : ''}</dd>
  <dt>Expected flow</dt>
  <dd>{Math.round(outlook.flow * 100)} % of a hole in clear wood</dd>
  <dt>Clear for</dt>
  <dd>
    {preferences.length(outlook.clearDepthMm, 'drill')} of {preferences.length(depthMm, 'drill')}
  </dd>
  <dt>In the way</dt>
  <dd>
    {#each inTheWay as way, i (way.name + '-' + i)}{i > 0 ? '; ' : ''}{way.name}, {chanceInWords(
        way.share
      )}{:else}nothing{/each}
  </dd>
  {#if objections.length > 0}
    <dt>Against it</dt>
    <dd class="font-semibold text-error" data-testid="against">
      {objections.map(objectionWords).join('; ')}
    </dd>
  {/if}
  <dt>Tape on the bit</dt>
  <dd>
    at {preferences.length(depthMm + barkThickness(dbhMm), 'drill')}: {preferences.length(depthMm, 'drill')} of wood, {preferences.length(
      barkThickness(dbhMm),
      'drill'
    )} of bark; {preferences.length(settings.bitMm, 'bit')} bit
  </dd>
</dl>
