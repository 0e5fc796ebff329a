<script lang="ts">
  import { choicesHeld, dayAt, dayOfSeason } from '@baumkin/core/bush';
  import { COURSE_DAYS, FIRST_START } from '@baumkin/core/season';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { dayWords, groupWords, shortDay, tapsWords } from '$lib/labels/season.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import Scatter, { type Inks, type ScatterPicture } from '$lib/ui/Scatter.svelte';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { capital } from '$lib/words/capital.ts';

  import { SeasonDesk } from './desk.svelte.ts';
  import DrillingDay from './DrillingDay.svelte';

  /**
   * When does the round begin? Too early a hole closes before the best runs, too late it misses the first; the page lives every known
   * year through for each day on which the round could begin, and says what a week more or less would cost.
   */
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  let picked = $state<string | null>(null);
  const group = $derived(desk.groups.find(({ id }) => id === picked) ?? desk.groups[0] ?? null);
  let days = $state<number | null>(null);
  const kept = $derived(choicesHeld(bush.bushRecords, desk.weather, desk.hole));
  const ofGroup = $derived(
    group
      ? (kept.find(({ choice }) => choice.season === bush.season && choice.group === group.swell)?.choice ?? null)
      : null
  );
  const round = $derived(days ?? ofGroup?.days ?? (group ? desk.roundDays(group.taps) : 1));
  const allDrilled = $derived(group !== null && group.drilled >= group.taps);
  const outlook = $derived(group ? desk.outlook(group, round) : null);
  const usual = $derived(outlook?.usual ?? null);
  const now = $derived(outlook?.now ?? null);
  const on = (day: number) => dayAt(bush.season, day);
  const litres = (value: number) => preferences.fewLitres(value);

  const best = $derived(
    now ? { day: now.day, litres: now.bestLitres } : usual ? { day: usual.best.day, litres: usual.best.litres } : null
  );
  let wished = $state<string | null>(null);
  const beginOn = $derived(wished ?? ofGroup?.beginOn ?? (best ? on(best.day) : bush.today));
  const wishedAt = $derived(dayOfSeason(beginOn, bush.season));
  const wishedLitres = $derived(usual?.starts.find(({ day }) => day === wishedAt)?.litres ?? null);
  const outside = $derived(wishedAt < 0 || wishedAt >= COURSE_DAYS);

  async function keep(): Promise<void> {
    if (!group || !best) return;
    await bush.recordOfBush({
      kind: 'drillingChoice',
      season: bush.season,
      group: group.swell,
      beginOn,
      days: round,
      expectedLitres: Number((wishedLitres ?? 0).toFixed(2)),
      bestOn: on(best.day),
      bestLitres: Number(best.litres.toFixed(2)),
      note: ''
    });
    wished = null;
    toast.success(`The round begins on ${dayWords(beginOn)}.`);
  }

  const picture = $derived(({ ink, amber, spruce }: Inks): ScatterPicture => {
    const { starts, years } = usual!;
    const { shown } = preferences.volumeScale;
    const upright = (day: number, colour: string) => ({
      type: 'line' as const,
      data: [
        { x: day, y: 0 },
        { x: day, y: shown(Math.max(...starts.map(({ high }) => high))) }
      ],
      borderColor: colour,
      borderDash: [3, 3],
      borderWidth: 1.5,
      pointRadius: 0
    });
    const today = dayOfSeason(bush.today, bush.season);
    return {
      datasets: [
        {
          type: 'line' as const,
          data: starts.map(({ day, litres: y }) => ({ x: day, y: shown(y) })),
          borderColor: amber,
          borderWidth: 4,
          pointRadius: 0
        },
        ...years.map((year) => ({
          type: 'line' as const,
          data: year.litres.map((y, i) => ({ x: FIRST_START + i, y: shown(y) })),
          borderColor: `color-mix(in oklab, ${ink} 38%, transparent)`,
          borderWidth: 1,
          pointRadius: 0
        })),
        ...(outside ? [] : [upright(wishedAt, spruce)]),
        ...(today >= FIRST_START && today < COURSE_DAYS ? [upright(today, ink)] : [])
      ],
      across: null,
      up: `${preferences.units === 'metric' ? 'litres' : 'gallons'} a tap`,
      say: () => null,
      fromZero: true,
      sayAcross: { say: (x) => shortDay(on(x)), step: 14 }
    };
  });
</script>

<h1 class="sr-only">When to drill</h1>
{#if !group}
  <EmptyState title="No tap is decided yet" next={{ label: 'Count', href: `/bush/${bush.id}/count/all` }}
    >When to drill hangs on how many holes there are, and in which trees. Decide the taps of season {bush.season} first.</EmptyState
  >
{:else if !usual || !best}
  <EmptyState title="No year is known" next={{ label: 'Bring weather in', href: `/bush/${bush.id}/season/weather` }}
    >Which day is best is learned from the springs that were: bring a file of daily temperatures in, the more years the
    better. Until then common practice says: when nights still freeze and days begin to thaw, about the last third of
    February.</EmptyState
  >
{:else}
  {#if desk.groups.length > 1}
    <div class="mb-3">
      <ToggleGroup
        label="Trees that run alike"
        options={desk.groups.map((each) => ({ id: each.id, label: capital(groupWords(each)), count: each.taps }))}
        value={group.id}
        onchange={(id) => ([picked, wished, days] = [id, null, null])}
      />
    </div>
  {/if}
  <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[23rem_minmax(0,1fr)]">
    <section class="flex flex-col gap-4" aria-label="The day">
      <div data-testid="best-day">
        <p class="aside">{capital(groupWords(group))}: {tapsWords(group.taps, group.drilled)}</p>
        <p class="font-slab text-2xl leading-tight font-semibold">
          {allDrilled
            ? 'All of them are drilled'
            : now && on(now.day) === bush.today
              ? `${group.drilled > 0 ? 'Go on' : 'Begin'} today`
              : `${group.drilled > 0 ? 'Go on' : 'Begin'} on ${dayWords(on(best.day))}`}
        </p>
        {#if !allDrilled}<p class="mt-1">
            A tap brings {litres(best.litres)} then{now
              ? ', as this year stands and may go on'
              : `, on average over ${counted(outlook!.years, 'year')}`}{round > 1
              ? `, the ${round} days of the round included`
              : ''}.
          </p>{/if}
        {#if now && !allDrilled && on(now.day) !== bush.today}<p class="mt-1">
            Today it would bring {litres(now.todayLitres)}.
          </p>{/if}
      </div>
      <ul class="flex flex-col gap-1">
        <li class="flex justify-between border-t border-base-300 pt-1">
          <span>a week earlier costs</span><b>{litres(Math.max(0, usual.weekEarlierCosts))} a tap</b>
        </li>
        <li class="flex justify-between border-t border-base-300 pt-1">
          <span>a week later costs</span><b>{litres(Math.max(0, usual.weekLaterCosts))} a tap</b>
        </li>
        <li class="flex justify-between border-t border-base-300 pt-1">
          <span>as good as the best</span><b>{shortDay(on(usual.window[0]))} to {shortDay(on(usual.window[1]))}</b>
        </li>
        <li class="flex justify-between border-y border-base-300 py-1">
          <span>best day of single years</span><b
            >{shortDay(on(Math.min(...usual.years.map((year) => year.best))))} to {shortDay(
              on(Math.max(...usual.years.map((year) => year.best)))
            )}</b
          >
        </li>
      </ul>
      {#if outlook!.years < 5}<p class="caution">
          {counted(outlook!.years, 'known year')} prove little: one odd spring moves the day by a week. Bring in a longer
          file.
        </p>{/if}
      {#if outlook!.fresh && !allDrilled}
        {@const fresh = outlook!.fresh!}
        <p data-testid="fresh-hole" class={fresh.litres < desk.settings.leastLitres ? 'caution' : ''}>
          A hole that is made today still brings {litres(fresh.litres)} ({litres(fresh.low)} to {litres(
            fresh.high
          )}){fresh.lastRun
            ? `; the last run comes about ${shortDay(on(fresh.lastRun[1]))}, between ${shortDay(on(fresh.lastRun[0]))} and ${shortDay(on(fresh.lastRun[2]))}`
            : ''}.{#if fresh.litres < desk.settings.leastLitres}
            That is under {litres(desk.settings.leastLitres)}: do not drill, keep the wood.{/if}
        </p>
      {/if}
      <form
        class="flex flex-col gap-2 border-l-[6px] border-primary pl-4"
        onsubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <label class="flex items-center gap-3"
          ><span class="w-36">The round takes</span><input
            class="input w-20"
            type="number"
            min="1"
            max="60"
            value={round}
            onchange={(event) => (days = Math.max(1, Math.min(60, event.currentTarget.valueAsNumber || 1)))}
          /> days</label
        >
        <label class="flex items-center gap-3"
          ><span class="w-36">It begins on</span><input
            class="input grow"
            type="date"
            value={beginOn}
            onchange={(event) => (wished = event.currentTarget.value || null)}
          /></label
        >
        {#if outside}<p class="text-error">That is no day of the season {bush.season}.</p>
        {:else if wishedLitres !== null}<p class="aside">
            {litres(wishedLitres)} a tap on average over the years; the best day {litres(usual.best.litres)}.
          </p>{/if}
        {#if bush.mayDecide}<button
            class="btn self-start btn-primary"
            disabled={outside || (ofGroup !== null && beginOn === ofGroup.beginOn && round === ofGroup.days)}
            >{ofGroup ? 'Keep this day instead' : 'Keep this day'}</button
          >{/if}
        {#if ofGroup}<p>
            Kept: {dayWords(ofGroup.beginOn)}, {counted(ofGroup.days, 'day')}, by {bush.authorOf(ofGroup)}.
          </p>{/if}
      </form>
    </section>
    <section aria-labelledby="curve" class="min-w-0">
      <h2 id="curve">What a tap brings, by the day on which the round begins</h2>
      <Scatter
        {picture}
        size="h-72"
        label="Litres a tap by the first day of the round: the mean of the known years, and each year by itself"
      />
      <p class="aside">
        Amber: the mean of {counted(outlook!.years, 'year')}. Thin: each year by itself. Dashed green: your day{dayOfSeason(
          bush.today,
          bush.season
        ) >= FIRST_START
          ? '; dashed dark: today'
          : ''}. The weather of {usual.years.map(({ season }) => season).join(', ')}; how much a hole gives and how fast
        it closes {desk.known.collections > 0
          ? `from ${counted(desk.known.collections, 'collection')} of this bush`
          : 'by common practice, since nothing is in the sap log yet'}.
      </p>
      {#if kept.length > 0}
        <h2 class="mt-5">Chosen days, and what came</h2>
        <table class="w-full text-left" data-testid="choices">
          <thead
            ><tr class="border-b-2 border-base-content"
              ><th class="py-1">Season</th><th>Begun on</th><th class="text-right">Expected</th><th class="text-right"
                >Came</th
              ><th class="text-right">Best in hindsight</th></tr
            ></thead
          >
          <tbody>
            {#each kept as { choice, came } (choice.id)}
              <tr class="border-b border-base-300">
                <td class="py-1">{choice.season}, {choice.group === 'early' ? 'red and silver' : 'late maples'}</td>
                <td>{shortDay(choice.beginOn)}</td>
                <td class="text-right">{litres(choice.expectedLitres)}</td>
                <td class="text-right">{came ? litres(came.litres) : 'not over'}</td>
                <td class="text-right">{came ? `${litres(came.best)}, ${shortDay(came.bestOn)}` : ''}</td>
              </tr>
            {/each}
          </tbody>
        </table>
        <p class="aside">By the weather of each season alone; what was collected stands with the year.</p>
      {/if}
      <DrillingDay {desk} {group} />
    </section>
  </div>
{/if}
