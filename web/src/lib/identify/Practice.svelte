<script lang="ts">
  import {
    askLook,
    askPair,
    askSpecies,
    confusionPairs,
    gradeLook,
    gradePair,
    gradeSpecies,
    LOOK_SEASONS,
    lookSeasonOf,
    looksFrom,
    nextPair,
    standings,
    PRACTICE_WORDS,
    speciesById,
    TOLD_BELOW,
    worth,
    type CharacterId,
    type DatedAnswer,
    type PairQuestion,
    type PairToTell,
    type Judgement,
    type LookSeason,
    type Outcome,
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
  import Lessons from './Lessons.svelte';
  import NewPair from './NewPair.svelte';
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
  let mode = $state<'pair' | 'species' | 'look'>('pair');
  /** a pair that comes for the first time is shown before it is asked */
  let isNew = $state.raw<PairToTell | null>(null);
  let question = $state.raw<PracticeQuestion | PairQuestion | null>(null);
  let said = $state<PracticeSaid | CharacterId | null>(null);
  let dated = $state.raw<readonly DatedAnswer[]>([]);
  const answers = $derived(dated.map(({ answer }) => answer));
  let looksAsked = $state({ asked: 0, good: 0 });
  let heading = $state<HTMLHeadingElement | null>(null);

  onMount(async () => {
    season = lookSeasonOf(bush.today);
    const kept = await store.practice.where('memberId').equals(memberId).toArray();
    // Answers of an earlier way of scoring cannot be held against what the clues allowed.
    dated = kept.toSorted((a, b) => a.at - b.at).filter(({ answer }) => answer.outcome in OUTCOMES);
    ask();
  });

  function ask(): void {
    [said, isNew] = [null, null];
    if (mode === 'pair') {
      const now = Date.now();
      const next = nextPair(standings(season, dated, now, table), now);
      isNew = next.asked === 0 ? next.pair : null;
      question = askPair(rng, season, next.pair, table);
      heading?.focus();
      return;
    }
    const options = { table, answers: answers.slice(-60) };
    let next: PracticeQuestion | null = null;
    for (let tries = 0; next === null && tries < 40; tries++)
      next = mode === 'species' ? askSpecies(rng, season, options) : askLook(rng, season, options);
    question = next;
    heading?.focus();
  }

  const gradedPair = $derived(
    question?.kind === 'pair' && said !== null ? gradePair(question, said as SpeciesId | 'lookAgain', table) : null
  );
  const graded = $derived(
    gradedPair ??
      (question?.kind === 'species' && said !== null ? gradeSpecies(question, said as PracticeSaid, table) : null)
  );
  /** what the looks allow to say, marked once something was said */
  const allowed = $derived.by((): PracticeSaid | CharacterId | null => {
    if (gradedLook) return gradedLook.looks[0]!.character;
    if (!graded) return null;
    const { verdict, candidates } = graded.judgement;
    const first = (gradedPair?.ofTwo.candidates ?? candidates)[0]!;
    if (gradedPair) return first.probability >= 1 - TOLD_BELOW ? first.species : 'lookAgain';
    return verdict === 'settled' ? first.species : verdict;
  });
  const words = $derived.by((): readonly PracticeWord[] => {
    if (question?.kind === 'species') return PRACTICE_WORDS;
    return question?.kind === 'pair' ? ['lookAgain'] : [];
  });
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
    const at = Date.now();
    dated = [...dated, { at, answer: entry }];
    await store.practice.add({ memberId, at, answer: entry });
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
    dated = [];
    ask();
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
    if (isNew) return;
    if (said !== null && event.key === 'Enter' && !target.closest('button, a')) ask();
    else {
      const choice = question?.choices['abcdefghijk'.indexOf(event.key)];
      if (said !== null || !question) return;
      if (choice && event.key.length === 1) void answer(choice);
      else if (words.includes(WORD_KEYS[event.key]!)) void answer(WORD_KEYS[event.key]!);
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
          { id: 'pair', label: 'Two at a time' },
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
    {#if question && isNew}
      <NewPair pair={isNew} {table} {season} age={question.specimen.age} onknown={() => (isNew = null)} />
    {:else if question}
      <h1 id="question" tabindex="-1" bind:this={heading} class="outline-none">
        {question.kind === 'look'
          ? 'What would you look at next?'
          : question.kind === 'pair'
            ? `${capital(speciesById(question.pair.a).name)}, or ${speciesById(question.pair.b).name}?`
            : 'What is this tree?'}
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
          {@const isTruth = said !== null && question.kind !== 'look' && choice === question.specimen.species}
          {@const isBest = allowed === choice}
          <button
            class="btn max-md:w-full {said === choice ? 'btn-neutral' : isBest ? 'btn-secondary' : 'btn-outline'}"
            disabled={said !== null && said !== choice && !isTruth && !isBest}
            aria-pressed={said === choice}
            onclick={() => answer(choice)}
            >{choiceName(choice)}
            <kbd class="font-sans text-xs opacity-70 max-md:hidden">{'abcdefghijk'[i]}</kbd></button
          >
        {/each}
        {#if words.length > 0}
          {#if question.kind === 'species'}<span class="basis-full"></span>{/if}
          {#each words as word (word)}
            {@const isBest = allowed === word}
            <button
              class="btn max-md:w-full {said === word ? 'btn-neutral' : isBest ? 'btn-secondary' : 'btn-outline'}"
              disabled={said !== null && said !== word && !isBest}
              aria-pressed={said === word}
              onclick={() => answer(word)}
              >{question.kind === 'pair' ? 'These looks do not tell' : WORDS[word]}
              <kbd class="font-sans text-xs opacity-70 max-md:hidden">{keyOf(word)}</kbd></button
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
                : ''}.
              {#if gradedPair}
                {@const [first] = gradedPair.ofTwo.candidates}
                Of the two these looks make it {speciesById(first!.species).name}
                {inHundred(first!.probability)}. In the woods, where other trees stand as well: {ALLOWED[
                  graded.judgement.verdict
                ]}.
              {:else}
                In the woods: {ALLOWED[graded.judgement.verdict]}.
                {becauseWords(graded.judgement.because)}
                The clues give {speciesById(graded.judgement.candidates[0]!.species).name}
                {inHundred(graded.judgement.candidates[0]!.probability)}.
              {/if}
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
            {@const other = gradedPair
              ? [gradedPair.answer.pair!.a, gradedPair.answer.pair!.b].find((id) => id !== graded.answer.truth)!
              : isWord(graded.answer.said)
                ? graded.judgement.rival
                : graded.answer.said}
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
    {#if mode === 'pair'}<Lessons {season} {dated} {table} />{/if}
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
