<script lang="ts">
  import Printer from '@lucide/svelte/icons/printer';
  import { effectiveRecords, inOrder, recordKindOf, type RecordGroup, type WorkRecord } from '@baumkin/core/records';

  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import { describe } from '$lib/labels/records.ts';

  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const ruler = {
    length: (...to: Parameters<typeof preferences.length>) => preferences.length(...to),
    paintOf: (season: number) => bush.paintOf(season)
  };
  const tree = $derived(bush.stateOf(treeId));
  const records = $derived(bush.recordsOf(treeId));
  const valid = $derived(new Set(effectiveRecords(records).map((r) => r.id)));
  const waiting = $derived(new Set(bush.outbox.entries.map((entry) => entry.id)));

  const GROUPS: readonly [RecordGroup | 'all', string][] = [
    ['all', 'Everything'],
    ['holes', 'Holes'],
    ['size', 'Readings'],
    ['species', 'Species'],
    ['condition', 'Condition'],
    ['count', 'Counts'],
    ['season', 'Closing'],
    ['thinning', 'Marks']
  ];
  let only = $state<RecordGroup | 'all'>('all');

  const years = $derived.by(() => {
    const shown = records.filter((r) => only === 'all' || recordKindOf(r.kind).group === only);
    const sorted = shown
      .toSorted(inOrder)
      .sort((a, b) => b.on.localeCompare(a.on) || b.recordedAt.localeCompare(a.recordedAt));
    const all = [...new Set(sorted.map((record) => record.on.slice(0, 4)))];
    return all.map((year): [string, WorkRecord[]] => [year, sorted.filter((record) => record.on.startsWith(year))]);
  });
  /** Entries and places are changed in the registry, and a plan is not taken back: the next look at the trunk makes another. */
  const NOT_HERE: readonly WorkRecord['kind'][] = ['entry', 'place', 'rotation'];
  const canGo = (record: WorkRecord) =>
    valid.has(record.id) && !NOT_HERE.includes(record.kind) && bush.mayTakeBack(record);
  /** what is about to be taken back */
  let asked = $state<string | null>(null);
  async function takeBack(record: WorkRecord): Promise<void> {
    asked = null;
    await bush.takeBack(record);
  }
  const brown = $derived([...tree.shavings.values()].filter((s) => s.seen !== 'pale').length);
</script>

<p class="max-w-prose">
  {tree.tapholes.length === 0
    ? 'No hole is written down'
    : `${counted(tree.tapholes.length, 'hole')} since ${Math.min(...tree.tapholes.map((h) => h.season))}`}{tree.shavings
    .size > 0
    ? `; shavings seen at ${tree.shavings.size}, brown at ${brown}`
    : ''}.
  {counted(tree.readings.length, 'reading')}; {tree.growth.observed
    ? `it lays about ${preferences.length(tree.growth.ringMm, 'ring')} of wood a year`
    : `its growth is not measured yet, and ${preferences.length(tree.growth.ringMm, 'ring')} of wood a year are assumed`}.
</p>
<div class="my-4 flex flex-wrap items-center gap-2">
  <a class="btn btn-outline btn-sm" href="/bush/{bush.id}/card/{treeId}"><Printer size={16} /> Tree card</a>
  <ToggleGroup label="Show" options={GROUPS.map(([id, label]) => ({ id, label }))} bind:value={only} />
</div>
{#each years as [year, list] (year)}
  <section
    class="grid grid-cols-[4.2rem_1fr] border-t border-base-300 py-2 max-md:grid-cols-[3.2rem_1fr]"
    aria-label={year}
  >
    <h2 class="pt-0.5">{year}</h2>
    <ul class="flex flex-col gap-1">
      {#each list as record (record.id)}
        {@const stands = valid.has(record.id)}
        <li class="grid grid-cols-[3.6rem_1fr] gap-2">
          <span class="aside">{record.on.slice(5)}</span>
          <span>
            <span class={stands ? '' : 'line-through opacity-80'}>{describe(record, ruler)}</span>
            {#if record.withdrawn}<span class="aside">(takes back an entry)</span>{:else if !stands}<span class="aside"
                >(corrected or taken back)</span
              >{/if}
            {#if waiting.has(record.id)}<span class="aside">(waits on this device)</span>{/if}
            {#if record.authorId}<span class="aside">· {bush.authorOf(record)}</span>{/if}
            {#if asked === record.id}
              <span class="flex flex-wrap items-center gap-2 py-1">
                <b
                  >Take this back?{records.some(({ id, withdrawn }) => id === record.correctsId && !withdrawn)
                    ? ' What it corrected stands again.'
                    : ''}</b
                >
                <button class="btn btn-sm max-md:min-h-12" onclick={() => takeBack(record)}>Take it back</button>
                <button class="btn btn-ghost btn-sm max-md:min-h-12" onclick={() => (asked = null)}>Leave it</button>
              </span>
            {:else if canGo(record)}
              <button
                class="aside link max-md:inline-flex max-md:min-h-12 max-md:items-center"
                aria-label="Take back: {describe(record, ruler)}"
                onclick={() => (asked = record.id)}>Take back</button
              >
            {/if}
          </span>
        </li>
      {/each}
    </ul>
  </section>
{:else}
  <p class="aside">
    Nothing is recorded of this tree yet. Begin with <a class="link" href="/bush/{bush.id}/identify/{treeId}"
      >what it is</a
    >.
  </p>
{/each}
