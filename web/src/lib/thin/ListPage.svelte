<script lang="ts">
  import { cutForbidden, isSugarbush, type TreeRow } from '@baumkin/core/records';
  import { heldBack, markingList } from '@baumkin/core/bush';
  import { releases, isQuiet } from '@baumkin/core/thinning';
  import Printer from '@lucide/svelte/icons/printer';

  import EmptyState from '$lib/ui/EmptyState.svelte';
  import { heldBackWords } from '$lib/labels/thinning.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import StandMap from '$lib/map/StandMap.svelte';
  import { mapTrees } from '$lib/map/mapTrees.ts';
  import { questionsFor } from '$lib/map/questions.ts';
  import Term from '$lib/ui/Term.svelte';

  import Clash from './Clash.svelte';
  import CleanUpPanel from './CleanUpPanel.svelte';
  import FellingPractice from './FellingPractice.svelte';
  import FollowUps from './FollowUps.svelte';
  import MarkingTable from './MarkingTable.svelte';
  import UntaggedMarks from './UntaggedMarks.svelte';

  /** What comes down, in walking order, with what a faller has to know; and the log of what came down. */
  const bush = useBush();
  const metres = (m: number) => preferences.length(m * 1000, 'ground');
  let standId = $state<string>('all');
  let asked = $state(false);
  let picked = $state<string | null>(null);
  const pick = (treeId: string | null) => void (picked = treeId);

  const here = (row: TreeRow) => standId === 'all' || row.standId === standId;
  /** Marked to come down, and not to be felled as things stand. */
  const held = $derived(
    bush.rows.flatMap((row) => {
      if (!here(row) || !releases(row.mark) || row.fallen?.what === 'girdled') return [];
      const back = heldBack(row, bush.standOf(row), bush.today);
      return back ? [{ row, back }] : [];
    })
  );
  const walkOrder = $derived(
    markingList(bush.rows.filter(here), new Set(held.map(({ row }) => row.id)), bush.features)
  );
  /** in walking order, or in the order of felling that leaves least hurt */
  let byTurn = $state(false);
  const list = $derived(
    byTurn ? walkOrder.toSorted((a, b) => (a.turn?.at ?? Infinity) - (b.turn?.at ?? Infinity)) : walkOrder
  );
  const settings = $derived(bush.overview!.bush.settings);
  const quiet = $derived({ from: settings.quietFrom, to: settings.quietTo });
  const dayWords = (monthDay: string) =>
    new Date(`2000-${monthDay}T12:00:00Z`).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' });
  let faller = $state('');
  let helper = $state('');
  let away = $state<string[]>([]);
  const AWAY = ['visitors and children', 'dogs', 'horses and livestock'];
  const trained = $derived(list.filter((each) => each.cautions === null || each.cautions.trained));
  const others = $derived(list.filter((each) => each.cautions !== null && !each.cautions.trained));
  /** Trees without a tag that crown cards mark. */
  const untagged = $derived(
    bush.rows
      .filter((row) => here(row) && cutForbidden(bush.standOf(row), bush.today) === null)
      .flatMap((row) =>
        (row.crownCard?.blockers ?? []).flatMap((blocker, at) =>
          blocker.treeId === null && blocker.fate === 'take' ? [{ row, blocker, at }] : []
        )
      )
  );

  const ready = $derived(asked && faller.trim() !== '' && helper.trim() !== '' && away.length === AWAY.length);
  const questions = $derived(questionsFor(bush));
  const question = $derived(questions.find((q) => q.id === 'marks')!);
  const shown = $derived(list.find(({ row }) => row.id === picked) ?? trained[0] ?? list[0] ?? null);
  const scene = $derived({
    trees: mapTrees(bush.rows.filter(here), question).map((tree) => ({
      ...tree,
      ...(releases(bush.byId.get(tree.id)!.mark) ? { sign: 'take' as const } : {})
    })),
    tones: question.answers,
    chosen: new Set<string>(),
    current: shown?.row.id ?? null
  });
  const rings = $derived(
    shown?.tree && shown.cautions
      ? [
          {
            eastM: shown.tree.eastM,
            northM: shown.tree.northM,
            radiusM: shown.cautions.clearM,
            says: `${metres(shown.cautions.clearM)} round ${shown.row.tag}`
          }
        ]
      : []
  );
</script>

<h1 class="mb-1">Marking list</h1>
<div class="mb-3 flex flex-wrap items-end gap-x-5 gap-y-2 print:hidden">
  <label class="flex items-center gap-2"
    >Stand
    <select class="select w-auto" bind:value={standId}>
      <option value="all">all</option>
      {#each bush.overview!.stands as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
    </select></label
  >
</div>
<p class="hidden print:block">
  {bush.overview!.bush.name}, {bush.today}. Painted with: {settings.markPaint}. {byTurn
    ? 'In an order that leaves little hurt; which way a tree falls is for whoever fells it.'
    : 'In walking order.'} Faller: {faller}. With: {helper}. Kept away: {away.join(', ')}.
</p>
<p class="caution mb-3 max-w-prose">
  Felling kills. Nothing here says that a tree is safe to fell. Two tree lengths clear of everybody (29 CFR 1910.266),
  helmet, eye, ear and leg protection, never alone, a way of retreat. <Term of="hungUp">Hung-up</Term>, dead-topped,
  hollow and leaning trees, all by buildings, paths and lines, and every tree that nobody has looked up at, are for
  trained fallers. Local rules on cutting, wildlife and boundaries come first.
</p>
{#if isQuiet(quiet, bush.today)}
  <p class="caution mb-3 max-w-prose" data-testid="quiet">
    From {dayWords(quiet.from)} to {dayWords(quiet.to)} nothing is cut or cleared here: nests and dens hold young{[
      '06',
      '07'
    ].includes(bush.today.slice(5, 7))
      ? ', and bats raise theirs under loose bark and in cavities'
      : ''}.
  </p>
{/if}
{#if bush.today.slice(5, 7) === '11'}
  <p class="caution mb-3 max-w-prose">
    November: hunters are in the woods. Ask when and where they hunt, and let everybody wear a bright colour.
  </p>
{/if}
{#if held.length > 0}
  <section class="mb-4 max-w-prose border-l-4 border-error pl-3" aria-labelledby="held" data-testid="held">
    <h2 id="held">Marked, but not to be felled as things stand: {held.length}</h2>
    <ul>
      {#each held as { row, back } (row.id)}
        {#if back.why === 'clash'}<Clash {row} says={heldBackWords(back)} onpick={() => pick(row.id)} />{:else}<li
            class="border-b border-base-300/60 py-1.5"
          >
            <a class="link font-bold" href="/bush/{bush.id}/thin/{row.id}">{row.tag}</a>: {heldBackWords(back)}.
          </li>{/if}
      {/each}
    </ul>
  </section>
{/if}
{#if list.length === 0 && untagged.length === 0}
  <EmptyState>
    Nothing is marked to come down. <a class="link" href="/bush/{bush.id}/thin/plan">Make a plan</a>, or mark trees on
    their own sheets.
  </EmptyState>
{:else}
  <div class="mb-4 flex flex-wrap items-center gap-x-5 gap-y-2 print:hidden">
    <label class="flex max-w-prose items-start gap-2"
      ><input type="checkbox" class="checkbox mt-0.5" bind:checked={asked} />
      <span
        >I have asked what local rules say of cutting, boundaries and protected species, and looked for nests, dens and
        bats on these trees.</span
      ></label
    >
    <fieldset class="flex w-full flex-wrap items-end gap-x-4 gap-y-2" data-testid="felling-day">
      <legend class="mb-1 font-semibold">On the day</legend>
      <label class="flex flex-col gap-1"
        >who fells <input class="input w-44" maxlength="80" bind:value={faller} /></label
      >
      <label class="flex flex-col gap-1"
        >who is with them <input class="input w-44" maxlength="80" bind:value={helper} /></label
      >
      <span>kept away, or none about:</span>
      {#each AWAY as who (who)}
        <label class="flex min-h-8 items-center gap-2"
          ><input type="checkbox" class="checkbox checkbox-sm" value={who} bind:group={away} /> {who}</label
        >
      {/each}
    </fieldset>
    <label class="flex items-center gap-2"
      ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={byTurn} /> in an order of felling that leaves little
      hurt</label
    >
    <button class="btn btn-primary" disabled={!ready} onclick={() => window.print()}
      ><Printer size={18} /> Print the list</button
    >
    {#if !ready}<span class="aside"
        >It can be printed once that is ticked, and it says who fells, who is with them and who is kept away.</span
      >{/if}
  </div>
  <div class="grid gap-x-8 gap-y-6 2xl:grid-cols-[minmax(0,1fr)_26rem] print:block {ready ? '' : 'print:hidden'}">
    <div class="flex min-w-0 flex-col gap-6 overflow-x-auto">
      {#if trained.length > 0}
        <section aria-labelledby="trained" data-testid="trained">
          <h2 id="trained">For trained fallers: {trained.length}</h2>
          <MarkingTable rows={trained} label="For trained fallers" current={shown?.row.id ?? null} onpick={pick} />
        </section>
      {/if}
      {#if others.length > 0}
        <section aria-labelledby="rest" data-testid="rest">
          <h2 id="rest">Not yet judged by anyone trained: {others.length}</h2>
          <p class="aside">
            Somebody looked up at them and noted no hazard. That is all it says: whoever fells looks at each anew.
          </p>
          <MarkingTable
            rows={others}
            label="Not yet judged by anyone trained"
            current={shown?.row.id ?? null}
            onpick={pick}
          />
        </section>
      {/if}
      {#if untagged.length > 0}<UntaggedMarks {untagged} />{/if}
    </div>
    <div class="print:hidden">
      <div class="h-80 border border-base-300">
        <StandMap
          {scene}
          stands={(bush.overview?.stands ?? []).filter((s) => standId === 'all' || s.id === standId)}
          features={bush.features}
          {rings}
          onpick={pick}
        />
      </div>
      {#if shown}<p class="aside mt-1">
          The circle: two lengths of tree {shown.row.tag}, which nobody enters while it is felled.
        </p>{/if}
    </div>
  </div>
{/if}
<div class="mt-6 grid gap-x-10 gap-y-6 lg:grid-cols-2 print:hidden">
  <CleanUpPanel
    trees={walkOrder.flatMap(({ tree }) => tree ?? [])}
    left={new Set(list.filter(({ row }) => row.mark === 'girdle').map(({ row }) => row.id))}
  />
  <div class="flex flex-col gap-6">
    <FellingPractice />
    <FollowUps {here} />
    {#each bush.overview!.stands.filter((s) => !isSugarbush(s)) as stand (stand.id)}
      <p class="aside"><b>{stand.name}</b> is managed for something else{stand.note ? `: ${stand.note}` : '.'}</p>
    {/each}
  </div>
</div>
