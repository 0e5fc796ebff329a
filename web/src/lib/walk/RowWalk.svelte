<script lang="ts">
  import { isSick } from '@baumkin/core/bush';
  import { speciesById } from '@baumkin/core/identify';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import StandSelect from '$lib/ui/StandSelect.svelte';
  import { capital } from '$lib/words/capital.ts';

  import OtherRounds from './OtherRounds.svelte';
  import type { RowRoundSlug } from './roundSlugs.ts';
  import { ROW_ROUNDS, type RowRound, type RowStop } from './rowRounds.ts';
  import { Walk } from './walk.svelte.ts';
  import WalkFrame from './WalkFrame.svelte';

  /** So many trees have their records at hand before they are come to. */
  const TREES_AHEAD = 3;

  /** A round that the lines of the trees lead through, whatever is asked at each. */
  const { slug }: { slug: RowRoundSlug } = $props();
  const bush = useBush();
  const round: RowRound = $derived(ROW_ROUNDS[slug]);
  const walk: Walk<RowStop> = untrack(() => new Walk(bush, slug, () => stops));
  const here = $derived(bush.walked.filter(({ standId }) => walk.standId === '' || walk.standId === standId));
  const waiting = $derived(new Set(here.filter((row) => round.waits(row, bush))));
  const stops = $derived(
    [...waiting]
      .filter(({ id }) => !walk.dealt.has(id))
      .map((row): RowStop => {
        const { id: treeId, walkOrder } = row;
        return { treeId, walkOrder, sick: slug === 'pull' && isSick(row), row };
      })
  );
  const done = $derived(
    here.filter((row) => walk.dealt.has(row.id) || (!waiting.has(row) && round.isDone(row, bush))).length
  );
  const Question = $derived(round.question);
  // What is known of a tree is at hand before anything is asked there: an answer must not wipe out what was noted before.
  $effect(() => {
    if (!walk.started) return;
    for (const { treeId } of walk.ahead.slice(0, TREES_AHEAD)) void bush.loadTree(treeId);
  });
</script>

<WalkFrame
  {walk}
  title={round.name}
  reading={bush.overview === null ? { done: 0, all: 0 } : null}
  left={round.left(stops.length)}
  progress={{ done, of: done + stops.length, mine: walk.doneToday, what: 'trees of this round are done' }}
  mayStart={stops.length > 0 && bush.mayRecord}
  aloud={({ row }) => `Tree ${row.tag}`}
>
  {#snippet about({ row }: RowStop)}
    {row.species ? speciesById(row.species).name : 'not told yet'}{row.dbhMm === null
      ? ''
      : `, ${preferences.length(row.dbhMm, 'trunk')}`}
  {/snippet}
  {#snippet question(stop: RowStop)}
    {#if bush.hasLife(stop.treeId)}{#key stop.treeId}<Question {stop} {walk} />{/key}
    {:else}<p class="grow text-lg" role="status">Looking up what is known of it …</p>{/if}
  {/snippet}
  {#snippet start()}
    <p class="font-slab text-3xl leading-tight font-semibold">
      {stops.length > 0 ? `${capital(round.left(stops.length))}.` : round.none}
    </p>
    {#if done + walk.doneToday > 0}<p>
        {capital(round.done(done))}{walk.doneToday > 0 ? `; ${walk.doneToday} done on this device today` : ''}.
      </p>{/if}
    <StandSelect bind:value={walk.standId} />
    <p class="caution">{round.before}</p>
    <OtherRounds current={slug} />
  {/snippet}
  {#snippet instead()}<a class="btn h-16 shrink-0 text-lg" href="/bush/{bush.id}">State of the bush</a>{/snippet}
</WalkFrame>
