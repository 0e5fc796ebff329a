<script lang="ts">
  import type { BarkSpot } from '@baumkin/core/geometry';
  import { compassPoint, mean, normaliseBearing, toDegrees } from '@baumkin/core/math';
  import {
    hiddenTruth,
    PRACTICE_SEASONS,
    practiceTrunk,
    type Drilled,
    type OthersOnPractice,
    type PracticeKind,
    type PracticeOther
  } from '@baumkin/core/rotation';
  import { LITRES_A_TAP, syrupFrom } from '@baumkin/core/sap';
  import { DEFAULT_COLUMNS, type Column } from '@baumkin/core/trunk';
  import { onDestroy } from 'svelte';

  import { STRATEGY_LABELS } from '$lib/labels/placement.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { LongRun } from '$lib/workers/longRun.svelte.ts';
  import { movedBy, sheetGeometry, spotAt, xOf, yOf } from './sheetGeometry.ts';

  /**
   * Ten seasons on a trunk whose stain nobody sees: an eye for the bark is trained before it costs sap. One trunk is luck, so what others lose is told over
   * many of its kind, and so is one's own over all that one drilled.
   */

  let seed = $state(Math.floor(Math.random() * 1e6));
  let kind = $state<PracticeKind>('slow');
  const KINDS: readonly { readonly id: PracticeKind; readonly label: string; readonly says: string }[] = [
    { id: 'slow', label: 'In the woods', says: 'tapped for thirty seasons, and slow to grow' },
    { id: 'yard', label: 'At the house', says: 'tapped for twenty-eight seasons, with two buckets' },
    { id: 'young', label: 'A young one', says: 'tapped for nine seasons' }
  ];
  const practice = $derived(practiceTrunk(seed, kind));
  const hidden = $derived(hiddenTruth(practice, DEFAULT_COLUMNS, seed));
  let turns = $state.raw<readonly Drilled[]>([]);
  let aimed = $state.raw<BarkSpot | null>(null);
  let others = $state.raw<readonly OthersOnPractice[] | null>(null);
  /** what was lost on each trunk that was drilled to its end */
  let drilled = $state.raw<readonly { readonly kind: PracticeKind; readonly lost: number }[]>([]);
  let truth = $state.raw<readonly Column[]>([]);
  const over = $derived(turns.length === PRACTICE_SEASONS);
  const long = new LongRun();
  onDestroy(() => long.stop());

  /** room for the heights left of the bark, pixels */
  const SCALE_PX = 54;
  let width = $state(700);
  const trunk = $derived({
    woodRadiusMm: practice.tree.woodRadiusMm + turns.length * practice.tree.ringMm,
    barkRadiusMm: practice.tree.woodRadiusMm + 9,
    holes: []
  });
  const g = $derived(
    sheetGeometry(trunk, practice.tree.lowestMm, practice.tree.highestMm, {
      width: Math.max(240, Math.min(660, width - 40 - SCALE_PX)),
      height: 430
    })
  );
  const meanLost = (values: readonly number[]) => (values.length === 0 ? 0 : mean(values));
  const lost = $derived(meanLost(turns.map((turn) => turn.lost)));
  const pct = (share: number) => `${Math.round(100 * share)} %`;
  /** What an honest look at the shavings says. */
  const shavingsOf = (share: number) =>
    share <= DEFAULT_COLUMNS.hitShare
      ? 'Pale cream: clear wood.'
      : share < 0.8
        ? 'Partly brown: it met old wood.'
        : 'All brown: in old wood.';

  function aim({ bearingDeg, heightMm }: BarkSpot): void {
    if (over) return;
    aimed = {
      bearingDeg: normaliseBearing(bearingDeg),
      heightMm: Math.min(practice.tree.highestMm, Math.max(practice.tree.lowestMm, heightMm))
    };
  }
  function drill(): void {
    if (!aimed || over) return;
    const [hole] = hidden.drill(turns.length, [aimed]);
    turns = [...turns, { ...hole!, ...aimed }];
    aimed = null;
    if (turns.length < PRACTICE_SEASONS) return;
    truth = hidden.columnsIn(PRACTICE_SEASONS);
    const [of, n] = [kind, seed];
    drilled = [...drilled, { kind: of, lost: meanLost(turns.map((turn) => turn.lost)) }];
    void long
      .run((remote, told) => remote.othersOnPractice(of, DEFAULT_COLUMNS, n, told))
      .then((found) => (others = found));
  }
  function choose(next: PracticeKind): void {
    kind = next;
    again();
  }
  function again(): void {
    long.stop();
    [turns, aimed, others, truth] = [[], null, null, []];
    seed = Math.floor(Math.random() * 1e6);
  }
  function onkeydown(event: KeyboardEvent): void {
    const at = aimed ?? { bearingDeg: 180, heightMm: (practice.tree.lowestMm + practice.tree.highestMm) / 2 };
    const next = movedBy(event.key, at, event.shiftKey ? 50 : 20, trunk.woodRadiusMm);
    if (event.key === 'Enter') drill();
    else if (next) aim(next);
    else return;
    event.preventDefault();
  }

  /** A column as it really is, for the end: leaning with the grain. */
  function outline(column: Column): string {
    const points = Array.from({ length: 17 }, (_, i) => -1 + i / 8);
    const degrees = (mm: number) => toDegrees(mm / trunk.woodRadiusMm);
    const middle = xOf(g, degrees(column.leftMm));
    const at = (part: number, side: number) => {
      const up = part * column.halfLengthMm;
      const left = up * column.lean + side * column.halfWidthMm * (1 - part * part);
      return `${middle - left * g.scale} ${yOf(g, column.heightMm + up)}`;
    };
    return `M${[...points.map((p) => at(p, 1)), ...points.toReversed().map((p) => at(p, -1))].join(' L')} Z`;
  }
  const OTHERS: Readonly<Record<PracticeOther, string>> = {
    sunny: 'On the sunny side',
    anywhere: 'Anywhere, without a look',
    handSpan: STRATEGY_LABELS.handSpan.name,
    rotation: STRATEGY_LABELS.rotation.name
  };
  const mine = $derived(drilled.filter((each) => each.kind === kind));
  const usual = $derived(meanLost(mine.map((each) => each.lost)));
  const rows = $derived([
    { name: mine.length > 1 ? `You, over ${mine.length} trunks` : 'You', here: lost, usual, from: null, to: null },
    ...(others ?? []).map(({ id, ...figures }) => ({ name: OTHERS[id], ...figures }))
  ]);
  const most = $derived(Math.max(0.1, ...rows.map(({ usual, to }) => Math.max(usual, to ?? 0))));
  const left = (share: number) => `${(100 * share) / most}%`;
  /** what was lost, in sap and in syrup of a tap with a bucket */
  const sap = $derived(lost * PRACTICE_SEASONS * LITRES_A_TAP);
  const syrup = $derived(lost * syrupFrom(PRACTICE_SEASONS).usual);
  const verdict = $derived.by(() => {
    const of = (id: PracticeOther) => others?.find((each) => each.id === id)?.usual;
    const [plan, anywhere] = [of('rotation'), of('anywhere')];
    if (plan === undefined || anywhere === undefined) return null;
    if (usual <= plan + 0.02) return 'As good as the plan: you have an eye for it.';
    const south = turns.filter(({ bearingDeg }) => Math.abs(bearingDeg - 180) < 60).length;
    if (south >= 4) return 'You kept to the sunny side, where most of the old holes are.';
    if (usual < anywhere / 2) return 'Less than half of what drilling anywhere costs.';
    return 'Not much better than drilling anywhere. Old marks tell where columns begin, but they reach a hand’s length and more above and below.';
  });
  /** heights to read the bark by */
  const heights = $derived.by(() => {
    const step = preferences.units === 'metric' ? 200 : 152.4;
    const first = Math.ceil(g.lowestMm / step);
    return Array.from({ length: Math.floor(g.highestMm / step) - first + 1 }, (_, i) => (first + i) * step);
  });
</script>

<h1 class="sr-only">Practice trunk</h1>
<div class="grid gap-x-10 gap-y-5 lg:grid-cols-[minmax(0,1fr)_22rem]" bind:clientWidth={width}>
  <section aria-label="The practice trunk" class="min-w-0">
    <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
    <div
      class="w-fit cursor-crosshair touch-none"
      role="application"
      tabindex="0"
      aria-label="Bark of the practice trunk. Arrow keys aim, Enter drills."
      data-testid="practice-bark"
      {onkeydown}
      onpointerdown={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        aim(spotAt(g, event.clientX - box.left - SCALE_PX, event.clientY - box.top - 22));
      }}
    >
      <svg class="block overflow-visible" width={g.width + SCALE_PX} height={g.height + 22}>
        {#each heights as height (height)}
          {@const y = yOf(g, height) + 22}
          <text x={SCALE_PX - 8} y={y + 4} text-anchor="end" class="fill-current text-[12px] tabular-nums"
            >{preferences.length(height, 'hand')}</text
          >
          <path d="M{SCALE_PX - 5} {y} h5" stroke="currentColor" />
        {/each}
        <g transform="translate({SCALE_PX} 0)">
          {#each ['N', 'NW', 'W', 'SW', 'S', 'SE', 'E', 'NE', 'N'] as name, i (i)}
            <text x={(g.width * i) / 8} y="14" text-anchor="middle" class="fill-current text-[13px]">{name}</text>
          {/each}
          <g transform="translate(0 22)">
            <rect width={g.width} height={g.height} fill={over ? 'var(--wood-clear)' : '#a58c72'} stroke="#2c2119" />
            {#if !over}
              {#each Array.from({ length: 40 }, (_, i) => i) as i (i)}
                <path
                  d="M{(g.width * (i + 0.5)) / 40} 0 q{i % 2 ? 5 : -5} {g.height / 4} 0 {g.height / 2} t0 {g.height /
                    2}"
                  stroke="#6d5743"
                  stroke-width={1 + (i % 3)}
                  stroke-opacity="0.5"
                  fill="none"
                />
              {/each}
            {/if}
            <clipPath id="practice"><rect width={g.width} height={g.height} /></clipPath>
            <g clip-path="url(#practice)">
              {#each truth as column, i (i)}
                <path d={outline(column)} fill="var(--wood-stained)" fill-opacity={1 - column.fromDepthMm / 42} />
              {/each}
            </g>
            {#each practice.past as hole, i (i)}
              <!-- the older a scar, the less of it is left to see -->
              <circle
                cx={xOf(g, hole.bearingDeg)}
                cy={yOf(g, hole.heightMm)}
                r="4"
                fill="#2c2119"
                opacity={over ? 0.8 : Math.max(0.12, 0.9 - 0.06 * hole.seasonsAgo)}
              />
            {/each}
            {#each turns as turn, i (i)}
              <circle cx={xOf(g, turn.bearingDeg)} cy={yOf(g, turn.heightMm)} r="9" fill="#f4e7c9" stroke="#2c2119" />
              <text
                x={xOf(g, turn.bearingDeg)}
                y={yOf(g, turn.heightMm) + 4}
                text-anchor="middle"
                class="fill-[#2c2119] text-[12px] font-bold">{i + 1}</text
              >
            {/each}
            {#if aimed}
              {@const [x, y] = [xOf(g, aimed.bearingDeg), yOf(g, aimed.heightMm)]}
              <g stroke="#2c2119" stroke-width="2.5" fill="none">
                <circle cx={x} cy={y} r="15" />
                <path d="M{x - 23} {y} h12 M{x + 11} {y} h12 M{x} {y - 23} v12 M{x} {y + 11} v12" />
              </g>
            {/if}
          </g>
        </g>
      </svg>
    </div>
    <p class="aside mt-1 max-w-xl">
      {over
        ? 'The bark is off: brown is what the old holes and yours have stained, leaning as this tree’s grain leans.'
        : `A trunk ${preferences.length(2 * trunk.barkRadiusMm, 'trunk')} thick, ${KINDS.find(({ id }) => id === kind)!.says}. Dark dots are scars; the older, the fainter. What is stained under the bark you have to judge.`}
    </p>
  </section>
  <section aria-label="Your seasons" class="flex flex-col gap-4">
    <ToggleGroup label="Which trunk" options={KINDS} value={kind} onchange={choose} />
    {#if !over}
      <h2>Season {turns.length + 1} of {PRACTICE_SEASONS}</h2>
      <p>Where would you drill? Click the bark, or aim with the arrow keys.</p>
      {#if aimed}<p class="font-semibold" data-testid="aim">
          {compassPoint(aimed.bearingDeg)} side, {preferences.length(aimed.heightMm, 'hand')} up
        </p>{/if}
      <button class="btn btn-primary" disabled={!aimed} onclick={drill}>Drill here</button>
    {:else}
      <h2>After ten seasons</h2>
      <p class="text-lg" data-testid="practice-end">
        You lost <b>{pct(lost)}</b> of the sap to old wood: about {preferences.volume(sap)} in ten seasons, or
        {preferences.fewLitres(syrup)} of syrup. {verdict ?? ''}
      </p>
      {#if others === null}<LongRunStatus run={long} what="Drilling many such trunks by other habits" />
      {:else}
        <table class="w-full text-left">
          <thead
            ><tr class="text-sm"
              ><th class="py-1 font-semibold">Sap lost</th><th class="sr-only">Drawn</th><th
                class="text-right font-semibold">usually</th
              ><th class="pl-3 text-right font-semibold">here</th></tr
            ></thead
          >
          <tbody>
            {#each rows as row (row.name)}
              <tr class="border-b border-base-300/60 {row.from === null ? 'font-bold' : ''}">
                <th class="py-1 pr-3 {row.from === null ? '' : 'font-normal'}">{row.name}</th>
                <td class="w-24"
                  ><span class="relative block h-4"
                    ><span class="absolute top-1 block h-2 bg-base-content/70" style:width={left(row.usual)}></span>
                    {#if row.from !== null}<span
                        class="absolute top-[7px] block h-0.5 bg-primary"
                        style:left={left(row.from)}
                        style:width={left(row.to - row.from)}
                      ></span>{/if}</span
                  ></td
                >
                <td class="pl-2 text-right whitespace-nowrap tabular-nums">{pct(row.usual)}</td>
                <td class="pl-3 text-right whitespace-nowrap tabular-nums">{pct(row.here)}</td>
              </tr>
            {/each}
          </tbody>
        </table>
        <p class="aside">
          Usually: over many trunks of this kind; the line spans nine of ten of them. Here: on this one, where luck has
          a hand in it.{mine.length < 3 ? ' Drill two or three before you trust your own figure.' : ''}
        </p>
      {/if}
      <button class="btn self-start btn-primary" onclick={again}>Another trunk</button>
    {/if}
    {#if turns.length > 0}
      <table class="w-full text-left" aria-live="polite" data-testid="practice-log">
        <thead
          ><tr class="border-b-2 border-base-content"
            ><th class="py-1 font-semibold">Season</th><th class="font-semibold">Shavings</th><th
              class="text-right font-semibold">Sap lost</th
            ></tr
          ></thead
        >
        <tbody>
          {#each turns as turn, i (i)}
            <tr class="border-b border-base-300/60"
              ><td class="py-0.5">{i + 1}</td><td>{shavingsOf(turn.lost)}</td><td class="text-right tabular-nums"
                >{pct(turn.lost)}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
    {/if}
  </section>
</div>
