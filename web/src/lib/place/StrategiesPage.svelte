<script lang="ts">
  import { insideBark } from '@baumkin/core/measure';
  import {
    PLACEMENT_STRATEGIES,
    type RuleTree,
    type LivedStrategy,
    type PlacementStrategyId
  } from '@baumkin/core/rotation';
  import { parseTrunkLength, UnreadableLength } from '@baumkin/core/units';
  import { bandOf, modelOf, trunkOf } from '@baumkin/core/bush';
  import { onDestroy, untrack } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { page } from '$app/state';
  import { STRATEGY_LABELS } from '$lib/labels/placement.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import Scatter, { type Inks, type ScatterPicture } from '$lib/ui/Scatter.svelte';

  import { LongRun } from '$lib/workers/longRun.svelte.ts';

  import Foresight from './Foresight.svelte';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';

  /** Which way of placing the bush goes by, and what each costs over fifty seasons on a tree of its own. */
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const SEASONS = 50;
  const TREES = 120;

  let strategy = $state<PlacementStrategyId>(untrack(() => settings.strategy));
  let favours = $state(untrack(() => [...settings.favours]));
  let foresight = $state(untrack(() => settings.foresight));
  let side = $state(untrack(() => (settings.favouredDeg === null ? '' : String(settings.favouredDeg))));
  /** The side as a bearing; undefined where it cannot be read as one. */
  const favouredDeg = $derived.by(() => {
    if (side.trim() === '') return null;
    const degrees = Number(side.replace('°', ''));
    return degrees >= 0 && degrees <= 360 ? degrees % 360 : undefined;
  });
  let problem = $state<string | null>(null);
  async function keep(): Promise<void> {
    if (favouredDeg === undefined) {
      problem = 'A side of the trunk runs from 0 to 360 degrees.';
      return;
    }
    problem = await bush.change.settings({ strategy, favours, favouredDeg, foresight });
    if (problem === null) toast.success(`Holes are placed by “${STRATEGY_LABELS[strategy].name}” from now on.`);
  }

  /** The tree whose own past the ways are lived through on; null for an invented tree. */
  const ofTree = $derived.by(() => {
    const row = bush.byId.get(page.url.searchParams.get('tree') ?? '');
    if (!row || !bush.hasLife(row.id)) return null;
    const state = bush.stateOf(row.id);
    const found = trunkOf(state, settings, bush.season);
    // Scars of unknown place and year would have to be guessed: they are left out.
    const past = found?.trunk.holes.filter(({ unsure }) => !unsure) ?? [];
    return found && { row, state, trunk: found.trunk, past };
  });
  $effect(() => {
    const id = page.url.searchParams.get('tree');
    if (id) untrack(() => void bush.loadTree(id));
  });

  let thick = $state(untrack(() => preferences.length(350, 'trunk')));
  let ringMm = $state(1.2);
  let taps = $state(1);
  const dbhMm = $derived.by(() => {
    try {
      return parseTrunkLength(thick, preferences.trunkUnit).valueMm;
    } catch (error) {
      if (error instanceof UnreadableLength) return error.message;
      throw error;
    }
  });
  const long = new LongRun();
  onDestroy(() => long.stop());
  let lived = $state.raw<{ readonly tree: RuleTree; readonly all: readonly LivedStrategy[] } | null>(null);

  /** The tree that is lived through; null while its figures cannot be read. */
  const asked = $derived.by((): RuleTree | null => {
    const { bitMm, depthMm } = settings;
    const drilling = { bitMm, depthMm, ...bandOf(settings) };
    if (ofTree) {
      const { past, state } = ofTree;
      const { woodRadiusMm } = ofTree.trunk;
      return { woodRadiusMm, ringMm: state.growth.ringMm, taps: state.decision?.taps || 1, past, ...drilling };
    }
    return typeof dbhMm === 'string' ? null : { woodRadiusMm: insideBark(dbhMm) / 2, ringMm, taps, ...drilling };
  });
  const model = $derived(modelOf(settings, ofTree?.row.species ?? null, ofTree?.row.standId ?? null));

  async function look(): Promise<void> {
    if (!asked) return;
    const tree = asked;
    const all = await long.run((remote, told) => remote.compare(tree, model, { seasons: SEASONS, trees: TREES }, told));
    if (all) lived = { tree, all };
  }

  const pct = (share: number) =>
    share < 0.0005 ? 'nothing' : share < 0.0995 ? `${(100 * share).toFixed(1)} %` : `${Math.round(100 * share)} %`;
  const own = $derived(lived?.all.find(({ id }) => id === settings.strategy) ?? null);
  const best = $derived(lived?.all[0] ?? null);
  const worst = $derived(lived?.all.at(-1) ?? null);
  let picked = $state<PlacementStrategyId>('sunny');

  const picture = $derived(({ ink, amber }: Inks): ScatterPicture => {
    const line = (run: LivedStrategy, colour: string, width: number) => ({
      type: 'line' as const,
      data: run.lostBySeason.map((lost, i) => ({ x: bush.season + i, y: 100 * lost })),
      borderColor: colour,
      borderWidth: width,
      pointRadius: 0
    });
    const all = lived?.all ?? [];
    return {
      datasets: all.flatMap((run) =>
        run.id === 'rotation'
          ? [line(run, amber, 3)]
          : run.id === picked
            ? [line(run, ink, 2.5)]
            : [line(run, 'rgba(128, 120, 110, 0.45)', 1)]
      ),
      across: null,
      up: '% of the path in stained wood',
      say: () => null,
      fromZero: true,
      years: true
    };
  });
</script>

<h1 class="sr-only">Ways of placing</h1>
<div class="grid gap-x-10 gap-y-6 lg:grid-cols-[24rem_minmax(0,1fr)]">
  <section aria-labelledby="ways">
    <h2 id="ways">How this bush places its holes</h2>
    <form
      class="mt-2 flex flex-col gap-1"
      data-testid="schools"
      onsubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      {#each PLACEMENT_STRATEGIES as placing (placing.id)}
        <label class="flex items-start gap-3 border-b border-base-300/60 py-2">
          <input
            type="radio"
            class="radio mt-0.5 radio-sm"
            name="strategy"
            value={placing.id}
            bind:group={strategy}
            disabled={!bush.mayDecide}
          />
          <span
            ><b>{STRATEGY_LABELS[placing.id].name}</b>{placing.id === 'rotation' ? ' (default)' : ''}<span
              class="aside block">{STRATEGY_LABELS[placing.id].says} {STRATEGY_LABELS[placing.id].judged}</span
            ></span
          >
        </label>
      {/each}
      <fieldset class="mt-2 flex flex-col gap-1.5" disabled={!bush.mayDecide} data-testid="favours">
        <legend class="mb-1 font-semibold">Between equally clear places, rather</legend>
        <label class="flex items-center gap-2"
          ><input type="checkbox" class="checkbox checkbox-sm" value="warmSide" bind:group={favours} /> on the warm side</label
        >
        <label class="flex items-center gap-2"
          ><input type="checkbox" class="checkbox checkbox-sm" value="limbsAndRoots" bind:group={favours} /> under a big limb
          or over a big root</label
        >
        <label class="flex items-center gap-2"
          ><input type="checkbox" class="checkbox checkbox-sm" value="lineSide" bind:group={favours} /> on the side of the
          tubing line</label
        >
        <label class="flex items-center gap-2"
          >towards the path, or the lee:
          <input
            class="input w-20 input-sm"
            inputmode="numeric"
            placeholder="none"
            aria-label="A side of every trunk, degrees from north"
            bind:value={side}
          />° from north</label
        >
        <p class="aside">
          The warm side and the bark by limbs and roots are said to run first; a short walk and a short line save time.
          It is a mild wish: clear wood goes first, since holes that crowd on one side lose more than it gives.
        </p>
      </fieldset>
      {#if strategy === 'rotation'}<Foresight
          tree={asked}
          {model}
          disabled={!bush.mayDecide}
          bind:value={foresight}
        />{/if}
      {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
      {#if bush.mayDecide}<button
          class="btn mt-2 self-start btn-primary"
          disabled={strategy === settings.strategy &&
            favours.join() === settings.favours.join() &&
            favouredDeg === settings.favouredDeg &&
            foresight === settings.foresight}>Place by this</button
        >{:else}<p class="aside">The way of placing is the steward’s to choose.</p>{/if}
    </form>
  </section>
  <section aria-labelledby="fifty" class="flex min-w-0 flex-col gap-4">
    <h2 id="fifty">Fifty seasons under each</h2>
    <form
      class="flex flex-wrap items-end gap-4"
      onsubmit={(event) => {
        event.preventDefault();
        void look();
      }}
    >
      {#if ofTree}
        <p class="max-w-md">
          On <b>tree {ofTree.row.tag}</b>, {preferences.length(ofTree.row.dbhMm!, 'trunk')} thick, rings of {preferences.length(
            ofTree.state.growth.ringMm,
            'ring'
          )}, with its {ofTree.past.length} known old holes.
          <a class="link" href="/bush/{bush.id}/place/habits">An invented tree instead</a>
        </p>
      {:else}
        <label class="flex flex-col gap-1">A tree this thick <input class="input w-28" bind:value={thick} /></label>
        <label class="flex flex-col gap-1"
          >rings of {preferences.length(ringMm, 'ring')}
          <input type="range" class="range w-40 range-sm" min="0.4" max="3" step="0.1" bind:value={ringMm} /></label
        >
        <label class="flex flex-col gap-1"
          >holes a season
          <select class="select w-20" bind:value={taps}>
            {#each [1, 2, 3] as n (n)}<option value={n}>{n}</option>{/each}</select
          ></label
        >
      {/if}
      {#if long.done === null}<button class="btn btn-primary" disabled={asked === null}
          >{lived ? 'Live through them again' : 'Live through fifty seasons'}</button
        >{/if}
    </form>
    {#if ofTree === null && typeof dbhMm === 'string'}<p role="alert" class="text-error">{dbhMm}</p>{/if}
    <LongRunStatus run={long} what="Drilling {TREES} hidden trunks, season by season" />
    {#if lived && best && worst}
      <p class="max-w-prose text-lg" data-testid="verdict">
        {ofTree ? `On tree ${ofTree.row.tag}` : 'On such a tree'} “{STRATEGY_LABELS[best.id].name}” loses {pct(
          best.late
        )}{best.late < 0.0005 ? ' to speak of' : ' of the sap'} once it is in its stride, “{STRATEGY_LABELS[worst.id]
          .name}” {pct(worst.late)}{own && own.id !== best.id && own.id !== worst.id
          ? `; your own way, “${STRATEGY_LABELS[own.id].name}”, ${pct(own.late)}`
          : ''}. {best.id === 'rotation'
          ? 'Planned ahead, a place comes round again when new wood has buried the old hole; the others crowd, or leave gaps that fit nothing.'
          : 'The differences at the top are within what chance alone makes.'}
      </p>
      <Scatter
        {picture}
        label="Share of stained wood in a new hole’s path by season, each way of placing"
        size="h-64"
      />
      <p class="aside">
        Amber: planned ahead. Dark: <select class="select w-auto select-sm" aria-label="Dark line" bind:value={picked}>
          {#each PLACEMENT_STRATEGIES.filter(({ id }) => id !== 'rotation') as placing (placing.id)}<option
              value={placing.id}>{STRATEGY_LABELS[placing.id].name}</option
            >{/each}
        </select>. Grey: the others. The same {TREES} hidden trunks for all.
      </p>
      <table class="w-full max-w-2xl text-left" data-testid="placings">
        <thead
          ><tr class="border-b-2 border-base-content"
            ><th class="py-1 font-semibold">Way of placing</th><th class="text-right font-semibold">Season 10</th><th
              class="text-right font-semibold">Season 25</th
            ><th class="text-right font-semibold">Mean of seasons 26 to 50</th><th class="text-right font-semibold"
              >One in five never written down</th
            ></tr
          ></thead
        >
        <tbody>
          {#each lived.all as run (run.id)}
            <tr class="border-b border-base-300/60 {run.id === settings.strategy ? 'font-bold' : ''}">
              <th class="py-1 font-[inherit]">{STRATEGY_LABELS[run.id].name}</th>
              <td class="text-right tabular-nums">{pct(run.lostBySeason[9]!)}</td>
              <td class="text-right tabular-nums">{pct(run.lostBySeason[24]!)}</td>
              <td class="text-right tabular-nums"
                >{pct(run.late)}{run.lateTo < 0.0005 ? '' : ` (${pct(run.lateFrom)} to ${pct(run.lateTo)})`}</td
              >
              <td class="text-right tabular-nums">{pct(run.lateUnwritten)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
      <p class="aside max-w-2xl">
        Last column: every fifth season somebody drills where it looks clear and writes nothing down. A plan knows only
        what was written.
      </p>
    {:else if long.done === null}
      <p class="max-w-prose">
        Set a tree, and every way of placing is lived through on the same hidden trunks: columns, grain and a hand that
        is now and then an inch off, as the model has them. Nobody sees the stain; only the places where holes were
        meant to be are known.
      </p>
    {/if}
  </section>
</div>
