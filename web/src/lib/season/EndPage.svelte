<script lang="ts">
  import { dayAt, endOf, spoutsStillIn } from '@baumkin/core/bush';
  import type { SeasonSign } from '@baumkin/core/records';
  import { SEASON_SIGNS, SIGNS_OF_END, SIGNS_OF_START, type SeasonSignKind } from '@baumkin/core/season';
  import type { SpeciesId } from '@baumkin/core/identify';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { dayWords, groupWords, shortDay, SIGN_WORDS } from '$lib/labels/season.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import StandSelect from '$lib/ui/StandSelect.svelte';
  import { capital } from '$lib/words/capital.ts';

  import { SeasonDesk } from './desk.svelte.ts';

  /**
   * When do we stop? Thermal time, nights without frost and what people saw of buds and sap are put together into one chance, by
   * species; and no spout is forgotten afterwards.
   */
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  const year = $derived(Number(bush.today.slice(0, 4)));
  const groups = $derived(
    desk.groups
      .filter(({ drilled }) => drilled > 0)
      .map((group) => {
        const { fresh, scenarios, unknownDays } = desk.outlook(group);
        return {
          group,
          fresh,
          known: scenarios.length > 0,
          unknownDays,
          end: endOf(bush.bushRecords, year, group.swell)
        };
      })
  );
  /** nights in a row without frost, up to the last one that is known */
  const mild = $derived.by(() => {
    let nights = 0;
    for (const day of desk.weather.past.toReversed()) {
      if (day.minC < 0) break;
      nights += 1;
    }
    return nights;
  });
  let standId = $state('');
  let species = $state<SpeciesId | ''>('');
  const SPECIES: readonly (readonly [SpeciesId | '', string])[] = [
    ['', 'all of them'],
    ['sugarMaple', 'sugar maple'],
    ['redMaple', 'red maple'],
    ['silverMaple', 'silver maple'],
    ['blackMaple', 'black maple']
  ];
  const seen = $derived(desk.signs.filter(({ on }) => on.startsWith(String(year))).toReversed());
  async function sign(kind: SeasonSignKind): Promise<void> {
    const record = await bush.recordOfBush({
      kind: 'seasonSign',
      standId: standId === '' ? null : standId,
      sign: kind,
      species: species === '' ? null : species,
      note: ''
    });
    saved(bush, `${capital(SIGN_WORDS[kind])}: written down.`, record);
  }
  async function call(group: 'early' | 'late'): Promise<void> {
    const record = await bush.recordOfBush({ kind: 'seasonEnd', season: year, group, note: '' });
    saved(bush, `The season of the ${group === 'early' ? 'red and silver maples' : 'late maples'} is over.`, record);
  }
  const signWords = ({ sign: kind, species: of, standId: at }: SeasonSign) =>
    `${SIGN_WORDS[kind]}${of ? `, ${SPECIES.find(([id]) => id === of)?.[1] ?? of}` : ''}${at ? `, ${desk.stands.find(({ id }) => id === at)?.name ?? ''}` : ''}`;
  async function takeBack(record: SeasonSign): Promise<void> {
    saved(bush, `Taken back: ${signWords(record)}.`, ...(await bush.withdraw(record)));
  }
  /** Nothing of the kind is ever sure. */
  const againWords = (over: number) => {
    const again = 100 - Math.round(100 * over);
    return again > 99 ? 'More than 99' : again < 1 ? 'Fewer than 1' : String(again);
  };
  const spouts = $derived(spoutsStillIn(bush.rows, year));
  const SHOWN = 40;
</script>

<h1 class="sr-only">The end of the season</h1>
{#if groups.length === 0 && spouts.out === 0}
  <EmptyState title="Nothing runs" next={{ label: 'When to drill', href: `/bush/${bush.id}/season/drilling` }}
    >Once holes are drilled, this page says how long their season may last, and later whose spouts are still in.</EmptyState
  >
{:else}
  <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_21rem]">
    <section class="min-w-0" aria-labelledby="over">
      <h2 id="over">Is it over?</h2>
      <ul data-testid="end-groups">
        {#each groups as { group, fresh, known, end } (group.id)}
          <li class="border-t border-base-300 py-3">
            <p class="font-slab text-lg font-semibold">
              {capital(groupWords(group))}: {end
                ? `called over on ${dayWords(end.on)}`
                : !known || !fresh
                  ? 'nobody can tell, no year of weather is known'
                  : fresh.over > 0.9
                    ? 'over'
                    : fresh.over > 0.5
                      ? 'probably over'
                      : fresh.over > 0.15
                        ? 'near its end'
                        : 'goes on'}
            </p>
            {#if end && bush.mayTakeBack(end)}<button
                class="link max-md:min-h-12"
                onclick={async () => saved(bush, 'It goes on after all.', ...(await bush.withdraw(end)))}
                >It goes on after all</button
              >{/if}
            {#if fresh && !end}
              <p>
                {againWords(fresh.over)} in 100 that it runs again. {fresh.lastRun
                  ? `The last one about ${shortDay(dayAt(bush.season, fresh.lastRun[1]))}, between ${shortDay(dayAt(bush.season, fresh.lastRun[0]))} and ${shortDay(dayAt(bush.season, fresh.lastRun[2]))}; ${counted(Math.round(fresh.runs), 'run day')} to be expected.`
                  : ''}
              </p>
              {#if bush.mayDecide}<button
                  class="btn mt-2 btn-sm {fresh.over > 0.5 ? 'btn-primary' : 'btn-outline'}"
                  onclick={() => call(group.swell)}>Call it over</button
                >{/if}
            {/if}
          </li>
        {/each}
      </ul>
      {#if mild > 0}<p>
          {counted(mild, 'night')} in a row without frost{mild >= 3
            ? ': after three late in the season the end is near'
            : ''}.
        </p>{/if}
      <p class="aside">
        From the warmth that buds had since February, the weather that came and is foretold, {counted(
          desk.years.length,
          'known year'
        )}, and what was seen below, weighed by how often it deceives.{(groups[0]?.unknownDays ?? 0) > 0
          ? ` ${counted(groups[0]!.unknownDays, 'day')} of this year nobody measured: taken as in other years.`
          : ''}
      </p>
      {#if spouts.in > 0 || spouts.out > 0}
        <h2 class="mt-5">Spouts</h2>
        <p class="text-lg" data-testid="spouts">
          {counted(spouts.set, 'spout')} went in, {spouts.out} came out,
          <b>{spouts.in} {spouts.in === 1 ? 'is' : 'are'} still in</b>.
        </p>
        {#if spouts.in > 0}
          <p>
            Paint each mark under its hole first, in this season’s colour{bush.paintOf(year)
              ? ` (${bush.paintOf(year)})`
              : ''}; then pull, within days. Nothing is plugged. Wash, dry and count what comes home.
          </p>
          {#if groups.some(({ end }) => end !== null) || spouts.out > 0}
            <p class="mt-1" data-testid="missing">
              Still in: {spouts.rows
                .slice(0, SHOWN)
                .map(({ tag }) => tag)
                .join(', ')}{spouts.rows.length > SHOWN
                ? ` and ${counted(spouts.rows.length - SHOWN, 'more tree', 'more trees')}`
                : ''}
            </p>
          {/if}
          <a class="btn mt-2 btn-outline" href="/bush/{bush.id}/walk/pull">Walk the pulling round</a>
        {:else}<p>Spouts in and spouts out agree.</p>{/if}
      {/if}
    </section>
    <section class="flex flex-col gap-3" aria-labelledby="signs">
      <h2 id="signs">Seen today, {shortDay(bush.today)}</h2>
      {#if bush.mayRecord}
        <div class="flex flex-wrap items-center gap-2">
          <label class="flex items-center gap-2"
            >on <select class="select w-36 select-sm" bind:value={species}
              >{#each SPECIES as [id, label] (id)}<option value={id}>{label}</option>{/each}</select
            ></label
          >
          <StandSelect bind:value={standId} />
        </div>
        <p class="font-semibold">Of the end</p>
        <div class="flex flex-wrap gap-2">
          {#each SEASON_SIGNS.filter((each) => SIGNS_OF_END.includes(each) || each === 'budsClosed') as each (each)}
            <button class="btn min-h-11 btn-outline" onclick={() => sign(each)}>{capital(SIGN_WORDS[each])}</button>
          {/each}
        </div>
        <p class="font-semibold">Of the beginning</p>
        <div class="flex flex-wrap gap-2">
          {#each SIGNS_OF_START as each (each)}
            <button class="btn min-h-11 btn-outline" onclick={() => sign(each)}>{capital(SIGN_WORDS[each])}</button>
          {/each}
        </div>
      {/if}
      {#if seen.length > 0}
        <ul data-testid="signs">
          {#each seen as record (record.id)}
            <li class="border-t border-base-300 py-1">
              {shortDay(record.on)}: {signWords(record)}
              <span class="aside">{bush.authorOf(record)}</span>
              {#if bush.mayTakeBack(record)}<button
                  class="link text-sm"
                  aria-label="Take back: {shortDay(record.on)}, {signWords(record)}"
                  onclick={() => takeBack(record)}>Take back</button
                >{/if}
            </li>
          {/each}
        </ul>
      {:else}<p>Nothing was seen this year yet.</p>{/if}
    </section>
  </div>
{/if}
