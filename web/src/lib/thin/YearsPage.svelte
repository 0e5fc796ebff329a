<script lang="ts">
  import {
    CROWDED_SUGAR_PCT,
    DEFAULT_GROWTH,
    ENTRY_YEARS,
    OPEN_SUGAR_PCT,
    type BandedYear,
    type Outlook,
    type StandFigure
  } from '@baumkin/core/thinning';
  import { isSugarbush, type TreeRow, type TreeState } from '@baumkin/core/records';
  import { LITRES_PER_GALLON, M2_PER_ACRE, M2_PER_HECTARE, M2_PER_SQUARE_FOOT, MM_PER_INCH } from '@baumkin/core/units';
  import { onDestroy, onMount } from 'svelte';

  import { counted } from '$lib/labels/counted.ts';
  import { refusalWords } from '$lib/labels/thinning.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import ChartCard from '$lib/ui/ChartCard.svelte';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import { LongRun } from '$lib/workers/longRun.svelte.ts';
  import type { ThinWorker } from '$lib/workers/thin.worker.ts';

  import { deskOf, thinWorker } from './desk.svelte.ts';
  import { growingArea, outlookTrees } from '@baumkin/core/bush';
  import NoStand from './NoStand.svelte';
  import StandPicker from './StandPicker.svelte';

  /** The stand over thirty years, left alone and thinned: what an entry gives, what it costs, and when it pays. */
  const bush = useBush();
  const desk = deskOf(bush);
  const YEARS = 30;
  const DRAWS = 24;
  const AT = [0, 10, 20, 30];
  onMount(() => {
    if (!desk.begun) void desk.begin(desk.stand?.id ?? null);
  });

  let again = $state(true);
  const long = new LongRun<ThinWorker>(thinWorker);
  onDestroy(() => long.stop());
  let answer = $state.raw<{
    readonly look: Outlook;
    readonly entries: ReadonlyMap<number, ReadonlySet<string>>;
    readonly of: string;
    readonly asked: string;
  } | null>(null);
  const asked = $derived(
    JSON.stringify([desk.stand?.id, desk.choice?.id, [...(desk.choice?.taken ?? [])].sort(), again])
  );

  async function look(): Promise<void> {
    const { stand, thin, choice, policy } = desk;
    if (!stand || !thin || !choice) return;
    const [limits, wish, entriesToo] = [$state.snapshot(desk.limits), asked, again];
    const found = await long.run(async (remote, told) => {
      const known: { row: TreeRow; state: TreeState }[] = [];
      for await (const { tree, records } of bush.lives(thin.rows))
        known.push({ row: tree, state: bush.stateFrom(records) });
      const trees = outlookTrees(known, desk.crops, { today: bush.today, ashBorer: desk.settings.ashBorer });
      const ahead = { trees, limits, policy, stand: thin.plan, ground: growingArea(stand), years: YEARS };
      return remote.outlook(
        { ...ahead, first: new Set(choice.taken) },
        entriesToo,
        { season: bush.season, draws: DRAWS, seed: 1 },
        told
      );
    });
    if (found) answer = { ...found, of: choice.name, asked: wish };
  }

  const FIGURES: readonly (readonly [StandFigure, string, (value: number) => string])[] = [
    ['stems', 'Stems', (v) => String(Math.round(v))],
    ['basalAreaPerHa', 'Basal area', (v) => preferences.basalAreaDensity(v)],
    ['cropDbhMm', 'Diameter of the crop trees', (v) => preferences.length(v, 'trunk')],
    ['cropRingMm', 'Their ring', (v) => preferences.length(v, 'ring')],
    ['cropCrownM', 'Their crown radius', (v) => preferences.length(v * 1000, 'ground')],
    ['taps', 'Taps that are carried', (v) => String(Math.round(v))],
    ['stained', 'Stained wood in the way', (v) => `${(100 * v).toFixed(1)} %`],
    ['sap', 'Sap a season', (v) => preferences.volume(v)],
    ['syrup', 'Syrup a season', (v) => preferences.volume(v)]
  ];

  /** 1 ft2 to the acre in m2 to the hectare. */
  const FT2_PER_ACRE = (M2_PER_SQUARE_FOOT / M2_PER_ACRE) * M2_PER_HECTARE;
  const charts = $derived.by(() => {
    const metric = preferences.units === 'metric';
    return [
      {
        figure: 'syrup',
        title: 'Syrup a season',
        ...(metric ? { up: 'litres', unit: 1 } : { up: 'gallons', unit: LITRES_PER_GALLON })
      },
      {
        figure: 'cropDbhMm',
        title: 'Diameter of the crop trees',
        up: preferences.trunkUnit,
        unit: metric ? 10 : MM_PER_INCH
      },
      {
        figure: 'basalAreaPerHa',
        title: 'Basal area',
        ...(metric ? { up: 'm²/ha', unit: 1 } : { up: 'ft²/ac', unit: FT2_PER_ACRE })
      }
    ] as const;
  });
  const run = (years: readonly BandedYear[], figure: StandFigure, unit: number) =>
    years.map((year) => {
      const { mean, low, high } = year[figure];
      return { season: bush.season + year.year, mean: mean / unit, low: low / unit, high: high / unit };
    });

  const verdict = $derived.by(() => {
    if (!answer) return '';
    const { look: found } = answer;
    const [left, thinned] = [found.without.at(-1)!, found.with.at(-1)!];
    const thicker = thinned.cropDbhMm.mean - left.cropDbhMm.mean;
    const gain = `In ${YEARS} years its crop trees are ${preferences.length(Math.abs(thicker), 'trunk')} ${thicker >= 0 ? 'thicker' : 'thinner'} than they would have been`;
    if (found.overtakes === null)
      return `${gain}, but in syrup the stand left alone is still ahead then: what is taken would have been tapped, or the crowns are freer than they look. In ${Math.round(100 * found.overtakesIn)} of 100 possible futures it pays within that time.`;
    const { low, mean, high } = found.overtakes;
    const when =
      mean < 1
        ? 'It pays from the first season'
        : `It overtakes the stand left alone in about ${counted(Math.round(mean), 'year')} (eight times in ten between ${Math.round(low)} and ${Math.round(high)})`;
    return `${when}, in ${Math.round(100 * found.overtakesIn)} of 100 possible futures. ${gain}.`;
  });
  /** What "in 100 of 100" leaves out. */
  const SAME_IN_ALL =
    'The futures differ in how trees grow. In all of them crowns close, holes stain and sap sweetens by the same figures, and no storm, borer, drought or warm spring comes.';
</script>

{#if bush.overview && !desk.stands.some(isSugarbush)}
  <NoStand title="No stand to look ahead with" />
{:else}
  <h1 class="sr-only">Thirty years</h1>
  <div class="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2">
    <StandPicker {desk} all={false} />
    <label class="flex items-center gap-2"
      >thinned by
      <select class="select w-auto font-semibold" bind:value={desk.shown}>
        {#each desk.choices as choice (choice.id)}<option value={choice.id}
            >{choice.name} ({choice.taken.size} trees)</option
          >{/each}
      </select></label
    >
    <label class="flex items-center gap-2"
      ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={again} /> and again every {ENTRY_YEARS} years</label
    >
    {#if long.done === null}
      <button
        class="btn btn-primary"
        onclick={look}
        disabled={desk.refused !== null || desk.crops.size === 0 || answer?.asked === asked}
        >{answer ? 'Look again' : 'Look thirty years ahead'}</button
      >
    {/if}
    <LongRunStatus run={long} what="Thirty years, with and without, many times over" />
  </div>
  {#if desk.refused !== null}
    <p class="max-w-prose text-lg">{refusalWords(desk.refused)}</p>
  {:else if answer}
    {#if answer.asked !== asked}<p class="caution mb-3">What you see belongs to the choice before. Look again.</p>{/if}
    <p class="max-w-prose text-lg" data-testid="years-verdict">{verdict}</p>
    <p class="aside max-w-prose">{SAME_IN_ALL}</p>
    <div class="mt-3 grid gap-4 md:grid-cols-3">
      {#each charts as { figure, title, up, unit } (figure)}
        <ChartCard
          {title}
          {up}
          runs={[answer.look.without, answer.look.with].map((years) => run(years, figure, unit))}
          label="{title} by season, left alone and thinned"
          heading="h2"
        />
      {/each}
    </div>
    <p class="aside">
      Amber: {answer.of}{answer.entries.size > 1
        ? `, then ${[...answer.entries]
            .filter(([year]) => year > 0)
            .map(([year, ids]) => `${ids.size > 0 ? counted(ids.size, 'tree') : 'nothing'} in ${bush.season + year}`)
            .join(' and ')}`
        : ''}. The other line: left alone. Dotted: where it lies eight times in ten, growth being as uncertain as it is.
    </p>
    <div class="mt-3 overflow-x-auto">
      <table class="w-full text-left" data-testid="years-table">
        <thead
          ><tr class="border-b-2 border-base-content"
            ><th class="py-1 font-semibold">{desk.stand?.name}</th>{#each AT as at (at)}<th
                class="text-right font-semibold"
                colspan="2">{bush.season + at}</th
              >{/each}</tr
          ><tr class="border-b border-base-300 text-sm"
            ><td></td>{#each AT as at (at)}<td class="text-right">alone</td><td class="text-right font-semibold"
                >thinned</td
              >{/each}</tr
          ></thead
        >
        <tbody>
          {#each FIGURES as [figure, label, say] (figure)}
            <tr class="border-b border-base-300/60">
              <th class="py-1 font-normal">{label}</th>
              {#each AT as at (at)}<td class="text-right tabular-nums">{say(answer.look.without[at]![figure].mean)}</td
                ><td class="text-right font-semibold tabular-nums">{say(answer.look.with[at]![figure].mean)}</td>{/each}
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    <p class="aside mt-2 max-w-prose">
      Growth follows competition, and the readings of {answer.look.calibrated.used} trees of this stand have moved the model:
      without neighbours they would lay {Math.round(100 * Math.exp(answer.look.calibrated.model.level))} % of the default
      ring, and competition counts {(answer.look.calibrated.model.c / DEFAULT_GROWTH.c).toFixed(1)} times as much. Taps are
      what size, condition and growth carry. Sap is sweeter under free crowns: {CROWDED_SUGAR_PCT} % sugar in a crowd, up
      to
      {OPEN_SUGAR_PCT} % in the open (common practice). Holes are taken to be placed without looking; careful placing stays
      below that stain.
    </p>
  {:else if long.done === null}
    <p class="max-w-prose text-lg">
      A thinning costs taps at once and gives thicker, sweeter trees later. Take a choice from the plan, and see both
      stands side by side until {bush.season + YEARS}.
    </p>
  {/if}
{/if}
