<script lang="ts">
  import type { Taphole } from '@baumkin/core/records';
  import type { PlacementTask } from '@baumkin/core/rotation';

  import { readable } from '$lib/ui/keepApart.ts';

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
  const YEAR_WIDTH = 18;
  /** The newest holes, each with its year beside it where there is room to read it. */
  const marks = $derived.by(() => {
    const shown = holes.filter(({ season }) => season > newest - 6).toSorted((a, b) => b.season - a.season);
    const placed = shown.map(({ id, season, bearingDeg, heightMm }) => {
      const [x, y] = [xOf(g, bearingDeg), yOf(g, heightMm)];
      return { id, season, x, y, left: x + 5 + YEAR_WIDTH > g.width ? x - 5 - YEAR_WIDTH : x + 5 };
    });
    const free = readable(placed.map(({ left, y }) => ({ left, right: left + YEAR_WIDTH, top: y - 5, bottom: y + 5 })));
    return placed.map((mark, i) => ({ ...mark, says: free[i]! }));
  });
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
    {#each marks as { id, season, x, y, left, says } (id)}
      <circle cx={x} cy={y} r="2.5" />
      {#if says}<text x={left} y={y + 3.5} font-size="10">’{String(season).slice(2)}</text>{/if}
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
