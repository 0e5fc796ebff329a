<script lang="ts">
  import { knownOf, lacksOf, type Lack } from '@baumkin/core/bush';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { capital } from '$lib/words/capital.ts';

  /** What the book knows after a file came in, what it lacks, and which evening helps most. */
  const bush = useBush();
  const rows = $derived(bush.rows.filter((row) => row.tagged !== false));
  const known = $derived(knownOf(rows, bush.today));
  const lacks = $derived(lacksOf(rows, bush.today));
  const SHOWN = 4;

  const LACKS: Readonly<Record<Lack['what'], { says: (n: number) => string; where: string }>> = {
    settle: {
      says: (n) => `${counted(n, 'tree is', 'trees are')} not settled: look at twigs, buds and bark`,
      where: 'identify/all'
    },
    measure: { says: (n) => `${counted(n, 'maple has', 'maples have')} no size: go with a tape`, where: 'measure' },
    past: {
      says: (n) => `of ${counted(n, 'maple')} no earlier hole is known: go round the trunk, or ask who tapped here`,
      where: 'place'
    },
    lookUp: { says: (n) => `nobody looked up at ${counted(n, 'crown')} lately: in leaf is best`, where: 'count' },
    decide: {
      says: (n) => `${counted(n, 'maple waits', 'maples wait')} for a count: that is done at the table`,
      where: 'count/all'
    },
    place: { says: (n) => `${counted(n, 'tree is', 'trees are')} not on the map: pace from tree to tree`, where: 'map' }
  };
  function time(hours: number): string {
    if (hours < 1) return 'less than an hour';
    return hours < 12
      ? `about ${counted(Math.round(hours), 'hour')}`
      : `about ${counted(Math.round(hours / 6), 'day')}`;
  }
</script>

{#if rows.length > 0}
  <section class="mt-6" aria-labelledby="known" data-testid="known">
    <h3 id="known" class="text-base">What the book knows now</h3>
    <p class="max-w-prose">
      {counted(known.trees, 'tree')}: {known.settled} settled, {known.measured} measured ({known.grown} of them twice or cored),
      {known.placed} on the map; earlier tapping known of {known.withPast}, crowns looked at lately: {known.lookedAt}; {known.decided}
      of {counted(known.maples, 'maple')} counted.
    </p>
    {#if lacks.length > 0}
      <h3 class="mt-3 text-base">What helps next</h3>
      <ol class="flex list-decimal flex-col gap-1 pl-6">
        {#each lacks.slice(0, SHOWN) as { what, trees, hours } (what)}
          <li>
            <a class="link" href="/bush/{bush.id}/{LACKS[what].where}">{capital(LACKS[what].says(trees))}</a>
            <span class="aside">{time(hours)}</span>
          </li>
        {/each}
      </ol>
    {/if}
  </section>
{/if}
