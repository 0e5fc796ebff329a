<script lang="ts">
  import { toDiameter } from '@baumkin/core/measure';
  import { swappedReadings, type Reading, type TreeRow, type TreeState } from '@baumkin/core/records';
  import { untrack } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { questionWords } from '$lib/labels/measure.ts';

  /** Readings that do not fit, each with the likeliest slip of the pencil and a click that mends it. */
  interface Props {
    row: TreeRow;
    tree: TreeState;
    /** the trees before and after it on the walk, under whose tags its readings may have been written */
    beside: readonly TreeRow[];
  }
  const { row, tree, beside }: Props = $props();
  const bush = useBush();
  const show = (mm: number) => preferences.length(mm, 'trunk');

  const swapped = $derived.by(() => {
    if (tree.questioned.size === 0) return null;
    for (const other of beside) {
      const pair = swappedReadings(tree, bush.stateOf(other.id));
      if (pair) return { ...pair, neighbour: other };
    }
    return null;
  });
  $effect(() => {
    // What the trees beside it say is only asked for where a reading is in question.
    if (tree.questioned.size === 0) return;
    const ids = beside.map((r) => r.id);
    untrack(() => ids.filter((id) => !bush.hasLife(id)).forEach((id) => void bush.loadTree(id)));
  });
  /** Answers an old question: a reading that corrects it, or the same value once more, confirmed. */
  async function answer(reading: Reading, correctedDbhMm: number | null): Promise<void> {
    const asWritten =
      correctedDbhMm === null ? reading.asWritten : `${show(correctedDbhMm)}, corrected from ${reading.asWritten}`;
    await bush.record(row.id, {
      kind: 'reading',
      on: reading.on,
      quantity: correctedDbhMm === null ? reading.quantity : 'diameter',
      valueMm: correctedDbhMm ?? reading.valueMm,
      asWritten: asWritten.slice(0, 80),
      method: reading.method,
      heightMm: reading.heightMm,
      confirmed: true,
      note: reading.note,
      correctsId: reading.id
    });
    toast.success('The old entry is kept; the new one stands for it.');
  }

  /** Puts two readings back under their own tags: each tree gets the other's value, and both old entries are kept. */
  async function swapBack({ own, other, neighbour }: NonNullable<typeof swapped>): Promise<void> {
    const moved = (to: Reading, from: Reading, tag: string) => ({
      treeId: to.treeId,
      draft: {
        kind: 'reading' as const,
        on: from.on,
        quantity: from.quantity,
        valueMm: from.valueMm,
        asWritten: `${from.asWritten}, written under ${tag}`.slice(0, 80),
        method: from.method,
        heightMm: from.heightMm,
        confirmed: true,
        note: from.note,
        correctsId: to.id
      }
    });
    const records = await bush.recordAll([moved(own, other, neighbour.tag), moved(other, own, row.tag)]);
    saved(bush, `The readings of ${row.tag} and ${neighbour.tag} are back under their own tags.`, ...records);
  }

  async function withdraw(reading: Reading): Promise<void> {
    await bush.withdraw(reading);
    toast.success('Set aside. It stays in the tree’s life.');
  }
</script>

{#each tree.readings.filter((r) => tree.questioned.has(r.id)) as reading (reading.id)}
  {@const asked = tree.questioned.get(reading.id)!}
  {@const dbh = toDiameter(reading.valueMm, reading.quantity)}
  <div class="border-2 border-primary p-3" data-testid="old-question">
    <p class="font-slab text-lg font-semibold">The reading of {reading.on} does not fit</p>
    <p>
      Written as “{reading.asWritten}”, {reading.quantity}: {show(dbh)} thick. {swapped?.own.id === reading.id
        ? `It fits tree ${swapped.neighbour.tag} beside it, and that tree’s reading of the same round fits this one: the tags were mixed up.`
        : questionWords(asked)} Until you answer, growth and diameter leave it aside.
    </p>
    {#if bush.mayRecord}
      <div class="mt-2 flex flex-wrap gap-2">
        {#if swapped?.own.id === reading.id}
          <button class="btn btn-primary btn-sm" onclick={() => swapBack(swapped!)}
            >Swap it with tree {swapped.neighbour.tag}: {show(
              toDiameter(swapped.other.valueMm, swapped.other.quantity)
            )} here</button
          >
        {:else if asked.correctedDbhMm}
          <button class="btn btn-primary btn-sm" onclick={() => answer(reading, asked.correctedDbhMm)}
            >Make it {show(asked.correctedDbhMm)} thick</button
          >
        {/if}
        <button class="btn btn-outline btn-sm" onclick={() => answer(reading, null)}>It is right as it stands</button>
        {#if bush.mayTakeBack(reading)}<button class="btn btn-outline btn-sm" onclick={() => withdraw(reading)}
            >Set it aside</button
          >{/if}
      </div>
    {/if}
  </div>
{/each}
