<script lang="ts">
  import type { TreeRow } from '@baumkin/core/records';
  import { walkLength } from '@baumkin/core/stand';

  import { undoable } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import WalkOrder from '$lib/frame/WalkOrder.svelte';

  /** The walk by hand: trees clicked one after another follow each other from then on. */
  let { picked = $bindable() }: { picked: string[] } = $props();
  const bush = useBush();
  const rows = $derived(picked.flatMap((id) => bush.byId.get(id) ?? []));
  let problem = $state<string | null>(null);

  /** The whole order with the picked trees behind the first of them. */
  const order = $derived.by((): readonly TreeRow[] => {
    const [first, ...next] = rows;
    if (!first) return bush.rows;
    const moved = new Set(next.map((row) => row.id));
    const rest = bush.rows.filter((row) => !moved.has(row.id));
    const at = rest.findIndex((row) => row.id === first.id) + 1;
    return [...rest.slice(0, at), ...next, ...rest.slice(at)];
  });
  const tagged = (list: readonly TreeRow[]) => list.filter((row) => row.tagged !== false);
  const [now, then] = $derived([walkLength(tagged(bush.rows)), walkLength(tagged(order))]);
  const way = (m: number) => preferences.length(m * 1000, 'way');

  async function keep(): Promise<void> {
    const before = bush.rows.map((row) => row.id);
    problem = await bush.change.walk(order.map((row) => row.id));
    if (problem !== null) return;
    picked = [];
    undoable('They follow one another now.', () => bush.change.walk(before));
  }
</script>

<section aria-labelledby="walk-by-hand" class="flex flex-col gap-3">
  <h2 id="walk-by-hand">The walk</h2>
  <WalkOrder />
  {#if bush.mayDecide}
    <p>
      By hand: click the tree after which the order is to change, then the next trees in the order in which you walk
      them.
    </p>
    {#if rows.length > 0}
      <p data-testid="picked">
        From <b>{rows[0]!.tag}</b>{rows.length > 1
          ? ` on to ${rows
              .slice(1)
              .map((row) => row.tag)
              .join(', ')}`
          : ' on to …'}.
        {#if rows.length > 1}The walk would be {way(then)} long{Math.abs(then - now) < 1
            ? ', as now'
            : then < now
              ? `, ${way(now - then)} shorter`
              : `, ${way(then - now)} longer`}.{/if}
      </p>
      {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
      <div class="flex flex-wrap gap-2">
        <button class="btn btn-primary btn-sm" disabled={rows.length < 2} onclick={keep}>Walk it like that</button>
        <button class="btn btn-outline btn-sm" onclick={() => (picked = picked.slice(0, -1))}>One back</button>
        <button class="btn btn-ghost btn-sm" onclick={() => (picked = [])}>Cancel</button>
      </div>
    {/if}
    <p class="aside">
      Without a mouse: “Tag, stand, walk” on the Measure sheet of a tree says which tree it is walked after.
    </p>
  {/if}
</section>
