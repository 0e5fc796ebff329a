<script lang="ts">
  import type { SeedlingsRecord } from '@baumkin/core/records';
  import { M2_PER_HECTARE, MM_PER_FOOT } from '@baumkin/core/units';
  import { standTrees } from '@baumkin/core/bush';
  import {
    fenceFor,
    HEAVY_BROWSING,
    regenerationAdvice,
    SEEDLING_CLASSES,
    SEEDLING_GROUPS,
    seedlingMetrics,
    STOCKED_ENOUGH,
    standMetrics,
    YEARS_TO_TAPPING,
    type RegenerationAdvice,
    type SeedlingClass,
    type SeedlingGroup
  } from '@baumkin/core/thinning';
  import Trash from '@lucide/svelte/icons/trash-2';
  import { onMount } from 'svelte';

  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import UnitNumber from '$lib/ui/UnitNumber.svelte';

  import { deskOf } from './desk.svelte.ts';
  import PlantedPanel from './PlantedPanel.svelte';
  import StandPicker from './StandPicker.svelte';

  /** Who comes after the trees that are taken: what opens, what grows there already, who eats it. */
  const bush = useBush();
  const desk = deskOf(bush);
  onMount(() => {
    if (!desk.begun) void desk.begin(desk.stand?.id ?? null);
  });
  const metres = (m: number) => preferences.length(m * 1000, 'ground');

  const plots = $derived(
    bush.bushRecords
      .filter((r): r is SeedlingsRecord => r.kind === 'seedlings' && r.standId === (desk.stand?.id ?? null))
      .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
  );
  const figures = $derived(plots.length === 0 ? null : seedlingMetrics(plots));
  const advice = $derived(figures ? regenerationAdvice(figures) : []);
  const opened = $derived.by(() => {
    const { stand, choice } = desk;
    if (!stand?.outline || stand.areaHa === null) return null;
    const trees = standTrees(desk.rows);
    const ground = { areaHa: stand.areaHa, outline: stand.outline };
    const now = standMetrics(trees, ground).crownCover!;
    const after = standMetrics(trees, ground, choice?.taken ?? new Set()).crownCover!;
    return { now, after, m2: (now - after) * stand.areaHa * M2_PER_HECTARE };
  });

  const SAYS: Readonly<Record<RegenerationAdvice, string>> = {
    invasives: 'Invasive shrubs are about: take them out before the crowns open, or the light feeds them first.',
    clearFirst:
      'Beech stands ready to take what opens. Clear its brush before or with the thinning, in leaf: cut while dormant it sprouts all the more. Sound-barked beech is kept. Where sprouts come again, ask a trained person what is allowed here.',
    fence: 'Deer bite off more of the maples than can grow on. Fence small areas, or what comes up is lost.',
    enough: 'Maples stand above the knee on enough of the plots: openings will fill by themselves.',
    plant: 'Hardly any maple comes up. Plant a few, fenced, where the biggest openings are.',
    wait: 'Maples are there, but small. Open a little, and count again in three years.',
    morePlots: 'Few plots say little: count five at least, on spots that were drawn beforehand.'
  };
  const pct = (share: number) => `${Math.round(100 * share)} %`;
  const GROUP: Readonly<Record<SeedlingGroup, string>> = {
    maple: 'maples',
    beech: 'beech',
    other: 'other trees',
    invasive: 'invasive shrubs'
  };
  const CLASS: Readonly<Record<SeedlingClass, string>> = {
    knee: `up to the knee (${preferences.length(500, 'hand')})`,
    waist: `up to the waist (${preferences.length(1200, 'hand')})`,
    above: 'above, still thin'
  };

  /** Metres to a unit of the fields, as the steward likes it. */
  const unitM = $derived(preferences.units === 'metric' ? 1 : MM_PER_FOOT / 1000);
  const unit = $derived(preferences.units === 'metric' ? 'm' : 'ft');
  let areaM2 = $state(400);
  let longer = $state(1);
  const fence = $derived(areaM2 > 0 && longer >= 1 ? fenceFor(areaM2, longer) : null);

  let name = $state('');
  let radiusM = $state(2);
  let browsed = $state<number | null>(null);
  let fenced = $state(false);
  const empty = () =>
    Object.fromEntries(SEEDLING_GROUPS.map((group) => [group, { knee: 0, waist: 0, above: 0 }])) as Record<
      SeedlingGroup,
      Record<SeedlingClass, number>
    >;
  let counts = $state(empty());

  async function save(): Promise<void> {
    const record = await bush.recordOfBush({
      kind: 'seedlings',
      standId: desk.stand?.id ?? null,
      name: name.trim(),
      radiusM,
      counts: $state.snapshot(counts),
      browsed: browsed === null ? null : browsed / 100,
      fenced,
      note: ''
    });
    saved(bush, `Plot ${name.trim()} is counted.`, record);
    name = '';
    counts = empty();
    browsed = null;
  }
</script>

<h1 class="sr-only">Next generation</h1>
<div class="mb-3"><StandPicker {desk} /></div>
<div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_24rem]">
  <div class="flex min-w-0 flex-col gap-6">
    <section aria-labelledby="advice" data-testid="advice">
      <h2 id="advice">What to do for those that come next</h2>
      {#if opened}
        <p>
          Crowns cover {pct(opened.now)} of the ground; with “{desk.choice?.name}” {pct(opened.after)}: about {preferences.patch(
            opened.m2
          )} more get light. What comes up there bears its first taphole in some {YEARS_TO_TAPPING} years: somebody else will
          drill it.
        </p>
      {/if}
      {#if figures}
        <ol class="mt-2 flex flex-col gap-2 text-lg">
          {#each advice as each (each)}<li class="border-l-4 border-primary pl-3">{SAYS[each]}</li>{/each}
        </ol>
      {:else}
        <p class="mt-2 max-w-prose text-lg">
          Count what stands below the knee and the waist on a few small circles, and this page says whether to fence, to
          clear, to plant or to let grow.
        </p>
      {/if}
    </section>
    {#if figures}
      <section aria-labelledby="counted">
        <h2 id="counted">What was counted on {counted(figures.plots, 'plot')}</h2>
        <table class="w-full max-w-xl text-left" data-testid="seedlings">
          <tbody>
            {#each SEEDLING_GROUPS as group (group)}
              <tr class="border-b border-base-300/60"
                ><th class="py-1 font-normal">{GROUP[group]}</th><td class="text-right tabular-nums"
                  >{preferences.perGround(figures.perHa[group])}</td
                ></tr
              >
            {/each}
            <tr class="border-b border-base-300/60"
              ><th class="py-1 font-normal">maples above the knee</th><td class="text-right tabular-nums"
                >{preferences.perGround(figures.establishedMaplesPerHa)}</td
              ></tr
            >
            <tr class="border-b border-base-300/60"
              ><th class="py-1 font-normal">plots with such a maple</th><td class="text-right tabular-nums"
                >{pct(figures.stocked)}; {pct(STOCKED_ENOUGH)} are enough</td
              ></tr
            >
            <tr class="border-b border-base-300/60"
              ><th class="py-1 font-normal">maples bitten by deer</th><td class="text-right tabular-nums"
                >{figures.browsed === null
                  ? 'nobody looked'
                  : `${pct(figures.browsed)}; heavy from ${pct(HEAVY_BROWSING)}`}</td
              ></tr
            >
          </tbody>
        </table>
        <p class="aside mt-1">
          What is enough and what is heavy are working assumptions. Your own plots, counted again, know better.
        </p>
        <ul class="mt-2 flex flex-wrap gap-x-4">
          {#each plots as plot (plot.id)}
            <li>
              {plot.name} <span class="aside">{plot.on}{plot.fenced ? ', fenced' : ''}</span>
              {#if bush.mayTakeBack(plot)}<button
                  class="btn btn-square btn-ghost btn-xs"
                  aria-label="Take plot {plot.name} back"
                  onclick={() => void bush.withdraw(plot)}><Trash size={14} /></button
                >{/if}
            </li>
          {/each}
        </ul>
      </section>
    {/if}
    <section aria-labelledby="fence">
      <h2 id="fence">A fence against deer</h2>
      <form class="mt-1 flex flex-wrap items-end gap-4">
        <UnitNumber label="round, {unit}²" bind:value={areaM2} unit={unitM ** 2} min={10} step={10} digits={0} />
        <UnitNumber label="times longer than broad" bind:value={longer} min={1} max={10} step={0.5} />
      </form>
      {#if fence}
        <p class="mt-2 max-w-prose" data-testid="fence-needs">
          {metres(fence.lengthM)} round: {metres(fence.meshM)} of mesh {metres(fence.heightM)} high, {fence.posts} posts,
          a gate. Square is shortest; small fences stay whole longer.
        </p>
      {/if}
    </section>
    <PlantedPanel standId={desk.stand?.id ?? null} {unitM} {unit} />
  </div>
  {#if bush.mayRecord}
    <section aria-labelledby="count-plot">
      <h2 id="count-plot">Count a plot</h2>
      <form
        class="mt-2 flex flex-col gap-3"
        data-testid="seedling-form"
        onsubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <div class="flex flex-wrap gap-3">
          <label class="flex flex-col gap-1"
            >Name <input class="input w-24" maxlength="40" required bind:value={name} /></label
          >
          <UnitNumber
            label="radius, {unit}"
            bind:value={radiusM}
            unit={unitM}
            min={0.5}
            max={Math.floor(10 / unitM)}
            step={0.1}
          />
          <label class="flex flex-col gap-1"
            >maples bitten, % <input
              class="input w-28"
              type="number"
              min="0"
              max="100"
              placeholder="not looked"
              bind:value={browsed}
            /></label
          >
        </div>
        <table class="text-left">
          <thead
            ><tr
              ><td></td>{#each SEEDLING_CLASSES as each (each)}<th class="px-1 text-sm font-semibold">{CLASS[each]}</th
                >{/each}</tr
            ></thead
          >
          <tbody>
            {#each SEEDLING_GROUPS as group (group)}
              <tr
                ><th class="pr-2 font-normal">{GROUP[group]}</th>{#each SEEDLING_CLASSES as each (each)}<td
                    class="px-1 py-0.5"
                    ><input
                      class="input w-20"
                      type="number"
                      min="0"
                      max="10000"
                      step="1"
                      required
                      aria-label="{GROUP[group]} {CLASS[each]}"
                      bind:value={counts[group][each]}
                    /></td
                  >{/each}</tr
              >
            {/each}
          </tbody>
        </table>
        <label class="flex items-center gap-2"
          ><input type="checkbox" class="checkbox" bind:checked={fenced} /> inside a fence</label
        >
        <button class="btn self-start btn-primary">Keep the plot</button>
      </form>
    </section>
  {/if}
</div>
