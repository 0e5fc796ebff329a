<script lang="ts">
  import { FORESIGHT_IDS, TRUST, type Foresight, type FrontierPoint, type RuleTree } from '@baumkin/core/rotation';
  import type { ColumnModel } from '@baumkin/core/trunk';
  import { onDestroy } from 'svelte';

  import { FORESIGHT_LABELS } from '$lib/labels/placement.ts';
  import { LongRun } from '$lib/workers/longRun.svelte.ts';

  interface Props {
    /** the tree that the choice is shown on; null where its figures cannot be read */
    readonly tree: RuleTree | null;
    readonly model: ColumnModel;
    readonly disabled: boolean;
    value: Foresight;
  }
  /** How far ahead holes are planned, and what looking farther costs soon and brings later on a tree. */
  let { tree, model, disabled, value = $bindable() }: Props = $props();

  const run = new LongRun();
  onDestroy(() => run.stop());
  /** A figure that is dragged is asked about when it holds still, ms. */
  const STILL_MS = 400;
  let points = $state.raw<readonly FrontierPoint[] | null>(null);
  $effect(() => {
    const [of, by] = [tree, model];
    points = null;
    run.stop();
    if (!of) return;
    const timer = setTimeout(
      () => void run.run((remote) => remote.foresightFrontier(of, by)).then((found) => (points = found)),
      STILL_MS
    );
    return () => clearTimeout(timer);
  });

  const pct = (share: number) =>
    share < 0.00005
      ? 'none'
      : share < 0.001
        ? `${(100 * share).toFixed(2)}\u00a0%`
        : `${(100 * share).toFixed(1)}\u00a0%`;
  const [nearest, farthest] = [FORESIGHT_IDS[0], FORESIGHT_IDS.at(-1)];
  /** What looking farthest ahead costs soon and saves later, against looking least far. */
  const trade = $derived.by(() => {
    const [near, far] = [nearest, farthest].map((id) => points?.find(({ foresight }) => foresight === id));
    return near && far ? { costs: far.soon - near.soon, saves: near.later - far.later } : null;
  });

  const SIZE = { width: 340, height: 150, left: 14, right: 96, top: 24, bottom: 28 };
  /** Where a point is drawn, between the least and the most of the points either way. */
  const placed = $derived.by(() => {
    const along = (of: (point: FrontierPoint) => number) => {
      const all = (points ?? []).map(of);
      const [least, most] = [Math.min(...all), Math.max(...all)];
      return (point: FrontierPoint) => (most === least ? 0.5 : (of(point) - least) / (most - least));
    };
    const [soon, later] = [along((point) => point.soon), along((point) => point.later)];
    return (points ?? []).map((point) => ({
      ...point,
      x: SIZE.left + 14 + (SIZE.width - SIZE.left - SIZE.right - 14) * soon(point),
      y: SIZE.height - SIZE.bottom - 14 - (SIZE.height - SIZE.top - SIZE.bottom - 14) * later(point)
    }));
  });
</script>

<fieldset class="mt-3 flex flex-col gap-1" {disabled} data-testid="foresight">
  <legend class="mb-1 font-semibold">The plan looks ahead for</legend>
  {#each FORESIGHT_IDS as id (id)}
    {@const point = points?.find(({ foresight }) => foresight === id)}
    <label class="flex items-start gap-3 py-1">
      <input type="radio" class="radio mt-0.5 radio-sm" name="foresight" value={id} bind:group={value} />
      <span class="grow"
        ><b>{FORESIGHT_LABELS[id].name}</b>{id === 'generation' ? ' (default)' : ''}<span class="aside block"
          >{FORESIGHT_LABELS[id].says}</span
        >
        {#if point}<span class="block text-sm tabular-nums"
            >stained: {pct(point.soon)} in the next 25 seasons, {pct(point.later)} after them</span
          >{/if}</span
      >
    </label>
  {/each}
  {#if trade}
    <p data-testid="foresight-said">
      {trade.costs > TRUST && trade.saves > TRUST
        ? `On this tree, looking for grandchildren costs ${pct(trade.costs)} of the path soon and saves ${pct(trade.saves)} later.`
        : 'On this tree it makes no difference that could be told: thin and slow trunks show one.'}
    </p>
    {#if trade.costs > TRUST && trade.saves > TRUST}
      <svg
        viewBox="0 0 {SIZE.width} {SIZE.height}"
        class="w-full max-w-88"
        role="img"
        aria-label="Stained wood in all seasons after the next 25, against that in the next 25, by how far ahead the plan looks"
      >
        <path
          d="M{SIZE.left} {SIZE.top - 6}V{SIZE.height - SIZE.bottom}H{SIZE.width - 4}"
          fill="none"
          stroke="currentColor"
          stroke-opacity="0.6"
        />
        <g font-size="12" fill="currentColor">
          <text x="2" y="12">more stain later ↑</text>
          <text x={SIZE.width - 4} y={SIZE.height - 10} text-anchor="end">more stain soon →</text>
        </g>
        <polyline
          points={placed.map(({ x, y }) => `${x},${y}`).join(' ')}
          fill="none"
          stroke="currentColor"
          stroke-opacity="0.5"
          stroke-dasharray="3 3"
        />
        {#each placed as { foresight, x, y } (foresight)}
          <circle
            cx={x}
            cy={y}
            r={foresight === value ? 7 : 5}
            class={foresight === value ? 'fill-primary' : 'fill-base-100'}
            stroke="currentColor"
            stroke-width="1.5"
          />
          <text x={x + 11} y={y + 4} font-size="12" fill="currentColor">{FORESIGHT_LABELS[foresight].name}</text>
        {/each}
      </svg>
    {/if}
  {:else if run.done !== null}<p class="aside" role="status">Planning this tree three times …</p>{/if}
</fieldset>
