<script lang="ts">
  import { wishHeld } from '@baumkin/core/bush';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';

  /** Do these trees bear the syrup that is wished for? Said before somebody drills a second hole for it. */
  const { wishLitres }: { wishLitres: number } = $props();
  const bush = useBush();
  const { settings } = $derived(bush.overview!.bush);
  const held = $derived(
    wishHeld(wishLitres, bush.rows, (row) => bush.standOf(row), { settings, season: bush.season, today: bush.today })
  );
  const litres = (many: number) => preferences.fewLitres(many);
</script>

<p data-testid="wish-held">
  You would like {litres(wishLitres)} of syrup: {counted(held.wants.usual, 'tap')}, {held.wants.low} to {held.wants
    .high}.
  {held.open > 0 && held.bears === 0
    ? ''
    : `These trees bear ${counted(held.bears, 'tap')} without harm, for ${litres(held.gives.low)} to ${litres(held.gives.high)}. `}
  {#if held.verdict === 'enough'}<b>That is enough.</b>
  {:else if held.verdict === 'perhaps'}<b>In a good year that is enough.</b>
  {:else if held.verdict === 'notKnown'}{counted(held.open, 'tree is', 'trees are')} not known and measured yet.
  {:else}<b>Not from these trees without harm:</b> more trees would do it, or less syrup. More holes in these would give it
    for a few years, and take it from those after.{/if}
</p>
