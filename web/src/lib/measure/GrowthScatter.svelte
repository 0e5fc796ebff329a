<script lang="ts">
  import { wallsOffWell } from '@baumkin/core/trunk';
  import { MM_PER_INCH } from '@baumkin/core/units';
  import type { GrowthRow } from '@baumkin/core/bush';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  import Scatter, { type Inks, type ScatterPicture } from '$lib/ui/Scatter.svelte';

  /** Every maple by diameter and growth, against the growth that one hole a year asks for. */
  const { trees, onchoose }: { trees: readonly GrowthRow[]; onchoose: (treeId: string) => void } = $props();

  function picture({ ink, amber, spruce }: Inks): ScatterPicture {
    const metric = preferences.units === 'metric';
    const [across, wood] = metric ? [10, 1] : [MM_PER_INCH, MM_PER_INCH];
    const list = trees;
    // The ring that one hole a year needs, by diameter: one line for species that wall wounds off well, one for the others.
    const asked = (well: boolean) =>
      list
        .filter((tree) => wallsOffWell(tree.row.species) === well)
        .toSorted((a, b) => a.dbhMm - b.dbhMm)
        .map((tree) => ({ x: tree.dbhMm / across, y: tree.neededMm / wood }));
    const colours = { yes: spruce, no: amber, open: 'transparent' };
    return {
      fromZero: true,
      across: metric ? 'diameter, cm' : 'diameter, in',
      up: metric ? 'wood a year, mm' : 'wood a year, in',
      say: (dataset, i) =>
        dataset < 2
          ? null
          : `tree ${list[i]!.row.tag}: ${preferences.length(list[i]!.dbhMm, 'trunk')} thick, ${preferences.length(list[i]!.row.ringMm, 'ring')} a year`,
      onClick: (dataset, i) => dataset === 2 && onchoose(list[i]!.row.id),
      datasets: [
        {
          type: 'line',
          data: asked(true),
          borderColor: ink,
          borderWidth: 2,
          pointRadius: 0
        },
        {
          type: 'line',
          data: asked(false),
          borderColor: ink,
          borderWidth: 2,
          borderDash: [5, 4],
          pointRadius: 0
        },
        {
          type: 'scatter',
          data: list.map((tree) => ({ x: tree.dbhMm / across, y: tree.row.ringMm / wood })),
          pointRadius: 4,
          pointStyle: list.map((tree) => (tree.keepsUp === 'no' ? 'triangle' : 'circle')),
          pointBackgroundColor: list.map((tree) => colours[tree.keepsUp]),
          pointBorderColor: list.map((tree) => (tree.keepsUp === 'no' ? ink : spruce)),
          pointBorderWidth: 1
        }
      ]
    };
  }
</script>

<Scatter {picture} size="h-64" label="Growth by diameter; the figures stand in the list below" />
