<script lang="ts">
  import { recordKindOf } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import type { OutboxEntry } from '$lib/client/store.ts';

  /** Records that the server would not take: shown until a person has read why. Nothing is thrown away unasked. */
  const bush = useBush();
  const whose = ({ treeId, record }: OutboxEntry) => {
    if (treeId === null) return '';
    const tag = record.kind === 'entry' ? record.tag : bush.byId.get(treeId)?.tag;
    return tag === undefined ? ' for a tree that is not in the book' : ` for tree ${tag}`;
  };
  let otherTag = $state('');

  async function again(entry: OutboxEntry): Promise<void> {
    await bush.outbox.retag(entry, otherTag.trim());
    otherTag = '';
  }
</script>

{#if bush.outbox.refused.length > 0}
  <div role="alert" class="border-b border-error px-4 py-2 print:hidden">
    {#each bush.outbox.refused as entry (entry.id)}
      <p class="flex flex-wrap items-baseline gap-x-3">
        <span
          >The {recordKindOf(entry.record.kind).label} of {entry.record.on}{whose(entry)} was not stored:
          <b>{entry.refused}</b></span
        >
        {#if entry.record.kind === 'entry' && !entry.record.withdrawn}
          <label class="flex items-baseline gap-2 text-sm"
            >Another tag <input class="input w-24 input-sm" maxlength="20" bind:value={otherTag} /></label
          >
          <button class="btn btn-outline btn-sm" disabled={otherTag.trim() === ''} onclick={() => again(entry)}
            >Send it under that tag</button
          >
        {/if}
        <button class="link" onclick={() => bush.outbox.drop(entry.id)}>I have read it: take it off this device</button>
      </p>
    {/each}
  </div>
{/if}
