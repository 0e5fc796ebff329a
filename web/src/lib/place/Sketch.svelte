<script lang="ts">
  import type { PlacementTask, Taphole } from '@baumkin/core';

  import { sheetGeometry, xOf, yOf } from './sheetGeometry.ts';

  /** The unrolled trunk for paper: the newest marks by their year, the holes to drill by their number. */
  const {
    task,
    holes,
    spots
  }: {
    task: PlacementTask;
    holes: readonly Taphole[];
    spots: readonly { readonly bearingDeg: number; readonly heightMm: number }[];
  } = $props();

  const TOP = 16;
  const g = $derived(
    sheetGeometry(task.trunk, task.practice.lowestMm, task.practice.highestMm, { width: 320, height: 250 })
  );
  const newest = $derived(Math.max(0, ...holes.map(({ season }) => season)));
</script>

<svg
  class="mt-2 max-w-full"
  viewBox="-4 0 {g.width + 8} {g.height + TOP + 2}"
  width={g.width + 8}
  height={g.height + TOP + 2}
  aria-hidden="true"
>
  {#each ['N', 'W', 'S', 'E', 'N'] as name, i (i)}
    <text x={(g.width * i) / 4} y="11" text-anchor="middle" font-size="11">{name}</text>
  {/each}
  <g transform="translate(0 {TOP})">
    <rect width={g.width} height={g.height} fill="none" stroke="black" />
    {#each holes.filter(({ season }) => season > newest - 6) as hole (hole.id)}
      <circle cx={xOf(g, hole.bearingDeg)} cy={yOf(g, hole.heightMm)} r="2.5" />
      <text x={xOf(g, hole.bearingDeg) + 5} y={yOf(g, hole.heightMm) + 3.5} font-size="10"
        >’{String(hole.season).slice(2)}</text
      >
    {/each}
    {#each spots as spot, i (i)}
      <circle
        cx={xOf(g, spot.bearingDeg)}
        cy={yOf(g, spot.heightMm)}
        r="8"
        fill="white"
        stroke="black"
        stroke-width="2"
      />
      <text
        x={xOf(g, spot.bearingDeg)}
        y={yOf(g, spot.heightMm) + 4}
        text-anchor="middle"
        font-size="11"
        font-weight="bold">{i + 1}</text
      >
    {/each}
  </g>
</svg>
