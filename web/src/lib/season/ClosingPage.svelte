<script lang="ts">
  import {
    closedAfter,
    closingDue,
    closingSample,
    closingSpeedOf,
    lastSummer,
    type ClosedAfter
  } from '@baumkin/core/bush';
  import { closingGauge, GAUGE_TREES, vigourFalls, type ClosingGauge, type GaugeTree } from '@baumkin/core/season';
  import { otherSapOfTree, type WorkRecord } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';

  /**
   * Did the trees heal? A drawn sample tells how fast a bush closes its holes, long before a tape can tell its growth; trees that lag
   * behind their own growth are named.
   */
  const bush = useBush();
  const sample = $derived(closingSample(bush.rows, bush.today));
  const due = $derived(bush.rows.filter((row) => sample.has(row.id) && closingDue(row, bush.today)));
  const done = $derived(sample.size - due.length);

  interface Told {
    readonly after: readonly ClosedAfter[];
    readonly gauge: ClosingGauge;
    /** trees that close clearly slower than they grew */
    readonly falling: readonly { readonly id: string; readonly tag: string }[];
  }
  let told = $state.raw<Told | null>(null);
  /** Of an unread tree nothing is known; its ring by tape needs an error that is clearly smaller than its ring. */
  async function gather(): Promise<Told> {
    const lives: (readonly WorkRecord[])[] = [];
    const both: (GaugeTree & { id: string; tag: string; seMm: number })[] = [];
    for await (const { tree, records } of bush.lives(
      bush.rows.filter((row) => row.lastTappedSeason !== null && otherSapOfTree(row) === null)
    )) {
      if (!records.some(({ kind }) => kind === 'closing')) continue;
      lives.push(records);
      const speed = closingSpeedOf(records);
      const { observed } = bush.stateFrom(records).growth;
      if (speed && !speed.atLeast && observed)
        both.push({ id: tree.id, tag: tree.tag, ...observed, mmASummer: speed.mmASummer });
    }
    const gauge = closingGauge(both);
    const falling = gauge.usable
      ? both.filter((tree) =>
          vigourFalls(
            { ringMm: tree.ringMm, seMm: tree.seMm },
            { ringMm: gauge.ring(tree.mmASummer), seMm: gauge.missesMm }
          )
        )
      : [];
    return { after: closedAfter(lives), gauge, falling };
  }
  let failed = $state(false);
  $effect(() => {
    void bush.rows;
    void gather().then(
      (found) => (told = found),
      () => (failed = true)
    );
  });
  const pct = (part: number, all: number) => Math.round((100 * part) / all);
</script>

<h1 class="sr-only">Closing</h1>
{#if sample.size === 0 && told && told.after.length === 0}
  <EmptyState title="No hole to look at"
    >Holes are looked at from the middle of August on: by then a summer's wood lies across what closes.</EmptyState
  >
{:else}
  <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
    <section class="min-w-0" aria-labelledby="round">
      <h2 id="round">The round of summer {lastSummer(bush.today)}</h2>
      {#if sample.size > 0}
        <p class="text-lg" data-testid="sample">
          {due.length === 0
            ? `All ${sample.size} trees of the sample were looked at.`
            : `${counted(due.length, 'tree')} of a sample of ${sample.size} to look at${done > 0 ? `, ${done} done` : ''}.`}
        </p>
        <p class="aside max-w-prose">
          Drawn anew each year among the trees that were tapped lately, so that it speaks for all of them. Others are
          looked at in passing, or where there is a reason: it stayed dry, oozed, or looks weak.
        </p>
        {#if due.length > 0}
          <p class="mt-2 flex flex-wrap gap-x-3 gap-y-1">
            {#each due.slice(0, 80) as row (row.id)}<a class="link" href="/bush/{bush.id}/season/{row.id}">{row.tag}</a
              >{/each}
          </p>
          <a class="btn mt-3 btn-primary" href="/bush/{bush.id}/walk/closing">Walk the round</a>
        {/if}
      {:else}<p>Nothing is due before the middle of August.</p>{/if}
      <h2 class="mt-6">How this bush closes its holes</h2>
      {#if failed}<p role="alert">Not all of the book is on this device yet; open the page again.</p>
      {:else if !told}<p>Going through the looks …</p>
      {:else if told.after.length === 0}<p>No look is written down hole by hole yet.</p>
      {:else}
        <table class="w-full max-w-xl text-left" data-testid="closed-after">
          <thead
            ><tr class="border-b-2 border-base-content"
              ><th class="py-1">After</th><th class="text-right">Holes</th><th class="text-right">Closed</th><th
                class="text-right">A slit</th
              ><th class="text-right">Open</th></tr
            ></thead
          >
          <tbody>
            {#each told.after as row (row.summers)}
              <tr class="border-b border-base-300"
                ><td class="py-1">{counted(row.summers, 'summer')}</td><td class="text-right">{row.holes}</td><td
                  class="text-right">{pct(row.closed, row.holes)} %</td
                ><td class="text-right">{pct(row.slit, row.holes)} %</td><td class="text-right"
                  >{pct(row.holes - row.closed - row.slit, row.holes)} %</td
                ></tr
              >
            {/each}
          </tbody>
        </table>
        <p class="aside">A hole that is open after three summers tells of a weak tree: Count lets it rest.</p>
      {/if}
    </section>
    <section aria-labelledby="gauge" class="flex flex-col gap-2">
      <h2 id="gauge">Closing as a gauge of growth</h2>
      {#if told}
        {@const gauge = told.gauge}
        <p data-testid="gauge">
          {#if !gauge.usable && gauge.why === 'tooFew'}
            It says nothing yet: {counted(gauge.trees, 'tree')} have both gaps in millimetres and two readings by tape, and
            {GAUGE_TREES} are needed.
          {:else if !gauge.usable}
            It says nothing here: over {counted(gauge.trees, 'tree')} it tells a tree that it has not seen no better than
            the mean of all does.
          {:else}
            Over {counted(gauge.trees, 'tree')} it tells the ring of a tree that it has not seen to {preferences.length(
              gauge.missesMm,
              'ring'
            )}; their mean misses by {preferences.length(gauge.meanMissesMm, 'ring')}. It never outvotes a tape.
          {/if}
        </p>
        {#if told.falling.length > 0}
          <p>These close clearly slower than they grew: look up at their crowns.</p>
          <p class="flex flex-wrap gap-x-3 gap-y-1">
            {#each told.falling as tree (tree.id)}<a class="link" href="/bush/{bush.id}/count/{tree.id}">{tree.tag}</a
              >{/each}
          </p>
        {/if}
      {/if}
      <p class="aside">
        Bark that dies in a band round a hole, or a fungus on it, is written down with the tree, and feeds its
        condition.
      </p>
    </section>
  </div>
{/if}
