<script lang="ts">
  import type { BarkSpot } from '@baumkin/core/geometry';
  import { normaliseBearing, toDegrees, toRadians, wrapDegrees } from '@baumkin/core/math';
  import type { Paint, Taphole, TrunkFeature } from '@baumkin/core/records';
  import type { PlacementTask } from '@baumkin/core/rotation';

  import FeatureGlyph from '$lib/place/FeatureGlyph.svelte';
  import { movedBy } from '$lib/place/sheetGeometry.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** The trunk as it stands before whoever drills: the side of the spot, its old marks, and the spot, which a finger can move. */
  const {
    task,
    holes,
    features,
    spots,
    chosen,
    season,
    snowMm,
    paintOf,
    from,
    onmove
  }: {
    task: PlacementTask;
    holes: readonly Taphole[];
    features: readonly TrunkFeature[];
    spots: readonly BarkSpot[];
    /** which of the spots is drilled next; it faces the viewer */
    chosen: number;
    season: number;
    snowMm: number;
    paintOf: (season: number) => Paint | null;
    /** what it is measured from; null where it is found by compass and height */
    from: BarkSpot | null;
    /** null where nothing may be moved */
    onmove: ((spot: BarkSpot) => void) | null;
  } = $props();

  let width = $state(300);
  let height = $state(260);
  const MARGIN = 46;
  const BEYOND_MM = 120;
  /** Farther round than this a mark is seen so much from the side that nobody finds it, degrees. */
  const SEEN_DEG = 75;
  const spot = $derived(spots[chosen]!);
  /** She stands so that she sees what is measured from, and the spot: the middle of both. */
  const facing = $derived(
    from
      ? spot.bearingDeg + Math.max(-60, Math.min(60, wrapDegrees(from.bearingDeg - spot.bearingDeg))) / 2
      : spot.bearingDeg
  );
  /** While a finger moves the spot she does not walk round. */
  let held = $state<number | null>(null);
  const viewed = $derived(held ?? facing);
  const lowMm = $derived(task.practice.lowestMm - BEYOND_MM);
  const highMm = $derived(task.practice.highestMm + BEYOND_MM);
  const radius = $derived(task.trunk.barkRadiusMm);
  const scale = $derived(Math.min((width - 2 * MARGIN) / (2 * radius), height / (highMm - lowMm)));
  /** The trunk is drawn as wide as there is room: thin ones are told apart by what lies round them, not by their girth. */
  const half = $derived(Math.min((width - 2 * MARGIN) / 2, Math.max(70, radius * scale)));
  const tall = $derived(height);
  const middle = $derived(width / 2);

  const y = (mm: number) => ((highMm - mm) / (highMm - lowMm)) * tall;
  /** Bearings grow to the left as one faces the trunk. Null behind it. */
  function x(bearingDeg: number): number | null {
    const turn = wrapDegrees(bearingDeg - viewed);
    return Math.abs(turn) > SEEN_DEG ? null : middle - half * Math.sin(toRadians(turn));
  }
  const seen = $derived(
    holes.flatMap((hole) => {
      const at = x(hole.bearingDeg);
      return at === null ? [] : [{ hole, x: at, y: y(hole.heightMm) }];
    })
  );
  const newest = $derived(Math.max(0, ...holes.map((hole) => hole.season)));
  const ticks = $derived.by(() => {
    const step = preferences.units === 'metric' ? 200 : 304.8;
    const first = Math.ceil(lowMm / step) * step;
    return Array.from({ length: Math.floor((highMm - first) / step) + 1 }, (_, i) => first + i * step);
  });

  function point(event: PointerEvent): void {
    if (!onmove) return;
    const box = (event.currentTarget as SVGElement).getBoundingClientRect();
    const sine = Math.max(-0.99, Math.min(0.99, (middle - (event.clientX - box.left)) / half));
    const heightMm = highMm - ((event.clientY - box.top) / tall) * (highMm - lowMm);
    move({ bearingDeg: viewed + toDegrees(Math.asin(sine)), heightMm });
  }
  function move({ bearingDeg, heightMm }: BarkSpot): void {
    const { lowestMm, highestMm } = task.practice;
    onmove?.({ bearingDeg: normaliseBearing(bearingDeg), heightMm: Math.min(highestMm, Math.max(lowestMm, heightMm)) });
  }
  function onkeydown(event: KeyboardEvent): void {
    const next = movedBy(event.key, spot, event.shiftKey ? 50 : 10, radius);
    if (!next) return;
    event.preventDefault();
    move(next);
  }
</script>

<div class="relative h-full min-h-0" bind:clientWidth={width} bind:clientHeight={height}>
  <!-- an application: the spot is moved by arrow keys as well as by a finger -->
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <svg
    class="absolute inset-0 touch-none select-none"
    {width}
    {height}
    role="application"
    tabindex="0"
    aria-label="The trunk as you face it, with its old marks and where to drill. Arrow keys move the spot."
    data-testid="trunk-view"
    {onkeydown}
    onpointerdown={(event) => {
      if (!onmove) return;
      held = facing;
      event.currentTarget.setPointerCapture(event.pointerId);
      point(event);
    }}
    onpointermove={(event) => held !== null && point(event)}
    onpointerup={() => (held = null)}
    onpointercancel={() => (held = null)}
  >
    <defs>
      <linearGradient id="bark" x1="0" x2="1" y1="0" y2="0">
        <stop offset="0" stop-color="#8d7a63" /><stop offset="0.3" stop-color="#d9c8a6" /><stop
          offset="0.7"
          stop-color="#e6d7b6"
        /><stop offset="1" stop-color="#9c896f" />
      </linearGradient>
    </defs>
    <rect x={middle - half} y="0" width={2 * half} height={tall} fill="url(#bark)" />
    {#each ticks as mm (mm)}
      <line x1={middle - half - 6} x2={middle - half} y1={y(mm)} y2={y(mm)} stroke="currentColor" />
      <text x={middle - half - 9} y={y(mm) + 5} text-anchor="end" class="fill-current text-[16px]"
        >{preferences.units === 'metric' ? Math.round(mm / 10) : `${Math.round(mm / 304.8)}′`}</text
      >
    {/each}
    {#if snowMm > lowMm}
      <rect
        x={middle - half - 34}
        y={y(snowMm)}
        width={2 * half + 68}
        height={tall - y(snowMm)}
        class="fill-base-100"
      />
      <line
        x1={middle - half - 34}
        x2={middle + half + 34}
        y1={y(snowMm)}
        y2={y(snowMm)}
        class="stroke-info"
        stroke-width="2"
      />
      <text x={middle + half + 34} y={y(snowMm) + 18} text-anchor="end" class="fill-info text-[16px] font-semibold"
        >snow</text
      >
    {/if}
    {#each features as feature (feature.id)}
      {@const at = x(feature.bearingDeg)}
      {#if at !== null}<FeatureGlyph
          what={feature.what}
          x={at}
          y={y(feature.heightMm)}
          scale={half / radius}
          width={2 * width}
        />{/if}
    {/each}
    {#each seen as { hole, x: at, y: up } (hole.id)}
      <g opacity={hole.season >= newest - 5 ? 1 : 0.45}>
        {#if paintOf(hole.season)}<rect
            x={at - 7}
            y={up + 6}
            width="14"
            height="7"
            fill="var(--paint-{paintOf(hole.season)})"
            stroke="#2c2119"
          />{/if}
        <circle cx={at} cy={up} r="4" fill="#2c2119" />
        {#if hole.season >= newest - 1}<text
            x={at + 10}
            y={up + 5}
            class="fill-[#2c2119] text-[16px] font-semibold"
            style="paint-order: stroke"
            stroke="#f4e7c9"
            stroke-width="4">{hole.season === season ? 'now' : `’${String(hole.season).slice(2)}`}</text
          >{/if}
      </g>
    {/each}
    {#if from}
      {@const [ax, bx] = [x(from.bearingDeg), x(spot.bearingDeg)]}
      {#if ax !== null && bx !== null}<path
          d="M{ax} {y(from.heightMm)} H{bx} V{y(spot.heightMm)}"
          fill="none"
          stroke="#2c2119"
          stroke-width="2"
          stroke-dasharray="7 5"
        />{/if}
    {/if}
    {#each spots as each, i (i)}
      {@const at = x(each.bearingDeg)}
      {#if at !== null}
        <circle
          cx={at}
          cy={y(each.heightMm)}
          r={i === chosen ? 17 : 13}
          fill={i === chosen ? 'var(--color-primary)' : '#f4e7c9'}
          stroke="#2c2119"
          stroke-width="2.5"
        />
        <text x={at} y={y(each.heightMm) + 6} text-anchor="middle" class="fill-[#2c2119] text-[17px] font-bold"
          >{i + 1}</text
        >
      {/if}
    {/each}
  </svg>
</div>
