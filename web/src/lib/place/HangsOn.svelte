<script lang="ts">
  import { lineOn, pipeLinesIn } from '@baumkin/core/bush';
  import type { TreeState } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { listed } from '$lib/words/listed.ts';

  /** On which lines a tree hangs, by how long a tube, and whether its holes are held to what that reaches. */
  const { treeId, tree }: { treeId: string; tree: TreeState } = $props();
  const bush = useBush();
  const drops = $derived(
    pipeLinesIn(bush.bushRecords).flatMap(({ name, drops }) =>
      drops
        .filter((drop) => drop.treeId === treeId)
        .map(({ dropMm }) => `${name} by ${preferences.length(dropMm, 'hand')} of tube`)
    )
  );
</script>

{#if drops.length > 0}
  <p class="aside" data-testid="hangs-on">
    Hangs on {listed(drops)}{lineOn(tree)
      ? ': holes are named where that reaches.'
      : '. Note on the trunk where the line passes it: holes are then named where the tube reaches.'}
    <a class="link" href="/bush/{bush.id}/season/lines">Lines</a>
  </p>
{/if}
