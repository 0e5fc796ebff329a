<script module lang="ts">
  import type { LineFind, LineLookRecord, PipeLineRecord, TreeRow } from '@baumkin/core/records';

  /** What somebody found who looked along a line, or at a tap of it. */
  export interface AskedLook {
    readonly line: PipeLineRecord;
    readonly lengthM: number;
    /** null: along the line */
    readonly row: TreeRow | null;
    /** where on it, metres; null: all of it */
    readonly atM: number | null;
    /** the place in words */
    readonly where: string;
  }
</script>

<script lang="ts">
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { LINE_FIND_WORDS, lookWords, PIPE_FINDS, TAP_FINDS } from '$lib/labels/lineCare.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import { groundUnit, readMetres } from '$lib/ui/readMetres.ts';

  let { asked = $bindable() }: { asked: AskedLook | null } = $props();
  const bush = useBush();
  let open = $state(false);
  let found = $state<LineFind>('nothing');
  let mended = $state(true);
  let at = $state('');
  let note = $state('');
  $effect(() => {
    if (!asked) return;
    untrack(() => {
      [found, mended, note, open] = ['nothing', true, '', true];
      at = '';
    });
  });
  $effect(() => {
    if (!open) untrack(() => (asked = null));
  });
  const atM = $derived(readMetres(at));
  const problem = $derived(
    typeof atM === 'string' ? atM : asked && atM !== null && atM > asked.lengthM + 1 ? 'The line is not so long.' : null
  );
  async function keep(): Promise<void> {
    if (!asked || problem) return;
    const { line, row, atM: about } = asked;
    const record = (await bush.recordOfBush({
      kind: 'lineLook',
      lineId: line.id,
      ofTreeId: row?.id ?? null,
      // What is found nowhere in particular was looked for where it was asked about.
      alongM: row ? null : ((atM as number | null) ?? about),
      found,
      mended: found !== 'nothing' && mended,
      note: note.trim()
    })) as LineLookRecord;
    const where = row ? `Tree ${row.tag}` : line.name;
    open = false;
    saved(bush, `${lookWords(record, { where, shown: preferences })}.`, record);
  }
</script>

{#if asked}
  <ModalDialog bind:open title="Looked at {asked.where}" width="28rem">
    <form
      class="flex flex-col gap-3"
      onsubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <fieldset class="flex flex-col">
        <legend class="font-semibold">What was there?</legend>
        {#each asked.row ? TAP_FINDS : PIPE_FINDS as find (find)}
          <label class="flex min-h-9 items-center gap-2 max-md:min-h-12"
            ><input type="radio" class="radio" name="found" value={find} bind:group={found} />
            {LINE_FIND_WORDS[find]}</label
          >
        {/each}
      </fieldset>
      {#if found !== 'nothing'}
        <label class="flex min-h-9 items-center gap-2 max-md:min-h-12"
          ><input type="checkbox" class="checkbox" bind:checked={mended} /> it is mended, and runs now</label
        >
        {#if !asked.row}<label class="flex items-center gap-3"
            ><span class="grow">Where along it, {groundUnit()} from its upper end</span><input
              class="input w-24"
              inputmode="decimal"
              bind:value={at}
            /></label
          >{/if}
      {/if}
      <label class="flex items-center gap-3"
        ><span>Note</span><input class="input grow" maxlength="500" bind:value={note} /></label
      >
      {#if problem}<p role="alert" class="text-error">{problem}</p>{/if}
      <button class="btn self-start btn-primary" disabled={problem !== null}>Write it down</button>
    </form>
  </ModalDialog>
{/if}
