<script lang="ts">
  /** A trunk cut across: an old hole with its brown wood, and the rings that were laid over it since. */
  const RINGS = Array.from({ length: 16 }, (_, i) => 22 + i * 5.4);
  const BARK = 112;
  const WOOD = 104;
</script>

<figure>
  <svg
    viewBox="-120 -120 240 240"
    class="block w-full max-w-56"
    role="img"
    aria-label="A trunk cut across: brown wood around an old hole deep inside, clear new wood all round it, and this year’s hole in clear wood"
  >
    <circle r={BARK} fill="#6d5743" />
    <circle r={WOOD} fill="#f4e7c9" />
    {#each RINGS as r (r)}<circle {r} fill="none" stroke="#c9b188" stroke-width="1" />{/each}
    <circle r="17" fill="#c8a878" />
    <g transform="rotate(-140)"
      ><path d="M30 -9 L74 -6 V6 L30 9 Z" fill="#7a4a1e" /><rect
        x="42"
        y="-3"
        width="32"
        height="6"
        fill="#2c2119"
      /></g
    >
    <g transform="rotate(-65)"
      ><path d="M46 -9 L88 -6 V6 L46 9 Z" fill="#8f5a28" /><rect
        x="56"
        y="-3"
        width="32"
        height="6"
        fill="#2c2119"
      /></g
    >
    <g transform="rotate(35)"><rect x="72" y="-3.4" width="44" height="6.8" fill="#2c2119" /></g>
  </svg>
  <figcaption class="aside mt-1">
    Cut across: two old holes with their brown wood, grown over, and this year’s hole in clear wood.
  </figcaption>
</figure>
