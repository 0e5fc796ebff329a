<script lang="ts">
  import { diameterAt, fractionalYear, METHOD_SD_MM } from '@baumkin/core/measure';
  import { datedDiameter, type TreeState } from '@baumkin/core/records';
  import { MM_PER_INCH } from '@baumkin/core/units';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  import Scatter, { type Inks, type ScatterPicture } from '$lib/ui/Scatter.svelte';

  /** The tree's readings with their errors and the diameter that the growth makes of them. */
  const { tree, today }: { tree: TreeState; today: string } = $props();

  function picture({ ink, amber, spruce }: Inks): ScatterPicture {
    const metric = preferences.units === 'metric';
    const unit = metric ? 10 : MM_PER_INCH;
    const dated = tree.readings.map((reading) => ({
      ...datedDiameter(reading),
      questioned: tree.questioned.has(reading.id)
    }));
    const trusted = dated.filter((r) => !r.questioned);
    const first = Math.min(...dated.map((r) => r.year));
    const now = fractionalYear(today);
    // Through one reading any line can be drawn: none is.
    const line =
      tree.growth.observed && trusted.length > 0
        ? [first - 1, ...Array.from({ length: 12 }, (_, i) => first + ((now - first) * (i + 1)) / 12)].map((year) => ({
            x: year,
            y: diameterAt(trusted, tree.growth, year)! / unit
          }))
        : [];
    return {
      years: true,
      across: null,
      up: `diameter, ${metric ? 'cm' : 'in'}`,
      say: (dataset, i) => preferences.length(dataset === 0 ? line[i]!.y * unit : dated[i]!.dbhMm, 'trunk'),
      datasets: [
        { type: 'line', data: line, borderColor: spruce, borderWidth: 2, pointRadius: 0, tension: 0.2 },
        {
          type: 'scatter',
          data: dated.map((r) => ({ x: r.year, y: r.dbhMm / unit })),
          pointRadius: dated.map((r) => (METHOD_SD_MM[r.method] > 5 ? 7 : 5)),
          pointStyle: dated.map((r) => (r.questioned ? 'crossRot' : 'circle')),
          pointBorderWidth: 2,
          pointBackgroundColor: dated.map((r) => (r.questioned ? 'transparent' : ink)),
          pointBorderColor: dated.map((r) => (r.questioned ? amber : ink))
        }
      ]
    };
  }
</script>

<Scatter {picture} size="h-52 max-w-xl" label="Diameter by year; the figures stand in the table below" />
