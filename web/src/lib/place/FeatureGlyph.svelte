<script lang="ts">
  import type { TrunkFeatureKind } from '@baumkin/core/trunk';

  /** What stands on the trunk, drawn as a hand would sketch it on the unrolled bark. */
  const {
    what,
    x,
    y,
    scale,
    width
  }: {
    what: TrunkFeatureKind;
    x: number;
    y: number;
    /** pixels for each millimetre of bark */
    scale: number;
    /** width of the sheet, pixels */
    width: number;
  } = $props();

  const mm = $derived((value: number) => value * scale);
</script>

<g stroke="#2c2119" fill="none" stroke-width="1.6">
  {#if what === 'limb'}
    <ellipse cx={x} cy={y} rx={mm(55)} ry={mm(45)} fill="#8a6a4a" fill-opacity="0.55" />
    <ellipse cx={x} cy={y} rx={mm(32)} ry={mm(25)} />
    <ellipse cx={x} cy={y} rx={mm(12)} ry={mm(9)} />
  {:else if what === 'root'}
    <path
      d="M{x - mm(20)} {y} q{-mm(10)} {mm(80)} {-mm(50)} {mm(120)} M{x + mm(20)} {y} q{mm(10)} {mm(80)} {mm(50)} {mm(
        120
      )} M{x} {y + mm(20)} v{mm(90)}"
    />
  {:else if what === 'seam'}
    <path d="M{x} {y - mm(170)} q{mm(16)} {mm(42)} 0 {mm(85)} t0 {mm(85)} t0 {mm(85)} t0 {mm(85)}" stroke-width="3" />
  {:else if what === 'wound'}
    <ellipse cx={x} cy={y} rx={mm(45)} ry={mm(80)} fill="#3b2a1d" fill-opacity="0.45" />
    <path d="M{x - mm(28)} {y - mm(40)} l{mm(56)} {mm(28)} M{x - mm(34)} {y} l{mm(68)} {mm(28)}" />
  {:else if what === 'line'}
    <line x1="0" x2={width} y1={y} y2={y} class="stroke-info" stroke-width="2.5" stroke-dasharray="14 4" />
    <circle cx={x} cy={y} r="5" class="fill-info stroke-info" />
  {:else}
    <path d="M{x - 6} {y - 6} l12 12 m0 -12 l-12 12" stroke-width="2.4" />
  {/if}
</g>
