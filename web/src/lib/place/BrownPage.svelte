<script lang="ts">
  import { speciesById, type SpeciesId } from '@baumkin/core/identify';
  import type { TreeRow, TreeState } from '@baumkin/core/records';
  import { LITRES_A_TAP } from '@baumkin/core/sap';
  import {
    DEFAULT_COLUMNS,
    stainedOf,
    USUAL_BUSH,
    wilson,
    WORTH_CORRECTING,
    type BushColumns,
    type Calibration,
    type LoggedTree,
    type PooledColumns,
    type SeenShavings
  } from '@baumkin/core/trunk';
  import { asSettings, drilledHoles, loggedTree, shownBy, type LoggedHoles, type PacedHole } from '@baumkin/core/bush';
  import { onDestroy, onMount } from 'svelte';

  import EmptyState from '$lib/ui/EmptyState.svelte';
  import { undoable } from '$lib/client/saved.ts';
  import { STRATEGY_LABELS } from '$lib/labels/placement.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import { LongRun } from '$lib/workers/longRun.svelte.ts';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import GoingThrough from '$lib/ui/GoingThrough.svelte';
  import Term from '$lib/ui/Term.svelte';

  import HasteCosts from './HasteCosts.svelte';
  import StainCosts from './StainCosts.svelte';

  /** What the shavings of the whole bush say: how much brown wood was met, and whether the model expected it. */
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);

  interface Logged {
    readonly seen: SeenShavings['seen'];
    readonly season: number;
    readonly standId: string | null;
    readonly authorId: string;
    /** the way of placing that it followed, as it was written down */
    readonly placed: string;
    /** share of the path that was stained, as the shavings told it */
    readonly stained: number;
  }
  let trees = $state.raw<readonly LoggedTree[]>([]);
  let logged = $state.raw<readonly Logged[]>([]);
  let drilled = $state.raw<readonly PacedHole[]>([]);
  /** trees gone through so far; null once all are */
  let reading = $state<{ done: number; all: number } | null>({ done: 0, all: 0 });
  onMount(async () => {
    const tapped = [...bush.rows, ...bush.stumps].filter((row) => row.tapped);
    const all: Logged[] = [];
    const told: LoggedTree[] = [];
    const holes: PacedHole[] = [];
    let done = 0;
    try {
      for await (const { tree, records } of bush.lives(tapped)) {
        const state = bush.stateFrom(records);
        const own = loggedTree(tree, state, settings, bush.season);
        if (own) {
          told.push(own.tree);
          all.push(...loggedOf(tree, state, own));
        }
        const at = tree.eastM === null || tree.northM === null ? null : ([tree.eastM, tree.northM] as const);
        holes.push(...drilledHoles(records).map((each) => ({ ...each, at })));
        done += 1;
        if (done % 250 === 0) reading = { done, all: tapped.length };
      }
    } catch {
      // The page says what is missing.
      return;
    }
    trees = told;
    logged = all;
    drilled = holes;
    reading = null;
  });

  /** The holes of a tree whose shavings were looked at. */
  function loggedOf(row: TreeRow, { shavings }: TreeState, { tree, holes }: LoggedHoles): Logged[] {
    return tree.seen.map(({ hole }): Logged => {
      const { id, season, strategy, authorId = '' } = holes[hole]!;
      const seen = shavings.get(id)!;
      return {
        seen: seen.seen,
        season,
        standId: row.standId,
        authorId,
        placed: strategy ? STRATEGY_LABELS[strategy].name : 'by eye, or not written down',
        stained: stainedOf(seen)
      };
    });
  }
  const wet = $derived(logged.filter(({ seen }) => seen !== 'dry'));

  const OTHERS = 'all others';
  const me = $derived(bush.overview!.member);
  const iShow = $derived(bush.overview!.people.find(({ id }) => id === me.id)?.showsHoles ?? false);
  /** Under their names stand those who want it, and for everybody her own holes. */
  function nameOf(authorId: string): string {
    if (authorId === me.id) return iShow ? me.name : `${me.name}: only you see this line`;
    return bush.overview!.people.find(({ id, showsHoles }) => id === authorId && showsHoles)?.name ?? OTHERS;
  }

  async function show(box: HTMLInputElement): Promise<void> {
    problem = await bush.change.ownFigures(box.checked);
    // A refused change is put back in the field.
    box.checked = iShow;
  }

  let by = $state<'season' | 'stand' | 'person' | 'way'>('season');
  const groups = $derived.by(() => {
    const named: Record<string, { holes: Logged[]; expected: number | null }> = {};
    wet.forEach((hole, i) => {
      const name =
        by === 'season'
          ? String(hole.season)
          : by === 'stand'
            ? (bush.overview!.stands.find(({ id }) => id === hole.standId)?.name ?? 'no stand')
            : by === 'way'
              ? hole.placed
              : nameOf(hole.authorId);
      const group = (named[name] ??= { holes: [], expected: found ? 0 : null });
      group.holes.push(hole);
      if (found && group.expected !== null) group.expected += found.expected[i] ?? 0;
    });
    return Object.entries(named).sort(([a], [b]) => b.localeCompare(a, 'en', { numeric: true }));
  });

  const long = new LongRun();
  onDestroy(() => long.stop());
  let found = $state.raw<Calibration | null>(null);
  let pooled = $state.raw<PooledColumns | null>(null);
  const model = $derived({ ...DEFAULT_COLUMNS, sapwoodMm: settings.sapwoodMm });
  const shown = $derived(shownBy(settings));
  const corrected = $derived(JSON.stringify(shown) !== JSON.stringify(USUAL_BUSH));
  async function judge(): Promise<void> {
    const using = $state.snapshot(shown);
    const answer = await long.run((remote, told) => remote.calibrate(trees, $state.snapshot(model), using, told));
    if (answer) ({ found, pooled } = answer);
  }

  let problem = $state<string | null>(null);
  async function accept(own: BushColumns): Promise<void> {
    const before = asSettings(shown);
    problem = await bush.change.settings(asSettings(own));
    if (problem !== null) return;
    found = pooled = null;
    undoable('Every sheet, count and outlook goes by the corrected columns from now on.', () =>
      bush.change.settings(before)
    );
  }

  /** What the bush has shown, in sentences. */
  function taughtBy(own: BushColumns): string[] {
    const stands = bush.overview!.stands.flatMap(({ id, name }) => {
      const more = own.leanStands[id];
      return more === undefined ? [] : [[name, own.leanDeg + more] as const];
    });
    const species = Object.entries(own.leanSpecies).map(
      ([id, more]) => [speciesById(id as SpeciesId).name, own.leanDeg + more] as const
    );
    const leans = [...stands, ...species].filter(([, deg]) => Math.abs(deg) >= UPRIGHT_DEG);
    const hands: Record<string, string> = {};
    for (const [id, times] of Object.entries(own.hands)) {
      const name = nameOf(id);
      if (name !== OTHERS && !asUsual(times)) hands[name] = factorWords(times * own.positionFactor);
    }
    const stray = `Single trees stray from that by about ${Math.round(own.leanSdDeg)}°.`;
    return [
      `Columns fill ${factorWords(own.sizeFactor)} volume and reach sideways ${factorWords(own.marginFactor)} width.`,
      `Holes lie off from where they were written down by ${factorWords(own.positionFactor)} error${Object.entries(
        hands
      )
        .map(([name, words]) => `; those of ${name} by ${words}`)
        .join('')}.`,
      leans.length > 0
        ? `Going up, the grain leans: ${leans.map(([name, deg]) => `${name} ${Math.round(Math.abs(deg))}° to the ${deg > 0 ? 'left' : 'right'}`).join('; ')}. ${stray}`
        : `The grain goes straight up in the mean. ${stray}`
    ];
  }
  /** A mean lean below this is none that anybody could tell, degrees. */
  const UPRIGHT_DEG = 0.5;
  const asUsual = (factor: number) => Math.abs(Math.log(factor)) < 0.05;

  const pct = (share: number) => (share < 0.0995 ? `${(100 * share).toFixed(1)} %` : `${Math.round(100 * share)} %`);
  const brownOf = (holes: readonly Logged[]) => holes.filter(({ seen }) => seen !== 'pale').length;
  const lostOf = (holes: readonly Logged[]) =>
    holes.reduce((sum, { stained }) => sum + stained, 0) * settings.stainLoss * LITRES_A_TAP;
  const factorWords = (factor: number) =>
    asUsual(factor) ? 'the usual' : `${factor.toFixed(2)} ${factor > 1 ? 'times' : 'of'} the usual`;
</script>

<h1 class="sr-only">Brown wood</h1>
{#if reading}
  <GoingThrough {...reading} />
{:else if wet.length === 0}
  <EmptyState>
    No shavings are written down yet. Look at them at every hole and say pale or brown on the trunk’s sheet: after some
    fifty holes this page says how often your bush meets old wood, and whether the sheets can be trusted.
  </EmptyState>
{:else}
  {@const brown = brownOf(wet)}
  {@const [from, to] = wilson(brown, wet.length)}
  <p class="max-w-prose text-lg" data-testid="rate">
    Of {wet.length} holes whose shavings were looked at,
    <b>{brown} met <Term of="stained">brown wood</Term>: {pct(brown / wet.length)}</b>
    (9 in 10:
    {pct(from)} to {pct(to)}). That cost about {preferences.volume(lostOf(wet))} of sap.
    {logged.length > wet.length
      ? `${logged.length - wet.length} dry holes are left out: they have other causes too.`
      : ''}
  </p>
  <div class="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-2">
    <section aria-labelledby="rates">
      <div class="flex items-baseline gap-4">
        <h2 id="rates">Where and when</h2>
        <label class="flex items-center gap-2 text-sm"
          >by <select class="select w-auto select-sm" aria-label="Group by" bind:value={by}>
            <option value="season">season</option>
            <option value="stand">stand</option>
            <option value="person">who drilled</option>
            <option value="way">way of placing</option>
          </select></label
        >
      </div>
      {#if by === 'person'}
        <p class="aside">To learn from, not to blame: who drills the old sunny sides meets more.</p>
        <label class="mt-1 flex items-center gap-2 text-sm"
          ><input
            type="checkbox"
            class="checkbox checkbox-sm"
            checked={iShow}
            onchange={({ currentTarget }) => void show(currentTarget)}
          /> The others may see my holes under my name</label
        >
      {/if}
      <table class="mt-2 w-full text-left" data-testid="brown-table">
        <thead
          ><tr class="border-b-2 border-base-content"
            ><th class="py-1 font-semibold">{{ season: 'Season', stand: 'Stand', person: 'Who', way: 'Placed' }[by]}</th
            ><th class="pl-3 text-right font-semibold">Holes</th><th class="pl-3 text-right font-semibold">Brown</th><th
              class="pl-3 text-right font-semibold">Expected</th
            ><th class="pl-3 text-right font-semibold">Sap lost</th></tr
          ></thead
        >
        <tbody>
          {#each groups as [name, { holes, expected }] (name)}
            <tr class="border-b border-base-300/60">
              <th class="py-1 font-normal">{name}</th>
              <td class="pl-3 text-right tabular-nums">{holes.length}</td>
              <td class="pl-3 text-right tabular-nums">{brownOf(holes)} ({pct(brownOf(holes) / holes.length)})</td>
              <td class="pl-3 text-right tabular-nums">{expected === null ? '…' : expected.toFixed(1)}</td>
              <td class="pl-3 text-right tabular-nums">{preferences.volume(lostOf(holes))}</td>
            </tr>
          {/each}
        </tbody>
      </table>
      <p class="aside mt-1">
        Sap: {preferences.volume(LITRES_A_TAP)} a tap and season (common practice), in proportion to the stain up to {pct(
          settings.stainLoss
        )} less.
      </p>
    </section>
    <section aria-labelledby="calibration" class="flex flex-col gap-3">
      <h2 id="calibration">Did the sheets expect it?</h2>
      <LongRunStatus run={long} what="Judging every logged hole anew" />
      {#if long.done !== null}<p>This takes a moment.</p>
      {:else if !found}
        <p>
          Every logged hole is judged anew from the holes that were there before it, and what was expected is held
          against what was seen.
        </p>
        <button class="btn self-start btn-primary" onclick={judge}>Hold them against each other</button>
      {:else}
        <p data-testid="calibrated">
          The sheets expected {found.expectedBrown.toFixed(0)} brown holes of {found.holes}; {found.seenBrown} were brown.
        </p>
        <table class="w-full text-left">
          <thead
            ><tr class="border-b-2 border-base-content"
              ><th class="py-1 font-semibold">Where brown was expected</th><th class="text-right font-semibold"
                >Holes</th
              ><th class="text-right font-semibold">Expected</th><th class="text-right font-semibold">Seen</th></tr
            ></thead
          >
          <tbody>
            {#each found.bins as bin (bin.from)}
              {@const outside = bin.expected < bin.seenFrom || bin.expected > bin.seenTo}
              <tr class="border-b border-base-300/60">
                <th class="py-1 font-normal"
                  >in {Math.round(100 * bin.from)} to {Math.round(100 * bin.to)} % of cases</th
                >
                <td class="text-right tabular-nums">{bin.holes}</td>
                <td class="text-right tabular-nums">{pct(bin.expected)}</td>
                <td class="text-right tabular-nums {outside ? 'font-bold' : ''}"
                  >{pct(bin.brown / bin.holes)} ({pct(bin.seenFrom)} to {pct(bin.seenTo)})</td
                >
              </tr>
            {/each}
          </tbody>
        </table>
        {#if pooled && pooled.gain >= WORTH_CORRECTING}
          <div class="border-l-[6px] border-primary pl-4" data-testid="correction">
            <p>
              Together {pooled.looks} holes{pooled.sawn > 0 ? ` and ${pooled.sawn} columns on sawn faces` : ''} are explained
              about {pooled.gain > 4.6 ? 'a hundred times or more' : `${Math.round(Math.exp(pooled.gain))} times`}
              better by this than by the sheets as they are:
            </p>
            <ul class="mt-1 list-disc pl-5">
              {#each taughtBy(pooled.bush) as sentence (sentence)}<li>{sentence}</li>{/each}
            </ul>
            {#if bush.mayDecide}<button class="btn mt-2 btn-primary btn-sm" onclick={() => accept(pooled!.bush)}
                >Correct the sheets by this</button
              >{/if}
          </div>
        {:else}
          <p>Nothing to correct: the difference is within what chance makes.</p>
        {/if}
      {/if}
      {#if corrected}
        <div>
          <p>The sheets, counts and outlooks go by what this bush has shown:</p>
          <ul class="mt-1 list-disc pl-5" data-testid="shown">
            {#each taughtBy(shown) as sentence (sentence)}<li>{sentence}</li>{/each}
          </ul>
          {#if bush.mayDecide}<button class="link" onclick={() => accept(USUAL_BUSH)}>Back to the model’s own</button
            >{/if}
        </div>
      {/if}
      {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
    </section>
    <StainCosts holes={drilled} />
    <HasteCosts holes={drilled} />
  </div>
{/if}
