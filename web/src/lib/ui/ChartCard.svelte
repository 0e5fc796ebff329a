<script lang="ts">
  import Scatter, { type Inks, type ScatterPicture } from './Scatter.svelte';

  /** A figure of one season in many possible futures: its mean, and where it lies eight times in ten. */
  interface Banded {
    readonly season: number;
    readonly mean: number;
    readonly low: number;
    readonly high: number;
  }

  interface Props {
    title: string;
    /** what stands on the upright axis, with its unit */
    up: string;
    /** one or two runs over the same seasons: the first dark, the second amber */
    runs: readonly (readonly Banded[])[];
    /** what the picture shows, for those who do not see it */
    label: string;
    fromZero?: boolean;
    heading?: 'h2' | 'h3';
  }
  const { title, up, runs, label, fromZero = false, heading = 'h3' }: Props = $props();

  const picture = $derived(({ ink, amber }: Inks): ScatterPicture => {
    const line = (years: readonly Banded[], pick: 'mean' | 'low' | 'high', colour: string) => ({
      type: 'line' as const,
      data: years.map((year) => ({ x: year.season, y: year[pick] })),
      borderColor: colour,
      borderWidth: pick === 'mean' ? 2.5 : 1,
      borderDash: pick === 'mean' ? [] : [2, 4],
      pointRadius: 0
    });
    return {
      datasets: runs.flatMap((years, i) =>
        (['mean', 'low', 'high'] as const).map((pick) => line(years, pick, i === 0 ? ink : amber))
      ),
      across: null,
      up,
      say: () => null,
      fromZero,
      years: true
    };
  });
</script>

<div>
  <svelte:element this={heading} class="text-base">{title}</svelte:element>
  <Scatter {picture} {label} size="h-56" />
</div>
