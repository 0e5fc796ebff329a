<script lang="ts">
  import { shareRound } from '@baumkin/core/bush';
  import X from '@lucide/svelte/icons/x';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  import type { TappingRound } from './tappingRound.svelte.ts';

  /** Shares what is left of the round among helpers: each a stretch of the walk, so that two seldom meet at one tree. */
  let { open = $bindable(), round }: { open: boolean; round: TappingRound } = $props();
  const bush = useBush();
  const uid = $props.id();

  let helpers = $state<string[]>([]);
  let name = $state('');
  // Once, as it is opened: what others write meanwhile takes nothing away that was typed here.
  $effect(() => {
    if (open) helpers = untrack(() => [...new Set(round.helpers.values())]);
  });
  const known = $derived(bush.overview!.people.map((person) => person.name).filter((each) => !helpers.includes(each)));
  function add(event: SubmitEvent): void {
    event.preventDefault();
    const wished = name.trim();
    if (wished !== '' && !helpers.includes(wished)) helpers = [...helpers, wished];
    name = '';
  }

  const left = $derived(
    round.lines.flatMap(({ row, left: work }) => (work > 0 ? { treeId: row.id, standId: row.standId, work } : []))
  );
  const stretches = $derived(shareRound(left, helpers));

  async function handOut(shares: typeof stretches): Promise<void> {
    const record = await bush.recordOfBush({
      kind: 'roundShare',
      round: 'tap',
      season: bush.season,
      stretches: shares.map(({ fromTreeId, helper }) => ({ fromTreeId, helper }))
    });
    open = false;
    saved(bush, shares.length === 0 ? 'Everybody walks the whole round.' : 'The round is handed out.', record);
  }
</script>

<ModalDialog bind:open title="Who walks where" width="34rem">
  <p>
    Each takes one stretch of the walk, about as much work as the others. On their phones the walk begins with their own
    part, and the paper is printed by helper.
  </p>
  <form class="mt-3 flex items-end gap-2" onsubmit={add}>
    <label class="grow"
      >Helper <input
        class="input w-full"
        maxlength="40"
        list="{uid}-people"
        bind:value={name}
        autocomplete="off"
      /></label
    >
    <datalist id="{uid}-people"
      >{#each known as each (each)}<option value={each}></option>{/each}</datalist
    >
    <button class="btn" disabled={name.trim() === ''}>Add</button>
  </form>
  <p class="aside mt-1">By the name that they sign in under, or any name for paper.</p>
  <ol class="mt-3 flex flex-col" data-testid="stretches">
    {#each helpers as helper (helper)}
      {@const part = stretches.find((each) => each.helper === helper)}
      <li class="flex min-h-12 items-center justify-between gap-3 border-t border-base-300">
        <span
          ><b>{helper}</b>{part
            ? `: ${bush.tagOf(part.fromTreeId)} to ${bush.tagOf(part.toTreeId)}, ${counted(part.work, 'hole')} on ${counted(part.trees, 'tree')}, ${round.timeFor(part.work)}`
            : ': nothing is left for another'}</span
        >
        <button
          class="grid h-9 w-9 shrink-0 place-items-center rounded hover:bg-base-200"
          aria-label="Leave {helper} out"
          onclick={() => (helpers = helpers.filter((each) => each !== helper))}><X size={16} /></button
        >
      </li>
    {/each}
  </ol>
  <div class="mt-4 flex flex-wrap gap-2">
    <button class="btn btn-primary" disabled={stretches.length === 0} onclick={() => handOut(stretches)}
      >Hand it out so</button
    >
    {#if round.helpers.size > 0}<button class="btn" onclick={() => handOut([])}>Everybody walks all of it</button>{/if}
  </div>
</ModalDialog>
