<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import { fewerSinceDecided, tapsToHang, type TreeRow } from '@baumkin/core/records';
  import { CLEAR_ENOUGH } from '@baumkin/core/rotation';
  import {
    timeToSize,
    costOfTooEarly,
    gearFor,
    tapGuidelineOf,
    guidelineTaps,
    TAP_GUIDELINES,
    type BindingLimit,
    type Collecting,
    type Suggestion
  } from '@baumkin/core/taps';
  import { balanceOf, countable, FIRST, placementOf, suggestionFor } from '@baumkin/core/bush';
  import { onDestroy } from 'svelte';
  import { SvelteMap } from 'svelte/reactivity';
  import { toast } from 'svelte-sonner';

  import { goto } from '$app/navigation';
  import { BINDING_WORDS, gearWords, GUIDELINE_LABELS, suggestedWords, tapWords } from '$lib/labels/taps.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { placeWorker } from '$lib/place/worker.ts';
  import WindowedList from '$lib/ui/WindowedList.svelte';

  /** Every maple of the bush with its four limits, what they suggest and what was decided; totals; many decided at once. */
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const guideline = $derived(tapGuidelineOf(settings));

  /* How many clear places each trunk has, found tree by tree off the page's thread. */
  const rooms = new SvelteMap<string, number>();
  let looking = $state<{ done: number; all: number } | null>(null);
  let stopped = false;
  onDestroy(() => (stopped = true));

  async function lookForRoom(): Promise<void> {
    const left = lines.filter(({ row }) => !rooms.has(row.id));
    stopped = false;
    looking = { done: 0, all: left.length };
    const known = new Map((await bush.everything()).map(({ tree, records }) => [tree.id, records]));
    for (const { row } of left) {
      if (stopped) break;
      const state = bush.stateFrom(known.get(row.id) ?? []);
      const placing = placementOf(state, { treeId: row.id, settings, season: bush.season, wanted: 4 });
      if (placing) {
        const placement = await placeWorker().place({ ...placing.task, ...FIRST });
        const clear = placement.proposals.filter((p) => p.outlook.pClear >= CLEAR_ENOUGH).length;
        rooms.set(row.id, state.holesThisSeason.length + clear);
      }
      looking = { done: looking.done + 1, all: looking.all };
    }
    looking = null;
  }

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

  type Sort = 'walk' | 'diameter' | 'ring' | 'suggested' | 'decided' | 'binding';
  let sort = $state<{ by: Sort; down: boolean }>({ by: 'walk', down: false });
  let standId = $state('');
  let binding = $state<BindingLimit | ''>('');
  let status = $state<'all' | 'open' | 'decided' | 'otherwise'>('all');

  const shown = $derived.by(() => {
    const list = lines.filter(
      ({ row, suggestion }) =>
        (standId === '' || row.standId === standId) &&
        (binding === '' || suggestion.binding === binding) &&
        (status === 'all' ||
          (status === 'open'
            ? row.decidedTaps === null || fewerSinceDecided(row, bush.today) !== null
            : status === 'decided'
              ? row.decidedTaps !== null
              : row.decidedTaps !== null && row.decidedTaps !== suggestion.taps))
    );
    if (sort.by === 'walk') return sort.down ? list.toReversed() : list;
    const key = ({ row, suggestion }: Line): number | string =>
      ({
        walk: 0,
        diameter: row.dbhMm!,
        ring: row.ringMm,
        suggested: suggestion.taps,
        decided: row.decidedTaps ?? -1,
        binding: suggestion.binding
      })[sort.by];
    const sign = sort.down ? -1 : 1;
    return list.toSorted((a, b) => {
      const [x, y] = [key(a), key(b)];
      return sign * (x < y ? -1 : x > y ? 1 : 0);
    });
  });
  const sortBy = (by: Sort) => (sort = { by, down: sort.by === by ? !sort.down : by !== 'walk' && by !== 'binding' });

  const sum = (of: (line: Line) => number) => lines.reduce((total, line) => total + of(line), 0);
  const totals = $derived({
    suggested: sum(({ suggestion }) => suggestion.taps),
    decided: sum(({ row }) => tapsToHang(row, bush.standOf(row), bush.today)),
    growth: sum(({ suggestion }) => suggestion.limits.growth),
    open: lines.filter(({ row }) => row.decidedTaps === null).length
  });
  /** Decided, but on trees that are no settled maples of a sugarbush, or must not be tapped now: nobody drills them. */
  const aside = $derived(bush.rows.reduce((n, { decidedTaps }) => n + (decidedTaps ?? 0), 0) - totals.decided);
  const byGuideline = $derived(
    TAP_GUIDELINES.map((school) => ({ school, taps: sum(({ row }) => guidelineTaps(school, row.dbhMm!)) }))
  );
  const coming = $derived(
    lines
      .flatMap(({ row }) => {
        const at = timeToSize({ dbhMm: row.dbhMm!, ringMm: row.ringMm, ringSeMm: row.ringSeMm }, guideline);
        return at && at.years <= 10 ? [{ row, at }] : [];
      })
      .sort((a, b) => a.at.years - b.at.years)
  );
  /** What tapping the thinnest of those that are not tapped by size yet would cost. */
  const early = $derived.by(() => {
    const thin = coming.filter(({ at }) => at.taps === 1).toSorted((a, b) => a.row.dbhMm! - b.row.dbhMm!)[0];
    if (!thin) return null;
    const { row, at } = thin;
    const input = {
      dbhMm: row.dbhMm!,
      ringMm: row.ringMm,
      ringSeMm: row.ringSeMm,
      ...balanceOf(settings, row.species)
    };
    return costOfTooEarly(input, at.atDbhMm);
  });
  const pct = (share: number) => `${Math.round(100 * share)} %`;
  let collecting = $state<Collecting>('buckets');
  const gearTaps = $derived(totals.decided || totals.suggested);
  const gear = $derived(
    gearFor(gearTaps, collecting).map(({ what, count }) => ({ count, ...gearWords(what, gearTaps, settings.bitMm) }))
  );
  /** Trees that nobody has looked up at lately are left out of many at once unless she says otherwise. */
  let unseenToo = $state(false);
  const undecided = $derived(shown.filter(({ row }) => row.decidedTaps === null));
  const unseen = $derived(undecided.filter(({ suggestion }) => suggestion.conditionUnknown && suggestion.taps > 0));
  const open = $derived(unseenToo ? undecided : undecided.filter((line) => !unseen.includes(line)));

  async function accept(): Promise<void> {
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
    toast.success(`${records.length} ${records.length === 1 ? 'tree' : 'trees'} decided as suggested.`, {
      action: { label: 'Undo', onClick: () => void bush.withdraw(...records) },
      duration: 10_000
    });
  }

  /* Another count than the suggested one wants its reason. */
  let asking = $state<{ line: Line; taps: number } | null>(null);
  let reason = $state('');
  async function decide(line: Line, taps: number, because = ''): Promise<void> {
    if (!bush.mayDecide) return;
    if (taps !== line.suggestion.taps && because === '') {
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
    toast.success(`Tree ${line.row.tag}: ${tapWords(taps)}.`, {
      action: { label: 'Undo', onClick: () => void bush.withdraw(record) }
    });
  }

  function onkeydown(event: KeyboardEvent, line: Line, index: number): void {
    const to = { ArrowDown: index + 1, ArrowUp: index - 1 }[event.key];
    if (to !== undefined) {
      event.preventDefault();
      const next = (event.currentTarget as HTMLElement)
        .closest('ul')
        ?.querySelector<HTMLElement>(`[data-index="${to}"]`);
      next?.focus();
    } else if (/^[0-8]$/.test(event.key)) {
      event.preventDefault();
      event.stopPropagation();
      void decide(line, Number(event.key));
    } else if (event.key === 'Enter') void goto(`/bush/${bush.id}/count/${line.row.id}`);
  }

  const COLUMNS =
    'grid grid-cols-[4rem_minmax(6rem,1fr)_5rem_6rem_3rem_4.5rem_4rem_3.5rem_5.5rem_5rem] items-center gap-x-2';
  const limit = (n: number | null) => (n === null ? '…' : n === Infinity ? '–' : String(n));
</script>

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
      <select class="select w-40 select-sm" aria-label="Stand" bind:value={standId}>
        <option value="">all stands</option>
        {#each bush.overview!.stands as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
      </select>
      {#if looking}
        <span class="flex items-center gap-2 text-sm" role="status"
          >Looking for clear wood, tree {looking.done} of {looking.all}
          <progress class="progress w-24" value={looking.done} max={looking.all}></progress>
          <button class="link" onclick={() => (stopped = true)}>Stop</button></span
        >
      {:else if rooms.size < lines.length}
        <button class="link text-sm" onclick={lookForRoom}>Look for clear wood on every trunk</button>
      {/if}
    </div>
    {#if undecided.length > 0 && bush.mayDecide}
      <p class="mb-2 flex flex-wrap items-center gap-3">
        <button class="btn btn-primary btn-sm" onclick={accept} disabled={open.length === 0}
          >Accept {open.length} {open.length === 1 ? 'suggestion' : 'suggestions'}</button
        >
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
    <div class="overflow-x-auto">
      <div class="min-w-[47rem]">
        <div class="{COLUMNS} border-b-2 border-base-content py-1 text-sm" role="group" aria-label="Order">
          {#each [['walk', 'Tree'], [null, 'Species'], ['diameter', 'Diameter'], ['ring', 'Ring'], [null, 'Size'], [null, 'Condition'], [null, 'Growth'], [null, 'Room'], ['suggested', 'Suggested'], ['decided', 'Decided']] as const as [by, label] (label)}
            {#if by}
              <button
                class="text-left font-semibold hover:underline"
                aria-pressed={sort.by === by}
                onclick={() => sortBy(by)}>{label}{sort.by === by ? (sort.down ? ' ↓' : ' ↑') : ''}</button
              >
            {:else}<span class="font-semibold">{label}</span>{/if}
          {/each}
        </div>
        {#if shown.length === 0}<p class="py-3">No tree is like that.</p>{/if}
        <WindowedList items={shown} rowPx={36}>
          {#snippet line(item, index)}
            {@const { row, suggestion } = item}
            {@const mark = (id: BindingLimit) =>
              suggestion.binding === id ? 'font-bold underline decoration-2 underline-offset-4' : ''}
            <!-- one row is one thing to a hand on the keys: arrows step, a digit decides, Enter opens -->
            <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
            <div
              class="{COLUMNS} h-full focus:bg-base-200"
              role="group"
              tabindex="0"
              data-index={index}
              aria-label="Tree {row.tag}: {suggestedWords(suggestion)} suggested because of {BINDING_WORDS[
                suggestion.binding
              ]}, {row.decidedTaps === null ? 'not decided' : `decided ${tapWords(row.decidedTaps)}`}"
              onkeydown={(event) => onkeydown(event, item, index)}
            >
              <a class="link font-bold" tabindex="-1" href="/bush/{bush.id}/count/{row.id}">{row.tag}</a>
              <span class="truncate">{row.species ? speciesById(row.species).name : 'maple'}</span>
              <span class="tabular-nums">{preferences.length(row.dbhMm!, 'trunk')}</span>
              <span class="tabular-nums">{preferences.length(row.ringMm, 'ring')}</span>
              <span class={mark('size')}>{suggestion.limits.size}</span>
              <span class={mark('condition')}
                >{suggestion.conditionUnknown ? 'not seen' : limit(suggestion.limits.condition)}</span
              >
              <span class={mark('growth')}>{limit(suggestion.limits.growth)}</span>
              <span class={mark('room')}>{limit(suggestion.limits.room)}</span>
              <span class="font-bold">{suggestion.taps === 0 ? suggestedWords(suggestion) : suggestion.taps}</span>
              <span
                class={row.decidedTaps !== null && row.decidedTaps !== suggestion.taps ? 'font-bold text-error' : ''}
                >{row.decidedTaps === null ? '' : row.decidedTaps === 0 ? 'rest' : row.decidedTaps}</span
              >
            </div>
          {/snippet}
        </WindowedList>
      </div>
    </div>
  </section>
  <aside class="flex flex-col gap-5">
    <section aria-labelledby="totals">
      <h2 id="totals">Taps in all</h2>
      <table class="w-full" data-testid="totals">
        <tbody>
          <tr class="border-b border-base-300"
            ><th class="py-1 text-left font-semibold">Suggested</th><td class="text-right font-bold"
              >{totals.suggested}</td
            ></tr
          >
          <tr class="border-b border-base-300"
            ><th class="py-1 text-left font-semibold">Decided</th><td class="text-right font-bold">{totals.decided}</td
            ></tr
          >
          <tr class="border-b border-base-300"
            ><th class="py-1 text-left font-normal">Growth surely carries</th><td class="text-right">{totals.growth}</td
            ></tr
          >
          {#each byGuideline as { school, taps } (school.id)}
            <tr class="border-b border-base-300/60"
              ><th class="py-1 text-left font-normal {school.id === guideline.id ? 'font-bold' : ''}"
                >{GUIDELINE_LABELS[school.id].name}</th
              ><td class="text-right">{taps}</td></tr
            >
          {/each}
        </tbody>
      </table>
      <p class="aside mt-1">
        {lines.length} measured maples in stands that are kept for syrup; {totals.open} not decided.
        {#if aside > 0}{aside}
          {aside === 1 ? 'tap is' : 'taps are'} decided on trees that are not settled as maples of such a stand, or must not
          be tapped now, and not counted here.{/if}
      </p>
      <p class="aside mt-1 print:hidden">Keys on a row: arrows step, 0 to 8 decide, Enter opens the tree.</p>
    </section>
    <section aria-labelledby="coming">
      <h2 id="coming">Coming to size</h2>
      {#if coming.length === 0}<p class="aside">No tree comes to the next step within ten years.</p>{/if}
      <ul class="text-sm">
        {#each coming.slice(0, 12) as { row, at } (row.id)}
          <li class="flex items-baseline gap-2 border-b border-base-300/60 py-1">
            <a class="link font-bold" href="/bush/{bush.id}/count/{row.id}">{row.tag}</a>
            <span class="grow">{tapWords(at.taps)} about {bush.season + Math.ceil(at.years)}</span>
            <span class="aside"
              >{bush.season + Math.floor(at.earliest)} to {at.latest === null
                ? '…'
                : bush.season + Math.ceil(at.latest)}</span
            >
          </li>
        {/each}
      </ul>
      {#if coming.length > 12}<p class="aside">and {coming.length - 12} more within ten years.</p>{/if}
      {#if early}
        <p class="aside mt-1">
          Tapped now, the thinnest of them would in the long run have {pct(early.now)} of its band stained, against {pct(
            early.then
          )} at the size that the ladder asks for. One tap takes most of what a small tree gives.
        </p>
      {/if}
    </section>
    <section aria-labelledby="gear">
      <h2 id="gear">Gear for {totals.decided > 0 ? 'what is decided' : 'what is suggested'}</h2>
      <div class="mt-1 flex gap-x-3 text-sm print:hidden" role="group" aria-label="Collecting">
        {#each [['buckets', 'Buckets'], ['tubing', 'Tubing']] as const as [id, label] (id)}
          <button
            class="py-1 {collecting === id ? 'border-b-[3px] border-base-content font-bold' : 'hover:underline'}"
            aria-pressed={collecting === id}
            onclick={() => (collecting = id)}>{label}</button
          >
        {/each}
      </div>
      <ul class="text-sm">
        {#each gear as item (item.name)}
          <li class="border-b border-base-300/60 py-1">
            <b>{item.count}</b>
            {item.name} <span class="aside">{item.because}</span>
          </li>
        {/each}
      </ul>
    </section>
  </aside>
</div>
