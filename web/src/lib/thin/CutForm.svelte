<script lang="ts">
  import type { Cut, TreeRow } from '@baumkin/core/records';

  import { saved } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import Term from '$lib/ui/Term.svelte';

  /** Writes down that a tree stands no more: when, by whom, and what was hurt. */
  const { row, ondone }: { row: TreeRow; ondone: () => void } = $props();
  const bush = useBush();
  let what = $state<Cut['what']>('felled');
  let by = $state('');
  let on = $state(bush.today);
  let hurt = $state('');
  let note = $state('');
  let reviewOn = $state(`${Number(bush.today.slice(0, 4)) + 1}-07-01`);
  const stays = $derived(what === 'girdled' || what === 'lying');
  let problem = $state<string | null>(null);
  const WHAT: readonly (readonly [Cut['what'], string])[] = [
    ['felled', 'felled'],
    ['girdled', 'girdled, left standing'],
    ['fallen', 'fell by itself, and is dead'],
    ['lying', 'lies, and is alive']
  ];

  async function save(): Promise<void> {
    const tags = hurt.split(/[\s,;]+/).filter((tag) => tag !== '');
    const found = tags.map((tag) => bush.rows.find((other) => other.tag.toLowerCase() === tag.toLowerCase()));
    const missing = tags.filter((_, i) => !found[i]);
    if (missing.length > 0) {
      problem = `No tree stands here under ${missing.join(', ')}. Give the tags of the trees that were hurt.`;
      return;
    }
    await bush.loadTree(row.id);
    const record = await bush.record(row.id, {
      kind: 'cut',
      what,
      by: by.trim(),
      damaged: found.map((other) => other!.id),
      reviewOn: stays ? reviewOn : null,
      note: note.trim(),
      on
    });
    saved(bush, `Tree ${row.tag} is in the log.`, record);
    ondone();
  }
</script>

<form
  class="my-2 flex flex-wrap items-end gap-3 border-l-[6px] border-base-content pl-4"
  data-testid="cut-form"
  onsubmit={(event) => {
    event.preventDefault();
    void save();
  }}
>
  <label class="flex flex-col gap-1"
    >It was
    <select class="select w-48" bind:value={what}>
      {#each WHAT as [id, label] (id)}<option value={id}>{label}</option>{/each}
    </select></label
  >
  <label class="flex flex-col gap-1"
    >on <input class="input w-40" type="date" max={bush.today} required bind:value={on} /></label
  >
  <label class="flex flex-col gap-1">by <input class="input w-44" maxlength="80" bind:value={by} /></label>
  <label class="flex flex-col gap-1"
    >Kept trees hurt, by tag <input class="input w-36" placeholder="none" bind:value={hurt} /></label
  >
  {#if stays}<label class="flex flex-col gap-1"
      >look again by <input class="input w-40" type="date" min={bush.today} required bind:value={reviewOn} /></label
    >{/if}
  <label class="flex flex-col gap-1">Note <input class="input w-56" maxlength="500" bind:value={note} /></label>
  {#if what === 'lying'}<p class="caution w-full">
      Its <Term of="rootPlate" /> is under tension: cut from its trunk it can spring back. Trained fallers alone; nobody stands
      below it.
    </p>{/if}
  <button class="btn btn-primary">Write it down</button>
  <button type="button" class="btn btn-ghost" onclick={ondone}>Cancel</button>
  {#if problem !== null}<p role="alert" class="w-full font-semibold text-error">{problem}</p>{/if}
</form>
