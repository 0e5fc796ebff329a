<script lang="ts">
  import {
    carryingProblem,
    collectionsOf,
    hoursAhead,
    inWalkingOrder,
    placesToPlan,
    roundCosts,
    roundTime,
    standsIn,
    type PlaceNow,
    type RoundsQuestion
  } from '@baumkin/core/bush';
  import type { CollectingPlaceRecord, CollectionRecord } from '@baumkin/core/records';
  import { dayAfter, DAY_HOURS, type RoundsPlan } from '@baumkin/core/season';
  import { onDestroy } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { CARRIER_WORDS, dayWords, hourWords, shortDay, VESSEL_WORDS } from '$lib/labels/season.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import { listed } from '$lib/words/listed.ts';
  import { LongRun } from '$lib/workers/longRun.svelte.ts';

  import BesideWalk from './BesideWalk.svelte';
  import { SeasonDesk } from './desk.svelte.ts';
  import LogCollection from './LogCollection.svelte';
  import PlaceForm from './PlaceForm.svelte';
  import WrittenDown from './WrittenDown.svelte';

  /**
   * Who carries what where, before it runs over or spoils? The page reckons what stands in every vessel and what comes, holds what
   * would be lost against what going costs, and names the rounds that are worth it; none is an answer.
   */
  const bush = useBush();
  const desk = new SeasonDesk(bush);

  const clock = new Date();
  const hour = clock.getHours() + Math.floor(clock.getMinutes() / 30) / 2;
  const question = $derived<RoundsQuestion>({
    weather: desk.weather,
    places: desk.places,
    season: bush.season,
    today: bush.today,
    hour: Math.floor(hour),
    known: desk.known,
    litresAnHour: desk.settings.litresAnHour
  });
  const byId = $derived(new Map(desk.places.map((now) => [now.place.id, now])));
  const stands = $derived(new Map(desk.places.map((now) => [now.place.id, standsIn(now, question)])));
  /** Days that rounds are planned for. */
  const DAYS = 3;
  /** Hours at which people go. */
  const GOING_HOURS = [7, 10, 13, 16, 18];

  let plan = $state.raw<RoundsPlan | null>(null);
  const long = new LongRun();
  onDestroy(() => long.stop());
  const asks = $derived.by(() => {
    const ahead = hoursAhead(question).map(({ weight, temperatures, litresATap }) => ({
      weight,
      temperatures: temperatures.slice(0, DAYS * DAY_HOURS),
      litresATap: litresATap.slice(0, DAYS * DAY_HOURS)
    }));
    const places = placesToPlan(question);
    const many = ahead[0]?.temperatures.length ?? 0;
    const hours = Array.from({ length: many }, (_, at) => at).filter((at) =>
      GOING_HOURS.includes((question.hour + at) % DAY_HOURS)
    );
    return { places, ahead, hours };
  });
  $effect(() => {
    const { places, ahead, hours } = asks;
    const costs = roundCosts(desk.settings.litresAnHour);
    if (places.length === 0 || ahead.length === 0 || hours.length === 0) {
      plan = null;
      return;
    }
    void long
      .run((remote) => remote.planRounds(places, ahead, { hours, costs }))
      .then((found) => found && (plan = found));
  });
  /** A moment so many hours from now, as people say it. */
  function momentOf(hours: number): string {
    const at = question.hour + hours;
    const on = dayAfter(bush.today, Math.floor(at / DAY_HOURS));
    const day = on === bush.today ? 'today' : on === dayAfter(bush.today) ? 'tomorrow' : dayWords(on);
    return `${day} at ${hourWords(at % DAY_HOURS)}`;
  }
  const rounds = $derived(
    (plan?.rounds ?? []).map((round) => {
      const places = inWalkingOrder(round.places.flatMap((id) => byId.get(id) ?? []));
      return { ...round, places, time: roundTime(places, round.litres, desk.settings.people) };
    })
  );
  const first = $derived(rounds[0] ?? null);
  const hindered = $derived(
    desk.places.map((now) => ({ now, by: carryingProblem(now, desk.weather, desk.settings.snowMm) }))
  );
  const muddy = $derived(hindered.flatMap(({ now, by }) => (by === 'mud' || by === 'frozenMornings' ? now : [])));
  const bare = $derived(hindered.flatMap(({ now, by }) => (by === 'bareGround' ? now : [])));
  const firstLoss = $derived(
    plan ? [...plan.firstLoss.values()].filter((at) => at !== null).sort((a, b) => a - b)[0] : undefined
  );

  const emptied = $derived(collectionsOf(bush.bushRecords, bush.season));
  const emptiedWords = ({ placeId, hour, litres, went }: CollectionRecord) =>
    `${placeId === null ? 'the whole bush' : (byId.get(placeId)?.place.name ?? 'a place that is gone')} at ${hourWords(hour)}, ${preferences.volume(litres)}${went === 'pouredAway' ? ', poured away' : ''}`;

  let logged = $state.raw<PlaceNow | null>(null);
  let formOpen = $state(false);
  let changed = $state.raw<CollectingPlaceRecord | null>(null);

  /** Trees that are tapped and whose sap goes nowhere yet. */
  const homeless = $derived.by(() => {
    const placed = new Set(desk.places.flatMap(({ place }) => place.treeIds));
    return desk.groups.flatMap(({ treeIds }) => treeIds).filter((id) => !placed.has(id));
  });
  async function oneAStand(): Promise<void> {
    const { vessel, vacuum, vesselLitres, carrier } = desk.settings;
    for (const stand of [...desk.stands, null]) {
      const treeIds = homeless.filter((id) => (bush.byId.get(id)?.standId ?? null) === (stand?.id ?? null));
      if (treeIds.length === 0) continue;
      const record = await bush.recordOfBush({
        kind: 'collectingPlace',
        name: (stand?.name ?? 'Other trees').slice(0, 60),
        of: 'maple',
        vessel,
        vacuum,
        litres: vesselLitres,
        vessels: vessel === 'tank' ? 1 : null,
        rimMm: null,
        tubeMm: null,
        carrier,
        treeIds,
        eastM: null,
        northM: null,
        note: ''
      });
      saved(bush, `${stand?.name ?? 'Other trees'} is a collecting place.`, record);
    }
  }
  const lossOf = (id: string) => plan?.firstLoss.get(id) ?? null;
</script>

<h1 class="sr-only">Rounds</h1>
{#if desk.places.length === 0 && desk.groups.length === 0}
  <EmptyState title="Nothing is tapped yet" next={{ label: 'Place', href: `/bush/${bush.id}/place` }}
    >Rounds begin with the first hole of the season.</EmptyState
  >
{:else}
  <section aria-label="The next rounds" data-testid="rounds">
    {#if desk.places.length === 0}
      <p class="font-slab text-xl">Where is the sap collected?</p>
      <p class="mt-1 max-w-prose">
        A place is what is emptied in one go: the buckets of a stand, the tank of a line, a single tree. Each then says
        when it runs over and when its sap spoils, and the rounds of the coming days are planned.
      </p>
    {:else if plan && first}
      <p class="font-slab text-xl leading-snug">
        Next round {momentOf(first.hour)}: {first.places.length === desk.places.length && desk.places.length > 1
          ? 'all places'
          : listed(first.places.map(({ place }) => place.name))}, about {preferences.volume(first.litres)}.
      </p>
      <p class="mt-1">
        One in ten times it is {preferences.volume(first.highLitres)} or more. {counted(first.time.trips, 'load')} for {counted(
          desk.settings.people,
          'person',
          'people'
        )}, about {counted(Math.round(first.time.minutes / 5) * 5, 'minute')}. Without any round {preferences.volume(
          plan.lostWithout
        )} would run over or spoil in {DAYS} days, with this plan {preferences.volume(plan.lostLitres)}.
      </p>
    {:else if plan}
      <p class="font-slab text-xl">
        No round {firstLoss === undefined ? `in the next ${DAYS} days` : 'is worth the way yet'}.
      </p>
      <p class="mt-1">
        {firstLoss === undefined
          ? 'Nothing would run over and nothing spoil, even one in ten times.'
          : `What would be lost, ${preferences.volume(plan.lostWithout)} in ${DAYS} days, is less than the way is worth: an hour of somebody counts as ${preferences.volume(desk.settings.litresAnHour)} of sap.`}
      </p>
    {:else if desk.drilled === 0}
      <p class="font-slab text-xl">No hole is drilled yet.</p>
    {:else if desk.weather.ahead.length === 0}
      <p class="font-slab text-xl">Nobody foretells the coming days, so no round can be planned.</p>
      <p class="mt-1">Look at the vessels by three in the afternoon of any day that thaws after a frost.</p>
    {/if}
    <LongRunStatus run={long} what="The rounds of the coming days" />
    {#if muddy.length > 0}<p class="caution mt-2 max-w-prose">
        {listed(muddy.map(({ place }) => place.name))}: the ground thaws by day. Go with the vehicle while it is frozen
        in the morning, or carry; ruts stay for years and cut roots.
      </p>{/if}
    {#if bare.length > 0}<p class="caution mt-2 max-w-prose" data-testid="bare-ground">
        {listed(bare.map(({ place }) => place.name))}: {desk.settings.snowMm > 0
          ? `by the warmth since the holes were made, the usual ${preferences.length(desk.settings.snowMm, 'hand')} of snow are gone or nearly`
          : 'by the settings no snow lies here at tapping'}. Look at the ground before the sled is loaded; over bare
        earth carry by yoke or hand.
      </p>{/if}
    {#if rounds.length > 0}
      <ol class="mt-3 grid gap-x-8 gap-y-3 md:grid-cols-2 lg:grid-cols-3">
        {#each rounds as round, i (round.hour)}
          <li class="border-l-[6px] pl-3 {i === 0 ? 'border-primary' : 'border-base-300'}">
            <b>{momentOf(round.hour)}</b>: {preferences.volume(round.litres)}, {counted(round.time.trips, 'load')}
            <span class="aside block">{listed(round.places.map(({ place }) => place.name))}</span>
          </li>
        {/each}
      </ol>
    {/if}
  </section>
  {#if desk.places.length > 0}
    <h2 class="mt-6 mb-1">Places</h2>
    <ul data-testid="places">
      {#each desk.places as now (now.place.id)}
        {@const here = stands.get(now.place.id)!}
        {@const loss = lossOf(now.place.id)}
        <li
          class="grid items-center gap-x-4 gap-y-1 border-t border-base-300 py-2 md:grid-cols-[minmax(0,1.4fr)_9rem_minmax(0,1.5fr)_auto]"
        >
          <div class="min-w-0">
            <b>{now.place.name}</b>
            <span class="aside block"
              >{counted(now.taps, 'tap')}, {VESSEL_WORDS[now.place.vessel]}, {CARRIER_WORDS[now.place.carrier]}</span
            >
          </div>
          <div>
            <div class="h-3 w-full border border-base-content">
              <div
                class="h-full bg-info/60"
                style:width="{Math.min(100, (100 * here.litres) / now.holdsLitres)}%"
              ></div>
            </div>
            <span class="aside">about {preferences.volume(here.litres)} of {preferences.volume(now.holdsLitres)}</span>
          </div>
          <div>
            {here.turned >= 1
              ? 'What stands there has spoiled by the reckoning: look and smell before you keep it.'
              : loss !== null
                ? `Something is lost from ${momentOf(loss)} on, one in ten times.`
                : plan
                  ? `Nothing is lost in ${DAYS} days.`
                  : ''}
            <span class="aside block"
              >{now.last
                ? `emptied ${shortDay(now.last.on)} at ${hourWords(now.last.hour)}: ${preferences.volume(now.last.litres)}`
                : 'not emptied yet this season'}</span
            >
          </div>
          {#if bush.mayRecord}
            <div class="flex gap-2">
              <button class="btn h-12 grow btn-outline" onclick={() => (logged = now)}>Log</button>
              {#if bush.mayDecide}<button
                  class="btn h-12 btn-ghost"
                  aria-label="Change {now.place.name}"
                  onclick={() => ((changed = now.place), (formOpen = true))}>Change</button
                >{/if}
            </div>
          {/if}
        </li>
      {/each}
    </ul>
  {/if}
  {#if bush.mayDecide}
    <div class="mt-4 flex flex-wrap items-center gap-3">
      {#if homeless.length > 0 && desk.stands.length > 0}<button
          class="btn {desk.places.length === 0 ? 'btn-primary' : 'btn-outline'}"
          onclick={oneAStand}>One place for each stand</button
        >{/if}
      <button class="btn btn-outline" onclick={() => ((changed = null), (formOpen = true))}>A place of its own</button>
      {#if homeless.length > 0 && desk.places.length > 0}<span class="aside"
          >The sap of {counted(homeless.length, 'tapped tree')} goes nowhere yet.</span
        >{/if}
    </div>
  {/if}
  {#if desk.known.collections > 0}
    <p class="aside mt-5 max-w-prose" data-testid="learned">
      From {counted(desk.known.collections, 'collection')} of this bush: a fresh tap gives {preferences.fewLitres(
        desk.known.litresAtFull
      )} on the best of days (common practice says {preferences.fewLitres(5.5)}); single collections stray by {Math.round(
        100 * (Math.exp(desk.known.daySd) - 1)
      )} % from what is expected.
    </p>
  {/if}
{/if}
<WrittenDown title="What was emptied this season" records={emptied} say={emptiedWords} />
<BesideWalk />
<LogCollection bind:now={logged} expected={logged ? (stands.get(logged.place.id)?.litres ?? null) : null} />
<PlaceForm bind:open={formOpen} of={changed} />
