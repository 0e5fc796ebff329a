<script lang="ts">
  import type { ThinningDone } from '@baumkin/core/bush';
  import { EFFECT_AFTER_YEARS, EFFECT_TREES, type ThinningEffect } from '@baumkin/core/thinning';

  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';

  /** Did the thinning work? Told by the trees that were freed against comparable ones that were not. */
  const { done }: { done: readonly ThinningDone[] } = $props();
  function words(effect: ThinningEffect, what: string, more: string, less: string): string {
    const mm = (value: number) => preferences.length(Math.abs(value), 'ring');
    switch (effect.verdict) {
      case 'tooEarly':
        return `${what}: too early to tell, crowns take some ${EFFECT_AFTER_YEARS} years to fill the room.`;
      case 'tooFew':
        return `${what}: ${effect.compared} freed trees found a comparable one, and ${EFFECT_TREES} are needed.`;
      case 'cannotTell':
        return `${what}: no difference that could be told yet (${effect.low < 0 ? '−' : ''}${mm(effect.low)} to ${effect.high < 0 ? '−' : ''}${mm(effect.high)}).`;
      case 'more':
        return `${what}: ${mm(effect.effect)} ${more} than comparable trees (${mm(effect.low)} to ${mm(effect.high)}).`;
      case 'less':
        return `${what}: ${mm(effect.effect)} ${less} than comparable trees (${mm(effect.high)} to ${mm(effect.low)}).`;
    }
  }
</script>

{#if done.length > 0}
  <h2 class="mt-5">Did the thinning work?</h2>
  <ul data-testid="thinning-worked">
    {#each done as thinning (thinning.year)}
      <li class="border-t border-base-300 py-1">
        <b>{counted(thinning.taken, 'tree')} taken before {thinning.year}</b>, {counted(thinning.years, 'year')} ago.
        <span class="block">{words(thinning.ring, 'Ring by tape', 'wider', 'narrower')}</span>
        <span class="block">{words(thinning.closing, 'Closing of holes', 'a summer faster', 'a summer slower')}</span>
      </li>
    {/each}
  </ul>
{/if}
