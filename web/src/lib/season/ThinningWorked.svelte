<script lang="ts">
  import { fencesWorked, placeYears, thinnedSap, type ThinnedSap, type ThinningDone } from '@baumkin/core/bush';
  import {
    EFFECT_AFTER_YEARS,
    EFFECT_PLACES,
    EFFECT_TREES,
    type FenceEffect,
    type ThinningEffect
  } from '@baumkin/core/thinning';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';

  import type { SeasonDesk } from './desk.svelte.ts';

  /**
   * Did the thinning work, and did the fences? Told by trees that were freed against comparable ones that were not, by places against
   * each other, and by plots inside against plots outside.
   */
  const { done, desk }: { done: readonly ThinningDone[]; desk: SeasonDesk } = $props();
  const bush = useBush();
  const years = $derived(done.length > 0 ? placeYears(bush.bushRecords, desk.weather, desk.settings) : []);
  const fences = $derived(fencesWorked(bush.bushRecords, bush.today));
  const rounded = (perHa: number) => Math.round(perHa / 10) * 10;

  /** `Litres a tap: 12 % more (4 % to 20 %).` */
  function sapWords(
    effect: ThinnedSap['litres'],
    what: string,
    told: (value: number) => string,
    more: [string, string]
  ) {
    const signed = (value: number) => `${value < 0 ? '−' : ''}${told(Math.abs(value))}`;
    const span = `${signed(effect.low)} to ${signed(effect.high)}`;
    switch (effect.verdict) {
      case 'tooEarly':
        return `${what}: too early to tell.`;
      case 'tooFew':
        return `${what}: ${counted(effect.compared, 'place')} with sap of two seasons before and after, freed by different shares; ${EFFECT_PLACES} are needed.`;
      case 'cannotTell':
        return `${what}: no difference that could be told yet (${span}).`;
      default:
        return `${what}: ${told(Math.abs(effect.effect))} ${effect.verdict === 'more' ? more[0] : more[1]} where all trees were freed than where none were (${span}).`;
    }
  }
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  const points = (value: number) => `${value.toFixed(1)} % of sugar`;
  function fenceWords(of: FenceEffect): string {
    const figures = `${rounded(of.inside)} maples above the knee a hectare inside (${counted(of.plots[0], 'plot')}), ${rounded(of.outside)} outside (${of.plots[1]})`;
    switch (of.verdict) {
      case 'tooEarly':
        return `too early to tell: seedlings take some ${EFFECT_AFTER_YEARS} years to outgrow the knee.`;
      case 'tooFew':
        return `three plots on either side of the fence tell something; ${of.plots[0]} inside and ${of.plots[1]} outside were counted.`;
      case 'cannotTell':
        return `${figures}: no difference that could be told yet.`;
      default:
        return `${figures}: ${of.verdict === 'more' ? 'surely more' : 'surely fewer'} inside.`;
    }
  }

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
      {@const sap = thinnedSap(thinning, years, bush.bushRecords)}
      <li class="border-t border-base-300 py-1">
        <b>{counted(thinning.taken, 'tree')} taken before {thinning.year}</b>, {counted(thinning.years, 'year')} ago.
        <span class="block">{words(thinning.ring, 'Ring by tape', 'wider', 'narrower')}</span>
        <span class="block">{words(thinning.closing, 'Closing of holes', 'a summer faster', 'a summer slower')}</span>
        <span class="block">{sapWords(sap.litres, 'Litres a tap', percent, ['more', 'less'])}</span>
        <span class="block">{sapWords(sap.sugar, 'Sugar', points, ['more', 'less'])}</span>
      </li>
    {/each}
  </ul>
{/if}
{#if fences}<p class="mt-3" data-testid="fences-worked"><b>Fences</b>: {fenceWords(fences)}</p>{/if}
