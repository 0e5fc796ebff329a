<script lang="ts">
  import type { HolePrice, PlacementTask } from '@baumkin/core/rotation';
  import { PRICE_SEASONS, priceBy } from '@baumkin/core/rotation';
  import { LITRES_A_TAP } from '@baumkin/core/sap';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { priceWords } from '$lib/labels/taps.ts';
  import { placeWorker } from '$lib/place/worker.ts';
  import { lastAsked } from '$lib/workers/lastAsked.ts';

  /** Whether one hole more than these is worth its stain: what it brings this spring, and what it takes from those after it. */
  const { task }: { task: PlacementTask } = $props();
  const bush = useBush();
  const { stainLoss } = $derived(bush.overview!.bush.settings);

  let found = $state.raw<{ readonly of: string; readonly price: HolePrice | null } | null>(null);
  const asked = $derived(JSON.stringify(task));
  const ask = lastAsked(
    (of: PlacementTask) => placeWorker().price(of),
    (of, price) => (found = { of: JSON.stringify(of), price })
  );
  $effect(() => ask(JSON.parse(asked) as PlacementTask));
  const sap = (holes: number) => preferences.volume(holes * LITRES_A_TAP);
</script>

<h2 id="price" class="mb-1">The price of one hole more</h2>
<p data-testid="price">
  {found?.of === asked
    ? priceWords(found.price && priceBy(found.price, stainLoss), task.taps, PRICE_SEASONS, sap)
    : 'Working it out …'}
</p>
<p class="aside mt-1">
  Stain is only one price: what the tree can spare, its size, crown and growth say. Drilled where it stains least for
  the planned holes, all of which stay where they are; {sap(1)} a tap and season (common practice), less in proportion to
  the stain.
</p>
