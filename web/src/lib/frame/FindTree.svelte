<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { speciesById } from '@baumkin/core';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  let { open = $bindable(), onchoose }: { open: boolean; onchoose: (treeId: string) => void } = $props();
  const bush = $derived(useBush());
  let wanted = $state('');
  const found = $derived.by(() => {
    const text = wanted.trim().toLowerCase();
    if (text === '') return [];
    const starts = bush.rows.filter((row) => row.tag.toLowerCase().startsWith(text));
    return starts.sort((a, b) => a.tag.length - b.tag.length).slice(0, 8);
  });

  function choose(treeId: string): void {
    wanted = '';
    open = false;
    onchoose(treeId);
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/45" />
    <Dialog.Content
      class="fixed top-24 left-1/2 z-50 w-[min(26rem,94vw)] -translate-x-1/2 rounded-md bg-base-100 p-5 text-base-content shadow-xl"
    >
      <Dialog.Title class="mb-2 font-slab text-lg font-semibold">Find a tree by its tag</Dialog.Title>
      <form
        onsubmit={(event) => {
          event.preventDefault();
          if (found[0]) choose(found[0].id);
        }}
      >
        <input class="input w-full" aria-label="Tag" autocomplete="off" bind:value={wanted} />
      </form>
      <ul class="mt-2">
        {#each found as row (row.id)}
          <li>
            <button class="flex w-full gap-3 px-2 py-2 text-left hover:bg-base-200" onclick={() => choose(row.id)}>
              <b class="min-w-12">{row.tag}</b>
              <span>{row.species ? speciesById(row.species).name : 'unsettled'}</span>
              <span class="ml-auto">{row.dbhMm ? preferences.length(row.dbhMm, 'trunk') : ''}</span>
            </button>
          </li>
        {/each}
      </ul>
      {#if wanted.trim() !== '' && found.length === 0}<p class="aside px-2">
          No tree has a tag that starts like that.
        </p>{/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
