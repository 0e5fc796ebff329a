<script lang="ts">
  import { placementOf, type TreePlacement } from '@baumkin/core/bush';
  import type { TreeRow } from '@baumkin/core/records';
  import { PRICE_SEASONS, priceBy, type HolePrice } from '@baumkin/core/rotation';
  import { LITRES_A_TAP } from '@baumkin/core/sap';
  import { onDestroy } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { dearWords } from '$lib/labels/taps.ts';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import type { PlaceWorker } from '$lib/workers/place.worker.ts';
  import { PooledRun } from '$lib/workers/pooledRun.svelte.ts';

  /** Which of the decided taps to leave out because their stain takes more from later springs than they bring now. */
  const { rows }: { rows: readonly TreeRow[] } = $props();
  const bush = useBush();
  const tapped = $derived(rows.filter((row) => (row.decidedTaps ?? 0) > row.drilled));

  interface Priced {
    readonly row: TreeRow;
    readonly price: HolePrice;
  }
  let priced = $state.raw<readonly Priced[] | null>(null);
  const run = new PooledRun<PlaceWorker>(
    () => new Worker(new URL('../workers/place.worker.ts', import.meta.url), { type: 'module' }),
    () => Promise.resolve()
  );
  onDestroy(() => run.stop());

  async function* placings(): AsyncGenerator<{ row: TreeRow; placing: TreePlacement | null }> {
    const byId = new Map(tapped.map((row) => [row.id, row]));
    for await (const { tree, records } of bush.lives(tapped)) {
      const row = byId.get(tree.id)!;
      const asked = {
        treeId: tree.id,
        settings: bush.settingsAt(tree.id),
        season: bush.season,
        wanted: row.decidedTaps!
      };
      yield { row, placing: placementOf(bush.stateFrom(records), asked) };
    }
  }
  async function workOut(): Promise<void> {
    const found: Priced[] = [];
    const ended = await run.run(placings(), tapped.length, async (remote, { row, placing }) => {
      const price = placing && (await remote.dearest(placing.task));
      if (price) found.push({ row, price });
    });
    if (ended) priced = found.sort((a, b) => b.price.later - b.price.now - (a.price.later - a.price.now));
  }
  const sap = (holes: number) => preferences.volume(holes * LITRES_A_TAP);
  /** Less than this share of a hole's yield, given back over so many years, is not worth a line. */
  const WORTH_A_LINE = 0.1;
  const MOST_LINES = 8;
  const { stainLoss } = $derived(bush.overview!.bush.settings);
  const here = $derived((priced ?? []).map(({ row, price }) => ({ row, price: priceBy(price, stainLoss) })));
  const dear = $derived(here.filter(({ price }) => price.later >= price.now));
  const listed = $derived(
    dear.length > 0 ? dear : here.filter(({ price }) => price.later >= WORTH_A_LINE).slice(0, MOST_LINES)
  );
</script>

<section aria-labelledby="dear" class="mt-6 max-w-3xl" data-testid="dear">
  <h2 id="dear">Taps that cost more than they bring</h2>
  {#if tapped.length === 0}
    <p>No tap that was decided is still to be drilled this season.</p>
  {:else if priced === null}
    <p>
      The stain behind a hole takes sap from every later hole that meets it. For each of the {counted(
        tapped.length,
        'tree'
      )} still to drill, its dearest tap is weighed: what it brings this spring against what it takes in {PRICE_SEASONS}
      seasons.
    </p>
    <LongRunStatus {run} what="Weighing taps" />
    {#if run.done === null}<button class="btn mt-2 btn-outline btn-sm" onclick={workOut}>Weigh them</button>{/if}
  {:else}
    {#if dear.length === 0}
      <p>
        None on {counted(priced.length, 'tree')}: each tap brings more this spring than its stain takes in {PRICE_SEASONS}
        seasons. {listed.length > 0 ? 'Those that give most of it back:' : 'None gives back a tenth of it.'}
      </p>
    {/if}
    <ul>
      {#each listed as { row, price } (row.id)}
        <li class="border-b border-base-300/60 py-1">
          <a class="link font-bold" href="/bush/{bush.id}/count/{row.id}">{row.tag}</a>
          {dearWords(price, row.decidedTaps!, PRICE_SEASONS, sap)}
        </li>
      {/each}
    </ul>
  {/if}
  {#if priced !== null}<p class="aside mt-1">
      Stain is only one price; what the tree can spare, its size, crown and growth say. {sap(1)} a tap and season (common
      practice), less in proportion to the stain; without that tap all others stay where they are planned.
    </p>{/if}
</section>
