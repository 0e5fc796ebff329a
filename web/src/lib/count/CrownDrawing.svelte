<script lang="ts">
  import { seededRng } from '@baumkin/core/math';

  /** A crown with so much of its fine branches dead: from the outside and the top inwards, as crowns die back. */
  const {
    diebackPct,
    seed = 7,
    size = 'h-20 w-20'
  }: {
    diebackPct: number;
    /** another crown */
    seed?: number;
    size?: string;
  } = $props();

  interface Twig {
    readonly from: readonly [number, number];
    readonly to: readonly [number, number];
    /** how early this one dies: the outermost and highest first */
    readonly rank: number;
  }
  const all = $derived.by((): readonly Twig[] => {
    const rng = seededRng(seed);
    const twigs = Array.from({ length: 120 }, () => {
      const angle = Math.PI * (0.08 + 0.84 * rng.uniform());
      const reach = Math.sqrt(0.12 + 0.88 * rng.uniform());
      const at = (r: number): [number, number] => [50 + 36 * r * Math.cos(angle), 58 - 46 * r * Math.sin(angle)];
      return { from: at(reach * 0.72), to: at(reach), far: reach + 0.35 * Math.sin(angle) + 0.25 * rng.uniform() };
    });
    const order = [...twigs].sort((a, b) => b.far - a.far);
    return twigs.map(({ from, to, far }) => ({
      from,
      to,
      rank: (100 * order.findIndex((t) => t.far === far)) / twigs.length
    }));
  });
  const LIMBS = 'M50 98 V58 M50 74 L30 46 M50 68 L70 42 M50 58 L42 28 M50 58 L59 24 M30 46 L18 40 M70 42 L83 36';
</script>

<svg viewBox="0 0 100 100" class="{size} shrink-0" aria-hidden="true" stroke-linecap="round">
  <path d={LIMBS} fill="none" stroke="currentColor" stroke-width="2.4" />
  {#each all as { from, to, rank }, i (i)}
    <path d="M{from[0]} {from[1]} L{to[0]} {to[1]}" fill="none" stroke="currentColor" stroke-width="0.9" />
    {#if rank >= diebackPct}<circle cx={to[0]} cy={to[1]} r="4.2" class="fill-secondary" fill-opacity="0.55" />{/if}
  {/each}
</svg>
