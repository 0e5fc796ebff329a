<script lang="ts">
  import { SPECIES, speciesById, type SpeciesId } from '@baumkin/core/identify';
  import { declaration, knownMaple, wantsLeafVisit, type TreeRow } from '@baumkin/core/records';
  import { SvelteSet } from 'svelte/reactivity';

  import StandSelect from '$lib/ui/StandSelect.svelte';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import DataTable, { type Column } from '$lib/ui/DataTable.svelte';

  import { capital } from '$lib/words/capital.ts';

  /** Every tree with what it was taken for: who wants a visit in leaf, and settling many at once. */
  const bush = useBush();

  type Filter = 'open' | 'leaf' | 'maples' | 'others' | 'all';
  const FILTERS: readonly [Filter, string, (row: TreeRow) => boolean][] = [
    ['open', 'Unsettled', (row) => knownMaple(row) === null],
    ['leaf', 'Visit in leaf', wantsLeafVisit],
    ['maples', 'Maples', (row) => knownMaple(row) === true],
    ['others', 'Other trees', (row) => knownMaple(row) === false],
    ['all', 'All', () => true]
  ];
  let filter = $state<Filter>('open');
  let standId = $state('');
  let sortBy = $state<'walk' | 'species' | 'date'>('walk');
  let width = $state(1000);
  const narrow = $derived(width < 640);
  const COLUMNS = $derived(
    (narrow ? ['3rem', 'minmax(0,1fr)'] : ['4rem', 'minmax(0,1fr)', '5rem', '7rem', '6rem']).map(
      (track, i): Column<TreeRow> => ({ id: String(i), label: '', track })
    )
  );
  const chosen = new SvelteSet<string>();

  const inStand = $derived(bush.rows.filter((row) => standId === '' || row.standId === standId));
  const shown = $derived.by(() => {
    const rows = inStand.filter(FILTERS.find(([id]) => id === filter)![2]);
    if (sortBy === 'walk') return rows;
    const key = sortBy === 'species' ? nameOf : (row: TreeRow) => row.determinedOn ?? '';
    return rows.toSorted((a, b) => key(a).localeCompare(key(b)));
  });
  const chosenRows = $derived(bush.rows.filter((row) => chosen.has(row.id)));

  function nameOf(row: TreeRow): string {
    switch (row.verdict) {
      case null:
        return 'not looked at';
      case 'lookAgain':
        return `open; most likely ${row.species ? speciesById(row.species).name : 'not said'}`;
      case 'mapleOpen':
        return `a maple; most likely ${row.species ? speciesById(row.species).name : 'not said'}`;
      default:
        return row.species ? speciesById(row.species).name : 'no maple';
    }
  }

  function startAtTop(): void {
    document.querySelector('main')?.scrollTo({ top: 0 });
  }

  let species = $state<SpeciesId | ''>('');
  let how = $state('');
  const GROUNDS = ['seen in leaf', 'planted as such', 'known for years', 'from an older list'];
  /** Trees that were settled as something else: to be looked at before they are overruled. */
  const overruled = $derived(
    species === ''
      ? []
      : chosenRows.filter((row) => (row.verdict === 'settled' || row.verdict === 'notMaple') && row.species !== species)
  );

  async function settle(): Promise<void> {
    if (species === '' || how.trim() === '' || chosenRows.length === 0) return;
    const settled = species;
    const records = await bush.recordAll(
      chosenRows.map((row) => ({
        treeId: row.id,
        draft: declaration(settled, how.trim())
      }))
    );
    chosen.clear();
    saved(bush, `${counted(records.length, 'tree')} settled as ${speciesById(settled).name}.`, ...records);
  }
</script>

<div class="grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_20rem]">
  <section aria-labelledby="trees" class="flex min-w-0 flex-col" bind:clientWidth={width}>
    <h1 id="trees" class="sr-only">What every tree is</h1>
    <div class="mb-2 flex flex-wrap items-center gap-x-1 gap-y-2">
      <ToggleGroup
        label="Show"
        options={FILTERS.map(([id, label, test]) => ({ id, label, count: inStand.filter(test).length }))}
        bind:value={filter}
        onchange={startAtTop}
      />
    </div>
    <div class="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
      {#if bush.mayRecord && shown.length > 0}
        <button class="link" onclick={() => shown.forEach((row) => chosen.add(row.id))}
          >Choose all {shown.length}</button
        >
        {#if chosen.size > 0}<button class="link" onclick={() => chosen.clear()}>Choose none</button>{/if}
        <span class="aside max-md:hidden">With shift: everything in between.</span>
      {/if}
      <div class="ml-auto flex gap-2 max-md:ml-0 max-md:w-full">
        <StandSelect bind:value={standId} size="w-36" />
        <select class="select w-40 select-sm" aria-label="Order" bind:value={sortBy}>
          <option value="walk">in walking order</option>
          <option value="species">by species</option>
          <option value="date">longest ago first</option>
        </select>
      </div>
    </div>
    <DataTable
      rows={shown}
      columns={COLUMNS}
      rowPx={42}
      idOf={(row) => row.id}
      nameOf={(row) => `tree ${row.tag}`}
      chosen={bush.mayRecord ? chosen : undefined}
      nothing={inStand.length === 0
        ? 'There are no trees here yet.'
        : filter === 'open'
          ? 'Every tree here is settled.'
          : filter === 'leaf'
            ? 'No tree waits for its leaves.'
            : 'There are no such trees here.'}
    >
      {#snippet cells(row: TreeRow)}
        <a class="link font-bold" href="/bush/{bush.id}/identify/{row.id}">{row.tag}</a>
        <span class="min-w-0 truncate">{nameOf(row)}</span>
        {#if !narrow}
          <span class="aside text-right">{row.dbhMm === null ? '' : preferences.length(row.dbhMm, 'trunk')}</span>
          <span class="aside truncate pl-2">{bush.standOf(row)?.name ?? ''}</span>
          <span class="aside text-right">{row.determinedOn ?? 'never'}</span>
        {/if}
      {/snippet}
    </DataTable>
  </section>

  <aside
    class="flex flex-col gap-3 lg:sticky lg:top-0 lg:self-start {chosen.size > 0
      ? 'max-lg:order-first'
      : 'max-lg:hidden'}"
    aria-label="Settle many at once"
  >
    <h2>Settle many at once</h2>
    {#if !bush.mayRecord}
      <p>You look here as a viewer; the crew and the steward write.</p>
    {:else if chosen.size === 0}
      <p>
        Choose the trees that you know for certain, the row of planted sugar maples in the yard for example, and say
        once what they are and how you know. Each gets a dated entry of its own; nothing earlier is lost.
      </p>
    {:else}
      <p>
        <b>{counted(chosen.size, 'tree')}</b>: {chosenRows
          .slice(0, 14)
          .map((row) => row.tag)
          .join(', ')}{chosenRows.length > 14 ? ' …' : ''}
      </p>
      <label class="flex flex-col gap-1"
        ><span class="font-semibold">They all are</span>
        <select class="select w-full" bind:value={species}>
          <option value="" disabled>choose a species</option>
          {#each SPECIES as s (s.id)}<option value={s.id}>{capital(s.name)}</option>{/each}
        </select></label
      >
      <label class="flex flex-col gap-1"
        ><span class="font-semibold">How do you know?</span>
        <input class="input w-full" list="grounds" maxlength="200" bind:value={how} />
        <datalist id="grounds"
          >{#each GROUNDS as ground (ground)}<option value={ground}></option>{/each}</datalist
        ></label
      >
      {#if overruled.length > 0}
        <div class="border-l-4 border-primary pl-3" data-testid="overruled">
          <p>
            {overruled.length === 1 ? 'One of them was' : `${overruled.length} of them were`} settled as something else:
            {overruled
              .slice(0, 6)
              .map((row) => `${row.tag} ${row.species ? speciesById(row.species).name : 'no maple'}`)
              .join(', ')}{overruled.length > 6 ? ' …' : ''}.
          </p>
          <button class="btn mt-1 btn-outline btn-sm" onclick={() => overruled.forEach((row) => chosen.delete(row.id))}
            >Leave {overruled.length === 1 ? 'it' : 'these'} out</button
          >
        </div>
      {/if}
      <button class="btn btn-primary" disabled={species === '' || how.trim() === ''} onclick={settle}
        >Settle {counted(chosen.size, 'tree')}</button
      >
      {#if species === '' || how.trim() === ''}<p class="aside">Say what they are and how you know it.</p>{/if}
    {/if}
  </aside>
</div>
