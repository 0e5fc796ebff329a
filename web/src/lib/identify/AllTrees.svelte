<script lang="ts">
  import { SPECIES, speciesById, type SpeciesId } from '@baumkin/core/identify';
  import { declaration, knownMaple, wantsLeafVisit, type TreeRow } from '@baumkin/core/records';
  import { SvelteSet } from 'svelte/reactivity';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import WindowedList from '$lib/ui/WindowedList.svelte';

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
  const chosen = new SvelteSet<string>();
  let lastIndex = $state<number | null>(null);

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

  /** One tree, or with shift everything between the last one and this. */
  function toggle(index: number, event: MouseEvent): void {
    const on = !chosen.has(shown[index]!.id);
    const from = event.shiftKey && lastIndex !== null ? lastIndex : index;
    for (let i = Math.min(from, index); i <= Math.max(from, index); i++) {
      const row = shown[i];
      if (!row) continue;
      if (on) chosen.add(row.id);
      else chosen.delete(row.id);
    }
    lastIndex = index;
  }

  function show(next: Filter): void {
    filter = next;
    lastIndex = null;
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
    toast.success(
      `${records.length} ${records.length === 1 ? 'tree' : 'trees'} settled as ${speciesById(settled).name}.`,
      { action: { label: 'Undo', onClick: () => void bush.withdraw(...records) }, duration: 10_000 }
    );
  }
</script>

<div class="grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_20rem]">
  <section aria-labelledby="trees" class="flex min-w-0 flex-col">
    <h1 id="trees" class="sr-only">What every tree is</h1>
    <div class="mb-2 flex flex-wrap items-center gap-x-1 gap-y-2">
      <div class="flex flex-wrap gap-x-1" role="group" aria-label="Show">
        {#each FILTERS as [id, label, test] (id)}
          <button
            class="px-2 py-1 max-md:min-h-11 {filter === id ? 'border-b-[3px] border-base-content font-bold' : ''}"
            aria-pressed={filter === id}
            onclick={() => show(id)}>{label} <span class="aside">{inStand.filter(test).length}</span></button
          >
        {/each}
      </div>
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
        <select class="select w-36 select-sm" aria-label="Stand" bind:value={standId}>
          <option value="">All stands</option>
          {#each bush.overview?.stands ?? [] as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
        </select>
        <select class="select w-40 select-sm" aria-label="Order" bind:value={sortBy}>
          <option value="walk">in walking order</option>
          <option value="species">by species</option>
          <option value="date">longest ago first</option>
        </select>
      </div>
    </div>
    {#if shown.length === 0}
      <p class="py-4">
        {filter === 'open'
          ? 'Every tree here is settled.'
          : filter === 'leaf'
            ? 'No tree waits for its leaves.'
            : 'There are no such trees here.'}
      </p>
    {:else}
      <WindowedList items={shown} rowPx={42}>
        {#snippet line(row, index)}
          <div class="flex h-full items-center gap-3 px-1 {chosen.has(row.id) ? 'bg-primary/12' : ''}">
            {#if bush.mayRecord}
              <input
                type="checkbox"
                class="checkbox checkbox-sm"
                aria-label="Choose tree {row.tag}"
                checked={chosen.has(row.id)}
                onclick={(event) => toggle(index, event)}
              />
            {/if}
            <a class="w-14 shrink-0 link font-bold max-md:w-10" href="/bush/{bush.id}/identify/{row.id}">{row.tag}</a>
            <span class="min-w-0 grow truncate">{nameOf(row)}</span>
            <span class="aside w-20 text-right max-md:hidden"
              >{row.dbhMm === null ? '' : preferences.length(row.dbhMm, 'trunk')}</span
            >
            <span class="aside w-28 truncate max-md:hidden">{bush.standOf(row)?.name ?? ''}</span>
            <span class="aside w-24 shrink-0 text-right max-md:hidden">{row.determinedOn ?? 'never'}</span>
          </div>
        {/snippet}
      </WindowedList>
    {/if}
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
        <b>{chosen.size} {chosen.size === 1 ? 'tree' : 'trees'}</b>: {chosenRows
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
        >Settle {chosen.size} {chosen.size === 1 ? 'tree' : 'trees'}</button
      >
      {#if species === '' || how.trim() === ''}<p class="aside">Say what they are and how you know it.</p>{/if}
    {/if}
  </aside>
</div>
