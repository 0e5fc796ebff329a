<script lang="ts">
  import { toDegrees, toRadians } from '@baumkin/core/math';
  import type { Paint, Taphole } from '@baumkin/core/records';
  import type { PlacementTask } from '@baumkin/core/rotation';
  import type { CutColumn } from '@baumkin/core/trunk';

  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { inTheWayWords } from '$lib/labels/placement.ts';
  import { capital } from '$lib/words/capital.ts';

  /** The trunk sawn through at the asked height, seen from above: rings, buried columns, heartwood, the bit's path. */
  const {
    task,
    holes,
    cut,
    spot,
    season,
    paintOf
  }: {
    task: PlacementTask;
    holes: readonly Taphole[];
    cut: readonly CutColumn[];
    spot: { readonly bearingDeg: number; readonly heightMm: number };
    season: number;
    paintOf: (season: number) => Paint | null;
  } = $props();

  const SIZE = 290;
  const { trunk, practice, model, ringMm } = $derived(task);
  const scale = $derived((SIZE / 2 - 16) / trunk.barkRadiusMm);
  const r = $derived((mm: number) => Math.max(0, mm * scale));

  /** A point at a bearing and a depth under today's wood; north is up, bearings run with the clock. */
  function at(bearingDeg: number, depthMm: number): string {
    const angle = toRadians(bearingDeg);
    const radius = r(trunk.woodRadiusMm - depthMm);
    return `${(radius * Math.sin(angle)).toFixed(2)} ${(-radius * Math.cos(angle)).toFixed(2)}`;
  }
  function sector({ bearingDeg, halfWidthMm, fromDepthMm, toDepthMm }: CutColumn): string {
    const half = toDegrees(halfWidthMm / trunk.woodRadiusMm);
    const [a, b] = [bearingDeg - half, bearingDeg + half];
    const [outer, inner] = [r(trunk.woodRadiusMm - fromDepthMm), r(trunk.woodRadiusMm - toDepthMm)];
    return `M${at(a, fromDepthMm)} A${outer} ${outer} 0 0 1 ${at(b, fromDepthMm)} L${at(b, toDepthMm)} A${inner} ${inner} 0 0 0 ${at(a, toDepthMm)} Z`;
  }
  /** Rings of every fifth season, as the growth record says, until they lie too deep to matter. */
  const rings = $derived(
    Array.from({ length: 60 }, (_, back) => ({ year: season - back, depthMm: back * ringMm })).filter(
      ({ year, depthMm }) => year % 5 === 0 && depthMm > 0 && depthMm < Math.min(model.sapwoodMm, trunk.woodRadiusMm)
    )
  );
  const shown = $derived(cut.filter(({ chance, fromDepthMm }) => chance >= 0.05 && fromDepthMm < trunk.woodRadiusMm));
  const seasonOf = (hole: number) => holes[hole]?.season;
  const side = $derived(((practice.bitMm / 2) * scale).toFixed(2));
</script>

<figure class="m-0">
  <svg
    viewBox="{-SIZE / 2} {-SIZE / 2} {SIZE} {SIZE}"
    width={SIZE}
    height={SIZE}
    role="img"
    aria-label="Cross-section at {preferences.length(
      spot.heightMm,
      'hand'
    )}: {shown.length} old columns reach this height"
  >
    <circle r={r(trunk.barkRadiusMm)} fill="#5d4a3a" />
    <circle r={r(trunk.woodRadiusMm)} fill="var(--wood-clear)" />
    {#each rings as ring (ring.year)}
      <circle
        r={r(trunk.woodRadiusMm - ring.depthMm)}
        fill="none"
        stroke="#2c2119"
        stroke-opacity={ring.year % 10 === 0 ? 0.4 : 0.18}
        stroke-width="0.8"
      />
    {/each}
    {#if trunk.woodRadiusMm > model.sapwoodMm}
      <circle r={r(trunk.woodRadiusMm - model.sapwoodMm)} fill="#b08a5e" />
      <text y="4" text-anchor="middle" class="fill-[#2c2119] text-[11px]">heartwood</text>
    {/if}
    {#each shown as column (column.hole)}
      <path d={sector(column)} fill="var(--wood-stained)" fill-opacity={0.15 + 0.85 * column.chance}>
        <title
          >{capital(inTheWayWords(holes[column.hole], trunk.holes[column.hole]!))}: reaches here {Math.round(
            100 * column.chance
          )} % likely</title
        >
      </path>
      {#if seasonOf(column.hole)}
        <circle
          cx={at(column.bearingDeg, -(trunk.barkRadiusMm - trunk.woodRadiusMm) / 2).split(' ')[0]}
          cy={at(column.bearingDeg, -(trunk.barkRadiusMm - trunk.woodRadiusMm) / 2).split(' ')[1]}
          r="3"
          fill="var(--paint-{paintOf(seasonOf(column.hole)!) ?? 'none'})"
          stroke="#f4e7c9"
          stroke-width="0.8"
        />
      {/if}
    {/each}
    <g transform="rotate({spot.bearingDeg})">
      <rect
        x={-side}
        y={-r(trunk.barkRadiusMm) - 6}
        width={2 * Number(side)}
        height={r(practice.depthMm) + r(trunk.barkRadiusMm - trunk.woodRadiusMm) + 6}
        fill="var(--color-primary)"
        stroke="#2c2119"
        stroke-width="1"
      />
    </g>
    <text y={-SIZE / 2 + 11} text-anchor="middle" class="fill-current text-[13px] font-bold">N</text>
    <text x={SIZE / 2 - 6} y="4" text-anchor="middle" class="fill-current text-[13px]">E</text>
    <text x={-SIZE / 2 + 6} y="4" text-anchor="middle" class="fill-current text-[13px]">W</text>
  </svg>
  <figcaption class="aside">
    Sawn at {preferences.length(spot.heightMm, 'hand')}, seen from above. A ring each five years.
  </figcaption>
</figure>
