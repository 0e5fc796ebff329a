<script lang="ts">
  import { pipeLinesIn, tapsBorne } from '@baumkin/core/bush';
  import { readTrack, type StatedLine } from '@baumkin/core/exchange';
  import { alongCourse, toLocalMetres, type Point } from '@baumkin/core/geometry';
  import { USUAL_PIPE, type GroundHeight, type Route, type RoutedLine } from '@baumkin/core/lines';
  import { onDestroy } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { readChosen } from '$lib/client/decode.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { treesByTag } from '$lib/labels/lineCare.ts';
  import { mapTrees } from '$lib/map/mapTrees.ts';
  import { questionsFor } from '$lib/map/questions.ts';
  import StandMap from '$lib/map/StandMap.svelte';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import { LongRun } from '$lib/workers/longRun.svelte.ts';

  import { drawLines } from './drawLines.ts';

  /**
   * How would pipes run from these trees to the tank, falling everywhere, with few metres and crossings? A first route is found from the heights
   * of the ground, to be bent and levelled: nobody has to find it with a string and a clinometer.
   */
  const { onkept }: { onkept: (lineId: string) => void } = $props();
  const bush = useBush();
  let open = $state(false);

  const places = $derived(
    bush.bushRecords.filter((record) => record.kind === 'collectingPlace').filter(({ of }) => of === 'maple')
  );
  /** where a vessel may stand: where its place is known to be, in a house, at the foot of a line that is there */
  const feet = $derived([
    ...places.flatMap((place) =>
      place.eastM !== null && place.northM !== null
        ? [{ says: place.name, at: [place.eastM, place.northM] as Point }]
        : []
    ),
    ...bush.features
      .filter(({ kind }) => kind === 'building')
      .map(({ name, points }) => ({ says: name, at: middleOf(points) })),
    ...pipeLinesIn(bush.bushRecords)
      .filter(({ use, placeId }) => use !== 'air' && placeId !== null)
      .map(({ name, points }) => ({ says: `the foot of ${name}`, at: points.at(-1)! as Point }))
  ]);
  const middleOf = (points: readonly Point[]): Point => [
    points.reduce((sum, [east]) => sum + east / points.length, 0),
    points.reduce((sum, [, north]) => sum + north / points.length, 0)
  ];
  let placeId = $state('');
  let footNth = $state(0);
  let heights = $state.raw<readonly GroundHeight[]>([]);
  let fromFile = $state<{ says: string; failed: boolean } | null>(null);
  let found = $state.raw<{
    readonly route: Route;
    readonly lines: readonly RoutedLine[];
    readonly of: typeof trees;
  } | null>(null);
  const long = new LongRun();
  onDestroy(() => long.stop());

  const hung = $derived(
    new Set(pipeLinesIn(bush.bushRecords).flatMap(({ drops }) => drops.map(({ treeId }) => treeId)))
  );
  const place = $derived(places.find(({ id }) => id === placeId) ?? null);
  /** all trees of the place, or all that are tapped, whose place is known and that hang on no line yet */
  const trees = $derived.by(() => {
    const own = place ? new Set(place.treeIds) : null;
    return bush.rows.filter(
      ({ id, eastM, northM, decidedTaps, drilled }) =>
        eastM !== null &&
        northM !== null &&
        !hung.has(id) &&
        (own === null ? (decidedTaps ?? 0) > 0 || drilled > 0 : own.has(id))
    );
  });
  /** More trees than this are no first route any more. */
  const MOST_TREES = 120;

  async function bringIn(input: HTMLInputElement): Promise<void> {
    const origin = bush.overview?.bush.origin;
    const file = origin ? await readChosen(input, readTrack) : null;
    if (!origin || !file) return;
    heights = (file.told ?? []).flatMap(({ heightM, ...at }) => {
      if (heightM === null) return [];
      const { eastM, northM } = toLocalMetres(origin, at);
      return [{ at: [eastM, northM] as Point, heightM }];
    });
    fromFile = {
      says: `${file.name}: ${file.problem ?? `${counted(heights.length, 'height')} of the ground.`}`,
      failed: heights.length < 3
    };
  }
  const problem = $derived(
    feet.length === 0
      ? 'Draw the house or the place of the tank on the map first.'
      : trees.length === 0
        ? 'Every tree of it hangs on a line already, or nobody knows where it stands.'
        : trees.length > MOST_TREES
          ? `${trees.length} trees are too many for one route: choose a collecting place with fewer.`
          : heights.length < 3
            ? 'Bring in heights of the ground: a walk among the trees, or points of a survey, as GPX or GeoJSON.'
            : null
  );
  async function propose(): Promise<void> {
    const foot = feet[footNth];
    if (problem || !foot) return;
    found = null;
    const of = trees;
    const question = {
      trees: of.map((row) => ({ at: [row.eastM!, row.northM!] as Point, taps: tapsBorne(row) })),
      foot: foot.at,
      heights,
      features: [
        ...$state.snapshot(bush.features).map(({ kind, points }) => ({ kind, points })),
        ...pipeLinesIn(bush.bushRecords).map(({ points }) => ({
          kind: 'line' as const,
          points: $state.snapshot(points)
        }))
      ]
    };
    const answer = await long.run((worker) => worker.route(question));
    if (answer) found = { ...answer, of };
  }

  /** Named after where they end. */
  const stated = $derived.by((): StatedLine[] => {
    if (!found) return [];
    const { lines, of } = found;
    const taken = new Set(pipeLinesIn(bush.bushRecords).map(({ name }) => name));
    const base = Array.from({ length: 99 }, (_, i) => `Route ${i + 1}`).find(
      (name) => ![...taken].some((other) => other.startsWith(name))
    )!;
    const names = lines.map((_, i) => `${base}, ${i + 1}`);
    return lines.map(({ use, points, into, trees: own }, i) => ({
      name: names[i]!,
      use,
      points,
      lengthM: alongCourse(points).at(-1)!,
      boreMm: USUAL_PIPE[use].boreMm,
      held: USUAL_PIPE[use].held,
      into: into === null ? (place?.vessel === 'tank' ? place.name : null) : names[into]!,
      drops: own.map((tree) => ({ tag: of[tree]!.tag, dropMm: null })),
      crossings: null,
      unread: []
    }));
  });
  async function draw(): Promise<void> {
    const written = await drawLines(bush, stated);
    found = null;
    open = false;
    saved(bush, `${counted(written.length, 'line')} drawn.`, ...written);
    onkept(written[0]!.id);
  }

  const question = $derived(questionsFor(bush)[0]!);
  const scene = $derived({
    trees: mapTrees([...trees], question),
    tones: question.answers,
    chosen: new Set((found?.route.missed ?? []).map((tree) => found!.of[tree]!.id)),
    current: null
  });
  const pipes = $derived(
    stated.map(({ use, points }) => ({
      points,
      name: '',
      thin: use === 'lateral',
      dashed: false,
      chosen: use !== 'lateral',
      wrong: false
    }))
  );
</script>

<button class="btn btn-outline btn-sm" onclick={() => (open = true)}>Propose a route</button>

<ModalDialog bind:open title="A first route" width="44rem">
  <div class="flex flex-col gap-3">
    <div class="flex flex-wrap items-end gap-4">
      <label class="flex grow flex-col gap-1"
        >Trees <select class="select w-full" bind:value={placeId}>
          <option value="">all that are tapped and on no line</option>
          {#each places as each (each.id)}<option value={each.id}>of {each.name}</option>{/each}
        </select></label
      >
      <label class="flex grow flex-col gap-1"
        >The tank stands at <select class="select w-full" bind:value={footNth}>
          {#each feet as { says }, i (i)}<option value={i}>{says}</option>{/each}
        </select></label
      >
      <label class="btn min-h-10 cursor-pointer btn-outline btn-sm focus-within:outline-2"
        >Heights of the ground …<input
          type="file"
          class="sr-only"
          accept=".gpx,.geojson,.json"
          onchange={(event) => void bringIn(event.currentTarget)}
        /></label
      >
    </div>
    {#if fromFile}<p class={fromFile.failed ? 'font-semibold text-error' : ''} role="status">{fromFile.says}</p>{/if}
    {#if problem}<p class="aside" data-testid="route-problem">{problem}</p>{/if}
    <div class="flex gap-2">
      <button class="btn btn-sm {found ? 'btn-outline' : 'btn-primary'}" disabled={problem !== null} onclick={propose}
        >Find a route for {counted(trees.length, 'tree')}</button
      >
    </div>
    <LongRunStatus run={long} what="Finding a route" />
    {#if found}
      <p data-testid="route-says">
        {#if stated.length === 0}
          No tree lies high enough above the tank, as far as these heights tell: choose another place for it.
        {:else}
          {counted(stated.length, 'line')}: {preferences.length(1000 * found.route.wideM, 'way')} of wide pipe and {preferences.length(
            1000 * found.route.lateralM,
            'way'
          )} of laterals, {found.route.crossings === 0 ? 'no crossing' : counted(found.route.crossings, 'crossing')}. It
          falls 2 % or more everywhere, as far as these heights tell.
        {/if}
      </p>
      {#if stated.length > 0 && found.route.missed.length > 0}<p role="alert" class="font-semibold">
          No falling pipe reaches {treesByTag(found.route.missed.map((tree) => found!.of[tree]!))}: they lie too low, or
          behind a house.
        </p>{/if}
      {#if stated.length > 0}
        <div class="h-72 border border-base-300">
          <StandMap {scene} stands={bush.overview?.stands ?? []} features={bush.features} {pipes} />
        </div>
        <p class="aside">A beginning, to be bent by whoever knows the ground; level it before anything is hung.</p>
        <button class="btn self-start btn-primary" onclick={draw}>Draw these {counted(stated.length, 'line')}</button>
      {/if}
    {/if}
  </div>
</ModalDialog>
