<script lang="ts">
  import { dayAt, dayOfSeason } from '@baumkin/core/bush';
  import { otherSapOfTree } from '@baumkin/core/records';
  import { seasonLeft } from '@baumkin/core/season';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { groupWords, shortDay } from '$lib/labels/season.ts';

  import ClosingForm from './ClosingForm.svelte';
  import { SeasonDesk } from './desk.svelte.ts';
  import OtherSapIs from './OtherSapIs.svelte';

  /**
   * Is a hole here still worth its wood, and how long do those run that are made? For one tree the page says what a tap still brings
   * until its season ends.
   */
  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  const row = $derived(bush.byId.get(treeId)!);
  const group = $derived(desk.groups.find(({ treeIds }) => treeIds.includes(treeId)) ?? null);
  const other = $derived(otherSapOfTree(row));
  const outlook = $derived(group ? desk.outlook(group) : null);
  const place = $derived(desk.places.find((now) => now.place.treeIds.includes(treeId)) ?? null);
  const holes = $derived(bush.stateOf(treeId).tapholes.filter(({ season }) => season === bush.season));
  const at = $derived(dayOfSeason(bush.today, bush.season));
  const left = $derived(
    holes.map((hole) => ({
      hole,
      left:
        outlook && outlook.scenarios.length > 0 && at >= 0
          ? seasonLeft(outlook.scenarios, { drilled: dayOfSeason(hole.on, bush.season), today: at }, desk.hole)
          : null
    }))
  );
  const litres = (value: number) => preferences.fewLitres(value);
  const toDrill = $derived(Math.max(0, (row.decidedTaps ?? 0) - holes.length));
</script>

<div class="flex max-w-[46rem] flex-col gap-4">
  {#if other !== null}
    <OtherSapIs kind={other} />
    {#each holes as hole (hole.id)}<p>
        <b>Drilled {shortDay(hole.on)}</b>, {preferences.length(hole.heightMm, 'hand')} up.
      </p>{/each}
  {:else if !group}
    <p class="text-lg">
      No tap is decided here for the season {bush.season}, and none is drilled.
      <a class="link" href="/bush/{bush.id}/count/{row.id}">How many it bears</a>
    </p>
  {:else}
    <p class="text-lg">It runs with the {groupWords(group)}.</p>
    {#if toDrill > 0}
      <div
        class="border-l-[6px] pl-4 {outlook?.fresh && outlook.fresh.litres < desk.settings.leastLitres
          ? 'border-error'
          : 'border-primary'}"
      >
        <p class="font-slab text-xl">{counted(toDrill, 'tap')} not drilled yet</p>
        <p data-testid="still-brings">
          {#if outlook?.fresh}
            A hole made today still brings about {litres(outlook.fresh.litres)} ({litres(outlook.fresh.low)} to {litres(
              outlook.fresh.high
            )}){outlook.fresh.lastRun ? `, until about ${shortDay(dayAt(bush.season, outlook.fresh.lastRun[1]))}` : ''}.
            {outlook.fresh.litres < desk.settings.leastLitres
              ? `That is under the ${litres(desk.settings.leastLitres)} for which this bush drills: keep the wood.`
              : ''}
          {:else if outlook?.usual}
            Begun on {shortDay(dayAt(bush.season, outlook.usual.best.day))} it brings about {litres(
              outlook.usual.best.litres
            )} in an average year.
          {:else}What it will bring is not known: no year of weather is in the book.{/if}
        </p>
      </div>
    {/if}
    {#each left as { hole, left: rest } (hole.id)}
      <div class="border-t border-base-300 pt-2">
        <p>
          <b>Drilled {shortDay(hole.on)}</b>, {preferences.length(hole.heightMm, 'hand')} up.
          {#if rest}{rest.over > 0.5
              ? 'Its season is over, as far as weather and buds tell.'
              : `It still brings about ${litres(rest.litres)} on some ${counted(Math.round(rest.runs), 'day')} until about ${rest.lastRun ? shortDay(dayAt(bush.season, rest.lastRun[1])) : 'now'}.`}{/if}
        </p>
      </div>
    {/each}
    <p>
      {place ? `Its sap goes to ${place.place.name}.` : 'It belongs to no collecting place yet.'}
      <a class="link" href="/bush/{bush.id}/season/rounds">Rounds</a>
    </p>
  {/if}
  <ClosingForm {treeId} />
</div>
