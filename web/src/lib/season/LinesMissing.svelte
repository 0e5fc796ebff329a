<script lang="ts">
  import {
    dayAt,
    dayOfSeason,
    looksToMake,
    looksWorth,
    missingSap,
    pipeLinesIn,
    PipeNet,
    USUALLY_LEFT,
    type LineLookWorth,
    type MissingSap
  } from '@baumkin/core/bush';
  import type { Missing } from '@baumkin/core/lines';
  import { seasonLeft } from '@baumkin/core/season';
  import { onDestroy } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { lookWords, pieceWords, readingWords, whyLook } from '$lib/labels/lineCare.ts';
  import { dayWords, shortDay } from '$lib/labels/season.ts';
  import { mapTrees } from '$lib/map/mapTrees.ts';
  import { questionsFor } from '$lib/map/questions.ts';
  import StandMap from '$lib/map/StandMap.svelte';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import { capital } from '$lib/words/capital.ts';
  import { LongRun } from '$lib/workers/longRun.svelte.ts';

  import { SeasonDesk } from './desk.svelte.ts';
  import LineLookForm, { type AskedLook } from './LineLookForm.svelte';
  import LineReadingForm from './LineReadingForm.svelte';
  import WrittenDown from './WrittenDown.svelte';

  /**
   * Which tap, and which piece of pipe, is worth the walk? What came is held against what these taps should give on such days; of each
   * that may be dry, forgotten or leaking it is told how likely that is, and the shortest way past what is worth it.
   */
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  const lines = $derived(pipeLinesIn(bush.bushRecords).filter(({ use }) => use !== 'air'));
  const net = $derived(new PipeNet(lines));
  const { season, today } = $derived(bush);
  const found = $derived(
    missingSap({
      records: bush.bushRecords,
      rows: bush.rows,
      weather: desk.weather,
      settings: desk.settings,
      season,
      today
    })
  );

  let told = $state.raw<{ readonly of: MissingSap; readonly missing: Missing } | null>(null);
  const long = new LongRun();
  onDestroy(() => long.stop());
  $effect(() => {
    const of = found;
    if (!of || of.told === 0) return;
    void long
      .run((worker) => worker.missing(of.task))
      .then((missing) => {
        if (missing && of === found) told = { of, missing };
      });
  });
  /** What was reckoned last still stands while something new is. */
  const now = $derived(found ? told : null);

  /** What a tap that was drilled when most were still brings; null where no year's weather is known. */
  const knownLeft = $derived.by(() => {
    const [group] = desk.groups;
    const { scenarios = [] } = group ? desk.outlook(group) : {};
    if (scenarios.length === 0) return null;
    const at = dayOfSeason(today, season);
    return seasonLeft(scenarios, { drilled: at - desk.holeDays, today: at }, desk.hole).litres;
  });
  const leftLitres = $derived(knownLeft ?? USUALLY_LEFT);
  const worth = $derived(now ? looksWorth(now.of, now.missing, leftLitres) : []);
  /** The walk begins at the foot of the lines. */
  const from = $derived(lines.find(({ placeId }) => placeId !== null)?.points.at(-1) ?? ([0, 0] as const));
  const walk = $derived(looksToMake(worth, { from, litresAnHour: desk.settings.litresAnHour }));
  const others = $derived(worth.filter((each) => !walk.looks.includes(each) && each.chance >= 0.1).slice(0, 8));
  const shares = $derived(now ? now.of.asked.map((each, i) => ({ ...each, ...now.missing.asked[i]! })) : []);
  const tanks = $derived(shares.flatMap((each) => ('place' in each ? [each] : [])));
  const ofLines = $derived(shares.flatMap((each) => ('line' in each ? [each] : [])).sort((a, b) => a.share - b.share));
  const percent = (share: number) => `${Math.round(100 * share)} %`;

  const idOf = ({ what }: LineLookWorth) =>
    'piece' in what ? `${what.piece.line.id} ${what.piece.fromM}` : what.row.id;
  const nameOf = ({ what }: LineLookWorth) =>
    'piece' in what ? pieceWords(what.piece, preferences) : `Tree ${what.row.tag}`;
  const why = (look: LineLookWorth) => {
    const since = Math.min(dayOfSeason(today, season), Math.floor(look.leak?.since ?? 0));
    return whyLook(look, { sinceOn: shortDay(dayAt(season, since)), season });
  };

  let reading = $state(false);
  let looking = $state<AskedLook | null>(null);
  function lookAt(look: LineLookWorth): void {
    const { what } = look;
    const line = 'piece' in what ? what.piece.line : lines.find(({ id }) => id === what.lineId)!;
    looking = {
      line,
      lengthM: net.lengthM(line.id),
      row: 'piece' in what ? null : what.row,
      atM: 'piece' in what && line.use !== 'lateral' ? Math.round((what.piece.fromM + what.piece.toM) / 2) : null,
      where: nameOf(look)
    };
  }
  const nameOfLine = (id: string) => lines.find((line) => line.id === id)?.name ?? 'a line that is no more';
  const looks = $derived(bush.bushRecords.filter((record) => record.kind === 'lineLook'));
  const readings = $derived(bush.bushRecords.filter((record) => record.kind === 'lineReading'));
  const tagOf = (id: string) => bush.rows.find((row) => row.id === id)?.tag ?? 'that is gone';

  const question = $derived(questionsFor(bush)[0]!);
  const onLines = $derived(new Set(lines.flatMap(({ drops }) => drops.map(({ treeId }) => treeId))));
  const asked = $derived(new Set(walk.looks.flatMap(({ what }) => ('row' in what ? what.row.id : []))));
  const suspect = $derived(new Set(walk.looks.flatMap(({ what }) => ('piece' in what ? what.piece.line.id : []))));
  const scene = $derived({
    trees: mapTrees(
      bush.rows.filter(({ id }) => onLines.has(id)),
      question
    ),
    tones: question.answers,
    chosen: asked,
    current: null
  });
  const pipes = $derived(
    lines.map((line) => ({
      points: line.points,
      name: line.use === 'lateral' ? '' : line.name,
      thin: line.use === 'lateral',
      dashed: false,
      chosen: suspect.has(line.id),
      wrong: suspect.has(line.id)
    }))
  );
  const rings = $derived(
    walk.looks.flatMap(({ at }, i) => (at ? [{ eastM: at[0], northM: at[1], radiusM: 3, says: String(i + 1) }] : []))
  );
</script>

{#snippet row(look: LineLookWorth, nth: number | null)}
  <li class="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-b border-base-300 py-2">
    {#if nth !== null}<b class="w-6 text-right font-slab text-xl">{nth}</b>{/if}
    <span class="min-w-0 grow basis-60"
      ><b>{nameOf(look)}</b><br />{capital(why(look))}.
      {#if look.litres >= 0.5}<span class="aside">Some {preferences.fewLitres(look.litres)} to be expected of it.</span
        >{/if}</span
    >
    {#if bush.mayRecord}<button
        class="btn btn-outline btn-sm max-md:ml-9 max-md:min-h-12 print:hidden"
        aria-label="Looked at {nameOf(look)}"
        onclick={() => lookAt(look)}>Looked at it</button
      >{:else}<span></span>{/if}
    <span class="hidden w-40 border-b border-base-content print:inline-block">&nbsp;</span>
  </li>
{/snippet}

{#if lines.length === 0}
  <EmptyState title="No line is drawn yet">
    Draw the lines under “How they fall”, with the trees that hang on them: then what comes out of them is held against
    what it should be.
  </EmptyState>
{:else if !found}
  <EmptyState title="Nothing hangs on the lines this season">
    {#if onLines.size === 0}
      Say under “How they fall” which trees hang on each line.
    {:else if !lines.some(({ placeId }) => placeId !== null)}
      Say under “How they fall” at which tank the lines end, so that what comes is held against what it should be.
    {:else}
      Once trees on the lines are drilled and sap comes, what each line gives is held against what it should.
    {/if}
  </EmptyState>
{:else}
  <div class="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1fr)_26rem]">
    <section class="flex min-w-0 flex-col gap-3" aria-label="Where to look">
      <p class="hidden print:block">Round along the lines, {dayWords(today)}</p>
      {#if found.told === 0}
        <div class="border-l-[6px] border-base-300 pl-4">
          <h2 class="font-slab text-2xl leading-tight">Nothing was read yet</h2>
          <p>
            Log what the tank held, or time a line at its foot: until then nothing is known of {counted(
              found.taps.length,
              'tap'
            )} but what the round wrote down.
          </p>
        </div>
      {:else if now}
        <div
          class="border-l-[6px] pl-4 {walk.looks.length > 0 ? 'border-primary' : 'border-base-300'}"
          data-testid="missing"
        >
          {#each tanks as { place, share, low, high } (place.id)}
            <h2 class="font-slab text-2xl leading-tight">
              {place.name} gives {percent(share)} of what its taps would
            </h2>
            <p class="aside">Between {percent(low)} and {percent(high)}, eight times in ten.</p>
          {/each}
          <p class="mt-1">
            {#if walk.looks.length > 0}
              Look at {counted(walk.looks.length, 'place')}: some {counted(
                Math.max(1, Math.round(walk.minutes)),
                'minute'
              )}
              from the tank to the last, about {preferences.volume(walk.litres)} over the rest of the season.
            {:else if leftLitres < 0.5}
              The season is as good as over: a look brings nothing more.
            {:else}
              Nothing is likely enough, or worth enough, to go for: an hour of somebody counts as {preferences.volume(
                desk.settings.litresAnHour
              )}.
            {/if}
          </p>
          {#if knownLeft === null}<p class="aside">
              No year’s weather is known: a tap is taken to bring {preferences.fewLitres(USUALLY_LEFT)} more.
            </p>{/if}
        </div>
        <ol data-testid="looks">
          {#each walk.looks as look, i (idOf(look))}{@render row(look, i + 1)}{/each}
        </ol>
        {#if others.length > 0}
          <details class="print:hidden">
            <summary class="min-h-9 cursor-pointer font-semibold">Less likely, or worth less than the way</summary>
            <ul>
              {#each others as look (idOf(look))}{@render row(look, null)}{/each}
            </ul>
          </details>
        {/if}
        <p class="aside">
          Goggles and gloves on a round of lines; not alone under loose limbs, not in a storm. Wires stay tight: stand
          aside when one is loosened.
        </p>
      {/if}
      <LongRunStatus run={long} what="Weighing what came" />
      <div class="flex flex-wrap gap-2 print:hidden">
        {#if bush.mayRecord}<button class="btn btn-primary btn-sm max-md:min-h-12" onclick={() => (reading = true)}
            >Read a line</button
          >{/if}
        {#if walk.looks.length > 0}<button class="btn btn-outline btn-sm max-md:min-h-12" onclick={() => print()}
            >Print the round</button
          >{/if}
      </div>
      <WrittenDown
        title="What was found"
        records={looks}
        say={(record) =>
          lookWords(record, {
            where: record.ofTreeId ? `tree ${tagOf(record.ofTreeId)}` : nameOfLine(record.lineId),
            shown: preferences
          })}
      />
      <WrittenDown
        title="What was read"
        records={readings}
        say={(record) => readingWords(record, { where: nameOfLine(record.lineId), shown: preferences })}
      />
    </section>
    <section class="flex min-w-0 flex-col gap-4" aria-label="What each line gives">
      <div class="h-72 overflow-hidden border border-base-300 print:hidden">
        <StandMap {scene} stands={bush.overview?.stands ?? []} features={bush.features} {pipes} {rings} />
      </div>
      {#if ofLines.length > 0}
        <div>
          <h2>What each line gives</h2>
          <table class="w-full" data-testid="line-shares">
            <thead
              ><tr class="border-b-2 border-base-content text-left"
                ><th class="py-1">Line</th><th class="w-24">of what it would</th><th class="w-24 text-right"
                  >most likely</th
                ></tr
              ></thead
            >
            <tbody>
              {#each ofLines as { line, share, low, high } (line.id)}
                <tr class="border-b border-base-300"
                  ><td class="py-1">{line.name}</td><td
                    ><span class="relative block h-3 bg-base-300" title="{percent(low)} to {percent(high)}"
                      ><span
                        class="absolute inset-y-0 bg-primary"
                        style:left="{100 * low}%"
                        style:width="{100 * Math.max(0.02, high - low)}%"
                      ></span></span
                    ></td
                  ><td class="text-right">{percent(share)}</td></tr
                >
              {/each}
            </tbody>
          </table>
          <p class="aside">
            Amber: where it lies eight times in ten. Told from {counted(found.told, 'reading')} of tank and lines, and from
            what all other places gave.
          </p>
        </div>
      {/if}
    </section>
  </div>
{/if}
<LineReadingForm bind:open={reading} {lines} />
<LineLookForm bind:asked={looking} />
