<script lang="ts">
  import { goto } from '$app/navigation';
  import { onMount } from 'svelte';

  import { api, asked } from '$lib/client/api.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';

  import WishForm from './WishForm.svelte';

  /**
   * Where does one begin? What she has decides what is asked first, and how many trees her wish for syrup takes is answered before she measures
   * anything: map, stands, origin and paint stay away until they matter.
   */
  const bush = useBush();
  const FEW = [1, 2, 3, 4, 5, 6];
  /** what can be had a copy of, to play in */
  let example = $state<string | null>(null);
  onMount(async () => {
    example = (await asked(api.GET('/bushes', {}))).data?.example ?? null;
  });
  async function begin(many: number): Promise<void> {
    const entries = Array.from({ length: many }, (_, i) => ({
      treeId: crypto.randomUUID(),
      draft: {
        kind: 'entry' as const,
        tag: String(i + 1),
        tagged: true,
        standId: null,
        stemOf: null,
        afterId: null,
        note: ''
      }
    }));
    const records = await bush.recordAll(entries);
    saved(bush, `${counted(many, 'tree is', 'trees are')} in the book.`, ...records);
    await goto(`/bush/${bush.id}/identify/${entries[0]!.treeId}`);
  }
</script>

<h1>{bush.overview?.bush.name}</h1>
<div class="mt-3 grid gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,34rem)_minmax(0,24rem)]">
  <section aria-labelledby="have">
    <h2 id="have" class="font-slab text-2xl">What do you have?</h2>
    {#if bush.mayRecord}
      <ul class="mt-3 flex flex-col">
        <li class="border-t border-base-300 py-3">
          <h3 class="font-slab text-xl font-semibold">One tree, or a few</h3>
          <p>From “is it a maple?” to the first hole, step by step. No map, no tags.</p>
          <div class="mt-2 flex flex-wrap items-center gap-2" role="group" aria-label="How many trees?">
            <span class="max-md:w-full">How many?</span>
            {#each FEW as many (many)}<button class="btn h-12 w-12 btn-primary" onclick={() => begin(many)}
                >{many}</button
              >{/each}
          </div>
        </li>
        <li class="border-t border-base-300 py-3">
          <a
            class="inline-flex min-h-11 items-center font-slab text-xl font-semibold link-hover"
            href="/bush/{bush.id}/map">A bush, tree by tree</a
          >
          <p>Number the trees as you come to them, on a map that grows with them.</p>
        </li>
        <li class="border-t border-base-300 py-3">
          <a
            class="inline-flex min-h-11 items-center font-slab text-xl font-semibold link-hover"
            href="/bush/{bush.id}/exchange">A list in a file</a
          >
          <p>
            A spreadsheet with a number and a girth for each tree is enough. Nothing is stored before you have seen it.
          </p>
        </li>
        {#if example !== null}
          <li class="border-t border-base-300 py-3">
            <a class="inline-flex min-h-11 items-center font-slab text-xl font-semibold link-hover" href="/look-around"
              >Nothing yet: look around first</a
            >
            <p>In a copy of {example} to play in. It goes away by itself.</p>
          </li>
        {/if}
        <li class="flex flex-wrap items-center gap-x-4 gap-y-1 border-y border-base-300 py-3">
          <span>Your tape and your measures are in</span>
          <ToggleGroup
            label="Units"
            look="boxes"
            options={[
              { id: 'inch', label: 'inches, feet' },
              { id: 'metric', label: 'centimetres, metres' }
            ]}
            value={preferences.units}
            onchange={(units) => preferences.setUnits(units)}
          />
        </li>
      </ul>
    {:else}
      <p class="mt-3 text-lg">There is no tree in this bush yet. Whoever records in it begins.</p>
    {/if}
  </section>
  <WishForm />
</div>
