<script lang="ts">
  import { usualSugarPct } from '@baumkin/core/identify';
  import { conditionOf, tapForbidden } from '@baumkin/core/records';
  import { LITRES_A_TAP, sapToSyrup } from '@baumkin/core/sap';
  import {
    conditionCap,
    tapGuidelineOf,
    TAP_GUIDELINES,
    tapsUnder,
    type BushYear,
    type TapGuidelineId,
    type TapPolicy,
    type TapTree
  } from '@baumkin/core/taps';
  import { MM_PER_INCH } from '@baumkin/core/units';
  import { countable, policyOf } from '@baumkin/core/bush';
  import { onDestroy } from 'svelte';

  import { GUIDELINE_LABELS, guidelineRule } from '$lib/labels/taps.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import ChartCard from '$lib/ui/ChartCard.svelte';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import { LongRun } from '$lib/workers/longRun.svelte.ts';

  /** The bush as it is tapped now beside the bush as it might be, over forty years. */
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const YEARS = 40;
  const DRAWS = 30;

  const now = $derived(policyOf(settings));

  let guidelineId = $state<TapGuidelineId | 'same'>('same');
  let bitMm = $state(0);
  let longer = $state(0);
  let thicker = $state(0);
  let minds = $state<'growth' | 'size'>('size');
  let restsWeak = $state(true);
  const BITS = [
    [0, 'as now'],
    [7.9375, '5/16 in'],
    [9.525, '3/8 in'],
    [11.1125, '7/16 in']
  ] as const;
  const other = $derived<TapPolicy>({
    ...now,
    guideline: guidelineId === 'same' ? now.guideline : tapGuidelineOf({ ...settings, tapGuideline: guidelineId }),
    bitMm: bitMm || now.bitMm,
    bandMm: now.bandMm + longer,
    leastDbhMm: thicker === 0 ? 0 : now.guideline.steps[0]!.diameterMm + thicker,
    minds,
    restsWeak
  });

  let trees = $state.raw<TapTree[] | null>(null);
  let answers = $state.raw<readonly [BushYear[], BushYear[]] | null>(null);
  let answered = $state('');
  const stale = $derived(answered !== JSON.stringify([now, other]));
  const long = new LongRun();
  onDestroy(() => long.stop());

  async function gather(): Promise<TapTree[]> {
    const tappable = bush.rows.filter((row) => {
      const stand = bush.standOf(row);
      return countable(row, stand) && tapForbidden(row, stand, bush.today) === null;
    });
    const trees: TapTree[] = [];
    for await (const { tree: row, records } of bush.lives(tappable)) {
      const state = bush.stateFrom(records);
      if (state.dbhMm === null) continue;
      trees.push({
        dbhMm: state.dbhMm,
        ringMm: state.growth.ringMm,
        ringSeMm: state.growth.ringSeMm,
        holes: state.tapholes.map(({ season, bitMm: bit, depthMm }) => ({ season, bitMm: bit, depthMm })),
        conditionTaps: conditionCap(conditionOf(state.line), bush.today).taps,
        sugarPct: usualSugarPct(row.species),
        species: row.species
      });
    }
    return trees;
  }

  async function look(): Promise<void> {
    const wished = $state.snapshot([now, other]) as [TapPolicy, TapPolicy];
    const options = { season: bush.season, years: YEARS, draws: DRAWS, seed: 1 };
    const found = await long.run(async (remote, told) => {
      trees ??= await gather();
      return remote.project(trees, wished, options, told);
    });
    if (!found) return;
    answers = found as [BushYear[], BushYear[]];
    answered = JSON.stringify(wished);
  }

  const AT = [0, 10, 20, 39];
  const pct = (share: number) => `${Math.round(100 * share)} %`;
  /** Sap and syrup of a year, litres: each tap's yield, less what its stained wood does not give. */
  function yields({ taps, stained, sugarPct }: BushYear): { sap: number; syrup: number } {
    const sap = taps.mean * LITRES_A_TAP * (1 - settings.stainLoss * stained.mean);
    return { sap, syrup: sugarPct > 0 ? sap / sapToSyrup(sugarPct) : 0 };
  }

  const runs = (of: (year: BushYear) => BushYear['taps'], scale = 1) =>
    (answers ?? []).map((years) =>
      years.map((year) => {
        const { mean, low, high } = of(year);
        return { season: year.season, mean: scale * mean, low: scale * low, high: scale * high };
      })
    );
  const tapsNow = $derived(
    trees ? [now, other].map((policy) => Math.round(trees!.reduce((n, tree) => n + tapsUnder(policy, tree), 0))) : null
  );
</script>

<h1 class="sr-only">Decades</h1>
<div class="grid gap-x-9 gap-y-6 lg:grid-cols-[20rem_minmax(0,1fr)]">
  <section aria-labelledby="habits" class="flex flex-col gap-4">
    <div>
      <h2 id="habits">As the bush is tapped now</h2>
      <p>
        {GUIDELINE_LABELS[now.guideline.id].name}: {guidelineRule(now.guideline, preferences.units)}; no more than
        growth carries; a {preferences.length(now.bitMm, 'drill')}
        bit, {preferences.length(now.depthMm, 'drill')} deep, over a band of {preferences.length(now.bandMm, 'hand')};
        weak trees rest.
      </p>
    </div>
    <div class="flex flex-col gap-2 border-l-[6px] border-primary pl-4">
      <h2>And if …</h2>
      <label class="flex flex-col gap-1"
        >the count went by
        <select class="select w-full" bind:value={minds}>
          <option value="size">size alone, whatever grows</option>
          <option value="growth">size and growth</option>
        </select></label
      >
      <label class="flex flex-col gap-1"
        >the ladder were
        <select class="select w-full" bind:value={guidelineId}>
          <option value="same">as now</option>
          {#each TAP_GUIDELINES as school (school.id)}<option value={school.id}
              >{GUIDELINE_LABELS[school.id].name}</option
            >{/each}
        </select></label
      >
      <label class="flex flex-col gap-1"
        >the bit were
        <select class="select w-full" bind:value={bitMm}
          >{#each BITS as [mm, label] (mm)}<option value={mm}>{label}</option>{/each}</select
        ></label
      >
      <label class="flex flex-col gap-1"
        >the band were {longer === 0 ? 'as now' : `${preferences.length(longer, 'hand')} longer`}
        <input
          type="range"
          class="range range-sm"
          min="0"
          max="1200"
          step={preferences.units === 'metric' ? 100 : 4 * MM_PER_INCH}
          bind:value={longer}
        /></label
      >
      <label class="flex flex-col gap-1"
        >no tree were tapped until it is {thicker === 0
          ? 'as thick as the ladder asks'
          : `${preferences.length(thicker, 'hand')} thicker than that`}
        <input
          type="range"
          class="range range-sm"
          min="0"
          max={8 * MM_PER_INCH}
          step={MM_PER_INCH}
          bind:value={thicker}
        /></label
      >
      <label class="flex items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={restsWeak} /> weak trees rest</label
      >
    </div>
    <LongRunStatus run={long} what="Forty years, many times over" />
    {#if long.done === null}
      <button class="btn self-start btn-primary" onclick={look} disabled={!stale && answers !== null}
        >{answers === null ? 'Look forty years ahead' : 'Look again'}</button
      >
    {/if}
  </section>
  <section aria-label="Forty years" class="flex min-w-0 flex-col gap-5" data-testid="decades">
    {#if answers}
      {#if stale}<p class="caution">What you see belongs to the wishes before. Look again.</p>{/if}
      <p class="max-w-prose text-lg">
        As now, {Math.round(answers[0][0]!.taps.mean)} taps this season; with your changes {Math.round(
          answers[1][0]!.taps.mean
        )}. In forty years
        {pct(answers[0].at(-1)!.stained.mean)} of a new hole’s path would lie in stained wood as now, {pct(
          answers[1].at(-1)!.stained.mean
        )} with your changes, if nobody looked where the old holes are.
      </p>
      <div class="grid gap-4 md:grid-cols-2">
        <ChartCard
          title="Stained wood in the way of a new hole"
          up="% of the path"
          runs={runs((year) => year.stained, 100)}
          label="Share of stained wood by season, both ways"
          fromZero
        />
        <ChartCard
          title="Taps set"
          up="taps"
          runs={runs((year) => year.taps)}
          label="Taps set by season, both ways"
          fromZero
        />
      </div>
      <p class="aside">
        Dark: as now. Amber: with your changes. Dotted: where it lies eight times in ten, growth being as uncertain as
        it is. Holes are taken to be placed without looking; careful placing stays below.
      </p>
      <table class="w-full text-left" data-testid="decades-table">
        <thead
          ><tr class="border-b-2 border-base-content"
            ><th class="py-1 font-semibold">Season</th>{#each AT as at (at)}<th class="text-right font-semibold"
                >{answers[0][at]!.season}</th
              >{/each}</tr
          ></thead
        >
        <tbody>
          {#each [['as now', answers[0]], ['with your changes', answers[1]]] as const as [name, years] (name)}
            {#each [['taps', (y: BushYear) => String(Math.round(y.taps.mean))], ['taps that growth carries', (y: BushYear) => String(Math.round(y.carried.mean))], ['stained wood in the way', (y: BushYear) => pct(y.stained.mean)], ['sap', (y: BushYear) => preferences.volume(yields(y).sap)], ['syrup', (y: BushYear) => preferences.volume(yields(y).syrup)]] as const as [what, say], i (what)}
              <tr class="border-b {i === 4 ? 'border-base-content' : 'border-base-300/60'}">
                <th class="py-1 font-normal"
                  >{#if i === 0}<b>{`${name}: `}</b>{/if}{what}</th
                >
                {#each AT as at (at)}<td class="text-right tabular-nums">{say(years[at]!)}</td>{/each}
              </tr>
            {/each}
          {/each}
        </tbody>
      </table>
      <p class="aside">
        Sap: {preferences.volume(LITRES_A_TAP)} a tap and season, less in proportion to the stain (common practice); syrup
        by 86 divided by the sugar percentage, each maple’s sap by what is usual for its species.
      </p>
    {:else}
      <p class="max-w-prose text-lg">
        A habit shows what it costs after decades, when it is too late to change it. Set what you would do otherwise,
        and look at both ways side by side.
      </p>
    {/if}
    {#if tapsNow}<p class="sr-only">{tapsNow.join(' and ')} taps by today’s sizes.</p>{/if}
  </section>
</div>
