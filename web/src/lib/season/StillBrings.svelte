<script lang="ts">
  import { dayAt } from '@baumkin/core/bush';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { shortDay } from '$lib/labels/season.ts';

  import { SeasonDesk } from './desk.svelte.ts';

  /** What a hole that is made today still brings on a tree: said while a season runs, and its weather is known. */
  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  const group = $derived(desk.groups.find(({ treeIds }) => treeIds.includes(treeId)) ?? null);
  const fresh = $derived(group ? desk.outlook(group).fresh : null);
  const tooLittle = $derived(fresh !== null && fresh.litres < desk.settings.leastLitres);
</script>

{#if fresh}
  <p class={tooLittle ? 'caution' : 'aside'} data-testid="still-brings">
    A hole made today still brings about {preferences.fewLitres(fresh.litres)}{fresh.lastRun
      ? `, until about ${shortDay(dayAt(bush.season, fresh.lastRun[1]))}`
      : ''}.{tooLittle
      ? ` That is under the ${preferences.fewLitres(desk.settings.leastLitres)} for which this bush drills: keep the wood.`
      : ''}
  </p>
{/if}
