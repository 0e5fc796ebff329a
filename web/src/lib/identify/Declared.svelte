<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import type { Determination } from '@baumkin/core/records';

  import { allowedWords, headlineOf, toneOf } from '$lib/labels/identify.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';

  /** What somebody who knew said of a tree, without a clue written down. */
  const { determination }: { determination: Determination } = $props();
  const bush = useBush();
  const { verdict, species } = $derived(determination);
  const name = $derived(species ? speciesById(species).name : null);
</script>

<div class="{toneOf(verdict, true)} px-4 py-3" data-testid="verdict">
  <p class="font-slab text-xl font-semibold">
    {species ? headlineOf(verdict, species, true) : 'A maple, species open'}
  </p>
  <p class="mt-1">
    Declared{name ? ` as ${name}` : ''} on {determination.on} by {bush.authorOf(determination)}{determination.note
      ? `: ${determination.note}`
      : ''}.
  </p>
  <p class="mt-1 font-semibold">{allowedWords(verdict, species ? speciesById(species).sap : null)}</p>
</div>
<p class="aside">No clue is written down. Look at the tree if you doubt it: what you find makes a new determination.</p>
