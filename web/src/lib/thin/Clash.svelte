<script lang="ts">
  import type { TreeRow } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { capital } from '$lib/words/capital.ts';

  import { markTrees } from './marks.ts';

  /** A tree that is to come down and to stay: the steward decides which. */
  const { row, says, onpick }: { row: TreeRow; says: string; onpick?: () => void } = $props();
  const bush = useBush();
  const takeDespite = () =>
    markTrees(bush, [row.id], row.mark === 'girdle' ? 'girdle' : 'take', {
      reasonOf: () => `decided all the same: ${says}`,
      despite: true
    });
</script>

<li class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-base-300/60 py-1.5">
  <span class="grow"
    >{#if onpick}<button class="link font-bold" onclick={onpick}
        >{row.tagged === false ? 'without a tag' : row.tag}</button
      >: {says}{:else}{capital(says)}{/if}.</span
  >
  {#if bush.mayDecide}
    {#if row.mark !== 'keep'}<button
        class="btn btn-outline btn-sm print:hidden"
        onclick={() => markTrees(bush, [row.id], 'keep')}>Keep it</button
      >{/if}
    {#if !row.fallen}<button class="btn btn-outline btn-sm print:hidden" onclick={takeDespite}
        >Take it all the same</button
      >{/if}
  {/if}
</li>
