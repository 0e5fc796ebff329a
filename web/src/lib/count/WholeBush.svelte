<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import { fewerSinceDecided, type TreeRow } from '@baumkin/core/records';
  import type { BindingLimit, Suggestion } from '@baumkin/core/taps';
  import { countable, suggestionFor } from '@baumkin/core/bush';
  import { rollup } from 'd3-array';
  import { untrack } from 'svelte';

  import { goto } from '$app/navigation';
  import BushTotals from './BushTotals.svelte';
  import DearTaps from './DearTaps.svelte';
  import { RoomSearch } from './roomSearch.svelte.ts';
  import LongRunStatus from '$lib/ui/LongRunStatus.svelte';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import StandSelect from '$lib/ui/StandSelect.svelte';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { carriedWords, BINDING_WORDS, suggestedWords, tapWords } from '$lib/labels/taps.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import DataTable, { type Column } from '$lib/ui/DataTable.svelte';

  /** Every maple of the bush with its four limits, what they suggest and what was decided; totals; many decided at once. */
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);

  /* How many clear places each trunk has. What was found is kept: it is a matter of minutes. */
  const search = $derived(new RoomSearch(bush));
  $effect(() => {
    const opened = search;
    untrack(() => void opened.open());
    return () => opened.run.stop();
  });
  const rooms = $derived(search.rooms);

  const circumstances = (row: TreeRow) => ({
    settings,
    season: bush.season,
    today: bush.today,
    stand: bush.standOf(row)
  });

  interface Line {
    readonly row: TreeRow;
    readonly suggestion: Suggestion;
  }
  const lines = $derived.by((): Line[] =>
    bush.rows.flatMap((row) =>
      countable(row, bush.standOf(row))
        ? [{ row, suggestion: suggestionFor(row, circumstances(row), rooms.get(row.id) ?? null) }]
        : []
    )
  );

  let standId = $state('');
  let binding = $state<BindingLimit | ''>('');
  let status = $state<'all' | 'open' | 'decided' | 'otherwise'>('all');

  const shown = $derived(
    lines.filter(
      ({ row, suggestion }) =>
        (standId === '' || row.standId === standId) &&
        (binding === '' || suggestion.binding === binding) &&
        (status === 'all' ||
          (status === 'open'
            ? row.decidedTaps === null || fewerSinceDecided(row, bush.today) !== null
            : status === 'decided'
              ? row.decidedTaps !== null
              : row.decidedTaps !== null && row.decidedTaps !== suggestion.taps))
    )
  );

  /** Trees that nobody has looked up at lately are left out of many at once unless she says otherwise. */
  let unseenToo = $state(false);
  const undecided = $derived(shown.filter(({ row }) => row.decidedTaps === null));
  const unseen = $derived(undecided.filter(({ suggestion }) => suggestion.conditionUnknown && suggestion.taps > 0));
  const open = $derived(unseenToo ? undecided : undecided.filter((line) => !unseen.includes(line)));

  /** More than these at once are asked for once, with the numbers. */
  const MANY = 10;
  let sure = $state(false);
  const byTaps = $derived(
    [
      ...rollup(
        open,
        (some) => some.length,
        ({ suggestion }) => suggestion.taps
      )
    ].sort(([a], [b]) => b - a)
  );

  async function accept(): Promise<void> {
    sure = false;
    const records = await bush.recordAll(
      open.map(({ row, suggestion }) => ({
        treeId: row.id,
        draft: {
          kind: 'decision' as const,
          season: bush.season,
          taps: suggestion.taps,
          suggested: suggestion.taps,
          binding: suggestion.binding,
          reason: ''
        }
      }))
    );
    saved(bush, `${counted(records.length, 'tree')} decided as suggested.`, ...records);
  }

  /* More than is suggested wants its reason; fewer need none. */
  let asking = $state<{ line: Line; taps: number } | null>(null);
  let reason = $state('');
  async function decide(line: Line, taps: number, because = ''): Promise<void> {
    if (!bush.mayDecide) return;
    if (taps > line.suggestion.taps && because === '') {
      asking = { line, taps };
      reason = '';
      return;
    }
    asking = null;
    const record = await bush.record(line.row.id, {
      kind: 'decision',
      season: bush.season,
      taps,
      suggested: line.suggestion.taps,
      binding: line.suggestion.binding,
      reason: because
    });
    saved(bush, `Tree ${line.row.tag}: ${tapWords(taps)}.`, record);
  }

  /** A digit decides, Enter opens the tree. */
  function onkey(event: KeyboardEvent, line: Line): void {
    if (/^[0-8]$/.test(event.key)) {
      event.preventDefault();
      event.stopPropagation();
      void decide(line, Number(event.key));
    } else if (event.key === 'Enter') void goto(`/bush/${bush.id}/count/${line.row.id}`);
  }

  const COLUMNS: readonly Column<Line>[] = [
    { id: 'walk', label: 'Tree', track: '4rem', orderBy: ({ row }) => row.walkOrder },
    { id: 'species', label: 'Species', track: 'minmax(6rem,1fr)' },
    { id: 'diameter', label: 'Diameter', track: '5rem', orderBy: ({ row }) => row.dbhMm!, largestFirst: true },
    { id: 'ring', label: 'Ring', track: '6rem', orderBy: ({ row }) => row.ringMm, largestFirst: true },
    { id: 'size', label: 'Size', track: '3rem' },
    { id: 'condition', label: 'Condition', track: '4.5rem' },
    { id: 'growth', label: 'Growth', track: '4rem' },
    { id: 'room', label: 'Room', track: '3.5rem' },
    {
      id: 'suggested',
      label: 'Suggested',
      track: '5.5rem',
      orderBy: ({ suggestion }) => suggestion.taps,
      largestFirst: true
    },
    { id: 'decided', label: 'Decided', track: '5rem', orderBy: ({ row }) => row.decidedTaps ?? -1, largestFirst: true }
  ];
  const nameOf = ({ row, suggestion }: Line) =>
    `Tree ${row.tag}: ${suggestedWords(suggestion)} suggested because of ${BINDING_WORDS[suggestion.binding]}, ${row.decidedTaps === null ? 'not decided' : `decided ${tapWords(row.decidedTaps)}`}`;
  const limit = (n: number | null) => (n === null ? '…' : n === Infinity ? '–' : String(n));
</script>

{#if lines.length === 0}
  <EmptyState
    title="Nothing to count yet"
    next={bush.outstanding.identify > 0
      ? { label: 'Identify', href: `/bush/${bush.id}/identify` }
      : { label: 'Measure', href: `/bush/${bush.id}/measure` }}
  >
    A tree’s number stands here once it is settled as a maple, measured, and in a stand where taps are hung.
  </EmptyState>
{:else}
  <div class="grid gap-x-8 gap-y-5 xl:grid-cols-[minmax(0,1fr)_18rem]">
    <section aria-labelledby="bush" class="min-w-0">
      <h1 id="bush" class="sr-only">How many taps every tree bears</h1>
      <div class="mb-2 flex flex-wrap items-center gap-2 print:hidden">
        <select class="select w-44 select-sm" aria-label="Decided or not" bind:value={status}>
          <option value="all">all maples</option>
          <option value="open">not decided</option>
          <option value="decided">decided</option>
          <option value="otherwise">decided otherwise</option>
        </select>
        <select class="select w-44 select-sm" aria-label="What binds" bind:value={binding}>
          <option value="">whatever binds</option>
          {#each Object.entries(BINDING_WORDS) as [id, words] (id)}<option value={id}>{words} binds</option>{/each}
        </select>
        <StandSelect bind:value={standId} />
        <LongRunStatus run={search.run} what="Looking for clear wood" />
        {#if search.run.done === null && lines.some(({ row }) => !rooms.has(row.id))}
          <button class="link text-sm" onclick={() => search.look(lines.map(({ row }) => row))}
            >{rooms.size === 0
              ? 'Look for clear wood on every trunk'
              : 'Look for clear wood on the other trunks'}</button
          >
        {/if}
      </div>
      {#if undecided.length > 0 && bush.mayDecide}
        <p class="mb-2 flex flex-wrap items-center gap-3">
          <button
            class="btn btn-primary btn-sm"
            onclick={() => (open.length > MANY ? (sure = true) : void accept())}
            disabled={open.length === 0}>Accept {counted(open.length, 'suggestion')}</button
          >
          <ModalDialog bind:open={sure} title="Decide {counted(open.length, 'tree')} as suggested?">
            <ul class="text-lg">
              {#each byTaps as [taps, trees] (taps)}
                <li><b>{counted(trees, 'tree')}</b>: {taps === 0 ? 'rest' : tapWords(taps)}</li>
              {/each}
            </ul>
            <p class="mt-2">
              {unseen.length === 0
                ? 'Every crown was looked up at lately.'
                : unseenToo
                  ? `At ${unseen.length} of them nobody has looked up lately: what ails them has no say.`
                  : `${counted(unseen.length, 'tree')} that nobody has looked up at lately ${unseen.length === 1 ? 'is' : 'are'} left out.`}
              {rooms.size < lines.length ? 'Where clear wood was not looked for, it has no say.' : ''}
            </p>
            <div class="mt-4 flex flex-wrap gap-2">
              <button class="btn btn-primary" onclick={accept}>Decide them</button>
              <button class="btn" onclick={() => (sure = false)}>Look again</button>
            </div>
          </ModalDialog>
          <span class="aside"
            >for the trees shown that are not decided: {open.reduce((n, { suggestion }) => n + suggestion.taps, 0)} taps{rooms.size <
            lines.length
              ? '; where clear wood was not looked for, it has no say'
              : ''}.</span
          >
          {#if unseen.length > 0}<label class="flex items-center gap-2" data-testid="unseen"
              ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={unseenToo} />
              {unseen.length} more that nobody has looked up at lately</label
            >{/if}
        </p>
      {/if}
      {#if asking}
        <form
          class="mb-3 flex flex-wrap items-end gap-2 border-2 border-primary p-3"
          data-testid="asking"
          onsubmit={(event) => {
            event.preventDefault();
            if (asking && reason.trim() !== '') void decide(asking.line, asking.taps, reason.trim());
          }}
        >
          <label class="flex grow flex-col gap-1"
            >Why {tapWords(asking.taps)} on tree {asking.line.row.tag}, not {tapWords(asking.line.suggestion.taps)}? The
            reason is kept.
            <!-- svelte-ignore a11y_autofocus -->
            <input class="input w-full" maxlength="500" autofocus bind:value={reason} /></label
          >
          <button class="btn btn-primary btn-sm" disabled={reason.trim() === ''}>Decide</button>
          <button type="button" class="btn btn-ghost btn-sm" onclick={() => (asking = null)}>Cancel</button>
        </form>
      {/if}
      <DataTable
        rows={shown}
        columns={COLUMNS}
        rowPx={36}
        idOf={({ row }) => row.id}
        {nameOf}
        {onkey}
        first="walk"
        nothing="No tree is like that."
        narrowestRem={47}
      >
        {#snippet cells({ row, suggestion }: Line)}
          {@const mark = (id: BindingLimit) =>
            suggestion.binding === id ? 'font-bold underline decoration-2 underline-offset-4' : ''}
          <a class="link font-bold" tabindex="-1" href="/bush/{bush.id}/count/{row.id}">{row.tag}</a>
          <span class="truncate">{row.species ? speciesById(row.species).name : 'maple'}</span>
          <span class="tabular-nums">{preferences.length(row.dbhMm!, 'trunk')}</span>
          <span class="tabular-nums">{preferences.length(row.ringMm, 'ring')}</span>
          <span class={mark('size')}>{suggestion.limits.size}</span>
          <span class={mark('condition')}
            >{suggestion.conditionUnknown ? 'not seen' : limit(suggestion.limits.condition)}</span
          >
          <span class={mark('growth')}>{carriedWords(suggestion.balance).replace(' years', '')}</span>
          <span class={mark('room')}>{limit(suggestion.limits.room)}</span>
          <span class="font-bold">{suggestion.taps === 0 ? suggestedWords(suggestion) : suggestion.taps}</span>
          <span class={row.decidedTaps !== null && row.decidedTaps !== suggestion.taps ? 'font-bold text-error' : ''}
            >{row.decidedTaps === null ? '' : row.decidedTaps === 0 ? 'rest' : row.decidedTaps}</span
          >
        {/snippet}
      </DataTable>
      <DearTaps rows={shown.map(({ row }) => row)} />
    </section>
    <BushTotals {lines} />
  </div>
{/if}
