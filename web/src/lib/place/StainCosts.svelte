<script lang="ts">
  import { stainedPlaces, weatherOf, type DrilledHole } from '@baumkin/core/bush';
  import type { OwnLoss } from '@baumkin/core/season';
  import { group } from 'd3-array';
  import { onDestroy } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { undoable } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import Term from '$lib/ui/Term.svelte';
  import { LongRun } from '$lib/workers/longRun.svelte.ts';

  /**
   * How much sap does stained wood cost here? Litres of buckets whose holes were all looked at are held against the stain of their paths, so
   * that sums go by this bush and not by a small trial elsewhere.
   */
  const { holes }: { holes: readonly DrilledHole[] } = $props();
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const told = $derived(
    stainedPlaces(
      bush.bushRecords,
      group(holes, ({ hole }) => hole.treeId),
      weatherOf(bush.bushRecords, bush.today),
      settings
    )
  );

  const long = new LongRun();
  onDestroy(() => long.stop());
  let found = $state.raw<OwnLoss | null>(null);
  $effect(() => {
    const of = told;
    void long
      .run((worker) => worker.ownLoss(of))
      .then((loss) => {
        if (of === told && loss) found = loss;
      });
  });

  const pct = (share: number) => `${Math.round(100 * share)} %`;
  /** What would be reckoned with: to the nearest twentieth, for nobody knows it better. */
  const proposed = $derived(found && Math.round(20 * found.share) / 20);
  let problem = $state<string | null>(null);
  async function reckonWith(stainLoss: number): Promise<void> {
    const before = settings.stainLoss;
    problem = await bush.change.settings({ stainLoss });
    if (problem !== null) return;
    undoable(`Where it is all stained, a path is reckoned to lose ${pct(stainLoss)} of its sap.`, () =>
      bush.change.settings({ stainLoss: before })
    );
  }
</script>

<section aria-labelledby="stain-costs" class="flex flex-col gap-2" data-testid="stain-costs">
  <h2 id="stain-costs">What stain costs here</h2>
  <LongRunStatus run={long} what="Holding litres against stain" />
  {#if found?.verdict === 'told'}
    <p>
      A path that is all <Term of="stained">stained</Term> gives <b>{pct(found.share)} less</b> (8 in 10: {pct(
        found.low
      )} to {pct(found.high)}), by {counted(found.told, 'logged season')} of single buckets and small groups, {found.brown}
      of them with brown wood. What a tree and a year did besides is taken off.
    </p>
    {#if bush.mayDecide && proposed !== null && Math.abs(proposed - settings.stainLoss) >= 0.05}
      <button class="btn self-start btn-primary btn-sm" onclick={() => reckonWith(proposed)}
        >Reckon with {pct(proposed)}</button
      >
    {/if}
  {:else if found}
    <p>
      {found.told === 0
        ? 'No bucket tells it yet.'
        : `${counted(found.told, 'logged season')} of single buckets ${found.told === 1 ? 'is' : 'are'} too few to tell, ${found.brown} with brown wood.`}
      Give a bucket of its own to three trees with brown shavings and three with pale ones, as
      <a class="link" href="/bush/{bush.id}/season/rounds">collecting places</a>, and log what they give.
    </p>
  {/if}
  <p class="aside">
    Reckoned with: {pct(settings.stainLoss)} of the sap where a path is all stained, less in proportion.
    {#if settings.stainLoss === 1}Common practice: in one small trial, holes that hit stain lost 70 to 75 %.
    {:else if bush.mayDecide}<button class="link" onclick={() => reckonWith(1)}>Back to common practice</button>{/if}
  </p>
  {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
</section>
