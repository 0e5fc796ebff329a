<script lang="ts">
  import { SPECIES, speciesById, type SpeciesId } from '@baumkin/core/identify';
  import { toDiameter } from '@baumkin/core/measure';
  import type { PlotRecord } from '@baumkin/core/records';
  import { M2_PER_ACRE, parseTrunkLength, UnreadableLength } from '@baumkin/core/units';
  import { basalAreaFactors, limitingDistanceM, plotRadius } from '@baumkin/core/cruise';
  import { onMount } from 'svelte';

  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { dropDraft, keepDraft, readDraft } from '$lib/client/draft.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import { PlaceAnswer } from '$lib/tree/placeAnswer.svelte.ts';
  import PlaceInput from '$lib/tree/PlaceInput.svelte';

  /** Counting a plot, tree by tree; what is half counted stays on the device. */
  const { plots, standId }: { plots: readonly PlotRecord[]; standId: string } = $props();
  const bush = useBush();
  const metric = $derived(preferences.units === 'metric');

  interface Entry {
    name: string;
    standId: string;
    kind: 'fixed' | 'gauge';
    radiusM: number;
    bafM2PerHa: number;
    trees: { species: SpeciesId | null; dbhMm: number | null }[];
  }
  let entry = $state<Entry | null>(null);
  let species = $state<SpeciesId | ''>('sugarMaple');
  let text = $state('');
  let quantity = $state<'diameter' | 'girth'>('diameter');
  let given = $state.raw(new PlaceAnswer(bush));
  const centre = $derived(given.place);

  onMount(async () => {
    const kept = await readDraft<Entry>(bush, 'plot', bush.id);
    if (!kept) return;
    entry = kept.value;
    treesKept = entry.trees.length;
  });
  /** Trees of the plot that the device has written down: less than were counted for a moment, and where it fails. */
  let treesKept = $state(0);
  async function keep(): Promise<void> {
    if (!entry) return;
    const value = $state.snapshot(entry);
    await keepDraft(bush, 'plot', bush.id, value);
    treesKept = value.trees.length;
  }

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
    void keep();
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
    void keep();
  }

  async function save(): Promise<void> {
    if (!entry) return;
    const { name, trees, kind, radiusM, bafM2PerHa } = $state.snapshot(entry);
    const record = await bush.recordOfBush({
      kind: 'plot',
      standId: entry.standId || null,
      name: name.trim(),
      centre: centre && { eastM: centre.eastM, northM: centre.northM },
      design: kind === 'fixed' ? { kind, radiusM } : { kind, bafM2PerHa },
      trees,
      note: ''
    });
    await dropDraft(bush, 'plot', bush.id);
    entry = null;
    given = new PlaceAnswer(bush);
    saved(bush, `Plot ${name}: ${counted(trees.length, 'tree')} counted.`, record);
  }

  async function leave(): Promise<void> {
    await dropDraft(bush, 'plot', bush.id);
    entry = null;
    given = new PlaceAnswer(bush);
  }

  const inWords = (tree: Entry['trees'][number]) =>
    `${tree.species ? speciesById(tree.species).name : 'species open'}${tree.dbhMm === null ? '' : ` ${preferences.length(tree.dbhMm, 'trunk')}`}`;
  const PICKS = [
    ['fixed', 'All on a circle'],
    ['gauge', 'Angle gauge']
  ] as const;
</script>

<section aria-labelledby="count" class="flex min-w-0 flex-col gap-3">
  {#if !bush.mayRecord}
    <h2 id="count">Plots</h2>
    <p>You look here as a viewer; the crew and the steward count.</p>
  {:else if !entry}
    <h2 id="count">Count a plot</h2>
    <p class="max-w-prose">
      Go to a point that was chosen before you saw the trees. Either measure every trunk on a circle, or turn round with
      an angle gauge and count those that look wider.
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
    <details>
      <summary class="cursor-pointer text-sm">
        {centre ? 'Its centre is placed' : 'Place its centre: trees can then be placed from it'}
      </summary>
      <div class="mt-2"><PlaceInput answer={given} legend="Where its centre lies" /></div>
    </details>
    <ToggleGroup
      look="boxes"
      label="How the plot picks its trees"
      options={PICKS.map(([id, label]) => ({ id, label, disabled: entry!.trees.length > 0 && entry!.kind !== id }))}
      bind:value={entry.kind}
      onchange={keep}
    />
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
                void keep();
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
    {#if entry.trees.length > 0}
      <p class="aside" data-testid="plot-kept">
        {treesKept === entry.trees.length
          ? 'The device keeps what is counted until you save the plot.'
          : 'What is counted is being kept ...'}
      </p>
    {/if}
    <p class="aside">An empty plot counts as well: leaving it out would make the stand richer than it is.</p>
  {/if}
</section>
