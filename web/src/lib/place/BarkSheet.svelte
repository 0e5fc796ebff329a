<script lang="ts">
  import type { BarkSpot } from '@baumkin/core/geometry';
  import { normaliseBearing, toDegrees } from '@baumkin/core/math';
  import type { Paint, PaintPlace, Taphole, TrunkFeature } from '@baumkin/core/records';
  import { DROP_SLACK_MM, type PlacementTask, type PlannedHole, type Proposal } from '@baumkin/core/rotation';
  import { columnHalfLength, type HeatMap } from '@baumkin/core/trunk';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  import FeatureGlyph from './FeatureGlyph.svelte';
  import { movedBy, sheetGeometry, spotAt, xOf, yOf } from './sheetGeometry.ts';
  import { woodInk } from './woodInk.ts';

  const {
    task,
    holes,
    features,
    scars,
    map,
    proposals,
    ghosts,
    season,
    snowMm,
    paintOf,
    paintPlace,
    spot,
    room,
    zoom,
    onask,
    onzoom
  }: {
    task: PlacementTask;
    /** the trunk's holes whose year is known, in the order of the task */
    holes: readonly Taphole[];
    features: readonly TrunkFeature[];
    /** old holes of unknown year that can be seen */
    scars: readonly BarkSpot[];
    map: HeatMap | null;
    proposals: readonly Proposal[];
    /** holes of coming seasons to be shown */
    ghosts: readonly PlannedHole[];
    season: number;
    snowMm: number;
    paintOf: (season: number) => Paint | null;
    paintPlace: PaintPlace;
    spot: BarkSpot | null;
    /** width that the sheet may take, pixels */
    room: number;
    zoom: number;
    onask: (spot: BarkSpot) => void;
    onzoom: (by: 1 | -1) => void;
  } = $props();

  let canvas = $state<HTMLCanvasElement>();
  const LEFT = 52;
  const TOP = 26;
  const fitted = $derived({ width: Math.max(240, room - LEFT - 8), height: 500 });
  const g = $derived(
    sheetGeometry(task.trunk, task.practice.lowestMm, task.practice.highestMm, {
      width: zoom * fitted.width,
      height: zoom * fitted.height
    })
  );

  // The heat map as one small picture, stretched to the sheet. Its columns run with the bearing, so it is mirrored.
  $effect(() => {
    if (!canvas || !map) return;
    const ink = woodInk();
    const { columns, rows } = map;
    const image = new ImageData(columns, rows);
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++)
        ink(image, (rows - 1 - row) * columns + (columns - 1 - column), 1 - map.pClear[row * columns + column]!);
    canvas.width = columns;
    canvas.height = rows;
    canvas.getContext('2d')!.putImageData(image, 0, 0);
  });

  const compass = [0, 45, 90, 135, 180, 225, 270, 315].map((deg) => ({
    deg,
    name: ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'][deg / 45]!
  }));
  const heights = $derived.by(() => {
    const step = preferences.units === 'metric' ? 200 : 304.8;
    const first = Math.ceil(g.lowestMm / step) * step;
    return Array.from({ length: Math.floor((g.highestMm - first) / step) + 1 }, (_, i) => first + i * step);
  });

  /** The median column of a hole, as an outline: where its stain reaches most likely. */
  function spindle(hole: Taphole): string {
    const half = hole.bitMm / 2 + task.model.sideMarginMedianMm;
    const length = columnHalfLength(task.model.volumeRatioMedian, hole.bitMm, half);
    const [x, y] = [xOf(g, hole.bearingDeg), yOf(g, hole.heightMm)];
    const [w, l] = [half * g.scale, length * g.scale];
    return `M${x} ${y - l} Q${x + 2 * w} ${y} ${x} ${y + l} Q${x - 2 * w} ${y} ${x} ${y - l} Z`;
  }

  const buried = (hole: Taphole) => task.trunk.holes[holes.indexOf(hole)]!.buriedMm;
  const fadeOf = (hole: Taphole) => Math.max(0, 1 - buried(hole) / task.practice.depthMm);
  /** On a small sheet only the newest season is named, or the names would hide the wood. */
  const labelled = $derived(g.scale > 0.28 ? 4 : 0);
  const markWidth = $derived(g.scale > 0.28 ? 10 : 6);
  /** The paint of a hole, on its side of it. */
  function markBox(x: number, y: number): { x: number; y: number; width: number; height: number } {
    const [long, short] = [markWidth, markWidth / 2];
    switch (paintPlace) {
      case 'above':
        return { x: x - long / 2, y: y - long, width: long, height: short };
      case 'left':
        return { x: x - long, y: y - long / 2, width: short, height: long };
      case 'right':
        return { x: x + short, y: y - long / 2, width: short, height: long };
      case 'round':
        return { x: x - long / 2, y: y - long / 2, width: long, height: long };
      case 'below':
        return { x: x - long / 2, y: y + short, width: long, height: short };
    }
  }
  const newest = $derived(Math.max(0, ...holes.map((hole) => hole.season)));

  /** Half the arc that a drop line reaches at a height, degrees; null where it does not reach at all. */
  function reachAt(heightMm: number): number | null {
    const { line } = task;
    if (!line || heightMm < line.heightMm) return null;
    const side = (line.lengthMm - DROP_SLACK_MM) ** 2 - (heightMm - line.heightMm) ** 2;
    return side <= 0 ? null : toDegrees(Math.sqrt(side) / task.trunk.woodRadiusMm);
  }
  /** The line's reach as a chain of short strokes on both sides, cut where the sheet is cut. */
  const reach = $derived.by(() => {
    const { line } = task;
    if (!line) return [];
    const steps = Array.from({ length: 41 }, (_, i) => line.heightMm + (i / 40) * (line.lengthMm - DROP_SLACK_MM));
    return steps.flatMap((heightMm) => {
      const half = reachAt(heightMm);
      if (half === null || half >= 180) return [];
      return [half, -half].map((turn) => ({ x: xOf(g, line.bearingDeg + turn), y: yOf(g, heightMm) }));
    });
  });

  let dragging = false;
  function point(event: PointerEvent): void {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    ask(spotAt(g, event.clientX - box.left, event.clientY - box.top));
  }
  function ask({ bearingDeg, heightMm }: BarkSpot): void {
    const { lowestMm, highestMm } = task.practice;
    onask({ bearingDeg: normaliseBearing(bearingDeg), heightMm: Math.min(highestMm, Math.max(lowestMm, heightMm)) });
  }
  function onkeydown(event: KeyboardEvent): void {
    const zooming = { '+': 1, '=': 1, '-': -1 }[event.key];
    if (zooming && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      onzoom(zooming as 1 | -1);
      return;
    }
    const at = spot ?? { bearingDeg: 180, heightMm: (task.practice.lowestMm + task.practice.highestMm) / 2 };
    const next = movedBy(event.key, at, event.shiftKey ? 50 : 10, task.trunk.woodRadiusMm);
    if (!next) return;
    event.preventDefault();
    ask(next);
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="overflow-auto"
  style:max-width="{fitted.width + LEFT + 12}px"
  style:max-height="{fitted.height + TOP + 20}px"
  tabindex={zoom > 1 ? 0 : undefined}
  role={zoom > 1 ? 'region' : undefined}
  aria-label={zoom > 1 ? 'The sheet, larger than its window' : undefined}
>
  <div class="relative" style:height="{g.height + TOP + 8}px" style:width="{g.width + LEFT + 8}px">
    <canvas
      bind:this={canvas}
      class="absolute"
      aria-hidden="true"
      style:left="{LEFT}px"
      style:top="{TOP + yOf(g, task.practice.highestMm)}px"
      style:width="{g.width}px"
      style:height="{(task.practice.highestMm - task.practice.lowestMm) * g.scale}px"
    ></canvas>
    <svg class="absolute inset-0" width={g.width + LEFT + 8} height={g.height + TOP + 8} aria-hidden="true">
      {#each compass as { deg, name } (deg)}
        <text
          x={LEFT + xOf(g, deg === 0 ? 0.01 : deg)}
          y="17"
          text-anchor="middle"
          class="fill-current text-[13px] {deg % 90 === 0 ? 'font-bold' : ''}">{deg === 0 ? '' : name}</text
        >
      {/each}
      <text x={LEFT} y="17" text-anchor="middle" class="fill-current text-[13px] font-bold">N</text>
      <text x={LEFT + g.width} y="17" text-anchor="middle" class="fill-current text-[13px] font-bold">N</text>
      {#each heights as mm (mm)}
        <text x={LEFT - 8} y={TOP + yOf(g, mm) + 4} text-anchor="end" class="fill-current text-[13px]"
          >{preferences.units === 'metric' ? `${Math.round(mm / 10)}` : `${Math.round(mm / 304.8)} ft`}</text
        >
        <line x1={LEFT - 5} x2={LEFT} y1={TOP + yOf(g, mm)} y2={TOP + yOf(g, mm)} stroke="currentColor" />
      {/each}
      {#if preferences.units === 'metric'}<text x="2" y="17" class="fill-current text-[13px]">cm</text>{/if}
    </svg>
    <!-- an application: asked by arrow keys as well as by pointer -->
    <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
    <div
      class="absolute cursor-crosshair {zoom > 1 ? '' : 'touch-none'}"
      style:left="{LEFT}px"
      style:top="{TOP}px"
      role="application"
      tabindex="0"
      aria-label="Bark sheet: the trunk unrolled. Arrow keys move the asked spot, plus and minus zoom; the answer stands beside it."
      data-testid="bark-sheet"
      {onkeydown}
      onpointerdown={(event) => {
        dragging = true;
        event.currentTarget.setPointerCapture(event.pointerId);
        point(event);
      }}
      onpointermove={(event) => dragging && point(event)}
      onpointerup={() => (dragging = false)}
      onpointercancel={() => (dragging = false)}
    >
      <svg class="block overflow-visible" width={g.width} height={g.height}>
        <defs>
          <clipPath id="sheet"><rect width={g.width} height={g.height} /></clipPath>
          <pattern id="snow" width="9" height="9" patternUnits="userSpaceOnUse">
            <circle cx="2.5" cy="2.5" r="1.1" class="fill-info" /><circle cx="7" cy="7" r="1.1" class="fill-info" />
          </pattern>
        </defs>
        <rect width={g.width} height={g.height} fill="none" stroke="currentColor" opacity="0.55" />
        {#each [task.practice.lowestMm, task.practice.highestMm] as mm (mm)}
          <line
            x1="0"
            x2={g.width}
            y1={yOf(g, mm)}
            y2={yOf(g, mm)}
            stroke="currentColor"
            stroke-dasharray="6 4"
            opacity="0.7"
          />
        {/each}
        {#if snowMm > g.lowestMm}
          {@const top = Math.max(0, yOf(g, snowMm))}
          <rect x="0" y={top} width={g.width} height={g.height - top} fill="url(#snow)" opacity="0.8" />
          <line x1="0" x2={g.width} y1={top} y2={top} class="stroke-info" stroke-width="1.5" />
          <text x="6" y={top - 4} class="fill-info text-[13px] font-semibold">snow</text>
        {/if}
        <g clip-path="url(#sheet)">
          {#each reach as dot, i (i)}<circle
              cx={dot.x}
              cy={dot.y}
              r="1.6"
              class="fill-info"
              data-testid="reach"
            />{/each}
          {#each holes as hole (hole.id)}
            {@const fade = fadeOf(hole)}
            {#if fade > 0}
              <path
                d={spindle(hole)}
                fill="var(--wood-stained)"
                fill-opacity={0.12 * fade}
                stroke="#3b2a1d"
                stroke-width="1"
                stroke-dasharray="3 2"
                stroke-opacity={0.25 + 0.6 * fade}
              />
            {/if}
          {/each}
          {#each features as feature (feature.id)}
            <FeatureGlyph
              what={feature.what}
              x={xOf(g, feature.bearingDeg)}
              y={yOf(g, feature.heightMm)}
              scale={g.scale}
              width={g.width}
            />
          {/each}
          {#each scars as scar, i (i)}
            <circle
              cx={xOf(g, scar.bearingDeg)}
              cy={yOf(g, scar.heightMm)}
              r={Math.max(5, 14 * g.scale)}
              fill="#2c2119"
              fill-opacity="0.3"
              stroke="#2c2119"
              stroke-width="1.4"
              stroke-dasharray="3 2"
            >
              <title>An old scar of unknown year</title>
            </circle>
          {/each}
        </g>
        {#each holes as hole (hole.id)}
          {@const [x, y] = [xOf(g, hole.bearingDeg), yOf(g, hole.heightMm)]}
          {@const fade = fadeOf(hole)}
          <g opacity={0.35 + 0.65 * fade}>
            <title>Hole of {hole.season}{fade > 0 ? '' : ', its column now buried'}</title>
            {#if paintOf(hole.season)}
              <rect {...markBox(x, y)} fill="var(--paint-{paintOf(hole.season)})" stroke="#2c2119" stroke-width="0.8" />
            {/if}
            <circle cx={x} cy={y} r={Math.max(2.5, (hole.bitMm / 2) * g.scale)} fill="#2c2119" />
            {#if hole.season >= newest - labelled}<text
                x={x > g.width - 34 ? x - 8 : x + 8}
                y={y + 4}
                text-anchor={x > g.width - 34 ? 'end' : 'start'}
                class="fill-[#2c2119] text-[12px] font-semibold"
                style="paint-order: stroke"
                stroke="#f4e7c9"
                stroke-width="3">{hole.season === season ? 'now' : `’${String(hole.season).slice(2)}`}</text
              >{/if}
          </g>
        {/each}
        {#each ghosts as ghost, i (i)}
          {@const [x, y] = [xOf(g, ghost.bearingDeg), yOf(g, ghost.heightMm)]}
          <g>
            <title>Planned for {season + ghost.season}</title>
            <circle cx={x} cy={y} r="10" fill="#f4e7c9" fill-opacity="0.75" stroke="#2c2119" stroke-dasharray="2.5 2" />
            <text {x} y={y + 4} text-anchor="middle" class="fill-[#2c2119] text-[11px]"
              >{String(season + ghost.season).slice(2)}</text
            >
          </g>
        {/each}
        {#each proposals as proposal, i (i)}
          {@const [x, y] = [xOf(g, proposal.bearingDeg), yOf(g, proposal.heightMm)]}
          <circle
            cx={x}
            cy={y}
            r="13"
            fill={proposal.planned ? 'var(--color-primary)' : '#f4e7c9'}
            stroke="#2c2119"
            stroke-width="1.8"
          />
          <text {x} y={y + 5} text-anchor="middle" class="fill-[#2c2119] text-[15px] font-bold">{i + 1}</text>
        {/each}
        {#if spot}
          {@const [x, y] = [xOf(g, spot.bearingDeg), yOf(g, spot.heightMm)]}
          <!-- light under dark: it is seen on pale wood, on brown, and beyond the band by night -->
          {#each [['#f4e7c9', 5], ['#2c2119', 2]] as const as [stroke, wide] (stroke)}
            <g pointer-events="none" {stroke} stroke-width={wide} fill="none">
              <circle cx={x} cy={y} r="18" />
              <path d="M{x - 27} {y} h12 M{x + 15} {y} h12 M{x} {y - 27} v12 M{x} {y + 15} v12" />
            </g>
          {/each}
        {/if}
      </svg>
    </div>
  </div>
</div>
