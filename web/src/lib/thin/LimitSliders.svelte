<script lang="ts">
  import { M2_PER_ACRE, M2_PER_HECTARE, M2_PER_SQUARE_FOOT } from '@baumkin/core/units';
  import type { Binding, LimitId, PlanLimits } from '@baumkin/core/thinning';

  import { preferences } from '$lib/client/preferences.svelte.ts';
  import Slider from '$lib/ui/Slider.svelte';
  import Term from '$lib/ui/Term.svelte';

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
  const SCHOOLS = $derived<readonly (readonly [PlanLimits['guide'], string, string])[]>([
    [
      'timber',
      'Timber guides',
      `by basal area: below ${preferences.basalAreaDensity(17)} to ${preferences.basalAreaDensity(18)} at these diameters, leave it alone`
    ],
    ['sugarbush', 'Sugarbush guides', 'by crowns: few, wide ones, that can fill the ground again']
  ]);
  const price = (id: LimitId) => binding?.find((b) => b.id === id)?.worth ?? null;
</script>

{#snippet held(id: LimitId)}
  {@const worth = price(id)}
  {#if worth !== null}
    <p class="border-l-4 border-primary pl-2 text-sm font-semibold" data-testid="binds-{id}">
      {binding![0]!.id === id ? 'This limit binds most' : 'This limit binds too'}: without it the plan would free about {(
        worth / 100
      ).toFixed(1)} crowns more.
    </p>
  {/if}
{/snippet}

<fieldset class="flex flex-col gap-3" {disabled}>
  <div>
    <Slider label="Share of the basal area taken at most" min={0.05} max={0.45} step={0.01} bind:value={limits.share}>
      {#snippet says()}<span>Take at most <b>{Math.round(100 * limits.share)} %</b> of the <Term of="basalArea" /></span
        >{/snippet}
    </Slider>
    {@render held('share')}
  </div>
  <fieldset class="flex flex-col gap-1" aria-label="How full is a sugarbush?">
    <legend class="mb-1 font-semibold">How much has to stay, by which guides?</legend>
    {#each SCHOOLS as [id, name, says] (id)}
      <label class="flex items-start gap-2 max-md:min-h-11"
        ><input
          type="radio"
          class="radio mt-1 radio-sm"
          name="stocking"
          value={id}
          checked={limits.guide === id}
          onchange={() => (limits = { ...limits, guide: id })}
        />
        <span>{name} <span class="aside block">{says}</span></span></label
      >
    {/each}
  </fieldset>
  <div hidden={limits.guide !== 'timber'}>
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
  </div>
  {@render held('residual')}
  <div>
    <Slider label="Ground under crowns at least" min={0} max={0.9} step={0.05} bind:value={limits.cover}>
      {#snippet says()}<span
          >Keep <b>{Math.round(100 * limits.cover)} %</b> of the ground <Term of="crownCover">under crowns</Term>, or
          more</span
        >{/snippet}
    </Slider>
    {@render held('cover')}
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
  <Slider
    label="Crowns freed that make up for ten taps lost"
    min={0}
    max={10}
    step={0.5}
    bind:value={() => limits.tapCost / 10, (crowns) => (limits = { ...limits, tapCost: 10 * crowns })}
  >
    {#snippet says()}<span
        >How many crowns freed make up for ten taps lost? <b>{(limits.tapCost / 10).toFixed(1)}</b></span
      >{/snippet}
  </Slider>
</fieldset>
