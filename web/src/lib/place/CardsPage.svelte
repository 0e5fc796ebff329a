<script lang="ts">
  import type { Taphole } from '@baumkin/core/records';
  import { tick, untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { SHAVINGS_SEEN } from '$lib/labels/placement.ts';
  import { listed } from '$lib/words/listed.ts';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import GoingThrough from '$lib/ui/GoingThrough.svelte';

  import { drilledHole, shavingsSeen } from './drilling.ts';
  import { readCard } from './readCard.ts';
  import { TappingRound, type RoundLine } from './tappingRound.svelte.ts';

  /** The evening's stack of cards, typed in their order without leaving the keys: the next card stands there, a letter says a hole. */
  const bush = useBush();
  const round = untrack(() => new TappingRound(bush));
  $effect(() => void round.follow());
  let helper = $state('');
  let on = $state(untrack(() => bush.today));
  const helpers = $derived([...new Set(round.helpers.values())]);
  /** cards that were laid aside: nothing was drilled */
  const aside = new SvelteSet<string>();
  const cards = $derived(
    round.lines.filter(
      ({ row, left, open }) => left > 0 && open.length > 0 && (helper === '' || round.helpers.get(row.id) === helper)
    )
  );
  const stack = $derived(cards.filter(({ row }) => !aside.has(row.id)));
  const holesLeft = $derived(stack.reduce((sum, { left }) => sum + left, 0));

  let text = $state('');
  let field = $state<HTMLInputElement>();
  const MM = { cm: 10, in: 25.4 } as const;
  const byTag = $derived(new Map(cards.map((line) => [line.row.tag, line])));
  const read = $derived(
    readCard(text, { heightUnitMm: MM[preferences.trunkUnit as 'cm' | 'in'], isTag: (tag) => byTag.has(tag) })
  );
  const card = $derived<RoundLine | null>(
    (typeof read === 'object' && read.tag !== null ? byTag.get(read.tag) : undefined) ?? stack[0] ?? null
  );
  const problem = $derived.by(() => {
    if (on === '') return 'Choose the day on which these were drilled.';
    if (on > bush.today) return 'That day is still to come.';
    if (typeof read === 'string') return read;
    if (card && read.holes.length > card.open.length)
      return `The card of tree ${card.row.tag} has ${counted(card.open.length, 'hole')}.`;
    return null;
  });
  const says = $derived.by(() => {
    if (typeof read === 'string' || problem !== null || !card) return '';
    if (read.holes.length === 0) return 'not drilled: laid aside';
    return listed(
      read.holes.map((hole, i) => {
        if (!hole) return `hole ${i + 1} not drilled`;
        const where = hole.at
          ? `at ${hole.at.bearingDeg}°, ${preferences.length(hole.at.heightMm, 'hand')} up`
          : 'as planned';
        return `hole ${i + 1} ${where}, ${hole.seen ? SHAVINGS_SEEN[hole.seen] : 'shavings not looked at'}`;
      })
    );
  });

  /** the card that is being written down */
  let writing: string | null = null;
  /** The next card was on the screen already when Enter was pressed: it is its turn once this one is kept. */
  let nextAsWell = false;
  async function write(): Promise<void> {
    if (writing !== null) {
      nextAsWell = card !== null && card.row.id !== writing;
      return;
    }
    if (typeof read === 'string' || problem !== null || !card) return;
    const { row, open } = card;
    writing = row.id;
    const [holes, said, typed] = [read.holes, says, text];
    // What is typed from now on is of the next card.
    text = '';
    const depthMm = round.depthOf(card);
    try {
      if (holes.every((hole) => hole === null)) aside.add(row.id);
      else {
        const drafts = holes.flatMap((hole, i) => {
          if (!hole) return [];
          const how = { depthMm, predictedClear: hole.at ? null : open[i]!.pClear, asNamed: hole.at === null };
          return { treeId: row.id, seen: hole.seen, draft: { ...drilledHole(bush, hole.at ?? open[i]!, how), on } };
        });
        const drilled = (await bush.recordAll(drafts)) as Taphole[];
        const looks = drilled.flatMap((hole, i) => {
          const { seen } = drafts[i]!;
          return seen ? { treeId: row.id, draft: { ...shavingsSeen(hole, seen), on } } : [];
        });
        const seen = await bush.recordAll(looks);
        aside.delete(row.id);
        saved(bush, `Tree ${row.tag}: ${said}.`, ...drilled, ...seen);
      }
      await tick();
      field?.focus();
    } catch (error) {
      if (text === '') text = typed;
      throw error;
    } finally {
      writing = null;
    }
    if (!nextAsWell) return;
    nextAsWell = false;
    await write();
  }
</script>

<h1 class="mb-3">Cards of the day</h1>
{#if !round.isRead}<GoingThrough {...round.reading} />
{:else if cards.length === 0}<EmptyState next={{ label: 'The round', href: `/bush/${bush.id}/place/round` }}
    >{round.lines.length === 0
      ? 'No hole is planned yet, so there is no card to type.'
      : 'No card is left to type: all that is planned is drilled.'}</EmptyState
  >
{:else}
  <div class="flex flex-wrap items-end gap-4">
    <label class="flex flex-col gap-1">Drilled on <input class="input w-44" type="date" bind:value={on} /></label>
    {#if helpers.length > 0}<label class="flex flex-col gap-1"
        >Whose cards
        <select class="select w-52" bind:value={helper}
          ><option value="">everybody’s</option>{#each helpers as name (name)}<option value={name}>{name}</option
            >{/each}</select
        ></label
      >{/if}
    <p class="pb-2">
      {counted(stack.length, 'card')} left, {counted(holesLeft, 'hole')}{aside.size > 0
        ? `; ${aside.size} laid aside`
        : ''}.
    </p>
  </div>
  {#if card}
    <form
      class="mt-5 grid max-w-3xl gap-x-8 gap-y-2 md:grid-cols-[10rem_1fr]"
      onsubmit={(event) => {
        event.preventDefault();
        void write();
      }}
      data-testid="card"
    >
      <h2 class="text-6xl leading-none tabular-nums">{card.row.tag}</h2>
      <ol class="list-inside list-decimal text-lg">
        {#each card.open as hole, k (k)}<li>{round.said(card, hole).sentence}</li>{/each}
      </ol>
      <label class="flex flex-col gap-1 md:col-span-2"
        >What the card says
        <!-- svelte-ignore a11y_autofocus -->
        <input
          class="input h-16 w-full font-mono text-3xl"
          autocomplete="off"
          autocapitalize="none"
          spellcheck="false"
          autofocus
          aria-describedby="card-says"
          bind:this={field}
          bind:value={text}
        /></label
      >
      <p id="card-says" class="min-h-8 text-lg md:col-span-2" role="status">
        {#if problem}<span class="font-semibold text-error">{problem}</span>{:else}Enter writes down: <b>{says}</b>{/if}
      </p>
    </form>
  {:else}<p class="mt-5 text-lg">The stack is typed. A card that was laid aside is taken up again by its tag.</p>{/if}
  <p class="aside mt-4 max-w-prose">
    A letter a hole: <b>p</b> pale, <b>t</b> partly brown, <b>b</b> brown, <b>d</b> dry, <b>n</b> not looked,
    <b>-</b> not drilled. <b>e205/118p</b>: drilled elsewhere, bearing and height ({preferences.trunkUnit}), pale. A
    card that is not the next begins with its tag: <b>57 pb</b>. Enter alone lays it aside.
  </p>
{/if}
