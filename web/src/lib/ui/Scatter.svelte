<script lang="ts" module>
  import type { ChartDataset, ChartOptions } from 'chart.js';

  /** The theme's colours, as a chart needs them. */
  export interface Inks {
    readonly ink: string;
    readonly amber: string;
    readonly spruce: string;
  }

  export interface ScatterPicture {
    readonly datasets: ChartDataset<'scatter' | 'line', { x: number; y: number }[]>[];
    readonly across: string | null;
    readonly up: string;
    /** the sentence shown at a point; null for points that say nothing */
    readonly say: (dataset: number, index: number) => string | null;
    readonly fromZero?: boolean;
    readonly years?: boolean;
    /** what stands at a place across, where it is no plain number, and how far from one to the next */
    readonly sayAcross?: { readonly say: (x: number) => string; readonly step: number };
    readonly onClick?: (dataset: number, index: number) => void;
  }
</script>

<script lang="ts">
  import type { Chart } from 'chart.js';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** Points and lines on two axes with units; the figures stand as text beside it. */
  const { picture, label, size }: { picture: (inks: Inks) => ScatterPicture; label: string; size: string } = $props();
  let canvas: HTMLCanvasElement;

  $effect(() => {
    // Colours are read once by the chart; a change of theme draws it anew.
    void preferences.theme;
    const style = getComputedStyle(document.documentElement);
    const ink = style.getPropertyValue('--color-base-content');
    const { datasets, across, up, say, fromZero, years, sayAcross, onClick } = picture({
      ink,
      amber: style.getPropertyValue('--color-primary'),
      spruce: style.getPropertyValue('--color-secondary')
    });
    const options: ChartOptions<'scatter'> = {
      animation: false,
      maintainAspectRatio: false,
      onClick: (_event, [item]) => item && onClick?.(item.datasetIndex, item.index),
      plugins: {
        legend: { display: false },
        tooltip: {
          filter: (item) => say(item.datasetIndex, item.dataIndex) !== null,
          callbacks: { label: (item) => say(item.datasetIndex, item.dataIndex) ?? '' }
        }
      },
      scales: {
        x: {
          type: 'linear',
          ticks: years
            ? { color: ink, precision: 0, callback: (v) => String(Math.round(Number(v))), stepSize: 5 }
            : sayAcross
              ? { color: ink, callback: (v) => sayAcross.say(Number(v)), stepSize: sayAcross.step, maxRotation: 0 }
              : { color: ink },
          grid: { display: false },
          title: { display: across !== null, text: across ?? '', color: ink }
        },
        y: {
          min: fromZero ? 0 : undefined,
          ticks: { color: ink },
          grid: { color: `color-mix(in oklab, ${ink} 12%, transparent)` },
          title: { display: true, text: up, color: ink }
        }
      }
    };
    let chart: Chart | undefined;
    let gone = false;
    void import('./chart.ts').then(({ Chart }) => {
      if (!gone) chart = new Chart(canvas, { type: 'scatter', data: { datasets: datasets as never }, options });
    });
    return () => {
      gone = true;
      chart?.destroy();
    };
  });
</script>

<div class={size} role="img" aria-label={label}>
  <canvas bind:this={canvas}></canvas>
</div>
