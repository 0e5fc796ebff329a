<script lang="ts">
  import {
    M2_PER_ACRE,
    M2_PER_HECTARE,
    parseTrunkLength,
    SPECIES,
    speciesById,
    toDiameter,
    UnreadableLength,
    type PlotRecord,
    type SpeciesId
  } from '@baumkin/core';
  import {
    CONFIDENCE,
    cruiseStructure,
    diameterClasses,
    limitingDistanceM,
    meanOverPlots,
    plotFigures,
    plotRadius,
    plotsNeeded
  } from '@baumkin/core/cruise';
  import { onMount } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { dropDraft, keepDraft, readDraft } from '$lib/client/draft.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import { basalAreaFactors } from './gaugeTables.ts';

  /** Sample plots for those who do not tag every tree: counted at the plot, read as figures with how far to trust them. */
  const bush = $derived(useBush());
  const HECTARES_TO_ACRES = M2_PER_HECTARE / M2_PER_ACRE;
  const metric = $derived(preferences.units === 'metric');
  let standId = $state('');
  const plots = $derived(bush.bushRecords.filter((r): r is PlotRecord => r.kind === 'plot'));
  const shown = $derived(standId === '' ? plots : plots.filter((plot) => plot.standId === standId));
  const standName = (id: string | null) => bush.overview?.stands.find((stand) => stand.id === id)?.name ?? 'no stand';

  // --- figures
  let wished = $state(15);
  const figures = $derived(shown.map(plotFigures));
  const area = $derived(meanOverPlots(figures.map((f) => f.basalAreaM2PerHa)));
  const stems = $derived(
    figures.some((f) => f.stemsPerHa === null) ? null : meanOverPlots(figures.map((f) => f.stemsPerHa!))
  );
  /** Weighed by basal area, as one would over all plots taken together. */
  const mapleShare = $derived(
    area.mean > 0
      ? figures.reduce((sum, f) => sum + (f.mapleShare ?? 0) * f.basalAreaM2PerHa, 0) / (area.mean * figures.length)
      : null
  );
  const structure = $derived(cruiseStructure(shown));
  const classes = $derived(diameterClasses(shown, metric ? 50 : 50.8));
  const tallest = $derived(Math.max(1, ...classes.map((c) => c.stemsPerHa)));
  const needed = $derived(area.cv === null ? null : plotsNeeded(area.cv, wished / 100));
  const perGround = (perHa: number, half: number | null = null) => {
    const here = (n: number) => Math.round(metric ? n : n / HECTARES_TO_ACRES);
    return `${here(perHa)}${half === null ? '' : ` ± ${here(half)}`} stems per ${metric ? 'ha' : 'acre'}`;
  };

  // --- entry
  interface Entry {
    name: string;
    standId: string;
    kind: 'fixed' | 'gauge';
    radiusM: number;
    bafM2PerHa: number;
    trees: { species: SpeciesId | null; dbhMm: number | null }[];
  }
  const DRAFT_OF = 'bush';
  let entry = $state<Entry | null>(null);
  let species = $state<SpeciesId | ''>('sugarMaple');
  let text = $state('');
  let quantity = $state<'diameter' | 'girth'>('diameter');

  onMount(async () => {
    const kept = await readDraft<Entry>(`plot-${DRAFT_OF}`, bush.id);
    if (kept) entry = kept.value;
  });
  const keep = () => entry && void keepDraft(bush.id, `plot-${DRAFT_OF}`, bush.id, $state.snapshot(entry));

  function begin(): void {
    const last = plots.at(-1);
    const numbers = plots.map((plot) => Number(plot.name)).filter(Number.isInteger);
    entry = {
      name: String(Math.max(0, ...numbers) + 1),
      standId: last?.standId ?? standId,
      kind: last?.design.kind ?? 'fixed',
      radiusM:
        last?.design.kind === 'fixed' ? last.design.radiusM : metric ? plotRadius(200) : plotRadius(M2_PER_ACRE / 10),
      bafM2PerHa:
        last?.design.kind === 'gauge' ? last.design.bafM2PerHa : basalAreaFactors(preferences.units)[1]!.bafM2PerHa,
      trees: []
    };
    keep();
  }

  const RADII = $derived(
    metric
      ? [100, 200, 400].map((m2) => ({ radiusM: plotRadius(m2), name: `${m2} m²` }))
      : (
          [
            [20, '1/20'],
            [10, '1/10'],
            [5, '1/5']
          ] as const
        ).map(([part, name]) => ({
          radiusM: plotRadius(M2_PER_ACRE / part),
          name: `${name} acre`
        }))
  );
  const metres = (m: number) => preferences.length(m * 1000, 'ground');

  const parsed = $derived.by(() => {
    if (text.trim() === '') return null;
    try {
      const written = parseTrunkLength(text, preferences.trunkUnit);
      const dbhMm = toDiameter(written.valueMm, written.quantity ?? quantity);
      if (dbhMm < 10 || dbhMm > 3000) return { problem: 'That is no trunk: look at the unit.' };
      return { dbhMm };
    } catch (error) {
      if (error instanceof UnreadableLength) return { problem: error.message };
      throw error;
    }
  });
  const limit = $derived(
    entry?.kind === 'gauge' && parsed && 'dbhMm' in parsed ? limitingDistanceM(parsed.dbhMm!, entry.bafM2PerHa) : null
  );

  function count(dbhMm: number | null): void {
    if (!entry) return;
    entry.trees.push({ species: species === '' ? null : species, dbhMm });
    text = '';
    keep();
  }

  async function save(): Promise<void> {
    if (!entry) return;
    const { name, trees, kind, radiusM, bafM2PerHa } = $state.snapshot(entry);
    const record = await bush.recordOfBush({
      kind: 'plot',
      standId: entry.standId || null,
      name: name.trim(),
      design: kind === 'fixed' ? { kind, radiusM } : { kind, bafM2PerHa },
      trees,
      note: ''
    });
    await dropDraft(`plot-${DRAFT_OF}`, bush.id);
    entry = null;
    toast.success(`Plot ${name}: ${trees.length} ${trees.length === 1 ? 'tree' : 'trees'} counted.`, {
      action: { label: 'Undo', onClick: () => void bush.withdrawOfBush(record) }
    });
  }

  async function leave(): Promise<void> {
    await dropDraft(`plot-${DRAFT_OF}`, bush.id);
    entry = null;
  }

  const inWords = (tree: Entry['trees'][number]) =>
    `${tree.species ? speciesById(tree.species).name : 'species open'}${tree.dbhMm === null ? '' : ` ${preferences.length(tree.dbhMm, 'trunk')}`}`;
  const designOf = ({ design }: PlotRecord) =>
    design.kind === 'fixed'
      ? `radius ${metres(design.radiusM)}`
      : `gauge ${preferences.basalAreaDensity(design.bafM2PerHa)}`;
</script>

<div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
  <section aria-labelledby="figures" class="flex min-w-0 flex-col gap-3 max-lg:order-last">
    <div class="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
      <h1 id="figures">What the plots say</h1>
      <select class="select w-40 select-sm" aria-label="Stand" bind:value={standId}>
        <option value="">All stands</option>
        {#each bush.overview?.stands ?? [] as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
      </select>
    </div>
    {#if shown.length === 0}
      <p class="max-w-prose">
        Nothing is counted here yet. A few plots, laid out by chance or on a grid before you look, tell how much stands
        here without tagging every tree: how many stems, how much basal area, how much of it maple.
      </p>
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
                >{plot.trees.length}
                {plot.trees.length === 1 ? 'tree' : 'trees'}, {preferences.basalAreaDensity(
                  plotFigures(plot).basalAreaM2PerHa
                )}<span class="aside"
                  >&nbsp;· {designOf(plot)} · {standName(plot.standId)} ·
                  <span class="whitespace-nowrap">{plot.on}</span> · {bush.authorOf(plot)}</span
                ></span
              >
              {#if bush.mayRecord}<button class="btn btn-ghost btn-sm" onclick={() => bush.withdrawOfBush(plot)}
                  >Take back<span class="sr-only"> plot {plot.name}</span></button
                >{/if}
            </li>
          {/each}
        </ul>
      </div>
    {/if}
  </section>

  <section aria-labelledby="count" class="flex min-w-0 flex-col gap-3">
    {#if !bush.mayRecord}
      <h2 id="count">Plots</h2>
      <p>You look here as a viewer; the crew and the steward count.</p>
    {:else if !entry}
      <h2 id="count">Count a plot</h2>
      <p class="max-w-prose">
        Go to a point that was chosen before you saw the trees. Either measure every trunk on a circle, or turn round
        with an angle gauge and count those that look wider.
      </p>
      <button class="btn self-start btn-primary" onclick={begin}>Count a plot</button>
    {:else}
      <div class="flex flex-wrap items-end gap-3">
        <h2 id="count" class="grow">Plot {entry.name}: {entry.trees.length} counted</h2>
        <label class="flex flex-col text-sm"
          >Name<input class="input w-20 input-sm" maxlength="40" bind:value={entry.name} onchange={keep} /></label
        >
        <label class="flex flex-col text-sm"
          >Stand<select class="select w-40 select-sm" bind:value={entry.standId} onchange={keep}>
            <option value="">no stand</option>
            {#each bush.overview?.stands ?? [] as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
          </select></label
        >
      </div>
      <div class="grid grid-cols-2" role="group" aria-label="How the plot picks its trees">
        {#each [['fixed', 'All on a circle'], ['gauge', 'Angle gauge']] as const as [kind, label] (kind)}
          <button
            class="min-h-11 border border-base-content px-2 last:border-l-0 {entry.kind === kind
              ? 'bg-neutral font-bold text-neutral-content'
              : ''}"
            aria-pressed={entry.kind === kind}
            disabled={entry.trees.length > 0 && entry.kind !== kind}
            onclick={() => {
              entry!.kind = kind;
              keep();
            }}>{label}</button
          >
        {/each}
      </div>
      {#if entry.kind === 'fixed'}
        <label class="flex flex-wrap items-center gap-2"
          >Circle
          <select class="select w-56" bind:value={entry.radiusM} disabled={entry.trees.length > 0} onchange={keep}>
            {#each RADII.some((r) => Math.abs(r.radiusM - entry!.radiusM) < 0.01) ? RADII : [...RADII, { radiusM: entry.radiusM, name: 'as last' }] as { radiusM, name } (name)}
              <option value={radiusM}>{name}: radius {metres(radiusM)}</option>
            {/each}
          </select></label
        >
      {:else}
        <label class="flex flex-wrap items-center gap-2"
          >Factor
          <select class="select w-40" bind:value={entry.bafM2PerHa} disabled={entry.trees.length > 0} onchange={keep}>
            {#each basalAreaFactors(preferences.units) as { bafM2PerHa, name } (name)}<option value={bafM2PerHa}
                >{name}</option
              >{/each}
          </select></label
        >
      {/if}
      <form
        class="flex flex-col gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          if (parsed && 'dbhMm' in parsed) count(parsed.dbhMm!);
        }}
      >
        <label class="flex flex-col gap-1"
          ><span>Species</span>
          <select class="select w-full" bind:value={species}>
            <option value="">not told</option>
            {#each SPECIES as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
          </select></label
        >
        <div class="flex gap-2">
          <select class="select w-32" aria-label="What was measured" bind:value={quantity}>
            <option value="diameter">diameter</option>
            <option value="girth">girth</option>
          </select>
          <input
            class="input h-12 grow text-xl"
            aria-label="Diameter or girth"
            placeholder={metric ? '36.5 cm' : '14 3/8"'}
            autocomplete="off"
            data-testid="plot-tree"
            bind:value={text}
          />
        </div>
        {#if parsed && 'problem' in parsed}<p role="alert" class="font-semibold text-error">{parsed.problem}</p>{/if}
        {#if limit !== null}<p class="bg-base-200 px-3 py-2">
            It counts when its middle stands no farther than <b>{metres(limit)}</b> from you.
          </p>{/if}
        <div class="flex flex-wrap gap-2">
          <button class="btn btn-primary max-md:grow" disabled={!parsed || 'problem' in parsed}>Count this tree</button>
          {#if entry.kind === 'gauge'}
            <button type="button" class="btn btn-outline max-md:grow" onclick={() => count(null)}
              >Count without a diameter</button
            >
          {/if}
        </div>
      </form>
      {#if entry.trees.length > 0}
        <ol class="flex flex-wrap gap-1.5" aria-label="Counted">
          {#each entry.trees as tree, i (i)}
            <li class="flex items-center gap-1 border border-base-300 pl-2 text-sm">
              {inWords(tree)}
              <button
                class="min-h-8 px-2"
                aria-label="Take tree {i + 1} off"
                onclick={() => {
                  entry!.trees.splice(i, 1);
                  keep();
                }}>×</button
              >
            </li>
          {/each}
        </ol>
      {/if}
      <div class="flex flex-wrap gap-2 border-t border-base-300 pt-3">
        <button class="btn btn-primary" disabled={entry.name.trim() === ''} onclick={save}
          >Save the plot{entry.trees.length === 0 ? ' as empty' : ''}</button
        >
        <button class="btn btn-ghost" onclick={leave}>Drop it</button>
      </div>
      <p class="aside">An empty plot counts as well: leaving it out would make the stand richer than it is.</p>
    {/if}
  </section>
</div>
