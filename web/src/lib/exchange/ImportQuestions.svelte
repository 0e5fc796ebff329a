<script lang="ts">
  import type { FaultGroup, SpeciesSaid, TableUnderstood } from '@baumkin/core/exchange';
  import type { MixedColumn } from '@baumkin/core/measure';
  import { tagKey } from '@baumkin/core/records';
  import { SvelteMap } from 'svelte/reactivity';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { CAUSE_WORDS, faultQuestion, SAID_LABELS } from '$lib/labels/importing.ts';

  import type { Importing } from './importing.svelte.ts';

  /** The questions that a file raises, each answered once for all its rows. */
  interface Props {
    importing: Importing;
    table: TableUnderstood | null;
    mixed: MixedColumn | null;
    /** what mistyped tags most likely mean */
    likelyTags: ReadonlyMap<string, string>;
  }
  const { importing, table, mixed, likelyTags }: Props = $props();
  const bush = useBush();
  const groups = $derived(importing.questions);
  const words = $derived(groups.filter(({ fault }) => fault === 'speciesWord'));
  const others = $derived(groups.filter(({ fault }) => fault !== 'speciesWord' && fault !== 'strangeTag'));
  const hint = ({ word }: FaultGroup) => likelyTags.get(word!) ?? null;
  /** Those that are like a tag of the bush first. */
  const strange = $derived(
    groups.filter(({ fault }) => fault === 'strangeTag').toSorted((a, b) => Number(!hint(a)) - Number(!hint(b)))
  );
  const likely = $derived(Object.fromEntries(Array.from(likelyTags, ([written, meant]) => [tagKey(written), meant])));
  const strangeRows = $derived(strange.flatMap(({ rows }) => rows));
  /** So many mistyped tags are shown one by one. */
  const TAGS_SHOWN = 12;
  const SAMPLE = 3;

  /** What was chosen for a word; else what is proposed. */
  const chosen = new SvelteMap<string, SpeciesSaid | ''>();
  const saidOf = (word: string) => chosen.get(word) ?? table?.words.find((each) => each.word === word)?.said ?? '';
  function useWords(): void {
    const species: Record<string, SpeciesSaid> = {};
    for (const { word } of words) {
      const said = saidOf(word!);
      if (said !== '') species[word!] = said;
    }
    void importing.tell({ species });
  }
  let undatedOn = $state('');
  const sample = ({ rows }: FaultGroup) =>
    rows
      .slice(0, SAMPLE)
      .map(({ line, cells }) => `line ${line}: ${cells.filter((cell) => cell !== '').join(', ')}`.slice(0, 90));
  const show = (mm: number) => preferences.length(mm, 'trunk');
</script>

{#snippet rowsOf(group: FaultGroup)}
  <p class="aside mt-0.5 break-words">{sample(group).join('; ')}{group.rows.length > SAMPLE ? '; …' : ''}</p>
{/snippet}

<div class="flex flex-col gap-4" data-testid="questions">
  {#if words.length > 0}
    <section class="border-l-[6px] border-primary pl-4" aria-label="Words for species">
      <p class="font-slab text-lg font-semibold">
        {words.length === 1 ? 'One word for a species is' : `${words.length} words for species are`} not sure to me. What
        do they mean?
      </p>
      <ul class="mt-1 grid gap-x-6 gap-y-1 md:grid-cols-2">
        {#each words as { word, rows } (word)}
          <li class="grid grid-cols-[1fr_4.5rem] items-center gap-2">
            <label class="grid grid-cols-[6rem_1fr] items-center gap-2"
              ><b class="wrap-anywhere">{word}</b>
              <select
                class="select w-full min-w-0 select-sm"
                value={saidOf(word!)}
                onchange={(event) => chosen.set(word!, event.currentTarget.value as SpeciesSaid | '')}
              >
                <option value="">leave these rows out</option>
                {#each SAID_LABELS as [id, name] (id)}<option value={id}>{name}</option>{/each}
              </select></label
            >
            <span class="aside text-right">{rows.length} rows</span>
          </li>
        {/each}
      </ul>
      <button class="btn mt-2 btn-primary btn-sm" onclick={useWords} disabled={importing.busy}
        >Use these for all {words.reduce((sum, { rows }) => sum + rows.length, 0)} rows</button
      >
    </section>
  {/if}
  {#each others as group (`${group.fault} ${group.column} ${group.word}`)}
    <section class="border-l-[6px] border-primary pl-4" aria-label={faultQuestion(group)}>
      <p class="font-slab text-lg font-semibold">{faultQuestion(group)}</p>
      {@render rowsOf(group)}
      <div class="mt-2 flex flex-wrap items-end gap-2">
        {#if group.fault === 'dateOrder'}
          <button class="btn btn-sm" onclick={() => importing.tell({ dates: 'dmy' })}>The day, for all</button>
          <button class="btn btn-sm" onclick={() => importing.tell({ dates: 'mdy' })}>The month, for all</button>
        {:else if group.fault === 'undated'}
          <label class="flex items-center gap-2"
            >On or about <input
              type="date"
              class="input w-44 input-sm"
              max={bush.today}
              bind:value={undatedOn}
            /></label
          >
          <button
            class="btn btn-primary btn-sm"
            disabled={undatedOn === ''}
            onclick={() => importing.tell({ undatedOn })}>Use it for all {group.rows.length}</button
          >
        {:else if group.fault === 'twoSizes'}
          <button class="btn btn-sm" onclick={() => importing.tell({ twoSizes: 'first' })}
            >One: take the first size, for all</button
          >
          <button class="btn btn-sm" onclick={() => importing.tell({ twoSizes: 'twoTrees' })}
            >Two: the second gets -2 behind its tag</button
          >
        {:else if group.fault === 'otherSpecies'}
          <button class="btn btn-sm" onclick={() => importing.tell({ speciesBy: 'book' })}
            >The book, for all such</button
          >
          <button class="btn btn-sm" onclick={() => importing.tell({ speciesBy: 'file' })}
            >The file, for all such</button
          >
        {:else if group.fault === 'otherLot' && mixed}
          <p class="w-full">
            They come to {show(mixed.theseMm)} in the middle, the others of the column to {show(mixed.othersMm)}.
          </p>
          {#each mixed.causes as cause (cause)}
            <button class="btn btn-sm" onclick={() => importing.tell({ otherLot: cause })}
              >{CAUSE_WORDS[cause].take}, all {group.rows.length}</button
            >
          {/each}
          <button class="btn btn-sm" onclick={() => importing.tell({ otherLot: 'asTheyStand' })}
            >They are right as they stand</button
          >
        {/if}
      </div>
    </section>
  {/each}
  {#if strange.length > 0}
    <section class="border-l-[6px] border-primary pl-4" aria-label="Tags that the bush does not have">
      <p class="font-slab text-lg font-semibold">{faultQuestion({ ...strange[0]!, rows: strangeRows })}</p>
      <ul class="mt-1 flex flex-col gap-1">
        {#each strange.slice(0, TAGS_SHOWN) as group (group.word)}
          {@const like = hint(group)}
          <li class="flex flex-wrap items-center gap-2">
            <b>{group.word}</b>
            <span class="aside grow">{sample(group)[0]}</span>
            {#if like}<button
                class="btn btn-sm"
                onclick={() => importing.tell({ tags: { [tagKey(group.word!)]: like } })}>It is {like}</button
              >{/if}
            <button class="btn btn-sm" onclick={() => importing.tell({ tags: { [tagKey(group.word!)]: group.word! } })}
              >A new tree</button
            >
          </li>
        {/each}
      </ul>
      {#if strange.length > TAGS_SHOWN}<p class="aside">and {strange.length - TAGS_SHOWN} more tags.</p>{/if}
      <div class="mt-2 flex flex-wrap gap-2">
        {#if Object.keys(likely).length > 1}<button
            class="btn btn-primary btn-sm"
            onclick={() => importing.tell({ tags: likely })}
            >All {Object.keys(likely).length} that are like a tag here are that tree</button
          >{/if}
        <button
          class="btn btn-sm"
          onclick={() => {
            importing.newTrees = true;
            void importing.read();
          }}>All of them are new trees</button
        >
      </div>
    </section>
  {/if}
</div>
