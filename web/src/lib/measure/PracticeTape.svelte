<script lang="ts">
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** The end of a tape where its zero meets it: a number to be read and written. */
  const { girthMm, mark = 'zero of the tape' }: { girthMm: number; mark?: string } = $props();
  /** pixels for a millimetre, and how much of the tape is seen on either side */
  const SCALE = 5;
  const SEEN_MM = 32;
  const metric = $derived(preferences.units === 'metric');
  /** a tick each millimetre or eighth of an inch */
  const stepMm = $derived(metric ? 1 : 25.4 / 8);
  const perNumber = $derived(metric ? 10 : 8);
  const ticks = $derived.by(() => {
    const first = Math.ceil((girthMm - SEEN_MM) / stepMm);
    const last = Math.floor((girthMm + SEEN_MM) / stepMm);
    return Array.from({ length: last - first + 1 }, (_, i) => first + i).map((n) => ({
      n,
      x: (SEEN_MM + n * stepMm - girthMm) * SCALE,
      length: n % perNumber === 0 ? 26 : n % (perNumber / 2) === 0 ? 18 : 11
    }));
  });
</script>

<svg
  viewBox="0 0 {2 * SEEN_MM * SCALE} 74"
  class="block w-full max-w-80"
  role="img"
  aria-label="The figure at the mark"
>
  <rect width={2 * SEEN_MM * SCALE} height="52" y="22" fill="#f3e3a7" stroke="#2c2119" />
  {#each ticks as { n, x, length } (n)}
    <path d="M{x} 22 v{length}" stroke="#2c2119" stroke-width={n % perNumber === 0 ? 1.6 : 0.8} />
    {#if n % perNumber === 0}<text {x} y="66" text-anchor="middle" fill="#2c2119" class="text-[15px] font-bold"
        >{n / perNumber}</text
      >{/if}
  {/each}
  <path d="M{SEEN_MM * SCALE} 24 l-7 -14 h14 Z" fill="#9d1434" />
  <text x={SEEN_MM * SCALE + 12} y="14" class="fill-current text-[12px]">{mark}</text>
</svg>
