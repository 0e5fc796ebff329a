<script lang="ts">
  import { questionAge, speciesById, type Character, type SpeciesId } from '@baumkin/core/identify';
  import { onMount, tick, untrack } from 'svelte';

  import { saved } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import Told from '$lib/ui/Told.svelte';
  import { capital } from '$lib/words/capital.ts';
  import { headlineOf, inHundred, labelOf, toneOf } from '$lib/labels/identify.ts';

  import Circumstances from './Circumstances.svelte';
  import Declared from './Declared.svelte';
  import History from './History.svelte';
  import LookCard from './LookCard.svelte';
  import { Looking } from './looking.svelte.ts';
  import OtherLooks from './OtherLooks.svelte';
  import SideBySide from './SideBySide.svelte';
  import Standing from './Standing.svelte';

  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const looking = untrack(() => new Looking(bush, treeId));
  const { row, table, work, last, judgement, leading, begun, current, best } = $derived(looking);

  /** Keys of the look-cards: letters that the frame leaves free. */
  const CARD_KEYS = 'abcdefghijkm';

  let comparing = $state(false);
  let heading = $state<HTMLHeadingElement | null>(null);
  let pair = $state<{ a: SpeciesId; b: SpeciesId } | null>(null);

  onMount(() => looking.read());

  const seen = $derived(
    table.forAge(work.age).filter((c) => c.id !== 'twigsFrom' && work.evidence[c.id] !== undefined)
  );
  const others = $derived(
    table
      .visible(work.age, work.season)
      .filter((c) => work.evidence[c.id] === undefined && c.id !== current?.id)
      .toSorted((a, b) => rank(a) - rank(b))
  );
  const rank = (c: Character) => {
    const i = looking.looks.findIndex((look) => look.character === c.id);
    return i < 0 ? looking.looks.length : i;
  };
  const ageQuestion = $derived(questionAge(work.age, row.dbhMm));

  /** On to the next question, which has to be seen: on a phone the cards before it filled the page. */
  async function answered(keeping: Promise<void>): Promise<void> {
    await Promise.all([tick(), keeping]);
    heading?.scrollIntoView({ block: 'nearest' });
  }
  const choose = (character: Character, state: string) => void answered(looking.choose(character, state));
  const cannotTell = () => void answered(looking.cannotTell());

  async function save(): Promise<void> {
    const says = headlineOf(judgement.verdict, leading.species, true).toLowerCase();
    saved(bush, `Tree ${row.tag}: ${says}.`, await looking.save());
  }

  function compare(): void {
    comparing = !comparing;
    pair = comparing ? { a: leading.species, b: judgement.rival } : null;
  }

  /** Somebody who knew said what it is, and no clue was looked at. */
  const declared = $derived(last?.basis === 'declared' && !begun ? last : null);

  function onkeydown(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (event.ctrlKey || event.metaKey || event.altKey || target.closest('[role=dialog]')) return;
    if (target.closest('input:not([type=radio]), textarea, select')) return;
    const state = current?.states[CARD_KEYS.indexOf(event.key)];
    if (event.key === 'v') compare();
    else if (!bush.mayRecord) return;
    else if (state && event.key.length === 1) choose(current!, state.id);
    else if (event.key === '0') cannotTell();
    else if (event.key === 's' && looking.maySave) void save();
    else return;
    event.preventDefault();
  }
</script>

<svelte:window {onkeydown} />
<div class="grid gap-x-8 gap-y-5 lg:grid-cols-[1fr_20.5rem]">
  <section aria-labelledby="look" class="min-w-0">
    <Circumstances
      bind:season={looking.work.season}
      bind:age={looking.work.age}
      bind:twigsFrom={looking.work.evidence.twigsFrom}
      twigs={table.character('twigsFrom')}
      onchange={() => looking.keep()}
    />
    {#if ageQuestion}<p class="mb-3 border-l-4 border-primary pl-3" data-testid="age-question">{ageQuestion}</p>{/if}
    {#if looking.keptAt !== null}
      <p class="mb-3 border-l-4 border-base-content pl-3">
        Here is what you had chosen on {new Date(looking.keptAt).toLocaleDateString('en-GB')} and not saved.
        <button class="link" onclick={() => looking.afresh()}>Begin afresh</button>
      </p>
    {/if}
    {#each judgement.conflicts.slice(0, 1) as { a, b } (a.character + b.character)}
      <div class="mb-3 border-l-4 border-primary pl-3" data-testid="conflict">
        <p>
          No tree on the list shows <b>{labelOf(table.character(a.character), a.state).toLowerCase()}</b> with
          <b>{labelOf(table.character(b.character), b.state).toLowerCase()}</b>. One of the two is another tree’s, or
          was misread.
        </p>
        <p class="mt-1 flex flex-wrap gap-2">
          {#each [a, b] as { character } (character)}
            <button class="btn btn-outline btn-sm" onclick={() => (looking.asked = character)}
              >Look again: {table.character(character).name.toLowerCase()}</button
            >
          {/each}
        </p>
      </div>
    {/each}

    {#if current}
      <div class="mb-2">
        <h2 id="look" bind:this={heading} class="scroll-mt-3"><Told of={current.question} /></h2>
        <p class="aside" data-testid="why-look">
          {#if current.fromTwigs && work.evidence.twigsFrom === 'beside'}They may be a neighbour’s twigs: a weak clue.
          {:else if current.strength === 'weak'}A weak clue: it can nudge, never decide.
          {:else if current.strength === 'context'}It says how far the buds can be trusted, and whether the season ends.
          {:else if looking.askedFor === 'branchingFirst'}Nothing is settled without it.
          {:else if looking.askedFor === 'tellsMost' && best}The look that tells most now{best.settles >= 0.05
              ? `: it would settle about ${Math.round(best.settles * 100)} in 100 such trees`
              : ''}.
          {:else}{current.name}{/if}
        </p>
      </div>
      <div class="grid grid-cols-2 gap-2 md:grid-cols-4 xl:grid-cols-5">
        {#each current.states as state, i (state.id)}
          <LookCard
            character={current}
            {state}
            hint={CARD_KEYS[i]}
            chosen={work.evidence[current.id] === state.id}
            disabled={!bush.mayRecord}
            onchoose={() => choose(current, state.id)}
          />
        {/each}
      </div>
      <div class="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <button class="btn btn-outline btn-sm max-md:w-full" onclick={cannotTell} disabled={!bush.mayRecord}
          >Can’t tell <kbd class="font-sans text-xs opacity-70 max-md:hidden">0</kbd></button
        >
        {#if looking.asked !== null}<button class="btn btn-ghost btn-sm" onclick={() => (looking.asked = null)}
            >Leave it as it is</button
          >{/if}
      </div>
    {:else}
      <h2 id="look" bind:this={heading} class="scroll-mt-3">
        Nothing else that can be seen now would change the answer.
      </h2>
      <p class="aside">
        {judgement.verdict === 'lookAgain' || judgement.verdict === 'mapleOpen'
          ? work.season === 'leaf'
            ? 'Save it as it stands: it joins the list of trees that are still open.'
            : 'Save it as it stands: it joins the list of trees that want a visit in leaf.'
          : 'The clues left over would only repeat it.'}
      </p>
    {/if}

    <OtherLooks {seen} {others} evidence={work.evidence} skipped={work.skipped} bind:asked={looking.asked} />
    <button class="btn mt-4 btn-outline btn-sm" aria-expanded={comparing} onclick={compare}
      >{comparing
        ? 'Close the comparison'
        : `Compare ${speciesById(leading.species).name} with ${speciesById(judgement.rival).name}`}
      <kbd class="font-sans text-xs opacity-70 max-md:hidden">v</kbd></button
    >
  </section>

  <aside class="flex flex-col gap-4" aria-label="Standing">
    {#if declared}<Declared determination={declared} />{:else}<Standing
        {judgement}
        {begun}
        {table}
        settled={looking.settled}
      />{/if}
    {#if looking.isSaved && last}
      <p class="aside">
        This is the determination of {last.on}. Change a clue to make a new one; the old one is kept.
      </p>
    {:else if bush.mayRecord && !declared}
      <button class="btn btn-primary max-md:hidden" onclick={save} disabled={!begun}
        >Save this determination <kbd class="font-sans text-xs opacity-70">s</kbd></button
      >
    {/if}
  </aside>
</div>
{#if comparing && pair}
  <section class="mt-6" aria-labelledby="compare">
    <h2 id="compare" class="mb-1">{capital(speciesById(pair.a).name)} or {speciesById(pair.b).name}?</h2>
    <SideBySide bind:a={pair.a} bind:b={pair.b} {table} age={work.age} season={work.season} evidence={work.evidence} />
  </section>
{/if}
<div class="mt-6"><History {treeId} /></div>

<!-- For one thumb: the verdict so far and the one thing to do about it. -->
{#if looking.maySave}
  <div
    class="{toneOf(
      judgement.verdict,
      begun
    )} sticky -bottom-4 -mx-4 mt-4 -mb-4 flex items-center gap-3 px-4 py-2 md:hidden"
  >
    <span class="grow leading-tight font-semibold"
      >{headlineOf(judgement.verdict, leading.species, begun)}<span class="block text-sm font-normal"
        >{inHundred(judgement.pMaple)} a maple</span
      ></span
    >
    <button class="btn border-current bg-base-100 text-base-content" onclick={save}>Save</button>
  </div>
{/if}
