<script lang="ts">
  import { dayAt, stripOf, usualRuns } from '@baumkin/core/bush';
  import { dayAfter, daysBetween, RUNS_FROM } from '@baumkin/core/season';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { daysInWords, shortDay } from '$lib/labels/season.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';

  import { SeasonDesk } from './desk.svelte.ts';
  import { marksOf } from './marks.ts';
  import Strip from './Strip.svelte';
  import WhatNext from './WhatNext.svelte';

  /**
   * Is it running, and what is to be done about it? The page reads frost and thaw for whoever stands at the door in the morning, and
   * says with the reason what she would have to work out from two columns of figures and last week's memory.
   */
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  const { asker } = desk;

  const year = $derived(Number(bush.today.slice(0, 4)));
  /** the season that is shown: this year's until the next one is near */
  const running = $derived(bush.today.slice(5) < '07-01' ? year : bush.today.slice(5) >= '12-01' ? bush.season : year);
  const known = $derived([...new Set([...desk.years.map(({ season }) => season), running])].sort((a, b) => b - a));
  let season = $state<number | null>(null);
  const of = $derived(season ?? running);
  let look = $state<'weeks' | 'all'>('weeks');
  /** on a phone fewer days fit: today stands at the third all the same */
  const narrow = window.innerWidth < 640;
  const inSeason = $derived(of === year && bush.today >= dayAt(of, 0) && bush.today <= dayAt(of, 150));
  const [from, until] = $derived(
    look === 'weeks' && inSeason
      ? [dayAfter(bush.today, narrow ? -7 : -14), dayAfter(bush.today, narrow ? 14 : 28)]
      : [dayAt(of, 9), dayAt(of, 134)]
  );
  const days = $derived(stripOf(desk.weather, { from, until, sunny: desk.groups[0]?.sunny ?? false }));
  const runDays = $derived(days.filter(({ index, on }) => index >= RUNS_FROM && on < bush.today).length);
  const shares = $derived(usualRuns(desk.years));
  function usual(on: string): number | null {
    const share = shares[daysBetween(`${on.slice(0, 4)}-01-01`, on)] ?? NaN;
    return Number.isNaN(share) ? null : share;
  }
  const marks = $derived(marksOf(bush, of));
  const [todayRun, tomorrowRun] = $derived(desk.runs);
  const age = $derived(desk.weather.foretold ? daysBetween(desk.weather.foretold.on, bush.today) : null);
</script>

<h1 class="sr-only">The season now</h1>
{#if desk.weather.past.length === 0 && desk.weather.ahead.length === 0}
  <EmptyState title="No weather yet" next={{ label: 'Bring weather in', href: `/bush/${bush.id}/season/weather` }}
    >Everything here is told from the lowest and the highest temperature of each day. A file of the nearest station,
    back as many years as it has, says when to drill; two figures a day, typed in the morning, say how it runs.</EmptyState
  >
{:else}
  <div class="mb-3 max-w-[62rem] font-slab text-xl leading-snug" data-testid="how-it-runs">
    {#if inSeason}{#each daysInWords(todayRun, tomorrowRun) as words (words)}<p>{words}</p>{/each}{/if}
    {#if !todayRun && inSeason}<p>Nobody foretells today: whether sap runs is not known before the evening.</p>{/if}
    {#if !inSeason}<p>
        {counted(runDays, 'day')} of the season {of} ran well enough to go for.
      </p>{/if}
  </div>
  <div class="mb-1 flex flex-wrap items-center gap-x-6 gap-y-1">
    {#if inSeason}<ToggleGroup
        label="How much of the season"
        options={[
          { id: 'weeks', label: 'These weeks' },
          { id: 'all', label: 'The whole season' }
        ]}
        bind:value={look}
      />{/if}
    <label class="flex items-center gap-2"
      >Season <select
        class="select w-24 select-sm"
        value={of}
        onchange={(event) => (season = Number(event.currentTarget.value))}
      >
        {#each known as each (each)}<option value={each}>{each}</option>{/each}
      </select></label
    >
    <span class="aside grow">
      {#if desk.weather.foretold}{age === 0
          ? 'Today’s'
          : age === 1
            ? 'Yesterday’s'
            : `The forecast of ${shortDay(desk.weather.foretold.on)}:`}
        {age! <= 1 ? 'forecast' : ''} of {desk.weather.foretold.by}; paler means foretold, grey how far it may be wrong.
      {:else}No forecast reaches to today.{/if}
    </span>
    {#if bush.mayRecord && inSeason}<button
        class="btn btn-ghost btn-sm"
        disabled={asker.asking}
        onclick={() => asker.now(true)}>{asker.asking ? 'Asking …' : 'Ask again'}</button
      >{/if}
  </div>
  {#each asker.troubles as trouble (trouble)}<p role="status" class="my-1 border-l-4 border-primary pl-3">
      {trouble}
    </p>{/each}
  <Strip {days} {from} {until} today={bush.today} {marks} {usual} />
  <p class="aside mt-1 max-w-prose">
    The line is the air, hour by hour. Where it swells in amber sap runs, the more the better the night froze and the
    day thawed. {desk.years.length > 0
      ? `Pale amber on days that nobody foretells: in how many of ${counted(desk.years.length, 'known year')} they ran.`
      : ''}
  </p>
  <WhatNext {desk} />
{/if}
