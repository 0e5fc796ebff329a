<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import type { TreeRow } from '@baumkin/core/records';
  import type { Competitor, Side } from '@baumkin/core/stand';
  import type { SideState } from '@baumkin/core/thinning';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { listed } from '$lib/words/listed.ts';

  /** Side by side what takes a crown's light: whom to take to free it, at a click. */
  interface Props {
    row: TreeRow;
    states: readonly SideState[];
    /** trees that are marked to come down */
    taken: ReadonlySet<string>;
    competitors: readonly Competitor[];
    ontoggle: (treeId: string) => void;
  }
  const { row, states, taken, competitors, ontoggle }: Props = $props();
  const bush = useBush();
  const metres = (m: number) => preferences.length(m * 1000, 'ground');
  const name = (species: Competitor['tree']['species']) => (species ? speciesById(species).name : 'species unsettled');
  const gap = (c: Competitor) =>
    c.gapM <= 0 ? `crowns overlap by ${metres(-c.gapM)}` : `${metres(c.gapM)} between the crowns`;
  const SIDE_NAME: Record<Side, string> = { north: 'North', east: 'East', south: 'South', west: 'West' };
</script>

<dl class="flex flex-col gap-2">
  {#each states as state (state.side)}
    <div class="grid grid-cols-[3.6rem_1fr] gap-x-2">
      <dt class="font-bold">{SIDE_NAME[state.side]}</dt>
      <dd>
        {#if state.seenBy === 'card'}
          {@const seen = row.crownCard?.blockers.filter((b) => b.side === state.side && b.fate !== 'gone') ?? []}
          <span class="aside">seen from below:</span>
          {row.crownCard![state.side] === 'free'
            ? 'free'
            : seen.length === 0
              ? 'blocked'
              : listed(
                  seen.map((b) =>
                    b.treeId
                      ? `tree ${bush.byId.get(b.treeId)?.tag ?? '?'}${taken.has(b.treeId) ? ' (marked)' : ''}`
                      : `${name(b.species)} without a tag${b.dbhMm ? `, about ${preferences.length(b.dbhMm, 'trunk')}` : ''}${b.fate === 'take' ? ' (to take)' : ''}`
                  )
                )}
        {:else if !state.known}<span class="aside">not looked at</span>
        {:else}
          {#each competitors.filter((c) => c.side === state.side) as competitor (competitor.tree.id)}
            {@const marked = taken.has(competitor.tree.id)}
            <div class="flex items-start justify-between gap-2">
              <span class={marked ? 'line-through' : ''}>
                <a class="link" href="/bush/{bush.id}/thin/{competitor.tree.id}">{competitor.tree.tag}</a>
                {name(competitor.tree.species)}, {preferences.length(competitor.tree.dbhMm, 'trunk')}<span
                  class="aside block">{metres(competitor.distanceM)} away, {gap(competitor)}</span
                >
              </span>
              {#if bush.mayDecide}
                <button
                  class="btn btn-sm {marked ? 'btn-neutral' : 'btn-outline'}"
                  onclick={() => ontoggle(competitor.tree.id)}
                  aria-label="{marked ? 'Unmark' : 'Take'} tree {competitor.tree.tag}"
                  >{marked ? 'Unmark' : 'Take'}</button
                >
              {/if}
            </div>
          {:else}free{/each}
        {/if}
      </dd>
    </div>
  {/each}
</dl>
