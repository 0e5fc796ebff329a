<script lang="ts">
  import {
    AGE_CLASSES,
    LOOK_SEASONS,
    SHIPPED_TABLE,
    SPECIES,
    type Adjustments,
    type Character,
    type CharacterId,
    type SpeciesId
  } from '@baumkin/core/identify';

  import { undoable } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { capital } from '$lib/words/capital.ts';

  import Drawing from './Drawing.svelte';
  import { AGE_NAMES, SEASON_NAMES } from '$lib/labels/identify.ts';

  /** The table that identification computes from: what each species shows, and the bush's own figures in its place. */
  const bush = useBush();
  let shown = $state<CharacterId>('arrangement');
  const character = $derived(bush.clueTable.character(shown));
  const adjustments = $derived<Adjustments>(bush.overview?.bush.settings.clueTable ?? {});
  const own = $derived(adjustments[shown] ?? {});

  let editing = $state<SpeciesId | null>(null);
  let draft = $state<Record<string, number | null>>({});
  let problem = $state<string | null>(null);
  const total = $derived(Object.values(draft).reduce<number>((sum, share) => sum + (share ?? 0), 0));

  const STRENGTHS: Record<Character['strength'], string> = {
    gate: 'the first gate: no tree is a maple before it was seen',
    strong: 'a strong clue',
    weak: 'a weak clue: all of them together may no more than double the odds',
    context: 'no clue to the species: it says how far the buds can be trusted'
  };

  function edit(species: SpeciesId): void {
    editing = species;
    problem = null;
    const shares = character.seen[species];
    draft = Object.fromEntries(
      character.states.map((s) => [
        s.id,
        shares ? (shares[s.id] ?? 0) : Math.round(1000 / character.states.length) / 10
      ])
    );
  }

  async function save(): Promise<void> {
    const species = editing!;
    const shares = Object.fromEntries(Object.entries(draft).filter(([, share]) => (share ?? 0) > 0)) as Record<
      string,
      number
    >;
    await change(
      { ...own, [species]: shares },
      `${capital(nameOf(species))}: this bush’s own figures hold from now on.`
    );
  }

  async function reset(species: SpeciesId): Promise<void> {
    const rest = Object.fromEntries(Object.entries(own).filter(([id]) => id !== species));
    await change(rest, `${capital(nameOf(species))}: back to the shipped figures.`);
  }

  async function change(of: Adjustments[CharacterId], said: string): Promise<void> {
    const before = $state.snapshot(adjustments) as Adjustments;
    const all = { ...before, [shown]: of };
    problem = await bush.change.settings({ clueTable: all });
    if (problem !== null) return;
    editing = null;
    undoable(said, () => bush.change.settings({ clueTable: before }));
  }

  const nameOf = (species: SpeciesId) => SPECIES.find((s) => s.id === species)!.name;
  const GROUPS = $derived(
    (
      [
        ['Branching and twigs', ['arrangement', 'twigStoutness', 'twigColour', 'twigSmell']],
        ['Buds', ['budShape', 'budColour', 'budGrouping', 'budStage']],
        ['Bark', ['barkYoung', 'barkGrown', 'barkOld', 'rub', 'barkTone']],
        [
          'Leaves and seeds',
          ['leafForm', 'leafNotch', 'leafMargin', 'leafUnderside', 'milkySap', 'keysHanging', 'heldLeaves']
        ],
        ['Weak clues', ['keys', 'lichen', 'staining', 'elbows', 'oldTapholes', 'ground']]
      ] as const
    ).map(([title, ids]) => ({ title, characters: ids.map((id) => SHIPPED_TABLE.character(id)) }))
  );
</script>

<h1>What each tree shows</h1>
<p class="mt-1 mb-3 max-w-prose">
  Of a hundred trees of each kind, how many show what. These figures are working assumptions, written down from common
  botanical descriptions from memory. Where your own trees differ, put your figures in their place: every verdict of
  this bush then goes by them.
</p>
<div class="grid gap-x-8 gap-y-4 lg:grid-cols-[13rem_minmax(0,1fr)]">
  <nav aria-label="Clues" class="max-lg:hidden">
    {#each GROUPS as { title, characters } (title)}
      <h2 class="mt-2 mb-0.5 text-base">{title}</h2>
      <ul>
        {#each characters as c (c.id)}
          <li>
            <button
              class="w-full px-2 py-0.5 text-left {shown === c.id ? 'border-l-4 border-base-content font-bold' : ''}"
              aria-current={shown === c.id}
              onclick={() => {
                shown = c.id;
                editing = null;
              }}>{c.name}{adjustments[c.id] && Object.keys(adjustments[c.id]!).length > 0 ? ' ●' : ''}</button
            >
          </li>
        {/each}
      </ul>
    {/each}
  </nav>
  <label class="flex flex-col gap-1 lg:hidden"
    ><span class="font-semibold">Clue</span>
    <select class="select w-full" bind:value={shown} onchange={() => (editing = null)}>
      {#each GROUPS as { title, characters } (title)}
        <optgroup label={title}>
          {#each characters as c (c.id)}<option value={c.id}>{c.name}</option>{/each}
        </optgroup>
      {/each}
    </select></label
  >
  <section class="min-w-0" aria-labelledby="clue">
    <h2 id="clue">{character.name}</h2>
    <p class="aside max-w-prose">
      {character.question} It is {STRENGTHS[character.strength]}; an honest look is right {Math.round(
        character.reliability * 100
      )} times in 100.{character.found
        ? ` There is something to look at on ${Math.round(character.found * 100)} trees in 100.`
        : ''}
      {character.ages.length < AGE_CLASSES.length
        ? `For ${character.ages.map((a) => AGE_NAMES[a]).join(' and ')} bark.`
        : ''}
      {character.seasons.length < LOOK_SEASONS.length
        ? `Seen when the woods are ${character.seasons.map((s) => SEASON_NAMES[s]).join(', ')}.`
        : 'Seen all year.'}
      {character.block ? 'Counted together with its like, not as if independent.' : ''}
    </p>
    {#if character.strength !== 'context'}
      <div class="mt-2 overflow-x-auto">
        <table class="border-collapse text-left text-sm">
          <thead>
            <tr class="align-bottom">
              <th class="sticky left-0 bg-base-100 py-1 pr-3">Species</th>
              <th><span class="sr-only">Change</span></th>
              {#each character.states as state (state.id)}
                <th class="w-16 min-w-14 px-1 py-1 text-center text-[0.8rem] font-semibold">
                  <span class="flex flex-col items-center leading-tight"
                    ><Drawing character={character.id} state={state.id} size="h-10 w-10" />{state.label}</span
                  >
                </th>
              {/each}
            </tr>
          </thead>
          <tbody>
            {#each SPECIES as species (species.id)}
              {@const shares = character.seen[species.id]}
              {@const ours = own[species.id] !== undefined}
              <tr class="border-t border-base-300">
                <th scope="row" class="sticky left-0 bg-base-100 py-0.5 pr-2 {ours ? 'font-bold' : 'font-normal'}">
                  {capital(species.name)}{#if ours}<span class="aside block text-[0.8rem]">this bush’s own</span>{/if}
                </th>
                <td class="pr-2 whitespace-nowrap">
                  {#if bush.mayDecide}
                    <button
                      class="btn btn-ghost btn-xs"
                      aria-expanded={editing === species.id}
                      onclick={() => (editing === species.id ? (editing = null) : edit(species.id))}
                      >Change<span class="sr-only"> {species.name}</span></button
                    >
                  {/if}
                </td>
                {#each character.states as state (state.id)}
                  {@const share = shares?.[state.id] ?? 0}
                  <td class="px-1 py-0.5 text-center">
                    {#if !shares}<span class="aside">·</span>
                    {:else if share > 0}
                      <span
                        class="mx-auto block w-11 py-0.5"
                        style:background="color-mix(in oklab, var(--color-secondary) {share * 0.32}%, transparent)"
                        >{share}</span
                      >
                    {/if}
                  </td>
                {/each}
              </tr>
              {#if editing === species.id}
                <tr>
                  <td colspan={character.states.length + 2} class="bg-base-200 p-3">
                    <form
                      onsubmit={(event) => {
                        event.preventDefault();
                        void save();
                      }}
                    >
                      <p class="mb-2 font-semibold">Of 100 trees of {species.name} here, how many show</p>
                      <div class="flex max-w-3xl flex-wrap gap-x-5 gap-y-2">
                        {#each character.states as state (state.id)}
                          <label class="flex items-center gap-2"
                            ><input
                              type="number"
                              min="0"
                              max="100"
                              step="any"
                              class="input w-18 input-sm"
                              aria-label="{capital(species.name)}: {state.label}, per cent"
                              bind:value={draft[state.id]}
                            />{state.label.toLowerCase()}</label
                          >
                        {/each}
                      </div>
                      <p class="mt-2" role="status" data-testid="total">
                        Together {Math.round(total * 10) / 10}{Math.abs(total - 100) > 0.5
                          ? '; they have to make 100.'
                          : '.'}
                      </p>
                      <div class="mt-2 flex flex-wrap gap-2">
                        <button class="btn btn-primary btn-sm" disabled={Math.abs(total - 100) > 0.5}
                          >Save for this bush</button
                        >
                        <button type="button" class="btn btn-ghost btn-sm" onclick={() => (editing = null)}
                          >Leave it as it was</button
                        >
                        {#if ours}<button type="button" class="btn btn-ghost btn-sm" onclick={() => reset(species.id)}
                            >Back to the shipped figures</button
                          >{/if}
                      </div>
                      {#if problem}<p role="alert" class="mt-2 border-l-4 border-error pl-3">{problem}</p>{/if}
                    </form>
                  </td>
                </tr>
              {/if}
            {/each}
          </tbody>
        </table>
      </div>
      <p class="aside mt-2">A dot: nothing is said of this species, and the clue counts evenly for it.</p>
    {:else}
      <ul class="mt-3 flex gap-6">
        {#each character.states as state (state.id)}
          <li class="flex items-center gap-2">
            <Drawing character={character.id} state={state.id} />
            <span><b>{state.label}</b><span class="aside block">{state.description}</span></span>
          </li>
        {/each}
      </ul>
    {/if}
  </section>
</div>
