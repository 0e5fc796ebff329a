<script lang="ts">
  import type { PlotRecord } from '@baumkin/core/records';
  import { M2_PER_ACRE, M2_PER_HECTARE } from '@baumkin/core/units';
  import {
    CONFIDENCE,
    cruiseMapleShare,
    cruiseStructure,
    diameterClasses,
    meanOverPlots,
    plotMetrics,
    plotsNeeded
  } from '@baumkin/core/cruise';

  import EmptyState from '$lib/ui/EmptyState.svelte';
  import StandSelect from '$lib/ui/StandSelect.svelte';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import Term from '$lib/ui/Term.svelte';

  /** What the plots say of a stand, how far to trust it, and how many more it takes. */
  let { plots, standId = $bindable() }: { plots: readonly PlotRecord[]; standId: string } = $props();
  const bush = useBush();
  const metric = $derived(preferences.units === 'metric');
  const ACRES_PER_HECTARE = M2_PER_HECTARE / M2_PER_ACRE;
  const shown = $derived(standId === '' ? plots : plots.filter((plot) => plot.standId === standId));
  const standName = (id: string | null) => bush.overview?.stands.find((stand) => stand.id === id)?.name ?? 'no stand';
  const metres = (m: number) => preferences.length(m * 1000, 'ground');

  let wished = $state(15);
  const figures = $derived(shown.map(plotMetrics));
  const area = $derived(meanOverPlots(figures.map((f) => f.basalAreaM2PerHa)));
  const stems = $derived(
    figures.some((f) => f.stemsPerHa === null) ? null : meanOverPlots(figures.map((f) => f.stemsPerHa!))
  );
  const mapleShare = $derived(cruiseMapleShare(shown));
  const structure = $derived(cruiseStructure(shown));
  const classes = $derived(diameterClasses(shown, metric ? 50 : 50.8));
  const tallest = $derived(Math.max(1, ...classes.map((c) => c.stemsPerHa)));
  const needed = $derived(area.cv === null ? null : plotsNeeded(area.cv, wished / 100));
  const perGround = (perHa: number, half: number | null = null) => {
    const here = (n: number) => Math.round(metric ? n : n / ACRES_PER_HECTARE);
    return `${here(perHa)}${half === null ? '' : ` ± ${here(half)}`} stems per ${metric ? 'ha' : 'acre'}`;
  };
  const designOf = ({ design }: PlotRecord) =>
    design.kind === 'fixed'
      ? `radius ${metres(design.radiusM)}`
      : `gauge ${preferences.basalAreaDensity(design.bafM2PerHa)}`;
</script>

<section aria-labelledby="figures" class="flex min-w-0 flex-col gap-3 max-lg:order-last">
  <div class="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
    <h1 id="figures">What the plots say</h1>
    <StandSelect bind:value={standId} />
  </div>
  {#if shown.length === 0}
    <EmptyState>
      Nothing is counted here yet. A few plots, laid out by chance or on a grid before you look, tell how much stands
      here without tagging every tree: how many stems, how much <Term of="basalArea" />, how much of it maple.
    </EmptyState>
  {:else}
    <div data-testid="plot-figures">
      <p class="font-slab text-2xl font-semibold">
        {preferences.basalAreaDensity(area.mean)}{area.half === null
          ? ''
          : ` ± ${preferences.basalAreaDensity(area.half)}`}
      </p>
      <p class="aside">
        {area.half === null
          ? 'basal area on the one plot; a second one tells how far to trust it'
          : `basal area; the truth lies within in about ${Math.round(CONFIDENCE * 10)} of 10 such cruises`}
      </p>
      <p class="mt-2">
        {stems
          ? `${perGround(stems.mean, stems.half)}`
          : 'Stems are not known: some trees were counted without a diameter'}{mapleShare === null
          ? ''
          : `; ${Math.round(mapleShare * 100)} % of the basal area is maple`}{structure
          ? `; quadratic mean diameter ${preferences.length(structure.qmdMm, 'trunk')}, stand density index ${Math.round(structure.sdi)}`
          : ''}.
      </p>
    </div>
    {#if area.cv !== null}
      <label class="flex flex-wrap items-center gap-x-2 gap-y-1"
        >To know the basal area within ±
        <select class="select w-24 select-sm" bind:value={wished}>
          {#each [10, 15, 20, 30] as percent (percent)}<option value={percent}>{percent} %</option>{/each}
        </select>
        <b data-testid="needed"
          >{needed === null
            ? 'no number of plots would do'
            : needed <= shown.length
              ? 'these plots are enough'
              : `count ${needed - shown.length} more ${needed - shown.length === 1 ? 'plot' : 'plots'}`}</b
        ></label
      >
    {/if}
    {#if classes.length > 0}
      <div>
        <h2 class="mb-1">Stems by diameter</h2>
        <table class="w-full max-w-xl text-sm">
          <thead class="sr-only"><tr><th>Diameter</th><th>Stems</th><th>of them maples</th></tr></thead>
          <tbody>
            {#each classes as c (c.fromMm)}
              <tr>
                <th scope="row" class="w-28 pr-2 text-right font-normal whitespace-nowrap"
                  >{preferences.length(c.fromMm, 'hand').replace(/ .*/, '')}–{preferences.length(c.toMm, 'hand')}</th
                >
                <td class="py-0.5"
                  ><span class="relative block h-4 bg-base-200" aria-hidden="true"
                    ><span
                      class="absolute inset-y-0 left-0 bg-base-content/35"
                      style:width="{(100 * c.stemsPerHa) / tallest}%"
                    ></span><span
                      class="absolute inset-y-0 left-0 bg-secondary"
                      style:width="{(100 * c.mapleStemsPerHa) / tallest}%"
                    ></span></span
                  ></td
                >
                <td class="w-28 pl-2 whitespace-nowrap">{perGround(c.stemsPerHa).replace(' stems', '')}</td>
              </tr>
            {/each}
          </tbody>
        </table>
        <p class="aside mt-1 flex gap-4">
          <span class="flex items-center gap-1.5"><span class="inline-block h-3 w-3 bg-secondary"></span>maples</span>
          <span class="flex items-center gap-1.5"
            ><span class="inline-block h-3 w-3 bg-base-content/35"></span>other trees</span
          >
        </p>
      </div>
    {/if}
    <div>
      <h2 class="mb-1">Plots</h2>
      <ul>
        {#each shown.toReversed() as plot (plot.id)}
          <li class="grid grid-cols-[2.5rem_1fr_auto] items-baseline gap-x-3 border-t border-base-300 py-1">
            <b class="truncate">{plot.name}</b>
            <span class="grow"
              >{counted(plot.trees.length, 'tree')}, {preferences.basalAreaDensity(
                plotMetrics(plot).basalAreaM2PerHa
              )}<span class="aside"
                >&nbsp;· {designOf(plot)} · {standName(plot.standId)} ·
                <span class="whitespace-nowrap">{plot.on}</span> · {bush.authorOf(plot)}</span
              ></span
            >
            {#if bush.mayTakeBack(plot)}<button class="btn btn-ghost btn-sm" onclick={() => bush.withdraw(plot)}
                >Take back<span class="sr-only"> plot {plot.name}</span></button
              >{/if}
          </li>
        {/each}
      </ul>
    </div>
  {/if}
</section>
