<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  let { open = $bindable(), onchoose }: { open: boolean; onchoose: (treeId: string) => void } = $props();
  const bush = useBush();
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

<ModalDialog bind:open title="Find a tree by its tag">
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
</ModalDialog>
