<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saveAs } from '$lib/client/decode.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { dayWords, groupWords, shortDay } from '$lib/labels/season.ts';
  import { dayAt } from '@baumkin/core/bush';

  import { datedWork } from './datedWork.ts';
  import type { SeasonDesk } from './desk.svelte.ts';

  /** What the season asks for next, by the time of the year. */
  const { desk }: { desk: SeasonDesk } = $props();
  const bush = useBush();
  const base = $derived(`/bush/${bush.id}/season`);

  interface Job {
    readonly id: string;
    readonly what: string;
    readonly why: string;
    readonly href: string;
    readonly go: string;
  }
  const jobs = $derived.by((): Job[] => {
    const list: Job[] = [];
    const { season } = bush;
    const left = desk.taps - desk.drilled;
    const [group] = desk.groups;
    if (left > 0 && group) {
      const { now, usual } = desk.outlook(group);
      const best = now ?? usual?.best;
      const today = now !== null && dayAt(season, now.day) === bush.today;
      if (best)
        list.push({
          id: 'drill',
          what: today
            ? `Begin drilling today: ${counted(left, 'tap')}`
            : `Begin drilling on ${dayWords(dayAt(season, best.day))}`,
          why: `${groupWords(group)}: ${preferences.fewLitres('bestLitres' in best ? best.bestLitres : best.litres)} a tap to be expected, ${counted(desk.roundDays(group.taps), 'day')} of drilling included`,
          href: `${base}/drilling`,
          go: 'When to drill'
        });
    }
    if (desk.drilled > 0 && desk.places.length === 0)
      list.push({
        id: 'places',
        what: 'Say where the sap is collected',
        why: 'Then each place tells when it runs over, and the rounds of the coming days are planned.',
        href: `${base}/rounds`,
        go: 'Rounds'
      });
    if (desk.drilled > 0 && desk.places.length > 0) {
      const run = desk.runs.find(({ chance }) => chance > 0.5);
      list.push({
        id: 'collect',
        what: run ? `Next run: ${run.on === bush.today ? 'today' : dayWords(run.on)}` : 'No run in sight',
        why: run
          ? `${preferences.volume(run.low * desk.drilled)} to ${preferences.volume(run.high * desk.drilled)} from ${counted(desk.drilled, 'tap')}`
          : desk.weather.foretold
            ? `Nothing runs until ${shortDay(desk.weather.ahead.at(-1)!.on)}.`
            : 'Nobody foretells the coming days.',
        href: `${base}/rounds`,
        go: 'Rounds'
      });
    }
    return list;
  });
  const dated = $derived(datedWork(desk));
  async function takeCalendar(): Promise<void> {
    const { calendarOf } = await import('./calendar.ts');
    saveAs('season.ics', calendarOf(`${bush.overview!.bush.name}, season ${bush.season}`, dated), 'text/calendar');
  }
</script>

{#if jobs.length > 0}
  <ul class="mt-5 grid gap-x-8 gap-y-4 md:grid-cols-2 lg:grid-cols-3" data-testid="what-next">
    {#each jobs as job, i (job.id)}
      <li class="border-l-[6px] pl-4 {i === 0 ? 'border-primary' : 'border-base-300'}">
        <p class="font-slab text-lg font-semibold">{job.what}</p>
        <p>{job.why}</p>
        <a class="btn mt-2 btn-sm {i === 0 ? 'btn-primary' : 'btn-outline'}" href={job.href}>{job.go}</a>
      </li>
    {/each}
  </ul>
{/if}
{#if dated.length > 0}
  <section class="mt-6 max-w-[46rem]" aria-labelledby="days">
    <div class="flex items-baseline gap-4">
      <h2 id="days" class="grow">Days to keep free</h2>
      <button class="btn btn-outline btn-sm" onclick={takeCalendar}>Take as a calendar</button>
    </div>
    <ul data-testid="dated">
      {#each dated as work (work.id)}
        <li class="grid grid-cols-[9rem_minmax(0,1fr)] gap-3 border-t border-base-300 py-1">
          <span>{shortDay(work.on)}{work.lasts > 1 ? `, ${counted(work.lasts, 'day')}` : ''}</span>
          <span><b>{work.what}</b> <span class="aside">{work.why}</span></span>
        </li>
      {/each}
    </ul>
  </section>
{/if}
