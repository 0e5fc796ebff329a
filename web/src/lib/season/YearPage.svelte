<script lang="ts">
  import {
    choicesHeld,
    endOf,
    placeReckonings,
    reckonings,
    standReckonings,
    type SeasonReckoning
  } from '@baumkin/core/bush';
  import { writeBatches, writeSapLog } from '@baumkin/core/exchange';
  import { JONES_RULE } from '@baumkin/core/sap';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saveAs } from '$lib/client/decode.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { bottledWords, dayWords } from '$lib/labels/season.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';

  import { capital } from '$lib/words/capital.ts';

  import { SeasonDesk } from './desk.svelte.ts';
  import { lessonsOf } from './lessons.ts';
  import { goThroughYears, type YearsTold } from './goThrough.ts';
  import ThinningWorked from './ThinningWorked.svelte';

  /**
   * What did the year bring, and what should be done otherwise? Sap, sugar, hours and wood are added up, held against the years before
   * and against what was expected, for a page that is read out among the members.
   */
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  const years = $derived(reckonings(bush.bushRecords));
  let season = $state<number | null>(null);
  const of = $derived(years.find((year) => year.season === season) ?? years[0] ?? null);
  const held = $derived(choicesHeld(bush.bushRecords, desk.weather, desk.hole));
  const expected = $derived(of ? (held.find(({ choice }) => choice.season === of.season) ?? null) : null);
  const perTap = (year: SeasonReckoning) => (year.taps ? year.sapLitres / year.taps : null);
  /** what all trees tell; null until they were gone through */
  let told = $state.raw<YearsTold | null>(null);
  $effect(() => {
    void bush.rows;
    void goThroughYears(bush).then(
      (found) => (told = found),
      () => (told = null)
    );
  });
  const brown = $derived(of ? (told?.shavings.get(of.season) ?? null) : null);
  const places = $derived(
    of ? placeReckonings(bush.bushRecords, desk.weather, { season: of.season, settings: desk.settings }) : []
  );
  const stands = $derived(
    standReckonings(places, bush.bushRecords, (treeId) => bush.byId.get(treeId)?.standId ?? null)
  );
  const standName = (id: string | null) => desk.stands.find((stand) => stand.id === id)?.name ?? 'in no stand';
  let hourPrice = $state<number | null>(null);
  let woodPrice = $state<number | null>(null);
  const cost = $derived(
    of && of.syrupLitres > 0 && (hourPrice !== null || woodPrice !== null)
      ? ((hourPrice ?? 0) * of.hours + (woodPrice ?? 0) * of.woodM3) / of.syrupLitres
      : null
  );
  /** is the season that is shown still going on? */
  const goesOn = $derived(
    of !== null &&
      String(of.season) === bush.today.slice(0, 4) &&
      bush.today.slice(5) < '05-15' &&
      endOf(bush.bushRecords, of.season, 'late') === null
  );
  const lessons = $derived(of && !goesOn ? lessonsOf(of, years, expected) : []);

  const litres = (value: number | null) => (value === null ? 'not known' : preferences.fewLitres(value));
</script>

<h1 class="sr-only">The year</h1>
{#if !of}
  <EmptyState title="Nothing to reckon yet">What is collected and boiled is added up here, season by season.</EmptyState
  >
{:else}
  <div class="mb-3 flex flex-wrap items-baseline gap-4">
    <h2 class="grow font-slab text-2xl">{bush.overview!.bush.name}, the season of {of.season}</h2>
    <label class="flex items-center gap-2 print:hidden"
      >Season <select
        class="select w-24 select-sm"
        value={of.season}
        onchange={(event) => (season = Number(event.currentTarget.value))}
        >{#each years as year (year.season)}<option value={year.season}>{year.season}</option>{/each}</select
      ></label
    >
    <button class="btn btn-outline btn-sm print:hidden" onclick={() => print()}>Print the page</button>
  </div>
  <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_21rem]">
    <section class="min-w-0" aria-label="What it brought">
      <p class="max-w-prose text-lg" data-testid="year-sums">
        {counted(of.taps ?? 0, 'tap')} gave {preferences.volume(of.sapLitres)} of sap, {litres(perTap(of))} each{of.brix ===
        null
          ? ''
          : `, with ${of.brix.toFixed(1)} % sugar`}. {of.batches > 0
          ? `${counted(of.batches, 'batch', 'batches')} made ${litres(of.syrupLitres)} of syrup${of.possibleLitres > 0 ? `, ${Math.round((100 * of.syrupLitres) / of.possibleLitres)} % of what the sugar allowed` : ''}.`
          : ''}
      </p>
      <div class="mt-3 overflow-x-auto">
        <table class="w-full text-right whitespace-nowrap" data-testid="years">
          <thead
            ><tr class="border-b-2 border-base-content"
              ><th class="py-1 text-left">Season</th><th class="pl-3">Taps</th><th class="pl-3">Sap</th><th class="pl-3"
                >A tap</th
              ><th class="pl-3">Sugar</th><th class="pl-3">Syrup</th><th class="pl-3">{JONES_RULE} rule</th><th
                class="pl-3">Hours</th
              ><th class="pl-3">Wood</th></tr
            ></thead
          >
          <tbody>
            {#each years as year (year.season)}
              <tr class="border-b border-base-300 {year === of ? 'font-bold' : ''}">
                <td class="py-1 text-left">{year.season}</td><td class="pl-3">{year.taps ?? '–'}</td><td class="pl-3"
                  >{preferences.volume(year.sapLitres)}</td
                ><td class="pl-3">{perTap(year) === null ? '–' : litres(perTap(year))}</td><td class="pl-3"
                  >{year.brix === null ? '–' : `${year.brix.toFixed(1)} %`}</td
                ><td class="pl-3">{litres(year.syrupLitres)}</td><td class="pl-3"
                  >{year.brix === null ? '–' : litres((year.sapLitres * year.brix) / JONES_RULE)}</td
                ><td class="pl-3">{year.hours > 0 ? Math.round(year.hours) : '–'}</td><td class="pl-3"
                  >{year.woodM3 > 0 ? preferences.stacked(year.woodM3) : '–'}</td
                >
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      {#if goesOn}<p class="aside mt-3">The season goes on; what it teaches is said when it is over.</p>{/if}
      {#if lessons.length > 0}
        <h2 class="mt-5">What to change</h2>
        <ul class="list-disc pl-5" data-testid="lessons">
          {#each lessons as lesson (lesson)}<li>{lesson}</li>{/each}
        </ul>
      {/if}
      {#if places.length > 1}
        <h2 class="mt-5">By place</h2>
        <table class="w-full max-w-2xl text-right [&_td+td]:whitespace-nowrap" data-testid="by-place">
          <thead
            ><tr class="border-b-2 border-base-content"
              ><th class="py-1 text-left">Place</th><th class="pl-3">Taps</th><th class="pl-3">Sap</th><th class="pl-3"
                >A tap</th
              ><th class="pl-3">Of what is usual</th></tr
            ></thead
          >
          <tbody>
            {#each places as place (place.placeId)}
              <tr class="border-b border-base-300"
                ><td class="py-1 text-left">{place.name}</td><td class="pl-3">{place.taps}</td><td class="pl-3"
                  >{preferences.volume(place.litres)}</td
                ><td class="pl-3">{litres(place.taps > 0 ? place.litres / place.taps : null)}</td><td class="pl-3"
                  >{place.expected ? `${Math.round((100 * place.litres) / place.expected)} %` : 'not known'}</td
                ></tr
              >
            {/each}
          </tbody>
        </table>
        <p class="aside">
          Against the same number of usual taps of this bush under the same weather. A place that falls behind leaks,
          stands dry, or stands in the cold.
        </p>
      {/if}
      {#if stands.length > 1}
        <h2 class="mt-5">By stand</h2>
        <table class="w-full max-w-2xl text-right [&_td+td]:whitespace-nowrap" data-testid="by-stand">
          <thead
            ><tr class="border-b-2 border-base-content"
              ><th class="py-1 text-left">Stand</th><th class="pl-3">Taps</th><th class="pl-3">A tap</th><th
                class="pl-3">Of what is usual</th
              ><th class="pl-3">Brown wood</th></tr
            ></thead
          >
          <tbody>
            {#each stands as stand (stand.standId)}
              {@const shavings = brown?.byStand.get(stand.standId)}
              <tr class="border-b border-base-300"
                ><td class="py-1 text-left">{standName(stand.standId)}</td><td class="pl-3">{Math.round(stand.taps)}</td
                ><td class="pl-3">{litres(stand.taps > 0 ? stand.litres / stand.taps : null)}</td><td class="pl-3"
                  >{stand.expected ? `${Math.round((100 * stand.litres) / stand.expected)} %` : 'not known'}</td
                ><td class="pl-3"
                  >{shavings ? `${shavings.brown} of ${counted(shavings.seen, 'hole')}` : 'not looked at'}</td
                ></tr
              >
            {/each}
          </tbody>
        </table>
        {#if stands.some(({ shared }) => shared)}<p class="aside">
            A place that takes sap of several stands is shared out by how many of its trees stand in each.
          </p>{/if}
      {/if}
      <div class="mt-5 flex flex-wrap gap-3 print:hidden">
        <button class="btn btn-outline btn-sm" onclick={() => saveAs('sap-log.csv', writeSapLog(bush.bushRecords))}
          >Take the sap log as CSV</button
        >
        <button class="btn btn-outline btn-sm" onclick={() => saveAs('batches.csv', writeBatches(bush.bushRecords))}
          >Take the batches as CSV</button
        >
      </div>
      <ThinningWorked done={told?.thinnings ?? []} {desk} />
    </section>
    <section class="flex flex-col gap-3" aria-label="Beside it">
      {#if expected}
        <h2>Expected, and come</h2>
        <p>
          Begun on {dayWords(expected.choice.beginOn)}, with {litres(expected.choice.expectedLitres)} a tap expected. By its
          weather the season then had {expected.came
            ? `${litres(expected.came.litres)} in it; ${litres(perTap(of))} were collected.`
            : 'more to give than is known yet.'}
        </p>
      {/if}
      <h2>Where it went</h2>
      <p>
        {capital(bottledWords(of.bottled, preferences))}{of.usedAsSap > 0
          ? `; ${preferences.volume(of.usedAsSap)} used as sap`
          : ''}{of.pouredLitres > 0 ? `; ${preferences.volume(of.pouredLitres)} poured away` : ''}.
      </p>
      {#if brown}<p data-testid="brown-share">
          Of {counted(brown.seen, 'hole')} whose shavings were seen, {Math.round((100 * brown.brown) / brown.seen)} in 100
          met brown wood.
        </p>{/if}
      <div class="contents {cost === null ? '*:print:hidden' : ''}">
        <h2>What a litre cost</h2>
        <p class="aside print:hidden">If you like; nothing of it is stored.</p>
        <label class="flex items-center gap-2"
          ><span class="grow">an hour of work</span><input
            class="input w-24"
            type="number"
            min="0"
            step="any"
            bind:value={hourPrice}
          /></label
        >
        <label class="flex items-center gap-2"
          ><span class="grow">a cubic metre of wood</span><input
            class="input w-24"
            type="number"
            min="0"
            step="any"
            bind:value={woodPrice}
          /></label
        >
        {#if cost !== null}<p class="text-lg" data-testid="cost">
            {cost.toFixed(2)} a litre of syrup, from {Math.round(of.hours)} hours and {preferences.stacked(of.woodM3)}.
          </p>{/if}
      </div>
    </section>
  </div>
{/if}
