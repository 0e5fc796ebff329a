<script lang="ts">
  import {
    diameterUp,
    drawTrunk,
    judgeMeasured,
    rightPlaces,
    stepMm,
    stickShows,
    tapeShows,
    TRUNK_TROUBLES,
    yearsOfGrowth,
    type MeasuredJudgement
  } from '@baumkin/core/measure';
  import { seededRng } from '@baumkin/core/math';
  import { parseTrunkLength, UnreadableLength } from '@baumkin/core/units';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { MEASURING_FAULTS } from '$lib/labels/measure.ts';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';

  import PracticeTape from './PracticeTape.svelte';

  /**
   * Where does the tape go, and what does it say? A trunk with one trouble, a tape that can be laid anywhere round it, and what each
   * mistake costs beside what a tree grows in a year.
   */
  const bush = useBush();
  const breastHeightMm = bush.overview!.bush.settings.breastHeightMm;
  // Practice may differ from one day to the next; nothing that is kept rests on it.
  const rng = seededRng(Math.floor(Math.random() * 2 ** 31));
  let at = $state(0);
  /** each trouble once, the easiest first, and then whichever */
  const draw = () =>
    drawTrunk(
      rng,
      breastHeightMm,
      TRUNK_TROUBLES[at] ?? TRUNK_TROUBLES[Math.floor(rng.uniform() * TRUNK_TROUBLES.length)]!
    );
  let scene = $state.raw(draw());
  let heightMm = $state(1000);
  /** against the trunk; a tape that hangs level round a leaning trunk is askew */
  let tiltDeg = $state(0);
  let around = $state<'one' | 'both'>('one');
  let stands = $state<'uphill' | 'downhill'>('downhill');
  let quantity = $state<'girth' | 'diameter'>('girth');
  let text = $state('');
  let problem = $state('');
  let judged = $state.raw<MeasuredJudgement | null>(null);
  let score = $state({ right: 0, of: 0 });

  const TOP_MM = 2150;
  const MARGIN_MM = 320;
  const SCALE = 0.225;
  const MIDDLE = 210;
  const yOf = (mm: number) => (TOP_MM - mm) * SCALE;
  const laid = $derived({ heightMm, tiltDeg, bothStems: around === 'both' });
  const isStick = $derived(scene.reachMm !== null);
  const shownMm = $derived(isStick ? stickShows(scene, heightMm) : tapeShows(scene, laid));
  /** what a stick showed is put right, or taken for the trunk's own */
  let asSeen = $state<'across' | 'seen'>('across');
  const step = $derived(stepMm(scene));
  /** above the feet of who stands there */
  const overFeet = $derived(heightMm + (scene.slopeDeg > 0 && stands === 'downhill' ? step : 0));
  const stemsApart = $derived(scene.forkMm === null ? 0 : diameterUp(scene, scene.forkMm + 400) * 0.62);

  /** The edge of the trunk from one height to another. @param asideOf how far its middle stands aside at a height */
  function outline(fromMm: number, toMm: number, asideOf: (mm: number) => number = () => 0): string {
    const heights = Array.from({ length: 40 }, (_, i) => fromMm + ((toMm - fromMm) * i) / 39);
    const edge = (side: number) =>
      heights.map((mm) => `${MIDDLE + (asideOf(mm) + (side * diameterUp(scene, mm)) / 2) * SCALE} ${yOf(mm)}`);
    return `M${[...edge(-1), ...edge(1).reverse()].join(' L')} Z`;
  }
  const parts = $derived.by(() => {
    const { forkMm } = scene;
    if (forkMm === null) return [outline(-step - 40, TOP_MM)];
    // A stem leaves the trunk at its edge, and stands apart a little higher.
    const atFork = (diameterUp(scene, forkMm) - diameterUp(scene, forkMm + 1)) / 2;
    const aside = (side: number) => (mm: number) => {
      const up = Math.min(1, (mm - forkMm) / 300);
      return side * (atFork + (stemsApart - atFork) * up * (2 - up));
    };
    return [outline(forkMm + 1, TOP_MM, aside(-1)), outline(forkMm + 1, TOP_MM, aside(1)), outline(-step - 40, forkMm)];
  });
  const isOver = $derived(scene.forkMm !== null && heightMm > scene.forkMm);
  const tape = $derived.by(() => {
    const half = diameterUp(scene, heightMm) / 2;
    if (!isOver) return { x: 0, half };
    return around === 'both' ? { x: 0, half: half + stemsApart } : { x: -stemsApart, half };
  });

  function next(): void {
    at += 1;
    scene = draw();
    heightMm = 900 + Math.round(rng.uniform() * 300);
    tiltDeg = scene.leanDeg;
    asSeen = 'across';
    [around, stands, text, problem, judged] = [
      scene.trouble === 'forkBelow' ? 'both' : 'one',
      'downhill',
      '',
      '',
      null
    ];
  }
  const lay = (mm: number) => (heightMm = Math.min(TOP_MM - 100, Math.max(100, Math.round(mm / 10) * 10)));
  const turn = (by: number) => (tiltDeg = Math.min(40, Math.max(-40, tiltDeg + by)));

  function onkeydown(event: KeyboardEvent): void {
    if (judged) return;
    const far = event.shiftKey ? 100 : 20;
    const keys: Readonly<Record<string, () => void>> = {
      ArrowUp: () => lay(heightMm + far),
      ArrowDown: () => lay(heightMm - far),
      ArrowLeft: () => turn(-2),
      ArrowRight: () => turn(2)
    };
    if (!keys[event.key]) return;
    keys[event.key]!();
    event.preventDefault();
  }
  let isDragged = $state(false);
  function drag(event: PointerEvent & { currentTarget: SVGSVGElement }): void {
    if (judged) return;
    const box = event.currentTarget.getBoundingClientRect();
    lay(TOP_MM - ((event.clientY - box.top) * (HEIGHT / box.height)) / SCALE);
  }
  const HEIGHT = (TOP_MM + MARGIN_MM) * SCALE;

  function judge(event: SubmitEvent): void {
    event.preventDefault();
    try {
      const length = parseTrunkLength(text, preferences.trunkUnit);
      judged = judgeMeasured(scene, laid, {
        valueMm: length.valueMm,
        quantity: isStick ? 'diameter' : (length.quantity ?? quantity),
        asSeen: isStick && asSeen === 'seen'
      });
      problem = '';
      score = { right: score.right + (judged.faults.length === 0 ? 1 : 0), of: score.of + 1 };
    } catch (error) {
      if (!(error instanceof UnreadableLength)) throw error;
      problem = error.message;
    }
  }
  const show = (mm: number) => preferences.length(mm, 'trunk');
  function cost(offMm: number): string {
    const years = Math.round(yearsOfGrowth(offMm));
    const much = `${show(Math.abs(offMm))} too ${offMm > 0 ? 'thick' : 'thin'}`;
    return years < 1
      ? `${much}, less than a year’s growth`
      : `${much}: what it grows in about ${counted(years, 'year')}`;
  }
</script>

<h1>{isStick ? 'How thick is it?' : 'Where does the tape go?'}</h1>
<div class="mt-3 grid gap-x-10 gap-y-5 lg:grid-cols-[minmax(0,26rem)_minmax(0,26rem)]">
  <section aria-label="The trunk">
    <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
    <svg
      viewBox="0 0 420 {HEIGHT}"
      class="block max-h-[44vh] w-full max-w-md cursor-ns-resize touch-none select-none md:max-h-[66vh]"
      role="application"
      tabindex="0"
      aria-label="The trunk with the tape round it. Arrow keys up and down move the tape, left and right turn it."
      data-testid="measure-trunk"
      {onkeydown}
      onpointerdown={(event) => {
        isDragged = true;
        drag(event);
      }}
      onpointermove={(event) => isDragged && drag(event)}
      onpointerup={() => (isDragged = false)}
      onpointerleave={() => (isDragged = false)}
    >
      <g transform="rotate({scene.leanDeg} {MIDDLE} {yOf(0)})">
        {#each parts as path, i (i)}<path d={path} fill="#a58c72" stroke="#2c2119" stroke-width="1.5" />{/each}
        {#if judged}
          {#each rightPlaces(scene) as [from, to] (from)}
            <rect
              x={MIDDLE - (diameterUp(scene, from) / 2 + stemsApart) * SCALE - 14}
              y={yOf(to)}
              width="9"
              height={(to - from) * SCALE}
              class="fill-secondary"
            />
          {/each}
        {/if}
        <g transform="rotate({-tiltDeg} {MIDDLE + tape.x * SCALE} {yOf(heightMm)})">
          <rect
            x={MIDDLE + (tape.x - tape.half / Math.cos((tiltDeg * Math.PI) / 180)) * SCALE - 3}
            y={yOf(heightMm) - 5}
            width={(2 * tape.half * SCALE) / Math.cos((tiltDeg * Math.PI) / 180) + 6}
            height="10"
            fill="#f3e3a7"
            stroke="#2c2119"
          />
        </g>
      </g>
      <path
        d="M-20 {yOf(0) -
          (MIDDLE + 20 - (scene.dbhMm / 2) * SCALE) * Math.tan((scene.slopeDeg * Math.PI) / 180)} L440 {yOf(0) +
          (440 - MIDDLE + (scene.dbhMm / 2) * SCALE) * Math.tan((scene.slopeDeg * Math.PI) / 180)} V{HEIGHT + 5} H-20 Z"
        class="fill-base-300"
        stroke="currentColor"
      />
    </svg>
  </section>
  <section aria-label="The tape" class="flex flex-col gap-3">
    <p class="text-lg" data-testid="laid">
      {isStick ? 'The stick' : 'The tape'} is <b>{preferences.length(overFeet, 'hand')}</b> above {scene.slopeDeg > 0
        ? `the ground ${stands}`
        : 'the ground'}{Math.abs(tiltDeg - scene.leanDeg) < 1
        ? ', and level'
        : `, and ${Math.round(Math.abs(tiltDeg - scene.leanDeg))}° off level`}.
    </p>
    {#if !judged}
      <div class="flex flex-wrap gap-2">
        <button class="btn btn-sm" onclick={() => lay(heightMm + 20)}>Higher</button>
        <button class="btn btn-sm" onclick={() => lay(heightMm - 20)}>Lower</button>
        <button class="btn btn-sm" onclick={() => turn(-2)}>Turn left</button>
        <button class="btn btn-sm" onclick={() => turn(2)}>Turn right</button>
      </div>
      {#if scene.slopeDeg > 0}<ToggleGroup
          label="Where you stand"
          look="boxes"
          options={[
            { id: 'uphill', label: 'I stand uphill' },
            { id: 'downhill', label: 'I stand downhill' }
          ]}
          bind:value={stands}
        />{/if}
      {#if scene.forkMm !== null}<ToggleGroup
          label="Round what"
          look="boxes"
          options={[
            { id: 'one', label: 'Round one stem' },
            { id: 'both', label: 'Round both' }
          ]}
          bind:value={around}
        />{/if}
    {/if}
    <PracticeTape girthMm={shownMm} mark={isStick ? 'the other edge' : 'zero of the tape'} />
    {#if scene.reachMm !== null}<p>
        A stick is held flat across the trunk, its zero at one edge. Your eye is <b
          >{preferences.length(scene.reachMm, 'hand')}</b
        > off it.
      </p>{/if}
    <form class="flex flex-col gap-3" onsubmit={judge}>
      {#if isStick}
        <ToggleGroup
          label="What the figure is"
          look="boxes"
          options={[
            { id: 'across', label: 'Diameter, across' },
            { id: 'seen', label: 'As the stick showed it' }
          ]}
          bind:value={asSeen}
        />
      {:else}
        <ToggleGroup
          label="What was measured"
          look="boxes"
          options={[
            { id: 'girth', label: 'Girth, the way round' },
            { id: 'diameter', label: 'Diameter, across' }
          ]}
          bind:value={quantity}
        />
      {/if}
      <label class="flex items-center gap-3"
        >I write down
        <input
          class="input w-36 text-xl"
          autocomplete="off"
          disabled={judged !== null}
          placeholder={preferences.units === 'metric' ? '115 cm' : '45 1/4 in'}
          bind:value={text}
        /></label
      >
      {#if problem}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
      {#if !judged}<button class="btn self-start btn-primary" disabled={text.trim() === ''}>Write it down</button>{/if}
    </form>
    <div role="status">
      {#if judged}
        <div
          class="border-l-[6px] pl-4 {judged.faults.length === 0 ? 'border-secondary' : 'border-primary'}"
          data-testid="measured"
        >
          <p class="font-slab text-xl font-semibold">
            {judged.faults.length === 0 ? 'That is how it is done.' : 'Not yet.'}
          </p>
          <p>It is {show(judged.trueMm)} thick; you have {show(judged.writtenMm)}.</p>
          <ul class="mt-2 flex flex-col gap-2">
            {#each judged.faults as { fault, offMm } (fault)}
              <li>{MEASURING_FAULTS[fault]} <span class="aside">{cost(offMm)}.</span></li>
            {/each}
          </ul>
          <button class="btn mt-3 btn-primary" onclick={next}>Next trunk</button>
        </div>
      {/if}
    </div>
    {#if score.of > 0}<p class="aside" data-testid="measure-score">
        {score.right} of {counted(score.of, 'trunk')} as it should be.
      </p>{/if}
  </section>
</div>
