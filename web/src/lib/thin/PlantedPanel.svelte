<script lang="ts">
  import { isMaple, speciesById, SPECIES, type SpeciesId } from '@baumkin/core/identify';
  import type { PlantingRecord } from '@baumkin/core/records';
  import { tapGuidelineOf } from '@baumkin/core/taps';
  import { firstTapping, GUARDS, survival, type Guard } from '@baumkin/core/thinning';
  import Trash from '@lucide/svelte/icons/trash-2';
  import { untrack } from 'svelte';

  import { saved } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import UnitNumber from '$lib/ui/UnitNumber.svelte';

  /** Planted trees: how many live, and when the first of them may bear a taphole. */
  const { standId, unitM, unit }: { standId: string | null; unitM: number; unit: string } = $props();
  const bush = useBush();
  const groups = $derived(
    bush.bushRecords
      .filter((r): r is PlantingRecord => r.kind === 'planting' && r.standId === standId)
      .sort((a, b) => a.year - b.year || a.name.localeCompare(b.name, 'en', { numeric: true }))
  );
  const firstMm = $derived(tapGuidelineOf(bush.overview!.bush.settings).steps[0]?.diameterMm ?? null);
  const GUARD: Readonly<Record<Guard, string>> = {
    none: 'no guard',
    tube: 'a tube round each',
    mesh: 'mesh round each',
    fence: 'inside a fence'
  };

  let name = $state('');
  let species = $state<SpeciesId>('sugarMaple');
  let year = $state(untrack(() => Number(bush.today.slice(0, 4))));
  let many = $state(10);
  let heightM = $state(0.5);
  let guard = $state<Guard>('tube');
  let problem = $state<string | null>(null);

  let counting = $state<string | null>(null);
  let alive = $state(0);
  let tallM = $state(0.5);

  async function add(): Promise<void> {
    problem = null;
    try {
      const record = await bush.recordOfBush({
        kind: 'planting',
        standId,
        name: name.trim(),
        species,
        year,
        many,
        alive: null,
        heightM,
        guard,
        note: ''
      });
      saved(bush, `${many} planted trees are in the book.`, record);
      name = '';
    } catch {
      problem = 'Say a name, a year since 1900 and how many.';
    }
  }

  async function count({ id, recordedAt: _at, authorId: _author, ...rest }: PlantingRecord): Promise<void> {
    problem = null;
    try {
      await bush.recordOfBush({ ...rest, on: bush.today, correctsId: id, alive, heightM: tallM });
      counting = null;
    } catch {
      problem = `No more than ${rest.many} can live: so many were planted.`;
    }
  }
</script>

<section aria-labelledby="planted" class="flex flex-col gap-3" data-testid="planted">
  <h2 id="planted">Planted trees</h2>
  {#if groups.length === 0}
    <p class="aside">None is written down here.</p>
  {:else}
    <ul class="max-w-2xl">
      {#each groups as group (group.id)}
        {@const lives = survival(group)}
        {@const first =
          firstMm !== null && isMaple(group.species)
            ? firstTapping(group.heightM === null ? group.year : Number(group.on.slice(0, 4)), group.heightM, firstMm)
            : null}
        <li class="border-b border-base-300/60 py-2">
          <p>
            <b>{group.name}</b>: {group.many}
            {speciesById(group.species).name} of {group.year}, {GUARD[group.guard]}{group.heightM === null
              ? ''
              : `, ${preferences.length(group.heightM * 1000, 'ground')} tall on ${group.on}`}.
            {lives === null
              ? 'Nobody has counted again how many live.'
              : `${group.alive} live, ${Math.round(100 * lives)} %.`}
            {#if first && group.alive !== 0}
              <span class="block"
                >First taphole about {first.likely}, somewhere from {first.from} to {first.to}{group.guard === 'none' &&
                group.alive === null
                  ? '; unguarded ones are often bitten off'
                  : ''}.</span
              >
            {/if}
          </p>
          {#if bush.mayRecord}
            {#if counting === group.id}
              <form
                class="mt-1 flex flex-wrap items-end gap-3"
                onsubmit={(event) => {
                  event.preventDefault();
                  void count(group);
                }}
              >
                <UnitNumber label="live" bind:value={alive} min={0} max={group.many} step={1} digits={0} />
                <UnitNumber label="middle height, {unit}" bind:value={tallM} unit={unitM} min={0.1} step={0.1} />
                <button class="btn btn-primary btn-sm">Keep</button>
                <button type="button" class="btn btn-ghost btn-sm" onclick={() => (counting = null)}>Cancel</button>
              </form>
            {:else}
              <div class="mt-1 flex gap-2">
                <button
                  class="btn btn-outline btn-sm"
                  onclick={() => {
                    counting = group.id;
                    alive = group.alive ?? group.many;
                    tallM = group.heightM ?? 0.5;
                  }}>Count again</button
                >
                {#if bush.mayTakeBack(group)}<button
                    class="btn btn-square btn-ghost btn-sm"
                    aria-label="Take {group.name} back"
                    onclick={() => void bush.withdraw(group)}><Trash size={14} /></button
                  >{/if}
              </div>
            {/if}
          {/if}
        </li>
      {/each}
    </ul>
    <p class="aside max-w-prose">
      By working assumptions of growth, crowded to free; a crown that is kept free gets there first. Rings tell better
      once there are some.
    </p>
  {/if}
  {#if bush.mayRecord}
    <form
      class="flex flex-wrap items-end gap-3"
      data-testid="planting-form"
      onsubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <label class="flex flex-col gap-1"
        >Where, or a name <input class="input w-40" maxlength="60" required bind:value={name} /></label
      >
      <label class="flex flex-col gap-1"
        >Species
        <select class="select w-44" bind:value={species}>
          {#each SPECIES as each (each.id)}<option value={each.id}>{each.name}</option>{/each}
        </select></label
      >
      <UnitNumber label="Year" bind:value={year} min={1900} max={2200} step={1} digits={0} />
      <UnitNumber label="How many" bind:value={many} min={1} step={1} digits={0} />
      <UnitNumber label="Height now, {unit}" bind:value={heightM} unit={unitM} min={0.1} step={0.1} />
      <label class="flex flex-col gap-1"
        >Guard
        <select class="select w-40" bind:value={guard}>
          {#each GUARDS as each (each)}<option value={each}>{GUARD[each]}</option>{/each}
        </select></label
      >
      <button class="btn btn-outline">Write down</button>
    </form>
  {/if}
  {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
</section>
