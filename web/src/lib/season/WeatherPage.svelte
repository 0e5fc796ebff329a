<script lang="ts">
  import { asRecords, daysOf, toldBy } from '@baumkin/core/bush';
  import { userFacing } from '@baumkin/core/errors';
  import {
    OpenWeatherFile,
    readWeather,
    writeWeather,
    type WeatherFile,
    type WeatherUnit
  } from '@baumkin/core/exchange';
  import { dayProblem, forecastError } from '@baumkin/core/season';
  import { fromScale, toScale } from '@baumkin/core/units';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { decodeText, saveAs } from '$lib/client/decode.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { dayWords, shortDay, WEATHER_FROM } from '$lib/labels/season.ts';
  import { capital } from '$lib/words/capital.ts';

  import { SeasonDesk } from './desk.svelte.ts';

  /**
   * Where does what we know of the weather come from, and how far can it be trusted? The page puts the bush's own readings, its
   * thermometer, a station's file and the forecasts into one series, and learns how far the hollow lies from the valley.
   */
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  const { asker } = desk;

  const told = $derived(bush.bushRecords.filter((record) => record.kind === 'weather'));
  const sources = $derived(toldBy(bush.bushRecords));
  const { offset, misses } = $derived(desk.weather);
  const filled = $derived(desk.weather.past.filter(({ from }) => from === 'filled').length);
  /** a difference of temperatures, in the scale that is used */
  const difference = (c: number) =>
    `${c < 0 ? '−' : ''}${Math.abs(preferences.units === 'metric' ? c : c * 1.8).toFixed(1)} °${preferences.units === 'metric' ? 'C' : 'F'}`;
  const against = (c: number) =>
    Math.abs(c) < 0.05 ? 'as warm' : `${difference(Math.abs(c))} ${c < 0 ? 'colder' : 'warmer'}`;

  // A day that is typed.
  let typedOn = $state(bush.today);
  let low = $state<number | null>(null);
  let high = $state<number | null>(null);
  const c = (value: number) => Number(fromScale(value, preferences.units).toFixed(2));
  const typedProblem = $derived(
    low === null || high === null
      ? null
      : typedOn > bush.today
        ? 'That day has not been yet: nobody can have read it.'
        : dayProblem({ minC: c(low), maxC: c(high) })
  );
  const before = $derived(
    told
      .filter(({ source }) => source === 'typed')
      .flatMap((record) => daysOf(record).map((day) => ({ ...day, record })))
      .findLast(({ on }) => on === typedOn) ?? null
  );
  async function writeDay(): Promise<void> {
    if (low === null || high === null || typedProblem) return;
    const day = { on: typedOn, minC: c(low), maxC: c(high) };
    await bush.recordOfBush({
      kind: 'weather',
      source: 'typed',
      place: 'read in the bush',
      ...asRecords([day])[0]!,
      ...(before && before.record.minC.length === 1 ? { correctsId: before.record.id } : {})
    });
    toast.success(`${dayWords(typedOn)}: ${preferences.degrees(day.minC)} to ${preferences.degrees(day.maxC)}.`);
    [low, high] = [null, null];
  }

  // A station's file.
  let name = $state('');
  let text = $state.raw<string | null>(null);
  let unit = $state<WeatherUnit | ''>('');
  let station = $state('');
  const MOST_BYTES = 7_000_000;
  let tooLarge = $state('');
  const read = $derived.by((): { file: WeatherFile | null; problem: string; stations: readonly string[] } => {
    if (text === null) return { file: null, problem: tooLarge, stations: [] };
    try {
      const options = { today: bush.today, ...(unit ? { unit } : {}), ...(station ? { station } : {}) };
      const file = readWeather(text, options);
      return { file, problem: '', stations: file.stations };
    } catch (error) {
      const problem = userFacing(error);
      if (!problem) throw error;
      return { file: null, problem: problem.message, stations: error instanceof OpenWeatherFile ? error.stations : [] };
    }
  });
  async function take(file: File | undefined): Promise<void> {
    [text, unit, station, tooLarge] = [null, '', '', ''];
    if (!file) return;
    name = file.name;
    if (file.size > MOST_BYTES) tooLarge = `${file.name} is larger than 7 MB. Take the years that you need.`;
    else text = decodeText(await file.arrayBuffer());
  }
  const UNITS: readonly [WeatherUnit | '', string][] = [
    ['', 'as the file tells'],
    ['c', 'degrees Celsius'],
    ['f', 'degrees Fahrenheit'],
    ['tenthsC', 'tenths of a degree Celsius']
  ];
  const place = $derived((station || read.file?.stations[0] || name).slice(0, 80));
  const same = $derived.by(() => {
    const known = new Map(
      told
        .filter((record) => record.source === 'station')
        .flatMap((record) => daysOf(record).map((day) => [day.on, `${day.minC} ${day.maxC}`]))
    );
    const days = read.file?.days ?? [];
    return {
      alike: days.filter((day) => known.get(day.on) === `${day.minC} ${day.maxC}`).length,
      other: days.filter((day) => known.has(day.on) && known.get(day.on) !== `${day.minC} ${day.maxC}`).length
    };
  });
  async function bringIn(): Promise<void> {
    const days = read.file?.days ?? [];
    if (days.length === 0) return;
    for (const record of asRecords(days))
      await bush.recordOfBush({ kind: 'weather', source: 'station', place, ...record });
    toast.success(`${counted(days.length, 'day')} of ${place}.`);
    text = null;
  }
  const shown = $derived(toScale(0, preferences.units));
</script>

<h1 class="sr-only">Weather</h1>
<div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_23rem]">
  <section class="min-w-0" aria-labelledby="sources">
    <h2 id="sources">Where it comes from</h2>
    {#if sources.length === 0}<p>Nothing is known yet. Type today’s two figures, or bring a file in.</p>
    {:else}
      <div class="overflow-x-auto">
        <table class="w-full text-left" data-testid="weather-sources">
          <thead
            ><tr class="border-b-2 border-base-content"
              ><th class="py-1 pr-3">Source</th><th class="pr-3">Which</th><th class="pr-3 text-right">Days</th><th
                >From and to</th
              ></tr
            ></thead
          >
          <tbody>
            {#each sources as { source, place: which, days: many, first, last } (`${source} ${which}`)}
              <tr class="border-b border-base-300 align-top">
                <td class="py-1 pr-3">{capital(WEATHER_FROM[source])}</td><td class="pr-3">{which}</td><td
                  class="pr-3 text-right">{many.toLocaleString('en')}</td
                ><td class="whitespace-nowrap">{first} to {last}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      <p class="aside mt-1">
        Of a day that several tell of, the bush’s own reading goes first, then its thermometer, then the station, then
        what was foretold.{filled > 0
          ? ` ${counted(filled, 'day')} that nobody measured are filled, since the days on both sides agree.`
          : ''}
      </p>
      <h2 class="mt-4">The bush against the station</h2>
      <p data-testid="offset">
        {#if offset.days === 0}No day was read in both. Until then the station’s days are taken as the bush’s own, which
          may be {difference(offset.minSeC)} wrong.
        {:else}By night the bush is {against(offset.minC)}, by day {against(offset.maxC)} (give or take {difference(
            Math.max(0.1, offset.minSeC)
          )}), from {counted(offset.days, 'day')} read in both; single days stray by {difference(offset.scatterC)}. The
          station’s days and the forecast are moved by that.{/if}
      </p>
      <h2 class="mt-4">How far forecasts miss</h2>
      <p data-testid="misses">
        The first day by {difference(forecastError(misses, 0))}, the seventh by {difference(forecastError(misses, 6))} (two
        of three stay within){misses.days === 0
          ? ': as forecasts usually do, since none was kept yet.'
          : `, from ${counted(Math.round(misses.days), 'foretold day')} held against what came${Math.abs(misses.tooWarmC) >= 0.1 ? `; on average ${difference(Math.abs(misses.tooWarmC))} too ${misses.tooWarmC > 0 ? 'warm' : 'cold'}, which is taken off` : ''}.`}
      </p>
      <button
        class="btn mt-4 btn-outline btn-sm"
        disabled={desk.weather.past.length === 0}
        onclick={() => saveAs('weather.csv', writeWeather(desk.weather.past))}>Take the series as CSV</button
      >
    {/if}
    {#if asker.sources?.length === 0}<p class="aside mt-4">
        This server asks no weather service and no thermometer for this bush; its operator can name them.
      </p>{/if}
    {#each asker.troubles as trouble (trouble)}<p role="status" class="mt-2 border-l-4 border-primary pl-3">
        {trouble}
      </p>{/each}
  </section>
  {#if bush.mayRecord}
    <div class="flex flex-col gap-6">
      <form
        class="flex flex-col gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void writeDay();
        }}
      >
        <h2>Read by hand</h2>
        <label class="flex items-center gap-3"
          ><span class="w-28">Day</span><input
            class="input grow"
            type="date"
            max={bush.today}
            bind:value={typedOn}
            required
          /></label
        >
        <label class="flex items-center gap-3"
          ><span class="w-28">Lowest, night</span><input
            class="input w-28"
            type="number"
            step="0.1"
            placeholder={(shown - 4).toFixed(0)}
            bind:value={low}
            required
          />
          °{preferences.units === 'metric' ? 'C' : 'F'}</label
        >
        <label class="flex items-center gap-3"
          ><span class="w-28">Highest, day</span><input
            class="input w-28"
            type="number"
            step="0.1"
            placeholder={(shown + 6).toFixed(0)}
            bind:value={high}
            required
          />
          °{preferences.units === 'metric' ? 'C' : 'F'}</label
        >
        {#if typedProblem}<p role="alert" class="text-error">{typedProblem}</p>{/if}
        {#if before}<p>
            {shortDay(before.on)} was read already, by {bush.authorOf(before.record)}: {preferences.degrees(
              before.minC,
              1
            )} to {preferences.degrees(before.maxC, 1)}. What you write takes its place.
          </p>{/if}
        <button class="btn self-start btn-primary" disabled={low === null || high === null || typedProblem !== null}
          >{before ? 'Write this instead' : 'Write it down'}</button
        >
      </form>
      <section class="flex flex-col gap-2" aria-labelledby="file">
        <h2 id="file">A station’s file</h2>
        <p class="aside">
          Daily CSV of a climate archive with the columns DATE, TMIN and TMAX, as far back as it goes. Nothing is stored
          before you have seen what was understood.
        </p>
        <input
          class="file-input w-full"
          type="file"
          accept=".csv,.txt,text/csv"
          aria-label="A station’s file"
          onchange={(event) => void take(event.currentTarget.files?.[0])}
        />
        {#if text !== null || read.problem}
          {#if read.stations.length > 1}<label class="flex items-center gap-3"
              ><span class="w-20">Station</span><select class="select grow" bind:value={station}>
                <option value="">choose one</option>
                {#each read.stations as each (each)}<option value={each}>{each}</option>{/each}
              </select></label
            >{/if}
          <label class="flex items-center gap-3"
            ><span class="w-20">Figures are</span><select class="select grow" bind:value={unit}>
              {#each UNITS as [id, label] (id)}<option value={id}>{label}</option>{/each}
            </select></label
          >
          {#if read.problem}<p role="alert" class="text-error">{read.problem}</p>{/if}
          {#if read.file}
            {@const file = read.file}
            <p data-testid="weather-file">
              {counted(file.days.length, 'day')}{file.days.length > 0
                ? `, ${file.days[0]!.on} to ${file.days.at(-1)!.on}`
                : ''}, in {UNITS.find(([id]) => id === file.unit)![1]}{file.unitFrom === 'figures'
                ? ', as the figures read'
                : ''}.{file.without > 0 ? ` ${counted(file.without, 'day')} without a temperature.` : ''}{same.alike > 0
                ? ` ${same.alike.toLocaleString('en')} of them are here already.`
                : ''}{same.other > 0
                ? ` ${same.other.toLocaleString('en')} are here with other temperatures: the file’s take their place.`
                : ''}
            </p>
            {#if file.doubt}<p class="caution">{file.doubt}</p>{/if}
            {#if file.bad.length > 0}
              <details>
                <summary class="cursor-pointer">{counted(file.bad.length, 'row')} left out</summary>
                <ul class="list-disc pl-5 text-sm">
                  {#each file.bad.slice(0, 20) as row (row.line)}<li>line {row.line}: {row.reason}</li>{/each}
                  {#if file.bad.length > 20}<li>and {file.bad.length - 20} more</li>{/if}
                </ul>
              </details>
            {/if}
            <button
              class="btn self-start btn-primary"
              disabled={file.days.length === 0 || same.alike === file.days.length}
              onclick={bringIn}
              >{same.alike === file.days.length && file.days.length > 0
                ? 'All of it is here already'
                : 'Bring these days in'}</button
            >
          {/if}
        {/if}
      </section>
    </div>
  {/if}
</div>
