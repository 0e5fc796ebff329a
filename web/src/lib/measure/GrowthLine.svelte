<script lang="ts">
  import { diameterAt, datedDiameter, fractionalYear, METHOD_SD_MM, MM_PER_INCH, type TreeState } from '@baumkin/core';
  import type { Chart } from 'chart.js';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** The tree's readings with their errors and the diameter that the growth makes of them. */
  const { tree, today }: { tree: TreeState; today: string } = $props();
  let canvas: HTMLCanvasElement;

  $effect(() => {
    const unit = preferences.units === 'metric' ? 10 : MM_PER_INCH;
    const unitName = preferences.units === 'metric' ? 'cm' : 'in';
    // Colours are read once by the chart; a change of theme draws it anew.
    void preferences.theme;
    const style = getComputedStyle(document.documentElement);
    const ink = style.getPropertyValue('--color-base-content');
    const amber = style.getPropertyValue('--color-primary');
    const spruce = style.getPropertyValue('--color-secondary');
    const dated = tree.readings.map((reading) => ({
      ...datedDiameter(reading),
      questioned: tree.questioned.has(reading.id)
    }));
    const trusted = dated.filter((r) => !r.questioned);
    const first = Math.min(...dated.map((r) => r.year));
    const now = fractionalYear(today);
    const line = trusted.length
      ? [first - 1, ...Array.from({ length: 12 }, (_, i) => first + ((now - first) * (i + 1)) / 12)].map((year) => ({
          x: year,
          y: diameterAt(trusted, tree.growth, year)! / unit
        }))
      : [];
    let chart: Chart | undefined;
    let gone = false;
    void import('./chart.ts').then(({ Chart }) => {
      if (gone) return;
      chart = new Chart(canvas, {
        type: 'scatter',
        data: {
          datasets: [
            {
              label: 'expected',
              type: 'line',
              data: line,
              borderColor: spruce,
              borderWidth: 2,
              pointRadius: 0,
              tension: 0.2
            },
            {
              label: 'readings',
              data: dated.map((r) => ({ x: r.year, y: r.dbhMm / unit })),
              pointRadius: dated.map((r) => (METHOD_SD_MM[r.method] > 5 ? 7 : 5)),
              pointStyle: dated.map((r) => (r.questioned ? 'crossRot' : 'circle')),
              pointBorderWidth: 2,
              pointBackgroundColor: dated.map((r) => (r.questioned ? 'transparent' : ink)),
              pointBorderColor: dated.map((r) => (r.questioned ? amber : ink))
            }
          ]
        },
        options: {
          animation: false,
          maintainAspectRatio: false,
          plugins: {
            legend: { display: false },
            tooltip: { callbacks: { label: (item) => `${item.parsed.y!.toFixed(1)} ${unitName}` } }
          },
          scales: {
            x: {
              type: 'linear',
              ticks: { color: ink, precision: 0, callback: (v) => String(Math.round(Number(v))), stepSize: 5 },
              grid: { display: false }
            },
            y: {
              ticks: { color: ink },
              grid: { color: `color-mix(in oklab, ${ink} 12%, transparent)` },
              title: { display: true, text: `diameter, ${unitName}`, color: ink }
            }
          }
        }
      });
    });
    return () => {
      gone = true;
      chart?.destroy();
    };
  });
</script>

<div class="h-52 max-w-xl" role="img" aria-label="Diameter by year; the figures stand in the table below">
  <canvas bind:this={canvas}></canvas>
</div>
