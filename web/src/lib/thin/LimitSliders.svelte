<script lang="ts">
  import { M2_PER_ACRE, M2_PER_HECTARE, M2_PER_SQUARE_FOOT } from '@baumkin/core';
  import type { Binding, LimitId, PlanLimits } from '@baumkin/core/thinning';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** What one entry may do. The limit that holds the plan back says by how much. */
  let {
    limits = $bindable(),
    binding,
    disabled = false
  }: { limits: PlanLimits; binding: readonly Binding[] | null; disabled?: boolean } = $props();

  const floorUnit = $derived(preferences.units === 'metric' ? 1 : (M2_PER_SQUARE_FOOT * M2_PER_HECTARE) / M2_PER_ACRE);
  const price = (id: LimitId) => binding?.find((b) => b.id === id)?.worth ?? null;
</script>

{#snippet held(id: LimitId)}
  {@const worth = price(id)}
  {#if worth !== null}
    <span class="block border-l-4 border-primary pl-2 text-sm font-semibold" data-testid="binds-{id}"
      >{binding![0]!.id === id ? 'This limit binds most' : 'This limit binds too'}: without it the plan would be worth {(
        worth / 100
      ).toFixed(1)} freed crowns more.</span
    >
  {/if}
{/snippet}

<fieldset class="flex flex-col gap-3" {disabled}>
  <label class="flex flex-col gap-0.5"
    ><span>Take at most <b>{Math.round(100 * limits.share)} %</b> of the basal area</span>
    <input
      type="range"
      class="range range-sm"
      min="0.05"
      max="0.45"
      step="0.01"
      aria-label="Share of the basal area taken at most"
      bind:value={limits.share}
    />
    {@render held('share')}</label
  >
  <label class="flex flex-col gap-0.5"
    ><span
      >Leave at least <b
        >{limits.residualM2PerHa === 0 ? 'nothing set' : preferences.basalAreaDensity(limits.residualM2PerHa)}</b
      ></span
    >
    <input
      type="range"
      class="range range-sm"
      min="0"
      max={30 * floorUnit * (preferences.units === 'metric' ? 1 : 4)}
      step={floorUnit * (preferences.units === 'metric' ? 1 : 5)}
      aria-label="Basal area left at least"
      bind:value={limits.residualM2PerHa}
    />
    {@render held('residual')}</label
  >
  <label class="flex flex-col gap-0.5"
    ><span>Other species stay <b>{Math.round(100 * limits.othersShare)} %</b> of what is left, or more</span>
    <input
      type="range"
      class="range range-sm"
      min="0"
      max="0.4"
      step="0.01"
      aria-label="Share of other species at least"
      bind:value={limits.othersShare}
    />
    {@render held('others')}</label
  >
  <div class="flex flex-col gap-0.5">
    <label class="flex items-center gap-2"
      ><input
        type="checkbox"
        class="checkbox checkbox-sm"
        checked={limits.openingM !== null}
        onchange={(event) => (limits = { ...limits, openingM: event.currentTarget.checked ? 15 : null })}
      />
      <span
        >No opening {limits.openingM === null
          ? 'is limited'
          : `wider than ${preferences.length(limits.openingM * 1000, 'ground')}`}</span
      ></label
    >
    {#if limits.openingM !== null}
      <input
        type="range"
        class="range range-sm"
        min="8"
        max="30"
        step="1"
        aria-label="Widest opening"
        bind:value={limits.openingM}
      />
    {/if}
    {@render held('opening')}
  </div>
  <label class="flex flex-col gap-0.5"
    ><span>A lost tap costs as much as <b>{(limits.tapCost / 100).toFixed(2)}</b> of a crown fully freed gives</span>
    <input
      type="range"
      class="range range-sm"
      min="0"
      max="100"
      step="5"
      aria-label="Price of a lost tap"
      bind:value={limits.tapCost}
    /></label
  >
</fieldset>
