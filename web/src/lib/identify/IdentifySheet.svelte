<script lang="ts">
  import {
    characterById,
    CHARACTERS,
    judge,
    knownMaple,
    ratioInWords,
    speciesById,
    standPrior,
    verdictAllows,
    type AgeClass,
    type Character,
    type CharacterId,
    type Evidence,
    type SpeciesId
  } from '@baumkin/core';
  import { toast } from 'svelte-sonner';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';

  import LookCard from './LookCard.svelte';

  const { treeId }: { treeId: string } = $props();
  const bush = $derived(useBush());
  const row = $derived(bush.byId.get(treeId)!);
  const tree = $derived(bush.stateOf(treeId));

  /** Bark of a trunk thinner than this still looks young. Common practice; the steward may say otherwise. */
  const YOUNG_BELOW_MM = 180;

  // The last determination's clues are where a new look begins; what is chosen here is kept only when it is saved.
  const start = untrack(() => tree.determination);
  let age = $state<AgeClass>(
    untrack(() => start?.age ?? (row.dbhMm !== null && row.dbhMm < YOUNG_BELOW_MM ? 'young' : 'grown'))
  );
  let evidence = $state<Partial<Record<CharacterId, string>>>({ ...(start?.evidence as Evidence | undefined) });
  let asked = $state<CharacterId | null>(null);
  let skipped = $state<CharacterId[]>([]);

  const characters = $derived(CHARACTERS.filter((c) => c.age === null || c.age === age));
  const current = $derived<Character>(
    (asked ? characters.find((c) => c.id === asked) : undefined) ??
      characters.find((c) => evidence[c.id] === undefined && !skipped.includes(c.id)) ??
      characters[0]!
  );
  const prior = $derived.by(() => {
    const settled: Partial<Record<SpeciesId, number>> = {};
    for (const other of bush.rows)
      if (
        other.id !== treeId &&
        other.standId === row.standId &&
        other.species &&
        knownMaple(other) !== null &&
        other.verdict !== 'mapleOpen'
      )
        settled[other.species] = (settled[other.species] ?? 0) + 1;
    return standPrior(settled);
  });
  const judgement = $derived(judge(evidence, age, prior));
  const leading = $derived(speciesById(judgement.candidates[0]!.species));
  const begun = $derived(judgement.reasons.length > 0);
  const headline = $derived(
    !begun
      ? 'Not looked at yet'
      : {
          settled: `Settled: ${leading.name}`,
          mapleOpen: 'A maple, species open',
          lookAgain: 'Look again',
          notMaple: 'Not a maple'
        }[judgement.verdict]
  );
  const tone = $derived(
    !begun
      ? 'bg-base-200'
      : {
          settled: 'bg-secondary text-secondary-content',
          mapleOpen: 'bg-secondary text-secondary-content',
          lookAgain: 'bg-primary text-primary-content',
          notMaple: 'bg-neutral text-neutral-content'
        }[judgement.verdict]
  );
  const changed = $derived(
    JSON.stringify(evidence) !== JSON.stringify(start?.evidence ?? {}) || age !== (start?.age ?? age)
  );

  function choose(character: Character, state: string): void {
    if (evidence[character.id] === state) delete evidence[character.id];
    else evidence[character.id] = state;
    skipped = skipped.filter((id) => id !== character.id);
    asked = null;
  }

  function cannotTell(): void {
    delete evidence[current.id];
    if (!skipped.includes(current.id)) skipped = [...skipped, current.id];
    asked = null;
  }

  async function save(): Promise<void> {
    const seen = Object.fromEntries(
      Object.entries($state.snapshot(evidence)).filter(([id]) => characters.some((c) => c.id === id))
    );
    const record = await bush.record(treeId, {
      kind: 'determination',
      verdict: judgement.verdict,
      species: leading.id,
      probability: judgement.candidates[0]!.probability,
      age,
      evidence: seen,
      note: ''
    });
    toast.success(`Tree ${row.tag}: ${headline.toLowerCase()}.`, {
      action: { label: 'Undo', onClick: () => void bush.withdraw(record) }
    });
  }

  const percent = (p: number) =>
    p > 0.995 ? 'over 99 in 100' : p < 0.005 ? 'under 1 in 100' : `${Math.round(p * 100)} in 100`;
  const labelOf = (id: CharacterId, state: string) => characterById(id).states.find((s) => s.id === state)!.label;
</script>

<div class="grid gap-x-8 gap-y-5 lg:grid-cols-[1fr_20.5rem]">
  <section aria-labelledby="look" class="min-w-0">
    <ol class="mb-3 flex flex-wrap gap-1.5 max-md:hidden" aria-label="Looks">
      {#each characters as character (character.id)}
        {@const seen = evidence[character.id]}
        <li>
          <button
            class="border px-2.5 py-1 text-sm {character.id === current.id
              ? 'border-base-content font-bold'
              : 'border-base-300'} {seen ? 'bg-base-200' : ''}"
            aria-current={character.id === current.id ? 'step' : undefined}
            onclick={() => (asked = character.id)}
          >
            {character.name}{#if seen}: <b>{labelOf(character.id, seen).toLowerCase()}</b
              >{:else if skipped.includes(character.id)}: can’t tell{/if}
          </button>
        </li>
      {/each}
    </ol>
    <div class="mb-2 flex flex-wrap items-baseline justify-between gap-x-4">
      <h2 id="look">{current.question}</h2>
      {#if current.strength === 'weak'}<p class="aside">A weak clue: it can nudge, never decide.</p>{/if}
    </div>
    <div class="grid gap-2 md:grid-cols-4 xl:grid-cols-5">
      {#each current.states as state (state.id)}
        <LookCard
          character={current}
          {state}
          chosen={evidence[current.id] === state.id}
          disabled={!bush.mayRecord}
          onchoose={() => choose(current, state.id)}
        />
      {/each}
    </div>
    <div class="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
      <button class="btn btn-outline btn-sm" onclick={cannotTell} disabled={!bush.mayRecord}>Can’t tell</button>
      {#if current.block === 'bark'}
        <fieldset class="flex items-center gap-3 text-sm">
          <legend class="sr-only">Age of the bark</legend>
          <label class="flex items-center gap-1.5"
            ><input type="radio" class="radio radio-sm" value="young" bind:group={age} /> young bark</label
          >
          <label class="flex items-center gap-1.5"
            ><input type="radio" class="radio radio-sm" value="grown" bind:group={age} /> grown bark</label
          >
        </fieldset>
      {/if}
    </div>
  </section>

  <aside class="flex flex-col gap-4" aria-label="Standing">
    <div class="{tone} px-4 py-3" data-testid="verdict">
      <p class="font-slab text-xl font-semibold">{headline}</p>
      <p class="mt-1">{judgement.because}</p>
      <p class="mt-1 font-semibold" hidden={!begun}>{verdictAllows(judgement.verdict, leading.sap)}</p>
    </div>
    {#if bush.mayRecord}
      {#if !changed && start !== null}
        <p class="aside">
          This is the determination of {start.on}. Change a clue to make a new one; the old one is kept.
        </p>
      {:else}
        <button class="btn btn-primary" onclick={save} disabled={!begun}>Save this determination</button>
      {/if}
    {/if}
    <div>
      <h2 class="mb-1">Standing</h2>
      <ol class="flex flex-col gap-1">
        {#each judgement.candidates.slice(0, 5) as candidate (candidate.species)}
          <li class="grid grid-cols-[1fr_5rem_6.2rem] items-center gap-2">
            <span class="truncate">{speciesById(candidate.species).name}</span>
            <span class="h-3 bg-base-200" aria-hidden="true">
              <span
                class="block h-3 {speciesById(candidate.species).sap === 'none'
                  ? 'bg-base-content/45'
                  : 'bg-secondary'}"
                style:width="{candidate.probability * 100}%"
              ></span>
            </span>
            <span class="text-right text-sm">{percent(candidate.probability)}</span>
          </li>
        {/each}
      </ol>
      <p class="aside mt-1">
        {leading.name[0]!.toUpperCase() + leading.name.slice(1)} is {judgement.lead}. The start is this stand’s own
        settled trees.
      </p>
    </div>
    {#if judgement.reasons.length > 0}
      <div>
        <h2 class="mb-1">What each clue says of {leading.name}</h2>
        <ul class="flex flex-col gap-0.5">
          {#each judgement.reasons as reason (reason.character)}
            <li>
              {labelOf(reason.character, reason.state)}:
              <span class={reason.contradicts ? 'font-bold text-error' : ''}
                >{reason.contradicts ? 'rare on it; look again' : ratioInWords(reason.ratio)}</span
              >
            </li>
          {/each}
        </ul>
        <p class="aside mt-1">
          Weighed against {speciesById(judgement.rival).name}, the next that would be treated otherwise.
        </p>
      </div>
    {/if}
  </aside>
</div>
