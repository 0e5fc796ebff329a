<script lang="ts">
  import { M2_PER_ACRE, M2_PER_HECTARE, M2_PER_SQUARE_FOOT } from '@baumkin/core';
  import type { Binding, LimitId, PlanLimits } from '@baumkin/core/thinning';

  import { preferences } from '$lib/client/preferences.svelte.ts';
  import Slider from '$lib/ui/Slider.svelte';

  /** What one entry may do. The limit that holds the plan back says by how much. */
  let {
    limits = $bindable(),
    binding,
    disabled = false
  }: { limits: PlanLimits; binding: readonly Binding[] | null; disabled?: boolean } = $props();

  /** Steps of basal area: 1 m2/ha, or 5 ft2/ac. */
  const floorStep = $derived(
    preferences.units === 'metric' ? 1 : (5 * M2_PER_SQUARE_FOOT * M2_PER_HECTARE) / M2_PER_ACRE
  );
  const FLOOR_STEPS = 30;
  const price = (id: LimitId) => binding?.find((b) => b.id === id)?.worth ?? null;
</script>

{#snippet held(id: LimitId)}
  {@const worth = price(id)}
  {#if worth !== null}
    <p class="border-l-4 border-primary pl-2 text-sm font-semibold" data-testid="binds-{id}">
      {binding![0]!.id === id ? 'This limit binds most' : 'This limit binds too'}: without it the plan would be worth {(
        worth / 100
      ).toFixed(1)} freed crowns more.
    </p>
  {/if}
{/snippet}

<fieldset class="flex flex-col gap-3" {disabled}>
  <div>
    <Slider label="Share of the basal area taken at most" min={0.05} max={0.45} step={0.01} bind:value={limits.share}>
      {#snippet says()}<span>Take at most <b>{Math.round(100 * limits.share)} %</b> of the basal area</span>{/snippet}
    </Slider>
    {@render held('share')}
  </div>
  <div>
    <Slider
      label="Basal area left at least"
      min={0}
      max={FLOOR_STEPS * floorStep}
      step={floorStep}
      bind:value={limits.residualM2PerHa}
    >
      {#snippet says()}<span
          >Leave at least <b
            >{limits.residualM2PerHa === 0 ? 'nothing set' : preferences.basalAreaDensity(limits.residualM2PerHa)}</b
          ></span
        >{/snippet}
    </Slider>
    {@render held('residual')}
  </div>
  <div>
    <Slider label="Share of other species at least" min={0} max={0.4} step={0.01} bind:value={limits.othersShare}>
      {#snippet says()}<span
          >Other species stay <b>{Math.round(100 * limits.othersShare)} %</b> of what is left, or more</span
        >{/snippet}
    </Slider>
    {@render held('others')}
  </div>
  <div class="flex flex-col gap-1.5">
    <label class="flex items-center gap-2 max-md:min-h-11"
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
      <Slider
        label="Widest opening"
        min={8}
        max={30}
        step={1}
        bind:value={() => limits.openingM!, (openingM) => (limits = { ...limits, openingM })}
      />
    {/if}
    {@render held('opening')}
  </div>
  <Slider label="Price of a lost tap" min={0} max={100} step={5} bind:value={limits.tapCost}>
    {#snippet says()}<span
        >A lost tap costs as much as <b>{(limits.tapCost / 100).toFixed(2)}</b> of a crown fully freed gives</span
      >{/snippet}
  </Slider>
</fieldset>
