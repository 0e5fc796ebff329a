<script lang="ts">
  import { guidelineTaps, TAP_GUIDELINES, type TapGuideline } from '@baumkin/core/taps';
  import { MM_PER_INCH } from '@baumkin/core/units';

  import { GUIDELINE_LABELS } from '$lib/labels/taps.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** The schools as bars along the diameter: where each says one, two, three, four; and where this tree stands. */
  const { chosen, dbhMm }: { chosen: TapGuideline; dbhMm: number | null } = $props();

  const WIDTH = 640;
  const LEFT = 140;
  const ROW = 26;
  const TOP = 20;
  const [FROM, TO] = [150, 900];
  const x = (mm: number) => LEFT + ((Math.min(TO, Math.max(FROM, mm)) - FROM) / (TO - FROM)) * (WIDTH - LEFT - 8);
  const guidelines = $derived<readonly TapGuideline[]>(
    chosen.id === 'own' ? [...TAP_GUIDELINES, chosen] : TAP_GUIDELINES
  );
  const height = $derived(TOP + ROW * guidelines.length + 24);
  const ticks = $derived(
    preferences.units === 'metric'
      ? [200, 300, 400, 500, 600, 700, 800]
      : [8, 12, 16, 20, 24, 28, 32].map((i) => i * MM_PER_INCH)
  );

  /** Stretches of the diameter with the same count. */
  function bars(guideline: TapGuideline): { from: number; to: number; taps: number }[] {
    const edges = [FROM, ...guideline.steps.map((step) => step.diameterMm).filter((mm) => mm > FROM && mm < TO), TO];
    return edges
      .slice(0, -1)
      .map((from, i) => ({ from, to: edges[i + 1]!, taps: guidelineTaps(guideline, from + 0.5) }));
  }
</script>

<svg
  viewBox="0 0 {WIDTH} {height}"
  class="block w-full max-w-2xl"
  role="img"
  aria-label="Taps by diameter, school by school"
>
  {#each guidelines as guideline, i (guideline.id)}
    {@const y = TOP + ROW * i}
    {@const on = guideline.id === chosen.id}
    <text x="0" y={y + 14} class="fill-base-content text-[13px] {on ? 'font-bold' : ''}"
      >{GUIDELINE_LABELS[guideline.id].name}</text
    >
    {#each bars(guideline) as bar (bar.from)}
      <rect
        x={x(bar.from)}
        {y}
        width={Math.max(0, x(bar.to) - x(bar.from) - 1)}
        height={ROW - 7}
        class="fill-secondary"
        fill-opacity={bar.taps === 0 ? 0.06 : 0.12 + 0.2 * bar.taps}
      />
      {#if bar.taps > 0}
        <text
          x={x(bar.from) + 5}
          y={y + 14}
          class="text-[12px] font-bold {bar.taps >= 3 ? 'fill-secondary-content' : 'fill-base-content'}"
          >{bar.taps}</text
        >
      {/if}
    {/each}
    {#if on}<rect
        x={LEFT - 2}
        y={y - 2}
        width={WIDTH - LEFT - 4}
        height={ROW - 3}
        fill="none"
        class="stroke-base-content"
        stroke-width="1.5"
      />{/if}
  {/each}
  {#each ticks as mm (mm)}
    <text x={x(mm)} y={height - 6} text-anchor="middle" class="fill-base-content text-[12px]"
      >{preferences.length(mm, 'hand')}</text
    >
  {/each}
  {#if dbhMm !== null}
    <line x1={x(dbhMm)} x2={x(dbhMm)} y1={TOP - 6} y2={height - 22} class="stroke-primary" stroke-width="3" />
    <text x={x(dbhMm)} y={TOP - 9} text-anchor="middle" class="fill-base-content text-[12px] font-bold"
      >this tree, {preferences.length(dbhMm, 'trunk')}</text
    >
  {/if}
</svg>
