<script lang="ts">
  import type { SiteFeature } from '@baumkin/core/records';
  import { curveCatmullRom, curveLinear, curveLinearClosed, line } from 'd3-shape';

  /** Buildings, paths, lines, water, fences and ways in as part of a drawing from above. */
  const {
    features,
    x,
    y,
    stroke
  }: {
    features: readonly SiteFeature[];
    /** metres east to drawing */
    x: (eastM: number) => number;
    /** metres north to drawing */
    y: (northM: number) => number;
    /** width of a line, in the drawing's units */
    stroke: number;
  } = $props();

  /** Paths and water bend; walls and wires do not. */
  function course({ kind, points }: SiteFeature): string | null {
    const bends = kind === 'path' || kind === 'water';
    const draw = line<readonly [number, number]>(
      ([east]) => x(east),
      ([, north]) => y(north)
    ).curve(kind === 'building' ? curveLinearClosed : bends ? curveCatmullRom : curveLinear);
    return draw(points);
  }
</script>

{#each features as feature (feature.id)}
  <path
    d={course(feature)}
    class={{
      building: 'fill-base-content/80 stroke-base-content',
      boundary: 'fill-none stroke-base-content [stroke-dasharray:6_3]',
      path: 'fill-none stroke-base-content/70',
      line: 'fill-none stroke-error',
      water: 'fill-none stroke-info/60',
      fence: 'fill-none stroke-secondary',
      entrance: 'fill-none stroke-base-content'
    }[feature.kind]}
    stroke-width={feature.kind === 'water' ? stroke * 2.5 : feature.kind === 'entrance' ? stroke * 4 : stroke}
    stroke-dasharray={feature.kind === 'path'
      ? `${stroke * 3} ${stroke * 2.5}`
      : feature.kind === 'fence'
        ? `${stroke * 0.1} ${stroke * 2}`
        : undefined}
    stroke-linejoin="round"
    stroke-linecap="round"
  >
    <title>{feature.name}</title>
  </path>
{/each}
