<script lang="ts">
  import { seededRng } from '@baumkin/core/math';
  import {
    DIEBACK_STEP_PCT,
    drawCrown,
    judgeCrown,
    reachToward,
    SIDES,
    type CrownJudgement,
    type Side,
    type SideWhy,
    type StandTree
  } from '@baumkin/core/stand';

  import CrownDrawing from '$lib/count/CrownDrawing.svelte';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import Slider from '$lib/ui/Slider.svelte';
  import { capital } from '$lib/words/capital.ts';

  /**
   * Which sides of a crown are free, and how much of it is dead? Both are judged by eye from below, and the release of a tree, its
   * rest and its holes hang on them.
   */
  // Practice may differ from one day to the next; nothing that is kept rests on it.
  const rng = seededRng(Math.floor(Math.random() * 2 ** 31));
  let scene = $state.raw(drawCrown(rng));
  let seed = $state(Math.floor(rng.uniform() * 1e6));
  let blocked = $state.raw<readonly Side[]>([]);
  let diebackPct = $state(0);
  let judged = $state.raw<CrownJudgement | null>(null);
  let score = $state({ right: 0, sides: 0, near: 0, of: 0 });

  const SIZE = 420;
  const SEEN_M = 13;
  const px = (m: number) => (m * SIZE) / (2 * SEEN_M);
  const outline = (tree: StandTree) =>
    `M${Array.from({ length: 36 }, (_, i) => {
      const reach = reachToward(tree, i * 10);
      const angle = (i * Math.PI) / 18;
      return `${SIZE / 2 + px(tree.eastM + reach * Math.sin(angle))} ${SIZE / 2 - px(tree.northM + reach * Math.cos(angle))}`;
    }).join(' L')} Z`;
  const NAME: Readonly<Record<Side, string>> = { north: 'north', east: 'east', south: 'south', west: 'west' };
  const toggle = (side: Side) =>
    (blocked = blocked.includes(side) ? blocked.filter((each) => each !== side) : [...blocked, side]);
  const metres = (m: number) => preferences.length(1000 * Math.max(0, m), 'ground');

  function judge(): void {
    judged = judgeCrown(scene, { blocked, diebackPct });
    score = {
      right: score.right + judged.sides.filter(({ right }) => right).length,
      sides: score.sides + SIDES.length,
      near: score.near + (judged.diebackNear ? 1 : 0),
      of: score.of + 1
    };
  }
  function next(): void {
    [scene, seed, blocked, diebackPct, judged] = [drawCrown(rng), Math.floor(rng.uniform() * 1e6), [], 0, null];
  }
  function whyWords(because: SideWhy): string {
    switch (because.why) {
      case 'touches':
        return because.gapM <= 0
          ? 'the crowns grow into each other'
          : `only ${metres(because.gapM)} lie between the crowns`;
      case 'shorter':
        return 'who stands there is far below: it takes no light from the side';
      case 'apart':
        return `${metres(because.gapM)} of sky lie between the crowns`;
      case 'nobody':
        return 'nobody stands there';
    }
  }
</script>

<h1>Which sides are free, and how much is dead?</h1>
<div class="mt-3 grid gap-x-10 gap-y-6 lg:grid-cols-[26rem_minmax(0,26rem)]">
  <section aria-label="The crown from above" class="flex flex-col gap-2">
    <div class="w-full max-w-[26rem]">
      <svg
        viewBox="0 0 {SIZE} {SIZE}"
        class="block w-full bg-base-200"
        role="img"
        aria-label="The crown in the middle among its neighbours, north up, with the height of each"
      >
        {#each scene.others as tree (tree.id)}
          <path
            d={outline(tree)}
            class="fill-secondary"
            fill-opacity="0.25"
            stroke="currentColor"
            stroke-opacity="0.5"
          />
          <text
            x={SIZE / 2 + px(tree.eastM)}
            y={SIZE / 2 - px(tree.northM) + 5}
            text-anchor="middle"
            class="fill-current text-[14px]">{metres(tree.heightM ?? 0)}</text
          >
        {/each}
        <path
          d={outline(scene.subject)}
          class="fill-secondary"
          fill-opacity="0.7"
          stroke="currentColor"
          stroke-width="2"
        />
        <text x={SIZE / 2} y={SIZE / 2 + 5} text-anchor="middle" class="fill-current text-[15px] font-bold"
          >{metres(scene.subject.heightM ?? 0)}</text
        >
        <path
          d="M{SIZE * 0.2} {SIZE * 0.2} L{SIZE * 0.8} {SIZE * 0.8} M{SIZE * 0.8} {SIZE * 0.2} L{SIZE * 0.2} {SIZE *
            0.8}"
          stroke="currentColor"
          stroke-dasharray="3 5"
          stroke-opacity="0.45"
        />
      </svg>
    </div>
    {#if !judged}
      <div class="grid max-w-[26rem] grid-cols-2 gap-2">
        {#each SIDES as side (side)}
          <button
            class="btn {blocked.includes(side) ? 'btn-neutral' : 'btn-outline'}"
            aria-pressed={blocked.includes(side)}
            onclick={() => toggle(side)}>{capital(NAME[side])}: {blocked.includes(side) ? 'blocked' : 'free'}</button
          >
        {/each}
      </div>
    {/if}
    <p class="aside">
      From above, north up; the figures are heights. Touch a side to say that somebody there takes its light.
    </p>
  </section>
  <section aria-label="The crown from the side" class="flex flex-col gap-3">
    <CrownDrawing diebackPct={scene.diebackPct} {seed} size="h-56 w-56 self-start" />
    {#if !judged}
      <Slider label="Dieback, per cent" min={0} max={100} step={DIEBACK_STEP_PCT} bind:value={diebackPct}
        >{#snippet says()}<span
            >Of the fine branches <b data-testid="said-dieback">{diebackPct} %</b> are dead. Shaded branches deep inside do
            not count.</span
          >{/snippet}</Slider
      >
      <button class="btn self-start btn-primary" onclick={judge}>That is what I see</button>
    {/if}
    <div role="status">
      {#if judged}
        {@const wrong = judged.sides.filter(({ right }) => !right)}
        <div
          class="border-l-[6px] pl-4 {wrong.length === 0 && judged.diebackNear ? 'border-secondary' : 'border-primary'}"
          data-testid="crown-judged"
        >
          <p class="font-slab text-xl font-semibold">
            {wrong.length === 0 ? 'All four sides seen right' : `${4 - wrong.length} of 4 sides seen right`}: {counted(
              judged.freeSides,
              'side is',
              'sides are'
            )} free.
          </p>
          <ul>
            {#each judged.sides as { side, blocked: is, right, because } (side)}
              <li class={right ? '' : 'font-semibold'}>
                {capital(NAME[side])} is {is ? 'blocked' : 'free'}: {whyWords(because)}.
              </li>
            {/each}
          </ul>
          <p class="mt-2">
            {scene.diebackPct} % are dead; you said {diebackPct}.
            {judged.diebackOff === 0
              ? 'Exactly.'
              : judged.diebackNear
                ? 'That is near enough: two steps of five are within what crews are held to.'
                : `That is too ${judged.diebackOff > 0 ? 'much' : 'little'}: halve the crown in your mind, then halve it again.`}
          </p>
          <button class="btn mt-3 btn-primary" onclick={next}>Next crown</button>
        </div>
      {/if}
    </div>
    {#if score.of > 0}<p class="aside" data-testid="crown-score">
        {score.right} of {score.sides} sides right; dieback near enough on {score.near} of {counted(score.of, 'crown')}.
      </p>{/if}
  </section>
</div>
