<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import { knownMaple, type TreeRow } from '@baumkin/core/records';
  import { reasonsFor } from '@baumkin/core/thinning';

  import { barredWords, cropPartWords, MARK_SAID, reasonWords } from '$lib/labels/thinning.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import type { ThinDesk } from './desk.svelte.ts';

  /** A tree picked on the map of the plan: why it is taken, what it counts as a crop tree, and what the steward says of it. */
  let {
    desk,
    row,
    ontake,
    onmark,
    onchoose
  }: {
    desk: ThinDesk;
    row: TreeRow;
    ontake: () => void;
    onmark: (purpose: 'keep' | 'none') => void;
    onchoose: (choice: 'crop' | 'veto' | 'none') => void;
  } = $props();

  const { bush } = $derived(desk);
  const shown = $derived(desk.choice);
  const score = $derived(desk.scored.find(({ id }) => id === row.id)?.score ?? null);
  const reasons = $derived(
    shown?.taken.has(row.id) && desk.thin?.rows.some(({ id }) => id === row.id)
      ? reasonWords(reasonsFor(desk.thin.plan, row.id, shown.taken), (id) => bush.tagOf(id))
      : ''
  );
</script>

<section class="mt-3 border-l-[6px] border-base-content pl-4" aria-label="Chosen tree" data-testid="picked">
  <h2>
    {row.tagged === false ? 'A tree without a tag' : `Tree ${row.tag}`}
    <span class="aside font-sans font-normal"
      >{row.species ? speciesById(row.species).name : 'species unsettled'}{row.dbhMm
        ? `, ${preferences.length(row.dbhMm, 'trunk')}`
        : ''}{row.mark ? `; ${MARK_SAID[row.mark].toLowerCase()}` : ''}</span
    >
  </h2>
  {#if reasons !== ''}<p>In “{shown!.name}”: {reasons}.</p>{/if}
  {#if score && knownMaple(row) === true}
    <p>
      {score.score} points of 100 as a crop tree{score.barred ? `, but ${barredWords(score.barred)}` : ''}:
      {cropPartWords(score.parts)}.
    </p>
  {/if}
  <div class="mt-1.5 flex flex-wrap gap-2">
    {#if bush.mayDecide}
      {#if shown?.taken.has(row.id) && !desk.marked.has(row.id)}<button class="btn btn-primary btn-sm" onclick={ontake}
          >Mark this one to take</button
        >{/if}
      {#if row.mark !== null}<button class="btn btn-outline btn-sm" onclick={() => onmark('none')}
          >Take its mark off</button
        >{:else}<button class="btn btn-outline btn-sm" onclick={() => onmark('keep')}>Keep it</button>{/if}
      {#if knownMaple(row) === true}
        {#if row.crop !== 'crop'}<button class="btn btn-outline btn-sm" onclick={() => onchoose('crop')}
            >Make it a crop tree</button
          >{/if}
        {#if row.crop === null}<button class="btn btn-outline btn-sm" onclick={() => onchoose('veto')}
            >Never a crop tree</button
          >{:else}<button class="btn btn-outline btn-sm" onclick={() => onchoose('none')}
            >Let the points decide again</button
          >{/if}
      {/if}
    {/if}
    <a class="btn btn-ghost btn-sm" href="/bush/{bush.id}/thin/{row.id}">Its crown</a>
  </div>
</section>
