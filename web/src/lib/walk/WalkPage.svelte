<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import { compassPoint } from '@baumkin/core/math';
  import { wayTo } from '@baumkin/core/bush';
  import Undo2 from '@lucide/svelte/icons/undo-2';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { deviceSpace, keepForGood } from '$lib/client/deviceSpace.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import GoingThrough from '$lib/ui/GoingThrough.svelte';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import StandSelect from '$lib/ui/StandSelect.svelte';
  import { TappingRound } from '$lib/place/tappingRound.svelte.ts';

  import TapStopView from './TapStop.svelte';
  import { drilledToday, tapStops, type TapStop } from './tapStops.ts';
  import { keepAwake } from './keepAwake.ts';
  import { PlanAhead } from './planAhead.svelte.ts';
  import { Walk, type Done } from './walk.svelte.ts';

  /** So many trees have their holes planned before they are come to. */
  const TREES_AHEAD = 3;

  /** The tapping round on a phone: one tree, one question, one big answer. */
  const bush = useBush();
  const round = untrack(() => new TappingRound(bush));
  const walk: Walk<TapStop> = untrack(() => new Walk(bush, 'tap', () => stops));
  const inStand = (standId: string | null) => walk.standId === '' || walk.standId === standId;
  const me = $derived(bush.overview!.member.name);
  const helpers = $derived([...new Set(round.helpers.values())]);
  /** whose part is walked: her own, where she has one and chose no other */
  const part = $derived(
    walk.helper !== null && [...helpers, ''].includes(walk.helper) ? walk.helper : helpers.includes(me) ? me : ''
  );
  const lines = $derived(
    round.lines.filter(({ row }) => inStand(row.standId) && (part === '' || round.helpers.get(row.id) === part))
  );
  const by = $derived({ memberId: bush.overview!.member.id, today: bush.today });
  const stops = $derived(tapStops(lines, by, walk.passed));
  const left = $derived(lines.reduce((sum, line) => sum + line.left, 0));
  const mine = $derived(lines.reduce((sum, line) => sum + drilledToday(line, by).length, 0));
  const drilled = $derived(lines.reduce((sum, { state }) => sum + state.holesThisSeason.length, 0));
  const stop = $derived(walk.started ? walk.stop : null);
  const last = $derived(walk.done.at(-1) ?? null);
  const way = $derived.by(() => {
    const before = last && stop && last.treeId !== stop.treeId ? bush.byId.get(last.treeId) : null;
    const found = before && stop ? wayTo(before, stop.line.row) : null;
    return before && found ? { ...found, tag: before.tag } : null;
  });
  /** Brown wood of the hole before sticks to the bit. */
  const wipe = $derived(
    last?.records.some((record) => record.kind === 'shavings' && (record.seen === 'partly' || record.seen === 'brown'))
  );

  /** the list of the last things done is open */
  let looking = $state(false);
  async function takeBack(what: Done): Promise<void> {
    looking = false;
    await walk.takeBack(what);
  }

  let space = $state.raw<Awaited<ReturnType<typeof deviceSpace>>>(null);
  $effect(() => {
    if (!walk.started) void deviceSpace().then((found) => (space = found));
  });
  async function start(): Promise<void> {
    await walk.start();
    await keepForGood();
  }

  $effect(() => (walk.started ? keepAwake() : undefined));
  // Where nobody planned the holes of a tree yet, or something was learned since, it is planned before she gets there.
  const ahead = new PlanAhead(bush);
  $effect(() => {
    if (walk.started && bush.mayRecord) ahead.plan(walk.ahead.slice(0, TREES_AHEAD));
  });
</script>

<svelte:head><title>Tapping round</title></svelte:head>
<h1 class="sr-only">Tapping round, one tree at a time</h1>
{#if !round.isRead || !walk.isRead}
  <GoingThrough {...round.reading} />
{:else if stop}
  <div class="mx-auto flex h-full max-w-xl flex-col gap-2" data-testid="walk">
    <div class="flex min-h-12 shrink-0 items-center justify-between gap-2 text-base leading-tight">
      {#if last}
        <button
          class="min-h-12 min-w-0 truncate text-left underline"
          data-testid="walk-last"
          onclick={() => (looking = true)}>{last.says}</button
        >
      {:else}<span class="min-w-0 truncate">{counted(left, 'hole')} on {counted(walk.ahead.length, 'tree')}</span>{/if}
      <span class="flex shrink-0 items-center gap-1">
        {#if last}<button class="btn h-12 btn-ghost text-base" onclick={() => walk.takeBack(last)}
            ><Undo2 size={20} /> Undo</button
          >{/if}
        <button class="btn h-12 btn-ghost text-base" onclick={() => walk.end()}>Stop</button>
      </span>
    </div>
    <div
      class="h-1.5 shrink-0 bg-base-300"
      role="img"
      aria-label="{drilled} of {drilled + left} holes of the round are drilled, {mine} of them by you today"
    >
      <div class="h-full bg-secondary" style:width="{(100 * drilled) / (drilled + left)}%"></div>
    </div>
    <header class="flex shrink-0 items-baseline gap-3">
      <h2 class="text-5xl font-bold tabular-nums" data-testid="walk-tag">{stop.line.row.tag}</h2>
      <p class="text-lg leading-tight">
        {#if way}<b
            >{preferences.length(1000 * way.metres, 'way')}{way.bearingDeg === null
              ? ''
              : ` ${compassPoint(way.bearingDeg)}`} of {way.tag}</b
          ><br />{/if}
        {stop.line.row.species ? speciesById(stop.line.row.species).name : 'maple'}, {preferences.length(
          stop.line.row.dbhMm!,
          'trunk'
        )}{stop.line.taps > 1
          ? `; hole ${stop.line.taps - stop.line.left + (stop.asks ? 0 : 1)} of ${stop.line.taps}`
          : ''}
      </p>
    </header>
    {#if stop.sick}<p class="caution shrink-0 text-base">Sick tree: wipe the bit before and after.</p>
    {:else if wipe && !stop.asks}<p class="caution shrink-0 text-base">Brown wood: wipe the bit.</p>{/if}
    {#key `${stop.treeId} ${stop.asks?.id ?? ''} ${stop.line.left}`}<TapStopView
        {stop}
        {round}
        {walk}
        failed={ahead.failed}
      />{/key}
  </div>
{:else}
  <div class="mx-auto flex h-full max-w-xl flex-col gap-4 text-lg" data-testid="walk-start">
    <p class="font-slab text-3xl leading-tight font-semibold">
      {left > 0
        ? `${counted(left, 'hole')} to drill on ${counted(walk.ahead.length, 'tree')}.`
        : drilled > 0
          ? 'Nothing is left to drill here.'
          : 'No tree here has a count to drill.'}
    </p>
    <p>
      {left > 0 ? `That takes ${round.timeFor(left)}. ` : ''}{drilled > 0
        ? `${counted(drilled, 'hole')} drilled, ${mine} of them by you today.`
        : ''}
      {left === 0 && drilled > 0 ? 'Count the spouts that are left over.' : ''}
    </p>
    {#if bush.openQuestions > 0}<a
        class="flex min-h-12 link items-center border-l-[6px] border-warning pl-4 font-semibold"
        href="/bush/{bush.id}/questions">{counted(bush.openQuestions, 'question')} about what was drilled</a
      >{/if}
    <div class="flex flex-wrap gap-2">
      <StandSelect bind:value={walk.standId} />
      {#if helpers.length > 0}<select
          class="select h-12 w-44 text-base"
          aria-label="Whose part"
          bind:value={() => part, (chosen) => (walk.helper = chosen)}
        >
          <option value="">everybody’s part</option>
          {#each helpers as name (name)}<option value={name}>{name === me ? 'your part' : name}</option>{/each}
        </select>{/if}
    </div>
    <p class="caution">
      Both hands on the drill, firm footing, goggles. In and out in one go, slightly upward. Local rules and trained
      people come first.
    </p>
    <div class="grow"></div>
    {#if space && bush.progress === null}<p class="text-base" data-testid="device-space">
        This bush is on this device and works without a network: {space.megabytes < 1
          ? 'under 1'
          : Math.round(space.megabytes)} MB{space.kept
          ? '.'
          : ', which the browser may clear away when room runs short. Put the program on your home screen to keep it.'}
      </p>{/if}
    {#if left > 0}<button class="btn h-20 shrink-0 text-2xl btn-primary" onclick={start}>Start</button>
    {:else}<a class="btn h-16 shrink-0 text-lg" href="/bush/{bush.id}/place/round">The whole round</a>{/if}
  </div>
{/if}

<ModalDialog bind:open={looking} title="What was done last">
  <ul class="flex flex-col text-lg" data-testid="walk-done">
    {#each walk.done.toReversed() as what (what.records[0]?.id)}
      <li class="flex min-h-14 items-center justify-between gap-3 border-b border-base-300">
        {what.says}
        <button class="btn h-12 text-base" onclick={() => takeBack(what)}>Take back</button>
      </li>
    {/each}
  </ul>
</ModalDialog>
