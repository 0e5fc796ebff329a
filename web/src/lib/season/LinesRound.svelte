<script lang="ts">
  import { afterStorm, lineRound, STORM, type LineStop } from '@baumkin/core/bush';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { runThrough } from '$lib/labels/lines.ts';
  import { inHundred, pieceWords, stopWords, treesByTag } from '$lib/labels/lineCare.ts';
  import { dayWords, shortDay } from '$lib/labels/season.ts';
  import { mapTrees } from '$lib/map/mapTrees.ts';
  import { questionsFor } from '$lib/map/questions.ts';
  import StandMap from '$lib/map/StandMap.svelte';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { capital } from '$lib/words/capital.ts';

  import LineLookForm, { type AskedLook } from './LineLookForm.svelte';

  /**
   * Which piece of all that pipe is walked first, and what is looked for there? Each piece says what was left undone, what can fall on it
   * and what it crosses; after a storm those come first behind which most taps are likely to stand still.
   */
  const bush = useBush();
  const ORDERS = [
    { id: 'walk', label: 'As one walks' },
    { id: 'storm', label: 'After a storm' }
  ] as const;
  let order = $state<(typeof ORDERS)[number]['id']>('walk');
  const round = $derived(
    lineRound({ records: bush.bushRecords, rows: bush.rows, features: bush.features, season: bush.season })
  );
  /** After a storm so many pieces are told of first: they hold most of what is to be feared. */
  const FIRST = 10;
  const stops = $derived(order === 'walk' ? round : afterStorm(round));
  const [first, others] = $derived(order === 'walk' ? [stops, []] : [stops.slice(0, FIRST), stops.slice(FIRST)]);
  /** Of all taps that are to be feared for, the share behind the first pieces. */
  const feared = $derived.by(() => {
    const of = (some: readonly LineStop[]) => some.reduce((sum, { harm, taps }) => sum + harm * taps, 0);
    return of(stops) > 0 ? of(first) / of(stops) : 0;
  });
  /** trees that are marked to come down and are long enough to hit a line, each once */
  const marked = $derived(
    [...new Set(round.flatMap((stop) => stop.marked))].sort((a, b) =>
      a.tag.localeCompare(b.tag, 'en', { numeric: true })
    )
  );
  const metres = $derived(round.reduce((sum, { fromM, toM }) => sum + toM - fromM, 0));
  const idOf = ({ line, fromM }: LineStop) => `${line.id} ${fromM}`;
  const nameOf = (stop: LineStop) => pieceWords(stop, preferences);

  const inHundredStorms = (chance: number) => `${Math.round(1000 * chance)} in 1000`;

  let looking = $state<AskedLook | null>(null);
  function lookAt(stop: LineStop): void {
    const { line, fromM, toM } = stop;
    const lengthM = round.reduce((most, each) => (each.line.id === line.id ? Math.max(most, each.toM) : most), 0);
    const atM = line.use === 'lateral' ? null : Math.round((fromM + toM) / 2);
    looking = { line, lengthM, row: null, atM, where: nameOf(stop) };
  }

  const question = $derived(questionsFor(bush)[0]!);
  const threats = $derived(new Set(first.flatMap((stop) => stop.threats.map(({ row }) => row.id))));
  const onLines = $derived(new Set(round.flatMap(({ line }) => line.drops.map(({ treeId }) => treeId))));
  const scene = $derived({
    trees: mapTrees(
      bush.rows.filter(({ id }) => onLines.has(id) || threats.has(id)),
      question
    ),
    tones: question.answers,
    chosen: threats,
    current: null
  });
  const pipes = $derived(
    [...new Map(round.map(({ line }) => [line.id, line])).values()].map((line) => ({
      points: line.points,
      name: line.use === 'lateral' ? '' : line.name,
      thin: line.use === 'lateral',
      dashed: false,
      chosen: false,
      wrong: false
    }))
  );
  const rings = $derived(
    first.map(({ at: [eastM, northM] }, i) => ({ eastM, northM, radiusM: 3, says: String(i + 1) }))
  );
</script>

{#snippet row(stop: LineStop, nth: number | null)}
  {@const says = stopWords(stop, preferences)}
  <li class="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-b border-base-300 py-2">
    {#if nth !== null}<b class="w-6 text-right font-slab text-xl">{nth}</b>{/if}
    <div class="min-w-0 grow basis-60">
      <b>{nameOf(stop)}</b>
      <span class="aside"
        >{stop.taps === 0 ? 'no tap above it' : runThrough(stop.taps)}{order === 'storm'
          ? `; ${inHundred(stop.harm)} that something lies on it`
          : ''}{stop.lookedOn ? `; looked at on ${shortDay(stop.lookedOn)}` : ''}</span
      >
      {#if says.length > 0}<ul>
          {#each says as each (each)}<li>{capital(each)}.</li>{/each}
        </ul>{/if}
    </div>
    {#if bush.mayRecord}<button
        class="btn btn-outline btn-sm max-md:ml-9 max-md:min-h-12 print:hidden"
        aria-label="Looked at {nameOf(stop)}"
        onclick={() => lookAt(stop)}>Looked at it</button
      >{/if}
    <span class="hidden w-40 border-b border-base-content print:inline-block">&nbsp;</span>
  </li>
{/snippet}

{#if round.length === 0}
  <EmptyState title="No line is drawn yet">
    Draw the lines under “How they fall”: then a round is made that goes past all of them.
  </EmptyState>
{:else}
  <div class="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1fr)_26rem]">
    <section class="flex min-w-0 flex-col gap-3" aria-label="The round">
      <div class="flex flex-wrap items-center gap-3 print:hidden">
        <div class="grow">
          <ToggleGroup label="Order of the round" options={ORDERS} bind:value={order} look="boxes" />
        </div>
        <button class="btn btn-outline btn-sm max-md:min-h-12" onclick={() => print()}>Print the round</button>
      </div>
      <p class="hidden print:block">
        Round along the lines{order === 'storm' ? ' after a storm' : ''}, {dayWords(bush.today)}
      </p>
      <p data-testid="round-says">
        {#if order === 'walk'}
          {counted(round.length, 'piece')} and {preferences.length(1000 * metres, 'way')} of pipe, from the foot of each line
          upwards. At each: listen for air; look for drops under it, bites, limbs, sags, fittings that were pulled, spouts
          that sit loose.
        {:else}
          Where most taps are likely to stand still comes first: behind these {counted(first.length, 'piece')} lie {Math.round(
            100 * feared
          )} % of what is to be feared.
        {/if}
      </p>
      {#if marked.length > 0}<p class="caution" data-testid="round-marked">
          {capital(treesByTag(marked))}
          {marked.length === 1 ? 'is' : 'are'} marked to come down and can hit a line: the lines they reach come down before
          they do.
        </p>{/if}
      <p class="caution">
        {order === 'storm' ? 'Wait until the storm is over. ' : ''}Nothing here says that a tree is safe: look up before
        each step, keep from under hung and broken limbs, and leave what is under tension to those who are trained for
        it. Not alone, and with goggles and gloves.
      </p>
      <ol data-testid="round">
        {#each first as stop, i (idOf(stop))}{@render row(stop, i + 1)}{/each}
      </ol>
      {#if others.length > 0}
        <details class="print:hidden">
          <summary class="min-h-9 cursor-pointer font-semibold">The others</summary>
          <ul>
            {#each others as stop (idOf(stop))}{@render row(stop, null)}{/each}
          </ul>
        </details>
      {/if}
    </section>
    <section class="flex min-w-0 flex-col gap-2 print:hidden" aria-label="On the map">
      <div class="h-96 overflow-hidden border border-base-300">
        <StandMap {scene} stands={bush.overview?.stands ?? []} features={bush.features} {pipes} {rings} />
      </div>
      <p class="aside">
        In a storm {inHundredStorms(STORM.sound.falls)} sound trees are taken to come down, {inHundredStorms(
          STORM.weak.falls
        )} weak ones and {inHundredStorms(STORM.dead.falls)} dead ones; limbs oftener.
      </p>
    </section>
  </div>
{/if}
<LineLookForm bind:asked={looking} />
