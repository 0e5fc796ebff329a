<script lang="ts">
  import { isSugarbush } from '@baumkin/core/records';
  import { entryWarning, isAcid, throwsEasily, WINDTHROW_SHARE } from '@baumkin/core/thinning';

  import { clashWords, refusalWords } from '$lib/labels/thinning.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import Clash from './Clash.svelte';
  import type { ThinDesk } from './desk.svelte.ts';

  interface Props {
    desk: ThinDesk;
    onpick: (id: string) => void;
  }
  /** What is to be known before a plan is made: not yet, a hard year, ground that holds badly, wishes that clash. */
  let { desk, onpick }: Props = $props();
  const bush = $derived(desk.bush);
  const warning = $derived(entryWarning(desk.rows));
</script>

{#if warning.wait}
  <p class="caution mb-3 max-w-prose">
    {Math.round(100 * warning.stressedShare)} % of the trees that were looked at had a hard year: defoliation, drought or
    ice. Wait a year before you thin; the shock would come on top.
  </p>
{/if}
{#if desk.notYet && desk.refused === null}
  {@const { why, now, wanted, cruised } = desk.notYet}
  <div class="mb-3 max-w-prose border-l-4 border-primary pl-3" data-testid="not-yet">
    <p class="font-slab text-xl font-semibold">Do not thin yet</p>
    <p>
      {#if why === 'cover'}Only {Math.round(100 * now)} % of its ground lies under crowns, and {Math.round(
          100 * wanted
        )} % should stay so. Let the crowns close first.
      {:else if desk.limits.guide === 'timber'}The trees in the book come to <b>{preferences.basalAreaDensity(now)}</b>.
        The timber guides leave a stand of this size alone below {preferences.basalAreaDensity(wanted)} to {preferences.basalAreaDensity(
          wanted + 1
        )}.
      {:else}Standing open, its crowns would cover {Math.round(100 * now)} % of the ground: there is no tree too many by the
        sugarbush guides.{/if}
      {#if why === 'stocking' && desk.limits.guide === 'timber'}
        {#if cruised === null}Count a few plots: they tell whether the book is short of its trees.
        {:else if cruised >= wanted + 1}Plots found {preferences.basalAreaDensity(cruised)}: many of its trees are not
          in the book, and what a plan says holds where they are.
        {:else}Plots found {preferences.basalAreaDensity(cruised)}, no more than that.{/if}
      {/if}
      {now >= wanted
        ? 'You can still make a plan: it keeps these limits and takes little.'
        : 'No plan keeps these limits; they are yours to loosen.'}
      {desk.limits.guide === 'timber' ? 'The sugarbush guides see it otherwise: try them beside it.' : ''}
    </p>
  </div>
{/if}
{#if desk.stand && throwsEasily(desk.stand) && desk.refused === null}
  <p class="mb-3 max-w-prose border-l-4 border-base-content pl-3" data-testid="windthrow">
    Its ground is {desk.stand.wetness === 'wet'
      ? 'wet'
      : desk.stand.soilDepth === 'shallow'
        ? 'shallow'
        : 'over a hard pan'}: roots hold badly, and wind throws trees whose neighbours are gone. No more than {Math.round(
      100 * WINDTHROW_SHARE
    )} % is taken at once here.
  </p>
{/if}
{#if desk.stand && isAcid(desk.stand)}
  <p class="mb-3 max-w-prose border-l-4 border-base-content pl-3">
    Its soil is acid (pH {desk.stand.soilPh}): sugar maple runs short of calcium on such ground. Look at the crowns
    every summer, and thin none that are dying back.
  </p>
{/if}
{#if desk.thin && desk.thin.clashes.length > 0 && desk.refused === null}
  <section class="mb-3 max-w-prose border-l-4 border-error pl-3" aria-labelledby="clashes" data-testid="clashes">
    <h2 id="clashes">Two wishes clash here: you decide</h2>
    <ul>
      {#each desk.thin.clashes as { row, clash } (row.id)}
        <Clash {row} says="{clashWords(clash)}. No plan takes it" onpick={() => onpick(row.id)} />
      {/each}
    </ul>
  </section>
{/if}
{#if desk.refused !== null}
  <p class="max-w-prose text-lg" data-testid="refused">{refusalWords(desk.refused)}</p>
  {#if desk.stand && isSugarbush(desk.stand) && desk.thin && desk.thin.unknown.length > 0}
    <p class="mt-2 max-w-prose">
      Without a good map you can still free crowns: stand under each crop tree, look up, and fill its crown card side by
      side. The cards give the marks and the list.
      {#each desk.thin.unknown.slice(0, 12) as tree, i (tree.id)}{i > 0 ? ', ' : ''}<a
          class="link"
          href="/bush/{bush.id}/thin/{tree.id}">{tree.tag}</a
        >{/each}
    </p>
  {/if}
{/if}
