<script lang="ts">
  import { MM_PER_INCH } from '@baumkin/core';
  import type { Chart } from 'chart.js';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  import type { GrowthRow } from './growthRows.ts';

  /** Every maple by diameter and growth, against the growth that one hole a year asks for. */
  const { trees, onchoose }: { trees: readonly GrowthRow[]; onchoose: (treeId: string) => void } = $props();
  let canvas: HTMLCanvasElement;

  $effect(() => {
    const metric = preferences.units === 'metric';
    const [across, wood] = metric ? [10, 1] : [MM_PER_INCH, MM_PER_INCH];
    // Colours are read once by the chart; a change of theme draws it anew.
    void preferences.theme;
    const style = getComputedStyle(document.documentElement);
    const ink = style.getPropertyValue('--color-base-content');
    const amber = style.getPropertyValue('--color-primary');
    const spruce = style.getPropertyValue('--color-secondary');
    const list = trees;
    const chosen = onchoose;
    const needed = list
      .toSorted((a, b) => a.dbhMm - b.dbhMm)
      .map((tree) => ({ x: tree.dbhMm / across, y: tree.neededMm / wood }));
    const colours = { yes: spruce, no: amber, open: 'transparent' };
    let chart: Chart | undefined;
    let gone = false;
    void import('./chart.ts').then(({ Chart }) => {
      if (gone) return;
      chart = new Chart(canvas, {
        type: 'scatter',
        data: {
          datasets: [
            { label: 'asked for', type: 'line', data: needed, borderColor: ink, borderWidth: 2, pointRadius: 0 },
            {
              label: 'trees',
              data: list.map((tree) => ({ x: tree.dbhMm / across, y: tree.row.ringMm / wood })),
              pointRadius: 4,
              pointStyle: list.map((tree) => (tree.keepsUp === 'no' ? 'triangle' : 'circle')),
              pointBackgroundColor: list.map((tree) => colours[tree.keepsUp]),
              pointBorderColor: list.map((tree) => (tree.keepsUp === 'no' ? ink : spruce)),
              pointBorderWidth: 1
            }
          ]
        },
        options: {
          animation: false,
          maintainAspectRatio: false,
          onClick: (_event, items) => {
            const tree = items[0]?.datasetIndex === 1 ? list[items[0].index] : undefined;
            if (tree) chosen(tree.row.id);
          },
          plugins: {
            legend: { display: false },
            tooltip: {
              filter: (item) => item.datasetIndex === 1,
              callbacks: {
                label: (item) => {
                  const tree = list[item.dataIndex]!;
                  return `tree ${tree.row.tag}: ${preferences.length(tree.dbhMm, 'trunk')} thick, ${preferences.length(tree.row.ringMm, 'ring')} a year`;
                }
              }
            }
          },
          scales: {
            x: {
              type: 'linear',
              ticks: { color: ink },
              grid: { display: false },
              title: { display: true, text: metric ? 'diameter, cm' : 'diameter, in', color: ink }
            },
            y: {
              min: 0,
              ticks: { color: ink },
              grid: { color: `color-mix(in oklab, ${ink} 12%, transparent)` },
              title: { display: true, text: metric ? 'wood a year, mm' : 'wood a year, in', color: ink }
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

<div class="h-64" role="img" aria-label="Growth by diameter; the figures stand in the list below">
  <canvas bind:this={canvas}></canvas>
</div>
