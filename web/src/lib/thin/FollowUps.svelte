<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import { compassPoint } from '@baumkin/core/math';
  import type { TreeRow } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { CUT_WORDS, lookAgain, MARK_SAID } from '$lib/labels/thinning.ts';
  import Told from '$lib/ui/Told.svelte';

  /** What is to be looked at again, the next first, and what came down. */
  const { here }: { here: (row: TreeRow) => boolean } = $props();
  const bush = useBush();
  const standingDead = $derived(
    bush.rows
      .filter((row) => here(row) && row.fallen !== null)
      .sort((a, b) => (a.reviewOn ?? '9').localeCompare(b.reviewOn ?? '9'))
  );
  const watched = $derived(
    bush.rows
      .filter((row) => here(row) && (row.mark === 'watch' || row.mark === 'brace'))
      .sort((a, b) => (a.reviewOn ?? '9').localeCompare(b.reviewOn ?? '9'))
  );
  const log = $derived(bush.stumps.filter(here).toSorted((a, b) => b.cut!.on.localeCompare(a.cut!.on)));
</script>

{#if standingDead.length > 0}
  <section aria-labelledby="standing-dead" data-testid="standing-dead">
    <h2 id="standing-dead">Standing dead, or lying alive</h2>
    <ul>
      {#each standingDead as row (row.id)}
        <li class="border-b border-base-300/60 py-1.5">
          <a class="link font-bold" href="/bush/{bush.id}/thin/{row.id}">{row.tag}</a>
          <Told of={CUT_WORDS[row.fallen!.what]} />, {row.fallen!.on}.
          <span class={row.reviewOn !== null && row.reviewOn <= bush.today ? 'font-semibold' : 'aside'}
            >{lookAgain(row.reviewOn, bush.today)}</span
          >
        </li>
      {/each}
    </ul>
  </section>
{/if}
{#if watched.length > 0}
  <section aria-labelledby="watched" data-testid="watched">
    <h2 id="watched">Watched and braced</h2>
    <ul>
      {#each watched as row (row.id)}
        {@const due = row.reviewOn !== null && row.reviewOn <= bush.today}
        <li class="border-b border-base-300/60 py-1.5">
          <a class="link font-bold" href="/bush/{bush.id}/thin/{row.id}">{row.tag}</a>
          {MARK_SAID[row.mark!].toLowerCase()}{row.markReason ? `: ${row.markReason}` : ''}{row.leanDeg === null
            ? ''
            : `; leans ${compassPoint(row.leanDeg)}`}.
          <span class={due ? 'font-semibold' : 'aside'}>{lookAgain(row.reviewOn, bush.today)}</span>
        </li>
      {/each}
    </ul>
  </section>
{/if}
<section aria-labelledby="log" data-testid="log">
  <h2 id="log">What came down</h2>
  <ul>
    {#each log as row (row.id)}
      {@const cut = row.cut!}
      <li class="border-b border-base-300/60 py-1.5">
        <span class="aside">{cut.on}</span>
        <a class="link font-bold" href="/bush/{bush.id}/life/{row.id}">{row.tag}</a>
        {row.species ? speciesById(row.species).name : ''}
        {CUT_WORDS[cut.what]}{cut.by ? ` by ${cut.by}` : ''}{cut.damaged.length > 0
          ? `; hurt ${cut.damaged.map((id) => bush.tagOf(id)).join(', ')}`
          : ''}{cut.note ? `: ${cut.note}` : ''}
        {#if row.tapped}<a class="link whitespace-nowrap" href="/bush/{bush.id}/place/{row.id}">what its log tells</a
          >{/if}
      </li>
    {:else}
      <li class="aside">Nothing is in the log yet.</li>
    {/each}
  </ul>
</section>
