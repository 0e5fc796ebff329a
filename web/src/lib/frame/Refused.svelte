<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';

  /** Records that the server would not take: shown until a person has read why. Nothing is thrown away unasked. */
  const bush = $derived(useBush());
  const tag = (treeId: string) => bush.byId.get(treeId)?.tag ?? '?';
</script>

{#if bush.refused.length > 0}
  <div role="alert" class="border-b border-error px-4 py-2 print:hidden">
    {#each bush.refused as entry (entry.id)}
      <p class="flex flex-wrap items-baseline gap-x-3">
        <span
          >The {entry.record.kind} of {entry.record.on}
          {entry.treeId === null ? '' : `for tree ${tag(entry.treeId)}`} was not stored:
          <b>{entry.refused}</b></span
        >
        <button class="link" onclick={() => bush.drop(entry.id)}>Read; take it off this device</button>
      </p>
    {/each}
  </div>
{/if}
