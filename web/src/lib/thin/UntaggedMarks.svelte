<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import type { CrownCardRecord, TreeRow } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';

  /** Trees without a tag that crown cards mark: each is found by the tree beside which it stands. */
  interface Untagged {
    readonly row: TreeRow;
    readonly blocker: CrownCardRecord['blockers'][number];
    /** its place among the card's blockers */
    readonly at: number;
  }
  const { untagged }: { untagged: readonly Untagged[] } = $props();
  const bush = useBush();

  async function gone({ row, at }: { row: TreeRow; at: number }): Promise<void> {
    await bush.loadTree(row.id);
    const {
      id,
      treeId: _tree,
      recordedAt: _at,
      authorId: _author,
      withdrawn: _gone,
      on: _on,
      ...card
    } = row.crownCard as CrownCardRecord;
    const record = await bush.record(row.id, {
      ...card,
      correctsId: id,
      blockers: card.blockers.map((blocker, i) => (i === at ? { ...blocker, fate: 'gone' as const } : blocker))
    });
    saved(bush, `Gone from beside tree ${row.tag}.`, record);
  }
</script>

<section aria-labelledby="untagged" data-testid="untagged">
  <h2 id="untagged">Without a tag, from crown cards: {untagged.length}</h2>
  <ul>
    {#each untagged as each (`${each.row.id}/${each.at}`)}
      <li class="flex items-center gap-3 border-b border-base-300/60 py-1.5">
        <span class="grow"
          >on the {each.blocker.side} side of
          <a class="link" href="/bush/{bush.id}/thin/{each.row.id}">{each.row.tag}</a>: {each.blocker.species
            ? speciesById(each.blocker.species).name
            : 'species not noted'}{each.blocker.dbhMm
            ? `, about ${preferences.length(each.blocker.dbhMm, 'trunk')}`
            : ''}</span
        >
        {#if bush.mayRecord}<button class="btn btn-outline btn-sm print:hidden" onclick={() => gone(each)}
            >It is down</button
          >{/if}
      </li>
    {/each}
  </ul>
</section>
