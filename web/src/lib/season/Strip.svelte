<script lang="ts">
  import type { StripDay } from '@baumkin/core/bush';
  import { dayAfter, daysBetween } from '@baumkin/core/season';

  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { dayWords, REASON_WORDS, shortDay, WEATHER_FROM } from '$lib/labels/season.ts';

  import { acrossAt, bandOf, dayAcross, ribbonOf, upAt } from './ribbon.ts';

  /** The season as one ribbon, night flowing into day, with what was done below it. */
  interface Props {
    days: readonly StripDay[];
    from: string;
    until: string;
    today: string;
    /** by row: what was done on which day, how much of it against the most, and in words */
    marks: readonly {
      readonly row: string;
      readonly days: ReadonlyMap<string, { readonly share: number; readonly says: string }>;
    }[];
    /** share of the known years in which it ran on a day, for days that nobody foretells */
    usual: (on: string) => number | null;
  }
  const { days, from, until, today, marks, usual }: Props = $props();

  let width = $state(800);
  const HEIGHT = 210;
  const ROW = 20;
  const LEFT = 66;
  /** room that the words of a tick need, px */
  const TICK_WORDS = 42;
  const paper = $derived({ width: Math.max(240, width - LEFT), height: HEIGHT, from, until });
  const stretches = $derived(ribbonOf(days, paper));
  const band = $derived(bandOf(days, paper));
  const byDay = $derived(new Map(days.map((day) => [day.on, day])));
  const all = $derived(Array.from({ length: daysBetween(from, until) + 1 }, (_, i) => dayAfter(from, i)));
  const dayWidth = $derived(paper.width / all.length);
  const rows = $derived(marks.filter((mark) => [...mark.days.keys()].some((on) => on >= from && on <= until)));
  const foot = $derived(HEIGHT + 22 + rows.length * ROW);
  const ticks = $derived(
    all.filter(
      (on) =>
        (dayWidth > 12 ? new Date(`${on}T00:00:00Z`).getUTCDay() === 1 : on.endsWith('-01')) &&
        acrossAt(paper, on) < paper.width - TICK_WORDS
    )
  );
  const degrees = [-10, 0, 10];

  let picked = $state<string | null>(null);
  const shown = $derived(picked ?? (today >= from && today <= until ? today : (days.at(-1)?.on ?? from)));
  const shownDay = $derived(byDay.get(shown) ?? null);
  const said = $derived(rows.flatMap(({ days: done }) => done.get(shown)?.says ?? []));

  function point(event: PointerEvent): void {
    const box = (event.currentTarget as SVGElement).getBoundingClientRect();
    picked = dayAcross(paper, ((event.clientX - box.left) * width) / box.width - LEFT);
  }
  function onkeydown(event: KeyboardEvent): void {
    const by = { ArrowLeft: -1, ArrowRight: 1, PageUp: -7, PageDown: 7 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const to = dayAfter(shown, by);
    picked = to < from ? from : to > until ? until : to;
  }
</script>

<figure bind:clientWidth={width} data-testid="strip">
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <svg
    viewBox="0 0 {width} {foot}"
    class="block w-full touch-pan-y"
    role="img"
    tabindex="0"
    aria-label="The season from {shortDay(from)} to {shortDay(until)}. Arrows go from day to day."
    onpointermove={point}
    onpointerdown={point}
    onpointerleave={() => (picked = null)}
    {onkeydown}
  >
    <g transform="translate({LEFT} 0)">
      {#each degrees as c (c)}
        <line x2={paper.width} y1={upAt(paper, c)} y2={upAt(paper, c)} class={c === 0 ? 'freezing' : 'degree'} />
        <text x="-8" y={upAt(paper, c) + 4} text-anchor="end" class={c === 0 ? 'strong' : ''}
          >{c === 0 ? 'freezing' : preferences.degrees(c)}</text
        >
      {/each}
      {#each all as on (on)}
        {@const share = byDay.has(on) ? null : usual(on)}
        {#if share !== null && on > today}
          <rect
            x={acrossAt(paper, on)}
            y={upAt(paper, 0) - 2 - 14 * share}
            width={dayWidth}
            height={4 + 28 * share}
            class="usual"
            style:opacity={0.06 + 0.2 * share}
          />
        {/if}
      {/each}
      <rect x={acrossAt(paper, shown)} width={dayWidth} height={foot} class="picked" />
      {#if band}<path d={band} class="band" />{/if}
      {#each stretches as { path, what, foretold, index, filled }, i (i)}
        <path
          d={path}
          class={what}
          style:opacity={(what === 'run' ? 0.55 + 0.45 * index : 1) * (foretold || filled ? 0.55 : 1)}
        />
      {/each}
      {#if today >= from && today <= until}
        <line x1={acrossAt(paper, today)} x2={acrossAt(paper, today)} y2={foot} class="now" />
        <text x={acrossAt(paper, today) + 5} y="12" class="strong">today</text>
      {/if}
      {#each ticks as on (on)}
        <text x={acrossAt(paper, on) + 2} y={HEIGHT + 14}>{shortDay(on)}</text>
        <line x1={acrossAt(paper, on)} x2={acrossAt(paper, on)} y1={HEIGHT} y2={HEIGHT + 6} class="tick" />
      {/each}
      {#each rows as { row, days: done }, i (row)}
        {@const y = HEIGHT + 22 + i * ROW}
        <text x="-8" y={y + 14} text-anchor="end">{row}</text>
        {#each [...done].filter(([on]) => on >= from && on <= until) as [on, { share }] (on)}
          <rect
            x={acrossAt(paper, on) + dayWidth * 0.18}
            y={y + (ROW - 4) * (1 - Math.max(0.18, share)) + 2}
            width={Math.max(2, dayWidth * 0.64)}
            height={(ROW - 4) * Math.max(0.18, share)}
            class="done"
          />
        {/each}
      {/each}
    </g>
  </svg>
  <figcaption class="mt-1 min-h-6" aria-live="polite">
    <b>{dayWords(shown)}</b>{#if shownDay}: {preferences.degrees(shownDay.minC)} to {preferences.degrees(
        shownDay.maxC
      )}; {REASON_WORDS[shownDay.reason]}
      <span class="aside">({WEATHER_FROM[shownDay.from]})</span>{:else if usual(shown) !== null}: nobody foretells it;
      it ran in {Math.round(10 * usual(shown)!)} of 10 years{:else}: nobody measured it{/if}{#each said as words (words)};
      {words}{/each}
  </figcaption>
</figure>

<style>
  text {
    font-size: 12px;
    fill: color-mix(in oklab, var(--color-base-content) 78%, var(--color-base-100));
  }
  text.strong {
    font-weight: 700;
    fill: var(--color-base-content);
  }
  .degree,
  .tick {
    stroke: var(--color-base-300);
  }
  .freezing {
    stroke: var(--color-base-content);
    stroke-width: 1;
  }
  .frost {
    fill: var(--color-info);
  }
  .thaw {
    fill: color-mix(in oklab, var(--color-base-content) 62%, var(--color-base-100));
  }
  .run,
  .usual {
    fill: var(--color-primary);
  }
  .band {
    fill: color-mix(in oklab, var(--color-base-content) 10%, var(--color-base-100));
  }
  .picked {
    fill: color-mix(in oklab, var(--color-base-content) 7%, transparent);
  }
  .now {
    stroke: var(--color-base-content);
    stroke-dasharray: 2 3;
  }
  .done {
    fill: var(--color-secondary);
  }
  svg:focus-visible {
    outline-offset: 4px;
  }
</style>
