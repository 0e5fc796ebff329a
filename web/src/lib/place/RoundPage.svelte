<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import type { TreeRow } from '@baumkin/core/records';
  import { AS_PLANNED_MM, countable } from '@baumkin/core/bush';
  import Printer from '@lucide/svelte/icons/printer';
  import { onDestroy, tick, untrack } from 'svelte';

  import GoingThrough from '$lib/ui/GoingThrough.svelte';
  import StandSelect from '$lib/ui/StandSelect.svelte';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import WindowedList from '$lib/ui/WindowedList.svelte';

  import { chanceInWords } from '$lib/labels/chance.ts';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import { PrintedRound } from './printedRound.svelte.ts';
  import { RoundPlan } from './roundPlan.svelte.ts';
  import { isOffPlan, TappingRound, type RoundLine } from './tappingRound.svelte.ts';
  import HandOut from './HandOut.svelte';
  import RoundPrint from './RoundPrint.svelte';

  /** The whole bush placed in one go, to be printed, walked and checked off. */
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const plan = untrack(() => new RoundPlan(bush));
  onDestroy(() => plan.run.stop());

  const round = untrack(() => new TappingRound(bush));
  $effect(() => void round.follow());
  const lines = $derived(round.lines);
  const undecided = $derived(
    bush.walked.filter((row) => countable(row, bush.standOf(row)) && row.decidedTaps === null).length
  );

  let standId = $state('');
  let only = $state<'all' | 'left' | 'new' | 'off'>('all');
  const onPaper = untrack(() => new PrintedRound(bush));
  const isAsked = {
    left: ({ left }: RoundLine) => left > 0,
    new: (line: RoundLine) => line.left > 0 && onPaper.isNew(line),
    off: isOffPlan
  };
  const shown = $derived(
    lines.filter(
      (line) =>
        (standId === '' || line.row.standId === standId) &&
        (helper === '' || helperOf(line) === helper) &&
        (only === 'all' || isAsked[only](line))
    )
  );
  const toDrill = $derived(shown.reduce((sum, { left }) => sum + left, 0));
  const drilled = $derived(shown.reduce((sum, { state }) => sum + state.holesThisSeason.length, 0));
  const unplanned = $derived(shown.filter(({ left, settled }) => left > 0 && !settled));
  /** Of those, how many have holes already that are looked at again because something was learned. */
  const again = $derived(unplanned.filter(({ state }) => state.rotation?.season === bush.season).length);
  const planAll = () => plan.plan(unplanned.map(({ row, placing }) => ({ treeId: row.id, placing })));

  function wordsOn(line: RoundLine): string {
    const { taps, left, worse, off, elsewhere, settled, open } = line;
    const { offMm } = off;
    if (worse) return 'seen worse since: count anew';
    if (elsewhere > 0) return `${elsewhere} drilled elsewhere`;
    if (offMm !== null && offMm > AS_PLANNED_MM) return `${preferences.length(offMm, 'hand')} off plan`;
    if (!settled && open.length > 0) return 'look again';
    if (left > 0 && onPaper.isNew(line)) return `new since your print of ${onPaper.on}`;
    if (left === 0) return `${taps} drilled`;
    if (left < taps) return `${taps - left} of ${taps} drilled`;
    return round.isShallow(line) ? `only ${preferences.length(round.depthOf(line), 'drill')} deep` : '';
  }
  /** whose part of the round; empty for all */
  let helper = $state('');
  const helpers = $derived([...new Set(round.helpers.values())]);
  const helperOf = (line: RoundLine) => round.helpers.get(line.row.id) ?? null;
  let handingOut = $state(false);
  const speciesOf = (row: TreeRow) => (row.species ? speciesById(row.species).name : 'maple');

  let printing = $state<'cards' | 'list' | null>(null);
  async function print(what: 'cards' | 'list'): Promise<void> {
    printing = what;
    printedBefore = onPaper.on;
    freshOnPaper = new Set(printed.filter((line) => onPaper.isNew(line)).map(({ row }) => row.id));
    await tick();
    window.print();
    await onPaper.keep(printed);
  }
  /** as the paper says it that is printed now: when it was printed before, and what is new on it */
  let printedBefore = $state<string | null>(null);
  let freshOnPaper = $state.raw<ReadonlySet<string>>(new Set());
  const printed = $derived(shown.filter((line) => line.left > 0 && line.open.length > 0));
  let pacing = $state(untrack(() => settings.minutesAHole));
  let problem = $state<string | null>(null);
  let width = $state(1000);
  const narrow = $derived(width < 640);
</script>

<h1 class="sr-only">The tapping round</h1>
<div class="print:hidden" bind:clientWidth={width}>
  <div class="max-w-prose text-lg">
    {#if !round.isRead}<GoingThrough {...round.reading} />
    {:else if lines.length === 0}No tree has a count for {bush.season} yet.
      <a class="link" href="/bush/{bush.id}/count/all">Decide the counts</a>, then the whole round is placed in one go.
    {:else}
      <b>{counted(toDrill, 'hole')} to drill</b> on {shown.filter(({ left }) => left > 0).length} trees,
      {drilled} drilled{bush.paintOf(bush.season) ? `; ${bush.paintOf(bush.season)} paint this season` : ''}. That takes {round.timeFor(
        toDrill
      )} at
      {round.pace === null
        ? `${settings.minutesAHole} minutes a hole`
        : `your crew’s own pace, ${round.pace.toFixed(1)} minutes a hole`}.
      {undecided > 0 ? `${undecided} trees have no count yet.` : ''}
      <a class="link" href="/bush/{bush.id}/season/drilling">When to begin, and the card of the day</a>.
    {/if}
  </div>
  {#if lines.length > 0}
    <div class="mt-3 flex flex-wrap items-center gap-3">
      {#if toDrill > 0 && bush.mayRecord}<a
          class="btn max-md:h-14 max-md:w-full max-md:text-lg max-md:btn-primary md:btn-sm"
          href="/bush/{bush.id}/walk">Walk it, tree by tree</a
        >{/if}
      <StandSelect bind:value={standId} />
      {#if helpers.length > 0}<select
          class="select w-44 max-md:h-12 max-md:text-base md:select-sm"
          aria-label="Whose part"
          bind:value={helper}
        >
          <option value="">everybody’s part</option>
          {#each helpers as name (name)}<option value={name}>{name}</option>{/each}
        </select>{/if}
      <select class="select w-48 select-sm" aria-label="Which trees" bind:value={only}>
        <option value="all">all trees of the round</option>
        <option value="left">still to drill</option>
        {#if onPaper.on}<option value="new">new since the print of {onPaper.on}</option>{/if}
        <option value="off">drilled off the plan</option>
      </select>
      <LongRunStatus run={plan.run} what="Placing the holes" />
      {#if plan.run.done === null && unplanned.length > 0 && bush.mayRecord}
        <button class="btn btn-primary btn-sm" onclick={planAll}
          >{again === unplanned.length
            ? `Look at ${counted(again, 'tree')} again`
            : `Place the holes of ${counted(unplanned.length, 'tree')}`}</button
        >
      {/if}
      {#if bush.mayDecide && toDrill > 0}<button class="btn btn-sm" onclick={() => (handingOut = true)}
          >{helpers.length > 0 ? 'Handed out' : 'Hand it out'}</button
        >{/if}
      {#if printed.length > 0}
        <button class="btn btn-sm" onclick={() => print('cards')}><Printer size={16} /> Cards, four a page</button>
        <button class="btn btn-sm" onclick={() => print('list')}><Printer size={16} /> List, a row a page</button>
      {/if}
      {#if bush.mayDecide && round.pace === null}
        <label class="flex items-center gap-2 text-sm"
          >Minutes a hole <input
            class="input w-16 input-sm"
            type="number"
            min="1"
            max="60"
            bind:value={pacing}
            onchange={async () => (problem = await bush.change.settings({ minutesAHole: pacing }))}
          /></label
        >
      {/if}
    </div>
    {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
    <p class="aside mt-2">Careful beats fast: the hours are for knowing when to start.</p>
    <div class="mt-3" data-testid="round">
      <WindowedList items={shown} rowPx={narrow ? 76 : 46}>
        {#snippet line(item)}
          {@const hole = item.open[0]}
          <div
            class="grid h-full items-center gap-x-3 {narrow
              ? 'grid-cols-[3rem_minmax(0,1fr)_5rem]'
              : 'grid-cols-[4rem_7rem_minmax(0,1fr)_8rem_8rem]'}"
          >
            <a class="link font-bold" href="/bush/{bush.id}/place/{item.row.id}">{item.row.tag}</a>
            {#if !narrow}<span class="truncate text-sm">{speciesOf(item.row)}</span>{/if}
            <span class={narrow ? 'line-clamp-3 text-sm leading-tight' : 'truncate'}
              >{item.left === 0
                ? ''
                : hole
                  ? round.said(item, hole).sentence + (item.open.length > 1 ? ` And ${item.open.length - 1} more.` : '')
                  : item.state.rotation?.season === bush.season
                    ? 'no room left'
                    : 'not placed yet'}</span
            >
            {#if !narrow}<span class="text-sm"
                >{hole ? chanceInWords(Math.min(...item.open.map((h) => h.pClear))) : ''}</span
              >{/if}
            <span class="text-sm {item.worse || isOffPlan(item) ? 'font-semibold text-error' : ''}"
              >{wordsOn(item)}</span
            >
          </div>
        {/snippet}
      </WindowedList>
    </div>
  {/if}
</div>

<RoundPrint {printing} {round} lines={printed} {helperOf} {printedBefore} fresh={freshOnPaper} />
<HandOut bind:open={handingOut} {round} />
