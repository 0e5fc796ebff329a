<script lang="ts">
  import { userFacing } from '@baumkin/core/errors';
  import { entranceOf, walkLength } from '@baumkin/core/stand';

  import { undoable } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { asking } from '$lib/workers/asking.ts';
  import type { WalkWorker } from '$lib/workers/walk.worker.ts';

  /** How long the walk past all trees is, and a shorter one where there is one. */
  const bush = useBush();
  const walked = $derived(bush.rows.filter((row) => row.tagged !== false));
  const placed = $derived(walked.filter((row) => row.eastM !== null));
  const length = $derived(walkLength(walked));
  const entrance = $derived(entranceOf(bush.features));
  let found = $state.raw<{ order: string[]; lengthM: number } | null>(null);
  let looking = $state(false);
  let problem = $state<string | null>(null);
  const way = (m: number) => preferences.length(m * 1000, 'way');
  /** Less than this is not worth new habits. */
  const WORTH = 0.98;

  async function look(): Promise<void> {
    looking = true;
    problem = null;
    const worker = new Worker(new URL('../workers/walk.worker.ts', import.meta.url), { type: 'module' });
    try {
      const trees = walked.map(({ id, standId, eastM, northM }) => ({ id, standId, eastM, northM }));
      const order = await asking<WalkWorker>(worker).shortWalk(trees, entrance ?? undefined);
      const byId = new Map(trees.map((tree) => [tree.id, tree]));
      found = { order, lengthM: walkLength(order.map((id) => byId.get(id)!)) };
    } catch (error) {
      const told = userFacing(error);
      if (!told) throw error;
      problem = told.message;
    } finally {
      worker.terminate();
      looking = false;
    }
  }

  async function take(order: readonly string[]): Promise<void> {
    const before = bush.rows.map((row) => row.id);
    problem = await bush.change.walk(order);
    if (problem !== null) return;
    found = null;
    undoable('The trees now follow one another along the shorter walk.', () => bush.change.walk(before));
  }
</script>

{#if placed.length > 2}
  <div class="border-t border-base-300 py-1.5" data-testid="walk">
    <b>The walk</b> past all {placed.length} trees with a place is {way(length)} long.
    {#if bush.mayDecide}
      {#if found === null}
        <button class="link" onclick={look} disabled={looking}
          >{looking ? 'Looking for a shorter one …' : 'Look for a shorter one'}</button
        >
      {:else if found.lengthM < WORTH * length}
        From the {entrance ? 'way in' : 'first tree'} on it could be {way(found.lengthM)}, stand by stand.
        <button class="btn mt-1 btn-outline btn-sm" onclick={() => take(found!.order)}>Walk it like that</button>
      {:else}
        No shorter one was found that would be worth new habits.
      {/if}
    {/if}
    {#if problem}<p role="alert" class="mt-1 border-l-4 border-error pl-3">{problem}</p>{/if}
  </div>
{/if}
