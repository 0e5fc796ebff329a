<script lang="ts">
  import { useBush } from '$lib/client/bush.svelte.ts';

  import { ROW_ROUNDS } from './rowRounds.ts';

  /** The other rounds that have something to do, from the one that is looked at. */
  const { current }: { current: string } = $props();
  const bush = useBush();
  const others = $derived(
    Object.entries(ROW_ROUNDS).flatMap(([slug, round]) => {
      const trees = bush.walked.filter((row) => round.waits(row, bush)).length;
      return slug !== current && trees > 0 ? [{ slug, says: round.left(trees) }] : [];
    })
  );
</script>

<nav aria-label="Other rounds">
  <ul class="flex flex-col text-lg">
    {#if current !== 'tap'}<li class="border-t border-base-300">
        <a class="flex min-h-12 link items-center" href="/bush/{bush.id}/walk">the tapping round</a>
      </li>{/if}
    {#each others as { slug, says } (slug)}
      <li class="border-t border-base-300">
        <a class="flex min-h-12 link items-center" href="/bush/{bush.id}/walk/{slug}">{says}</a>
      </li>
    {/each}
  </ul>
</nav>
