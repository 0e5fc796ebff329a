<script lang="ts">
  import {
    crossingsOn,
    dropReach,
    holdsLevels,
    judgeLines,
    partsOfLines,
    workOfLines,
    type LineJudged
  } from '@baumkin/core/bush';
  import { writeLinesGeoJson } from '@baumkin/core/exchange';
  import type { Point } from '@baumkin/core/geometry';
  import { LINE_HOURS_SPREAD, PARTS_IN_METRES } from '@baumkin/core/lines';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saveAs } from '$lib/client/decode.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import {
    findingsInWords,
    LINE_PART_WORDS,
    longerDropWords,
    mendWords,
    missedInWords,
    PIPE_USE_WORDS,
    SURETY_WORDS,
    runThrough
  } from '$lib/labels/lines.ts';
  import { mapTrees } from '$lib/map/mapTrees.ts';
  import { questionsFor } from '$lib/map/questions.ts';
  import StandMap from '$lib/map/StandMap.svelte';
  import { capital } from '$lib/words/capital.ts';
  import { untrack } from 'svelte';

  import BringLinesIn from './BringLinesIn.svelte';
  import LevelForm from './LevelForm.svelte';
  import LineCrossings from './LineCrossings.svelte';
  import LineForm from './LineForm.svelte';
  import LineProfile from './LineProfile.svelte';
  import ProposeRoute from './ProposeRoute.svelte';

  /**
   * Where does a line not fall, and what would mend it? All that was ever levelled is laid together; of each stretch it is said how sure
   * its fault is, and which lift, post, bore or split would mend it: nobody squinted down a wire, or believed a map's heights.
   */
  const bush = useBush();
  const lines = $derived(judgeLines(bush.bushRecords, bush.rows));
  /** What is shown, and before it what that was before it was changed: a change that is taken back leaves it shown. */
  let chosenIds = $state.raw<readonly string[]>([]);
  const choose = (id: string) => (chosenIds = [id]);
  const became = (id: string) => (chosenIds = [id, ...chosenIds]);
  const hoursWords = (hours: number) =>
    `${Math.max(1, Math.round(hours / LINE_HOURS_SPREAD))} to ${counted(Math.max(2, Math.ceil(hours * LINE_HOURS_SPREAD)), 'hour')}`;
  const worth = ({ findings, faults }: LineJudged) =>
    faults.length + findings.filter(({ surety }) => surety !== 'cannotBeTold').length;
  /** how a line of which nothing is known to be wrong stands */
  const stateOf = ({ line, levelled, findings }: LineJudged) =>
    line.use === 'air' ? '' : !levelled ? 'not levelled' : findings.length > 0 ? 'cannot be told' : 'falls';
  const chosen = $derived(
    chosenIds.flatMap((id) => lines.find(({ line }) => line.id === id) ?? [])[0] ??
      lines.toSorted((a, b) => worth(b) - worth(a))[0] ??
      null
  );
  $effect(() => {
    const ids = chosen?.line.drops.map(({ treeId }) => treeId) ?? [];
    untrack(() => ids.filter((id) => !bush.hasLife(id)).forEach((id) => void bush.loadTree(id)));
  });
  /** how far each drop of the chosen line reaches, as far as its tree is here and was measured */
  const drops = $derived(
    (chosen?.line.drops ?? []).flatMap(({ treeId, dropMm }) => {
      const reach = bush.hasLife(treeId) ? dropReach(bush.stateOf(treeId), dropMm, bush.season) : null;
      return reach ? [{ tag: bush.tagOf(treeId), ...reach }] : [];
    })
  );
  const findings = $derived(
    chosen
      ? [
          ...findingsInWords(chosen, preferences),
          ...missedInWords(drops).map((says) => ({ surety: 'sure' as const, says }))
        ]
      : []
  );
  const mends = $derived(chosen ? [...mendWords(chosen, preferences), ...longerDropWords(drops, preferences)] : []);
  const parts = $derived(partsOfLines(lines));
  const work = $derived(workOfLines(lines));

  // Drawing.
  let drawing = $state<'new' | 'course' | null>(null);
  let outline = $state<[number, number][] | null>(null);
  let forming = $state(false);
  let changing = $state(false);
  let levelling = $state(false);
  let map: HTMLElement;
  function draw(what: 'new' | 'course'): void {
    drawing = what;
    map.scrollIntoView({ block: 'nearest' });
    outline = what === 'course' && chosen ? chosen.line.points.map(([e, n]) => [e, n]) : null;
  }
  function drawn(line: [number, number][]): void {
    outline = line;
    if (drawing === 'new') forming = true;
  }
  function end(): void {
    drawing = null;
    outline = null;
  }
  async function keepCourse(): Promise<void> {
    if (!chosen || !outline) return;
    const { id, recordedAt: _at, ...line } = chosen.line;
    const elsewhere = chosen.levelled && !holdsLevels(line.points, outline);
    const record = await bush.recordOfBush({
      ...line,
      points: $state.snapshot(outline) as Point[] as [number, number][],
      crossings: crossingsOn(outline, line.crossings),
      runsSince: elsewhere ? new Date().toISOString() : line.runsSince,
      correctsId: id
    });
    became(record.id);
    end();
    saved(
      bush,
      `${line.name} runs as drawn.${elsewhere ? ' It was levelled where it ran before: level it afresh.' : ''}`,
      record
    );
  }
  function saveAll(): void {
    const origin = bush.overview?.bush.origin;
    if (!origin) return;
    const names = new Map([
      ...bush.rows.map(({ id, tag }) => [id, tag] as const),
      ...bush.bushRecords.flatMap((record) =>
        record.kind === 'collectingPlace' ? [[record.id, record.name] as const] : []
      )
    ]);
    saveAs('lines.geojson', writeLinesGeoJson(lines, names, origin), 'application/geo+json');
  }
  async function takeAway(): Promise<void> {
    if (!chosen) return;
    const { line } = chosen;
    saved(bush, `${line.name} is taken away.`, ...(await bush.withdraw(line)));
  }

  const question = $derived(questionsFor(bush)[0]!);
  /** Trees that are tapped, or shall be: the others are none of a line's business. */
  const onLines = $derived(new Set(lines.flatMap(({ line }) => line.drops.map(({ treeId }) => treeId))));
  const shown = $derived(
    bush.rows.filter(({ id, decidedTaps, drilled }) => (decidedTaps ?? 0) > 0 || drilled > 0 || onLines.has(id))
  );
  const scene = $derived({
    trees: mapTrees(shown, question),
    tones: question.answers,
    chosen: new Set(chosen?.line.drops.map(({ treeId }) => treeId)),
    current: null
  });
  const pipes = $derived(
    lines
      .filter(({ line }) => drawing !== 'course' || line.id !== chosen?.line.id)
      .map(({ line, ...judged }) => ({
        points: line.points,
        name: line.use === 'lateral' ? '' : line.name,
        thin: line.use === 'lateral',
        dashed: line.use === 'air',
        chosen: line.id === chosen?.line.id,
        wrong: worth({ line, ...judged }) > 0
      }))
  );
</script>

<div class="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1fr)_23rem]">
  <section class="flex min-w-0 flex-col gap-3" aria-label="The lines on the map">
    <div class="flex min-h-9 flex-wrap items-center gap-3 print:hidden">
      {#if drawing}
        <p class="grow">
          {outline === null
            ? 'Click from its upper end down to its foot, at each bend; a double click ends it.'
            : 'Drag a bend to move it, a middle point to make a new one; a right click takes a bend out.'}
        </p>
        {#if drawing === 'course'}<button class="btn btn-primary btn-sm" disabled={!outline} onclick={keepCourse}
            >Keep this course</button
          >{:else if outline}<button class="btn btn-primary btn-sm" onclick={() => (forming = true)}
            >Say what it is</button
          >{/if}
        <button class="btn btn-outline btn-sm" onclick={end}>Cancel</button>
      {:else}
        <h2 class="grow">On the map</h2>
        {#if bush.mayDecide && bush.overview?.bush.origin}
          <BringLinesIn onkept={choose} />
          <ProposeRoute onkept={choose} />
        {/if}
        {#if bush.mayDecide}<button class="btn btn-outline btn-sm" onclick={() => draw('new')}>Draw a line</button>{/if}
      {/if}
    </div>
    <div bind:this={map} class="h-[46dvh] min-h-72 overflow-hidden border border-base-300 print:hidden">
      <StandMap
        {scene}
        stands={bush.overview?.stands ?? []}
        features={bush.features}
        {pipes}
        mode={drawing ? 'course' : 'look'}
        {outline}
        editable
        onoutline={drawn}
      />
    </div>
    {#if chosen}
      <div>
        <h2>{chosen.line.name}, from the side</h2>
        <LineProfile judged={chosen} />
        <p class="aside">
          Dots: where it bends or was levelled. Grey: where it lies eight times in ten. Amber: it rises, sags or falls
          too little; dashed: cannot be told. {chosen.lifting
            ? 'Dotted green: lifted so that it falls everywhere.'
            : ''}
        </p>
      </div>
    {/if}
  </section>
  <section class="flex min-w-0 flex-col gap-4" aria-label="What is wrong with them">
    {#if !chosen}
      <div>
        <h2>No line is drawn yet</h2>
        <p>
          Draw each pipe from its upper end to its foot, say what runs into it, and level it: then it is told where sap
          would stand and freeze, and what mends it.
        </p>
      </div>
    {:else}
      <div class="border-l-[6px] pl-4 {worth(chosen) > 0 ? 'border-primary' : 'border-base-300'}" data-testid="line">
        <h2 class="font-slab text-2xl leading-tight">{chosen.line.name}</h2>
        <p class="aside">
          {PIPE_USE_WORDS[chosen.line.use]}, {preferences.length(1000 * chosen.lengthM, 'way')}, bore {preferences.length(
            chosen.line.boreMm,
            'drill'
          )}{chosen.line.use === 'air'
            ? ''
            : `; ${runThrough(chosen.tapsAbove)}, it bears ${chosen.bears} in the best hour`}
        </p>
        <ul class="mt-2 flex flex-col gap-1.5" data-testid="line-findings">
          {#each findings as { surety, says } (says)}
            <li>
              {#if surety !== 'cannotBeTold'}<b>{capital(SURETY_WORDS[surety])}:</b>
                {says}{:else}{capital(says)}{/if}
            </li>
          {:else}<li>
              {chosen.line.use === 'air'
                ? 'Air runs uphill as well.'
                : 'It falls everywhere, as far as it was levelled.'}
            </li>{/each}
        </ul>
        {#if mends.length > 0}
          <ul class="mt-2 list-disc pl-5" data-testid="line-mends">
            {#each mends as mend (mend)}<li>{mend}</li>{/each}
          </ul>
        {/if}
        <div class="mt-3 flex flex-wrap gap-2 print:hidden">
          {#if bush.mayRecord}<button class="btn btn-primary btn-sm" onclick={() => (levelling = true)}>Level it</button
            >{/if}
          {#if bush.mayDecide}
            <button class="btn btn-outline btn-sm" onclick={() => (changing = true)}>Change</button>
            <button class="btn btn-outline btn-sm" onclick={() => draw('course')}>Bend it</button>
            <button class="btn btn-ghost btn-sm" onclick={takeAway}>Take it away</button>
          {/if}
        </div>
      </div>
      <LineCrossings judged={chosen} onkept={became} />
      <div>
        <div class="flex items-baseline gap-3">
          <h2 class="grow">All lines</h2>
          {#if bush.overview?.bush.origin}<button
              class="min-h-9 link text-sm max-md:min-h-12 print:hidden"
              onclick={saveAll}>Save as GeoJSON</button
            >{/if}
        </div>
        <ul data-testid="all-lines">
          {#each lines as judged (judged.line.id)}
            {@const many = worth(judged)}
            <li class="border-b border-base-300">
              <button
                class="flex min-h-9 w-full items-baseline gap-2 text-left {judged === chosen ? 'font-bold' : ''}"
                aria-current={judged === chosen}
                onclick={() => choose(judged.line.id)}
                ><span class="grow">{judged.line.name}</span><span class="aside"
                  >{preferences.length(1000 * judged.lengthM, 'way')}</span
                ><span class="w-24 text-right {many > 0 ? 'font-bold' : 'aside'}"
                  >{many > 0 ? `${many} to mend` : stateOf(judged)}</span
                ></button
              >
            </li>
          {/each}
        </ul>
      </div>
    {/if}
    {#if parts.length > 0}
      <div data-testid="line-work">
        <h2>Work at all lines</h2>
        <p>
          Hours of one person, eight times in ten. To put them up: {hoursWords(work.build)}. Each year: {[
            ...(work.mend > 0 ? [`${hoursWords(work.mend)} to mend what stays up`] : []),
            ...(work.down > 0
              ? [`${hoursWords(work.down + work.up)} to take down what does not, and to put it up again`]
              : [])
          ].join('; ')}.
        </p>
        <p>
          <b>Leave up or take down?</b> If all stayed up, {hoursWords(work.ifAll.staysUp)} a year; if all came down, {hoursWords(
            work.ifAll.comesDown
          )}. Left up, lines are washed where they hang, and squirrels, limbs and sun have them for nine months; taken
          down, they are washed and looked over on a bench. Our way: what hangs on a wire stays, laterals come down
          where people or cattle walk, or trees are felled in summer.
        </p>
      </div>
      <div>
        <h2>Parts of all lines</h2>
        <table class="w-full text-right" data-testid="line-parts">
          <thead
            ><tr class="border-b-2 border-base-content"
              ><th class="py-1 text-left">What</th><th class="pl-3">Needed</th><th class="pl-3">With spares</th></tr
            ></thead
          >
          <tbody>
            {#each parts as { what, boreMm, needed, withSpares } (`${what} ${boreMm}`)}
              {@const metres = PARTS_IN_METRES.includes(what)}
              {@const show = (many: number) => (metres ? preferences.length(1000 * many, 'way') : String(many))}
              <tr class="border-b border-base-300"
                ><td class="py-1 text-left"
                  >{LINE_PART_WORDS[what]}{boreMm === null ? '' : `, ${preferences.length(boreMm, 'drill')}`}</td
                ><td class="pl-3">{show(needed)}</td><td class="pl-3"><b>{show(withSpares)}</b></td></tr
              >
            {/each}
          </tbody>
        </table>
        <p class="aside">
          Food-grade pipe and tube; what is left in the sun goes brittle. Firm footing when a wire is drawn tight: it
          whips when it slips. Goggles and gloves.
        </p>
      </div>
    {/if}
  </section>
</div>

<LineForm
  bind:open={() => forming, (open) => ((forming = open), open || drawing !== 'new' || end())}
  points={outline ?? []}
  onkept={({ id }) => choose(id)}
/>
{#if chosen}
  <LineForm bind:open={changing} of={chosen.line} points={chosen.line.points} onkept={({ id }) => became(id)} />
  <LevelForm bind:open={levelling} judged={chosen} />
{/if}
