<script lang="ts">
  import { effectiveRecords, type Determination } from '@baumkin/core/records';
  import { toast } from 'svelte-sonner';

  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { describe } from '$lib/labels/records.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** What this tree was taken for, when, by whom and on what grounds; the last one that stands holds. */
  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const ruler = {
    length: (...to: Parameters<typeof preferences.length>) => preferences.length(...to),
    paintOf: (season: number) => bush.paintOf(season)
  };
  const all = $derived(bush.recordsOf(treeId));
  const stands = $derived(new Set(effectiveRecords(all).map((record) => record.id)));
  const entries = $derived(
    all
      .filter((record): record is Determination => record.kind === 'determination' && !record.withdrawn)
      .toSorted((a, b) => b.on.localeCompare(a.on) || b.recordedAt.localeCompare(a.recordedAt))
  );

  async function takeBack(entry: Determination): Promise<void> {
    await bush.withdraw(entry);
    toast.success('Taken back. It stays in the tree’s life, crossed out.');
  }

  const grounds = (entry: Determination) => {
    if (entry.basis === 'declared') return entry.note || 'declared';
    const clues = Object.keys(entry.evidence).length;
    return `${counted(clues, 'clue')}${entry.note ? `; ${entry.note}` : ''}`;
  };
</script>

{#if entries.length > 0}
  <section aria-labelledby="history" class="max-w-4xl">
    <h2 id="history" class="mb-1">Determinations so far</h2>
    <ul class="flex flex-col">
      {#each entries as entry (entry.id)}
        {@const valid = stands.has(entry.id)}
        <li class="flex flex-wrap items-baseline gap-x-3 border-t border-base-300 py-1.5">
          <span class="aside w-24">{entry.on}</span>
          <span class="grow {valid ? '' : 'line-through opacity-80'}"
            >{describe(entry, ruler)} <span class="aside">· {grounds(entry)} · {bush.authorOf(entry)}</span></span
          >
          {#if valid && bush.mayTakeBack(entry)}
            <button class="btn btn-ghost btn-sm" onclick={() => takeBack(entry)}>Take back</button>
          {/if}
        </li>
      {/each}
    </ul>
  </section>
{/if}
