<script lang="ts">
  import type { TreeRow } from '@baumkin/core/records';
  import { heightOf, positionSd, radiusOf } from '@baumkin/core/stand';
  import { standTrees } from '@baumkin/core/bush';
  import { freeSides, gapsIn, northernRim } from '@baumkin/core/thinning';

  import { counted } from '$lib/labels/counted.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import StandMap from '$lib/map/StandMap.svelte';
  import type { MapSide, MapSign, MapTree } from '$lib/map/treeLayer.ts';

  import type { ThinDesk } from './desk.svelte.ts';

  interface Props {
    desk: ThinDesk;
    /** the tree that was last touched */
    picked: string | null;
  }
  /** The stand from above: crop trees with their sides, what the shown choice takes, and the gaps with their northern rim. */
  let { desk, picked = $bindable() }: Props = $props();
  const bush = $derived(desk.bush);
  const shown = $derived(desk.choice);

  let map = $state<StandMap | null>(null);
  export const frame = (): void => map?.frame();

  /** Trees whose crown is in the upper half of the stand's heights are drawn stronger. */
  const tall = $derived.by(() => {
    const heights = standTrees(desk.rows).map((tree) => ({ id: tree.id, h: heightOf(tree) }));
    const top = Math.max(1, ...heights.map(({ h }) => h));
    return new Set(heights.filter(({ h }) => h > 0.7 * top).map(({ id }) => id));
  });
  const TONES = [
    { variable: '--color-secondary', fill: 0.42 },
    { variable: '--color-primary', fill: 0.55 },
    { variable: '--color-base-content', fill: 0.2 },
    { variable: '--color-base-content', fill: 0.08 }
  ] as const;

  function sidesOf(id: string): MapSide[] | undefined {
    const states = desk.thin?.plan.sides.get(id);
    const taken = shown?.taken ?? new Set<string>();
    return states?.map((state): MapSide => {
      if (!state.known) return 'unknown';
      if (freeSides([state], new Set()) === 1) return 'free';
      return freeSides([state], taken) === 1 ? 'freed' : 'blocked';
    });
  }

  function signOf(row: TreeRow): MapSign | undefined {
    if (shown?.taken.has(row.id)) return row.mark === 'girdle' ? 'girdle' : 'take';
    if (row.mark && row.mark !== 'take' && row.mark !== 'girdle') return row.mark;
    if (row.wildlife.length > 0) return 'home';
    return row.hazards.length > 0 || row.fallen !== null ? 'hazard' : undefined;
  }

  /** Ground to be seen round the stand, metres. */
  const AROUND_M = 20;
  const box = $derived.by(() => {
    const points =
      desk.stand?.outline ?? desk.rows.flatMap(({ eastM, northM }) => (eastM === null ? [] : [[eastM, northM!]]));
    const [easts, norths] = [points.map(([e]) => e!), points.map(([, n]) => n!)];
    return [Math.min(...easts), Math.min(...norths), Math.max(...easts), Math.max(...norths)] as const;
  });
  const near = (eastM: number, northM: number) =>
    eastM > box[0] - AROUND_M && northM > box[1] - AROUND_M && eastM < box[2] + AROUND_M && northM < box[3] + AROUND_M;

  const trees = $derived(
    bush.rows.flatMap((row): MapTree[] => {
      const { id, tag, eastM, northM, dbhMm, positionQuality } = row;
      if (eastM === null || northM === null || dbhMm === null) return [];
      const here = row.standId === desk.stand?.id;
      if (!here && !near(eastM, northM)) return [];
      return [
        {
          id,
          tag: row.tagged === false ? '' : tag,
          eastM,
          northM,
          crownM: radiusOf({ ...row, dbhMm }),
          trunkM: dbhMm / 1000,
          tone: !here ? null : shown?.taken.has(id) ? 1 : desk.crops.has(id) ? 0 : tall.has(id) ? 2 : 3,
          says: '',
          roughM: positionQuality === null ? 0 : positionSd({ ...row, positionQuality }),
          tagged: row.tagged !== false,
          ...(here && desk.crops.has(id) ? { sides: sidesOf(id) } : {}),
          ...(here ? { sign: signOf(row) } : {})
        }
      ];
    })
  );
  const scene = $derived({ trees, tones: TONES, chosen: new Set<string>(), current: picked });

  let gaps = $state(false);
  /** Openings that the shown choice would make, and gaps that are there already. */
  const there = $derived.by(() => {
    const { stand, limits, thin } = desk;
    return gaps && stand?.outline && thin
      ? gapsIn([...thin.plan.trees.map(({ tree }) => tree), ...thin.plan.around], stand.outline, limits.openingM ?? 15)
      : null;
  });
  const rings = $derived.by(() => {
    return [
      ...(there ?? []).map((disc) => ({ ...disc, says: 'gap' })),
      ...(shown?.judgement.openings ?? []).map((disc) => ({ ...disc, says: 'opens' }))
    ];
  });

  const rim = $derived(
    desk.thin && there
      ? northernRim(
          desk.thin.plan.trees.flatMap(({ tree }) => (shown?.taken.has(tree.id) ? [] : [tree])),
          there
        )
      : []
  );
</script>

<div class="relative h-[36rem] overflow-hidden border border-base-300 max-md:h-[22rem]">
  {#key desk.stand?.id}
    <StandMap
      bind:this={map}
      {scene}
      {rings}
      stands={desk.stand ? [desk.stand] : []}
      features={bush.features}
      onpick={(id) => (picked = id)}
      hint={(tree) => (tree.tag === '' ? 'without a tag' : `tree ${tree.tag}`)}
    />
  {/key}
</div>
<p class="aside mt-1 flex flex-wrap gap-x-4 gap-y-0.5">
  <span><i class="swatch bg-secondary/45"></i> crop tree</span>
  <span><i class="swatch bg-primary/60"></i> taken</span>
  <span><i class="swatch bg-base-content/25"></i> stays, tall</span>
  <span><i class="swatch bg-base-content/10"></i> stays, low</span>
  <span>Arcs round a crop tree: green free, amber freed, broken blocked.</span>
  <span>Crown drawn broken: its place is rough.</span>
  <span
    >On the trunk: cross taken, bar girdled, square kept, eye watched, bracket braced, roof lived in, triangle hazard.</span
  >
  <label class="flex items-center gap-1.5"
    ><input type="checkbox" class="checkbox checkbox-xs" bind:checked={gaps} /> show gaps of {preferences.length(
      (desk.limits.openingM ?? 15) * 1000,
      'ground'
    )} and more</label
  >
</p>
{#if there !== null}
  <p class="mt-1" data-testid="rim">
    {#if there.length === 0}
      No gap of that width lies in this stand.
    {:else if rim.length === 0}
      {counted(there.length, 'gap')}; no tree that stays reaches a northern rim.
    {:else}
      {counted(there.length, 'gap')}. The southern sun comes in to the trees at the northern rim: {rim
        .map((id) => bush.byId.get(id))
        .map((row) => (row && row.tagged !== false ? row.tag : 'one without a tag'))
        .join(', ')}.
    {/if}
  </p>
{/if}

<style>
  .swatch {
    display: inline-block;
    width: 0.8rem;
    height: 0.8rem;
    border-radius: 50%;
    border: 1px solid currentColor;
    vertical-align: -0.1rem;
  }
</style>
