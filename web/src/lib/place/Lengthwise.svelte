<script lang="ts">
  import { toRadians } from '@baumkin/core/math';
  import type { PlacementTask } from '@baumkin/core/rotation';
  import type { LengthwiseSection } from '@baumkin/core/trunk';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  import { woodInk } from './woodInk.ts';

  /** The trunk cut open along the bit's path, bark at the left: where stain is likely, and what the bit meets in order. */
  const {
    task,
    cut,
    along,
    spot
  }: {
    task: PlacementTask;
    cut: LengthwiseSection;
    along: Float32Array;
    spot: { readonly bearingDeg: number; readonly heightMm: number };
  } = $props();

  let canvas = $state<HTMLCanvasElement>();
  const { practice, trunk } = $derived(task);
  const HEIGHT = 264;
  const scale = $derived(HEIGHT / (cut.rows * cut.stepMm));
  const width = $derived(cut.columns * cut.stepMm * scale);
  const bark = $derived((trunk.barkRadiusMm - trunk.woodRadiusMm) * scale);
  const y = $derived((mm: number) => HEIGHT - (mm - cut.lowestMm) * scale);

  $effect(() => {
    if (!canvas) return;
    const ink = woodInk();
    const image = new ImageData(cut.columns, cut.rows);
    for (let row = 0; row < cut.rows; row++)
      for (let column = 0; column < cut.columns; column++)
        ink(image, (cut.rows - 1 - row) * cut.columns + column, cut.stained[row * cut.columns + column]!);
    canvas.width = cut.columns;
    canvas.height = cut.rows;
    canvas.getContext('2d')!.putImageData(image, 0, 0);
  });

  /** Stretches of the path that are about equally likely to be stained. */
  const stretches = $derived.by(() => {
    const kinds = Array.from(along, (share) =>
      share < 0.05 ? 'clear' : share < 0.4 ? 'stain possible' : 'stain likely'
    );
    const found: { kind: string; fromMm: number; toMm: number }[] = [];
    kinds.forEach((kind, i) => {
      const last = found.at(-1);
      const toMm = Math.min(i + 1, practice.depthMm);
      if (last?.kind === kind) last.toMm = toMm;
      else found.push({ kind, fromMm: i, toMm });
    });
    return found;
  });
  const rise = $derived(Math.tan(toRadians(practice.angleDeg)) * practice.depthMm * scale);
</script>

<figure class="m-0">
  <div class="relative" style:width="{width + bark + 8}px" style:height="{HEIGHT + 22}px">
    <canvas
      bind:this={canvas}
      class="absolute top-0"
      aria-hidden="true"
      style:left="{bark + 8}px"
      style:width="{width}px"
      style:height="{HEIGHT}px"
    ></canvas>
    <svg
      class="absolute inset-0"
      width={width + bark + 8}
      height={HEIGHT + 22}
      role="img"
      aria-label="Cut lengthwise along the bit: {stretches
        .map(
          ({ kind, fromMm, toMm }) =>
            `${kind} from ${preferences.length(fromMm, 'drill')} to ${preferences.length(toMm, 'drill')}`
        )
        .join(', ')}"
    >
      <rect x="8" width={bark} height={HEIGHT} fill="#5d4a3a" />
      <path
        d="M2 {y(spot.heightMm)} L{bark + 8} {y(spot.heightMm)} l{practice.depthMm * scale} {-rise}"
        stroke="var(--color-primary)"
        stroke-width={Math.max(4, practice.bitMm * scale)}
        fill="none"
      />
      <path d="M{bark + 8} 0 V{HEIGHT}" stroke="#2c2119" stroke-width="1" />
      <text x="0" y={HEIGHT + 16} class="fill-current text-[12px]">bark</text>
      <text x={width + bark + 8} y={HEIGHT + 16} text-anchor="end" class="fill-current text-[12px]">inward</text>
    </svg>
  </div>
  <figcaption class="aside max-w-56" data-testid="meets">
    The bit meets {stretches
      .map(
        ({ kind, toMm }, i) =>
          `${kind === 'clear' ? 'clear wood' : kind}${i < stretches.length - 1 ? ` to ${preferences.length(toMm, 'drill')}` : ''}`
      )
      .join(', then ')}.
  </figcaption>
</figure>
