<script lang="ts">
  import {
    askLook,
    askSpecies,
    confusionPairs,
    gradeLook,
    gradeSpecies,
    LOOK_SEASONS,
    lookSeasonOf,
    looksFrom,
    PRACTICE_WORDS,
    speciesById,
    worth,
    type CharacterId,
    type Judgement,
    type LookSeason,
    type Outcome,
    type PracticeAnswer,
    type PracticeQuestion,
    type PracticeSaid,
    type PracticeWord,
    type SpeciesId
  } from '@baumkin/core/identify';
  import { seededRng } from '@baumkin/core/math';
  import { onMount } from 'svelte';

  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { AGE_NAMES, becauseWords, inHundred, SEASON_NAMES } from '$lib/labels/identify.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { store } from '$lib/client/store.ts';
  import { capital } from '$lib/words/capital.ts';

  import Drawing from './Drawing.svelte';
  import SideBySide from './SideBySide.svelte';

  /** Telling trees before a drill is touched: specimens from the clue table, with its noise. */
  const memberId = useBush().overview!.member.id;
  const bush = useBush();
  const table = $derived(bush.clueTable);

  // Practice may differ from one day to the next; nothing that is kept rests on it.
  const rng = seededRng(Math.floor(Math.random() * 2 ** 31));
  const OUTCOMES: Readonly<Record<Outcome, string>> = {
    sound: 'As much as these clues allow.',
    early: 'Too soon: these clues do not carry that yet.',
    late: 'These clues allow more than that.',
    wrong: 'Not by these clues.'
  };
  const WORDS: Readonly<Record<PracticeWord, string>> = {
    mapleOpen: 'A maple, which one is open',
    notMaple: 'No maple',
    lookAgain: 'Look again'
  };
  /** Keys of what is no species; 1 to 6 go to the stations. */
  const WORD_KEYS: Readonly<Record<string, PracticeWord>> = { '8': 'mapleOpen', '9': 'notMaple', '0': 'lookAgain' };
  const keyOf = (word: PracticeWord) => Object.keys(WORD_KEYS).find((key) => WORD_KEYS[key] === word);
  let season = $state<LookSeason>('bare');
  let mode = $state<'species' | 'look'>('species');
  let question = $state.raw<PracticeQuestion | null>(null);
  let said = $state<PracticeSaid | CharacterId | null>(null);
  let answers = $state.raw<readonly PracticeAnswer[]>([]);
  let looksAsked = $state({ asked: 0, good: 0 });
  let heading = $state<HTMLHeadingElement | null>(null);

  onMount(async () => {
    season = lookSeasonOf(bush.today);
    const kept = await store.practice.where('memberId').equals(memberId).toArray();
    // Answers of an earlier way of scoring cannot be held against what the clues allowed.
    answers = kept.toSorted((a, b) => a.at - b.at).flatMap(({ answer }) => (answer.outcome in OUTCOMES ? answer : []));
    ask();
  });

  function ask(): void {
    said = null;
    const options = { table, answers: answers.slice(-60) };
    let next: PracticeQuestion | null = null;
    for (let tries = 0; next === null && tries < 40; tries++)
      next = mode === 'species' ? askSpecies(rng, season, options) : askLook(rng, season, options);
    question = next;
    heading?.focus();
  }

  const graded = $derived(
    question?.kind === 'species' && said !== null ? gradeSpecies(question, said as PracticeSaid, table) : null
  );
  const gradedLook = $derived(
    question?.kind === 'look' && said !== null ? gradeLook(question, said as CharacterId, table) : null
  );

  async function answer(choice: PracticeSaid | CharacterId): Promise<void> {
    if (said !== null || !question) return;
    said = choice;
    if (question.kind === 'look') {
      looksAsked = { asked: looksAsked.asked + 1, good: looksAsked.good + (gradedLook!.good ? 1 : 0) };
      return;
    }
    const { answer: entry } = graded!;
    answers = [...answers, entry];
    await store.practice.add({ memberId, at: Date.now(), answer: entry });
  }

  const pairs = $derived(confusionPairs(answers).slice(0, 6));
  const many = (outcome: Outcome) => answers.filter((a) => a.outcome === outcome).length;
  /** Who would look again is asked at what. */
  const after = $derived(
    question?.kind === 'species' && graded?.answer.said === 'lookAgain' && graded.answer.outcome === 'sound'
      ? looksFrom(rng, question, table)
      : null
  );
  function askWhat(): void {
    question = after;
    said = null;
    heading?.focus();
  }

  async function forget(): Promise<void> {
    await store.practice.where('memberId').equals(memberId).delete();
    answers = [];
  }

  const ALLOWED: Readonly<Record<Judgement['verdict'], string>> = {
    settled: 'the species is settled',
    mapleOpen: 'a maple, and which one stays open',
    notMaple: 'no maple, and left alone',
    lookAgain: 'look again before a drill is touched'
  };
  const isWord = (answer: PracticeSaid): answer is PracticeWord => answer in WORDS;
  const shown = $derived(question ? table.characters.filter((c) => question!.shown[c.id] !== undefined) : []);
  const labelOf = (id: CharacterId, state: string) => table.character(id).states.find((s) => s.id === state)!;
  const choiceName = (choice: string) =>
    question?.kind === 'look'
      ? table.character(choice as CharacterId).name
      : capital(speciesById(choice as SpeciesId).name);
  /** Clues that a hundred trees of the kind show less than ten times: what made this one hard. */
  const odd = $derived(
    graded
      ? shown.filter((c) => {
          const share = c.seen[graded!.answer.truth]?.[question!.shown[c.id]!] ?? null;
          return c.strength !== 'weak' && c.seen[graded!.answer.truth] && (share ?? 0) < 10;
        })
      : []
  );

  function onkeydown(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (event.ctrlKey || event.metaKey || event.altKey || target.closest('[role=dialog], input, select, textarea'))
      return;
    if (said !== null && event.key === 'Enter' && !target.closest('button, a')) ask();
    else {
      const choice = question?.choices['abcdefghijk'.indexOf(event.key)];
      if (said !== null || !question) return;
      if (choice && event.key.length === 1) void answer(choice);
      else if (question.kind === 'species' && WORD_KEYS[event.key]) void answer(WORD_KEYS[event.key]!);
      else return;
    }
    event.preventDefault();
  }
</script>

<svelte:window {onkeydown} />
<div class="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1fr)_18rem]">
  <section class="min-w-0" aria-labelledby="question">
    <div class="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2 text-sm">
      <ToggleGroup
        label="Practise"
        options={[
          { id: 'species', label: 'What is it?' },
          { id: 'look', label: 'What to look at next?' }
        ]}
        bind:value={mode}
        onchange={ask}
      />
      <label class="flex items-center gap-2"
        >The woods are
        <select class="select w-40 select-sm" bind:value={season} onchange={ask}>
          {#each LOOK_SEASONS as s (s)}<option value={s}>{SEASON_NAMES[s]}</option>{/each}
        </select></label
      >
    </div>
    {#if question}
      <h1 id="question" tabindex="-1" bind:this={heading} class="outline-none">
        {question.kind === 'species' ? 'What is this tree?' : 'What would you look at next?'}
      </h1>
      <p class="aside mb-2">
        You stand before a tree with {AGE_NAMES[question.specimen.age]} bark. This is what you saw.
      </p>
      <ul class="mb-4 grid grid-cols-2 gap-2 md:grid-cols-3 xl:grid-cols-4">
        {#each shown as character (character.id)}
          {@const state = labelOf(character.id, question.shown[character.id]!)}
          <li class="flex items-center gap-3 border-2 border-base-300 bg-base-200 p-2 max-md:gap-2 max-md:p-1.5">
            <Drawing character={character.id} state={state.id} size="h-16 w-16 max-md:h-12 max-md:w-12" />
            <span class="leading-tight"
              ><span class="aside block text-[0.85rem]">{character.name}</span><b>{state.label}</b></span
            >
          </li>
        {/each}
      </ul>
      <div class="flex flex-wrap gap-2">
        {#each question.choices as choice, i (choice)}
          {@const isTruth = said !== null && question.kind === 'species' && choice === question.specimen.species}
          {@const isBest =
            gradedLook?.looks[0]?.character === choice ||
            (graded?.judgement.verdict === 'settled' && graded.judgement.candidates[0]!.species === choice)}
          <button
            class="btn max-md:w-full {said === choice ? 'btn-neutral' : isBest ? 'btn-secondary' : 'btn-outline'}"
            disabled={said !== null && said !== choice && !isTruth && !isBest}
            aria-pressed={said === choice}
            onclick={() => answer(choice)}
            >{choiceName(choice)}
            <kbd class="font-sans text-xs opacity-70 max-md:hidden">{'abcdefghijk'[i]}</kbd></button
          >
        {/each}
        {#if question.kind === 'species'}
          <span class="basis-full"></span>
          {#each PRACTICE_WORDS as word (word)}
            {@const allowed = graded !== null && graded.judgement.verdict === word}
            <button
              class="btn max-md:w-full {said === word ? 'btn-neutral' : allowed ? 'btn-secondary' : 'btn-outline'}"
              disabled={said !== null && said !== word && !allowed}
              aria-pressed={said === word}
              onclick={() => answer(word)}
              >{WORDS[word]} <kbd class="font-sans text-xs opacity-70 max-md:hidden">{keyOf(word)}</kbd></button
            >
          {/each}
        {/if}
      </div>
      <div role="status" class="mt-4 max-w-3xl">
        {#if graded}
          <div
            class="border-l-[6px] pl-4 {graded.answer.outcome === 'sound' ? 'border-secondary' : 'border-primary'}"
            data-testid="graded"
          >
            <p class="font-slab text-xl font-semibold">{OUTCOMES[graded.answer.outcome]}</p>
            <p class="mt-1">
              It is {speciesById(graded.answer.truth).name}{graded.answer.outcome === 'early' &&
              said === graded.answer.truth
                ? ', as you said: that was luck'
                : ''}. In the woods: {ALLOWED[graded.judgement.verdict]}.
              {becauseWords(graded.judgement.because)}
              The clues give {speciesById(graded.judgement.candidates[0]!.species).name}
              {inHundred(graded.judgement.candidates[0]!.probability)}.
            </p>
            {#if odd.length > 0}
              <p class="mt-1">
                Not typical of it: {odd
                  .map((c) => `${c.name.toLowerCase()} “${labelOf(c.id, question!.shown[c.id]!).label.toLowerCase()}”`)
                  .join(', ')}. Broken twigs and odd bark happen: look in several places.
              </p>
            {/if}
            <div class="mt-3 flex flex-wrap gap-2">
              <button class="btn btn-primary" onclick={ask}>Next tree</button>
              {#if after}<button class="btn" onclick={askWhat}>Look at what?</button>{/if}
            </div>
          </div>
          {#if graded.answer.outcome === 'wrong' || graded.answer.outcome === 'early'}
            {@const other = isWord(graded.answer.said) ? graded.judgement.rival : graded.answer.said}
            <h2 class="mt-5 mb-1">How to tell them apart</h2>
            <SideBySide
              a={graded.answer.truth}
              b={other === graded.answer.truth ? graded.judgement.rival : other}
              {table}
              age={question.specimen.age}
              {season}
              evidence={question.shown}
            />
          {/if}
        {:else if gradedLook}
          <div
            class="border-l-[6px] pl-4 {gradedLook.good ? 'border-secondary' : 'border-primary'}"
            data-testid="graded"
          >
            <p class="font-slab text-xl font-semibold">
              {gradedLook.good ? 'Well chosen.' : `${table.character(gradedLook.looks[0]!.character).name} tells more.`}
            </p>
            <ul class="mt-1 grid max-w-xl gap-y-0.5">
              {#each gradedLook.looks as look (look.character)}
                <li class="grid grid-cols-[1fr_7rem] items-center gap-x-3">
                  <span
                    ><b>{table.character(look.character).name}</b>{look.settles >= 0.01
                      ? `: settles about ${Math.round(look.settles * 100)} in 100 such trees`
                      : ''}</span
                  >
                  <span class="h-3 bg-base-200" aria-hidden="true"
                    ><span
                      class="block h-3 bg-secondary"
                      style:width="{(100 * worth(look)) / worth(gradedLook.looks[0]!)}%"
                    ></span></span
                  >
                </li>
              {/each}
            </ul>
            <button class="btn mt-3 btn-primary" onclick={ask}>Next tree</button>
          </div>
        {/if}
      </div>
    {/if}
  </section>
  <aside class="flex flex-col gap-3" aria-label="Your score">
    <h2>Your score</h2>
    {#if answers.length === 0 && looksAsked.asked === 0}
      <p>
        Say as much as the clues allow and no more, as before a drill: a name, a maple, no maple, or look again. A name
        that happens to be right counts for nothing where the clues do not carry it. What you mix up comes back more
        often. The score stays on this device.
      </p>
    {/if}
    {#if answers.length > 0}
      <p data-testid="score">
        <b>{many('sound')} of {answers.length}</b> as the clues allow; {many('early')} too soon, {many('late')} too late,
        {many('wrong')} against them.
      </p>
      {#if pairs.length > 0}
        <table class="border-collapse text-left text-sm">
          <thead><tr><th class="py-1 pr-3">Taken for one another</th><th class="py-1">times</th></tr></thead>
          <tbody>
            {#each pairs as { a, b, met, confused } (a + b)}
              <tr class="border-t border-base-300">
                <td class="py-1 pr-3">{speciesById(a).name} and {speciesById(b).name}</td>
                <td class="py-1 whitespace-nowrap">{confused} of {met}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      {/if}
    {/if}
    {#if looksAsked.asked > 0}<p><b>{looksAsked.good} of {looksAsked.asked}</b> next looks well chosen today.</p>{/if}
    {#if answers.length > 0}<button class="btn self-start btn-ghost btn-sm" onclick={forget}
        >Begin the score anew</button
      >{/if}
  </aside>
</div>
