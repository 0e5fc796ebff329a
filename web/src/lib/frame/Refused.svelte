<script lang="ts">
  import { recordKindOf, type WorkRecord } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import type { OutboxEntry } from '$lib/client/store.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { describe } from '$lib/labels/records.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { keepAsRemark, ofKnownTree, propose } from '$lib/questions/handing.ts';

  /** Records that the server would not take: shown until a person has done something about them. Nothing is thrown away unasked. */
  const { walking }: { /** a walk keeps its screen: it is opened by whoever wants to */ walking: boolean } = $props();
  const bush = useBush();
  const refused = $derived(bush.outbox.refused);
  const whose = ({ treeId, record }: OutboxEntry) => {
    if (treeId === null) return '';
    const tag = record.kind === 'entry' ? record.tag : bush.byId.get(treeId)?.tag;
    return tag === undefined ? ' for a tree that is not in the book' : ` for tree ${tag}`;
  };
  /** what is typed for each: another tag */
  let tags = $state<Record<string, string>>({});
  /** what is about to be taken off this device */
  let leaving = $state<string | null>(null);
  const typed = ({ id }: OutboxEntry) => (tags[id] ?? '').trim();
  const treeOf = (entry: OutboxEntry) => bush.rows.find(({ tag }) => tag === typed(entry)) ?? null;
  const isTree = ({ record }: OutboxEntry) => record.kind === 'entry' && !record.withdrawn;

  /** what is typed for each: another season */
  let seasons = $state<Record<string, number | undefined>>({});
  const seasonOf = ({ record }: OutboxEntry) => ('season' in record ? record.season : null);

  const said = (record: WorkRecord) =>
    describe(record, {
      length: (...to) => preferences.length(...to),
      paintOf: (season) => bush.paintOf(season)
    });
  async function drop({ id }: OutboxEntry): Promise<void> {
    leaving = null;
    await bush.outbox.drop(id);
  }
</script>

{#if refused.length > 0}
  <details
    role="alert"
    class="max-h-[60dvh] shrink-0 overflow-y-auto border-b-2 border-error px-4 py-1 print:hidden"
    open={refused.length === 1 && !walking}
  >
    <summary class="flex min-h-12 cursor-pointer flex-wrap items-center justify-between gap-x-4 font-semibold">
      <span
        >{refused.length === 1 ? 'One record was' : `${counted(refused.length, 'record')} were`} not stored; nothing is lost.
        <span class="underline">What to do</span></span
      >
      {#if refused.length > 1}<button
          class="btn min-h-12"
          onclick={(event) => {
            event.preventDefault();
            void bush.outbox.again(refused);
          }}>Send all again</button
        >{/if}
    </summary>
    {#each refused as entry (entry.id)}
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-base-300 py-2" data-testid="refused">
        <p class="w-full">
          The {recordKindOf(entry.record.kind).label} of {entry.record.on}{whose(entry)} was not stored:
          <b>{entry.refused}</b>
        </p>
        {#if leaving === entry.id}
          <p class="font-semibold text-error">Gone from this device, and nowhere else?</p>
          <button class="btn min-h-12 btn-error" onclick={() => drop(entry)}>Take it off</button>
          <button class="btn min-h-12" onclick={() => (leaving = null)}>Keep it</button>
        {:else}
          {#if isTree(entry)}
            <div class="flex items-center gap-2 max-md:w-full">
              <label class="flex grow items-center gap-2"
                >Another tag <input class="input h-12 w-20 grow" maxlength="20" bind:value={tags[entry.id]} /></label
              >
              <button
                class="btn min-h-12 btn-outline"
                disabled={typed(entry) === ''}
                onclick={() => bush.outbox.retag(entry, typed(entry))}>Send it so</button
              >
            </div>
          {:else}
            <button class="btn min-h-12 btn-outline" onclick={() => bush.outbox.again([entry])}>Send it again</button>
            {#if entry.treeId !== null && entry.record.correctsId === null}
              <div class="flex items-center gap-2 max-md:w-full">
                <label class="flex grow items-center gap-2"
                  >It belongs to tree <input
                    class="input h-12 w-20 grow"
                    maxlength="20"
                    bind:value={tags[entry.id]}
                  /></label
                >
                <button
                  class="btn min-h-12"
                  disabled={treeOf(entry) === null}
                  onclick={() => bush.outbox.giveTo(entry, treeOf(entry)!.id)}>Give it there</button
                >
              </div>
            {/if}
          {/if}
          {#if seasonOf(entry) !== null}
            <div class="flex items-center gap-2 max-md:w-full">
              <label class="flex grow items-center gap-2"
                >It is of season <input
                  class="input h-12 w-20 grow"
                  type="number"
                  min="1900"
                  max={bush.season + 1}
                  bind:value={seasons[entry.id]}
                  placeholder={String(seasonOf(entry))}
                /></label
              >
              <button
                class="btn min-h-12"
                disabled={!seasons[entry.id] || seasons[entry.id] === seasonOf(entry)}
                onclick={() => bush.outbox.toSeason(entry, seasons[entry.id]!)}>Send it so</button
              >
            </div>
          {/if}
          {@const record = ofKnownTree(bush, entry)}
          {#if record && bush.mayRecord}
            {#if !bush.mayDecide}<button class="btn min-h-12" onclick={() => propose(bush, entry, record)}
                >Propose it to the steward</button
              >{/if}
            <button class="btn min-h-12" onclick={() => keepAsRemark(bush, entry, { record, said: said(record) })}
              >Keep it as a remark</button
            >
          {/if}
          <button class="min-h-12 link" onclick={() => (leaving = entry.id)}>Take it off this device</button>
        {/if}
      </div>
    {/each}
  </details>
{/if}
