<script lang="ts">
  import { compassPoint } from '@baumkin/core/math';
  import type { SawnColumn, Taphole } from '@baumkin/core/records';
  import { UnreadableLength } from '@baumkin/core/units';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { sawnWords } from '$lib/labels/placement.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import { readLength } from '$lib/ui/readLength.ts';

  /** The columns of a felled tree's holes as its sawn faces show them: one log teaches the bush more than many shavings. */
  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const row = $derived(bush.byId.get(treeId)!);
  const tree = $derived(bush.stateOf(treeId));
  const holes = $derived([...tree.tapholes].reverse());
  const metric = $derived(preferences.units === 'metric');

  let asked = $state('');
  /** the one that was asked for; else the newest of which nothing is written down yet */
  const hole = $derived(
    holes.find(({ id }) => id === asked) ?? holes.find(({ id }) => !tree.sawnColumns.has(id)) ?? holes[0]
  );
  let width = $state('');
  let length = $state('');
  let lean = $state('');
  let side = $state<'left' | 'right'>('left');

  type Said = Pick<SawnColumn, 'widthMm' | 'lengthMm' | 'leanDeg'> | { readonly problem: string };
  const refusal = (typed: string) => `No column is ${typed}: look at the unit.`;
  const said = $derived.by((): Said => {
    try {
      const widthMm = readLength(width, { unit: metric ? 'mm' : 'in', leastMm: 2, mostMm: 300, refusal });
      const lengthMm = readLength(length, { unit: preferences.trunkUnit, leastMm: 20, mostMm: 6000, refusal });
      if (widthMm === null) return { problem: 'Say how wide the stain is; length and lean may wait.' };
      if (hole && widthMm <= hole.bitMm)
        return { problem: `Its hole alone is ${preferences.length(hole.bitMm, 'bit')} wide: the stain is wider.` };
      if (lengthMm !== null && lengthMm <= widthMm)
        return { problem: 'A column is longer than it is wide: look at the units again.' };
      const leanDeg = lean.trim() === '' ? null : Number(lean.replace(/\s*(°|degrees?)\s*$/i, '').replace(',', '.'));
      if (leanDeg !== null && !(leanDeg >= 0 && leanDeg <= 45))
        return { problem: 'The lean is from 0 to 45 degrees, to the left or to the right.' };
      return { widthMm, lengthMm, leanDeg: leanDeg === null ? null : side === 'left' ? leanDeg : -leanDeg };
    } catch (error) {
      if (error instanceof UnreadableLength) return { problem: error.message };
      throw error;
    }
  });
  const any = $derived([width, length, lean].some((text) => text.trim() !== ''));
  const called = ({ season, bearingDeg, heightMm }: Taphole) =>
    `${season}, ${compassPoint(bearingDeg)} side, ${preferences.length(heightMm, 'hand')} up`;

  async function save(): Promise<void> {
    if (!hole || 'problem' in said) return;
    const before = tree.sawnColumns.get(hole.id);
    const record = await bush.record(treeId, {
      kind: 'sawnColumn',
      tapholeId: hole.id,
      ...said,
      note: '',
      ...(before ? { correctsId: before.id } : {})
    });
    asked = width = length = lean = '';
    saved(bush, `Tree ${row.tag}: the column of ${hole.season} is written down.`, record);
  }
</script>

<section aria-labelledby="sawn" class="flex max-w-2xl flex-col gap-3">
  <h2 id="sawn">What its log tells</h2>
  {#if holes.length === 0}
    <EmptyState>No hole of this tree is in the book, so that its log has nothing to tell of columns.</EmptyState>
  {:else}
    <p>
      Cross-cut at a hole, the stain is as wide as its column is; split there, it is as long. One log teaches this bush
      more about its columns than the shavings of many trees: <a class="link" href="/bush/{bush.id}/place/brown"
        >all that was learned</a
      >.
    </p>
    {#if tree.sawnColumns.size > 0}
      <ul data-testid="sawn-columns">
        {#each holes.filter(({ id }) => tree.sawnColumns.has(id)) as known (known.id)}
          {@const column = tree.sawnColumns.get(known.id)!}
          <li class="flex flex-wrap items-baseline gap-x-3 border-b border-base-300/60 py-1">
            <span>{called(known)}: {sawnWords(column, preferences)}</span>
            {#if bush.mayTakeBack(column)}<button
                class="link text-sm max-md:min-h-11"
                onclick={() => bush.withdraw(column)}>Take away</button
              >{/if}
          </li>
        {/each}
      </ul>
    {/if}
    {#if bush.mayRecord && hole}
      <form
        class="flex flex-col gap-3"
        onsubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <label class="flex flex-wrap items-center gap-3"
          ><span class="w-24">Hole of</span>
          <select class="select w-auto" bind:value={() => hole.id, (id) => (asked = id)}>
            {#each holes as each (each.id)}<option value={each.id}>{called(each)}</option>{/each}
          </select></label
        >
        <label class="flex items-center gap-3"
          ><span class="w-24">Stain wide</span>
          <input class="input w-32" placeholder={metric ? '16 mm' : '5/8 in'} bind:value={width} /> along the ring</label
        >
        <label class="flex items-center gap-3"
          ><span class="w-24">and long</span>
          <input class="input w-32" placeholder={metric ? '35 cm' : '14 in'} bind:value={length} /> from end to end</label
        >
        <div class="flex flex-wrap items-center gap-3">
          <label class="flex items-center gap-3"
            ><span class="w-24">Leaning</span>
            <input class="input w-32" placeholder="3°" bind:value={lean} /></label
          >
          <label class="flex items-center gap-2"
            >to the
            <select class="select w-auto" aria-label="Leaning to the" bind:value={side}>
              <option value="left">left</option>
              <option value="right">right</option>
            </select>
            going up, as one faced the hole</label
          >
        </div>
        {#if any && 'problem' in said}<p role="alert" class="font-semibold text-error">{said.problem}</p>{/if}
        <button class="btn self-start btn-primary" disabled={!any || 'problem' in said}>Write it down</button>
      </form>
      <p class="caution">
        A log rolls, and a saw kicks back: sawing and splitting are for people who were trained for it, with helmet, leg
        guards and somebody near. Local rules come first.
      </p>
    {/if}
  {/if}
</section>
