<script lang="ts">
  import {
    shareSeen,
    SPECIES,
    speciesById,
    type AgeClass,
    type Character,
    type ClueTable,
    type Evidence,
    type LookSeason,
    type SpeciesId
  } from '@baumkin/core/identify';

  import Drawing from './Drawing.svelte';
  import { labelOf } from '$lib/labels/identify.ts';
  import { capital } from '$lib/words/capital.ts';

  /** Two trees clue by clue, drawn: what each usually shows, what parts them, and what was seen. */
  let {
    a = $bindable(),
    b = $bindable(),
    table,
    age,
    season,
    evidence,
    these = false
  }: {
    a: SpeciesId;
    b: SpeciesId;
    table: ClueTable;
    age: AgeClass;
    season: LookSeason;
    evidence: Evidence;
    /** these two and no others: there is none to choose */
    these?: boolean;
  } = $props();

  interface Line {
    readonly character: Character;
    readonly usual: readonly [string, string];
    /** share of trees of the two that would be told apart by it, 0 to 1 */
    readonly parts: number;
  }

  const usual = (character: Character, species: SpeciesId) =>
    character.states
      .map((s) => s.id)
      .reduce((x, y) => (shareSeen(character, y, species) > shareSeen(character, x, species) ? y : x));
  const lines = $derived(
    table
      .visible(age, season)
      .filter((c) => c.strength !== 'context' && (c.seen[a] || c.seen[b]))
      .map((character): Line => {
        const parts =
          character.states.reduce(
            (sum, s) => sum + Math.abs(shareSeen(character, s.id, a) - shareSeen(character, s.id, b)),
            0
          ) / 2;
        return { character, usual: [usual(character, a), usual(character, b)], parts };
      })
      .sort((x, y) => y.parts - x.parts)
  );
  const telling = $derived(lines.filter((line) => line.parts >= 0.25));
  const alike = $derived(lines.filter((line) => line.parts < 0.25));
  const says = (character: Character, state: string) => {
    const [forA, forB] = [table.likelihood(character, state, a), table.likelihood(character, state, b)];
    const ratio = forA / forB;
    if (ratio > 1.5) return `speaks for ${speciesById(a).name}`;
    if (ratio < 1 / 1.5) return `speaks for ${speciesById(b).name}`;
    return 'says little between the two';
  };
</script>

<div class="overflow-x-auto">
  <table class="w-full max-w-4xl border-collapse text-left" data-testid="side-by-side">
    <thead>
      <tr>
        <th class="w-40 py-1 pr-3 font-normal"><span class="sr-only">Clue</span></th>
        {#each [0, 1] as side (side)}
          <th class="py-1 pr-3">
            {#if these}{capital(speciesById(side === 0 ? a : b).name)}{:else}<select
                class="select w-full max-w-56 select-sm"
                aria-label={side === 0 ? 'First tree' : 'Second tree'}
                value={side === 0 ? a : b}
                onchange={(event) => {
                  const chosen = event.currentTarget.value as SpeciesId;
                  if (side === 0) a = chosen;
                  else b = chosen;
                }}
              >
                {#each SPECIES as species (species.id)}<option value={species.id}>{capital(species.name)}</option
                  >{/each}
              </select>{/if}
          </th>
        {/each}
        {#if !these}<th class="py-1 max-md:hidden">Seen here</th>{/if}
      </tr>
    </thead>
    <tbody>
      {#each telling as { character, usual: [ofA, ofB] } (character.id)}
        {@const seen = evidence[character.id]}
        <tr class="border-t border-base-300 align-middle">
          <th scope="row" class="py-1 pr-3 font-semibold">{character.name}</th>
          {#each [[a, ofA], [b, ofB]] as const as [species, state], i (i)}
            <td class="py-1 pr-3">
              <div class="flex items-center gap-2 max-md:flex-col max-md:items-start">
                <Drawing character={character.id} {state} size="h-14 w-14" />
                <span class="leading-tight"
                  >{labelOf(character, state)}<span class="aside block text-[0.85rem]"
                    >{Math.round(shareSeen(character, state, species) * 100)} in 100</span
                  ></span
                >
              </div>
            </td>
          {/each}
          {#if !these}
            <td class="py-1 max-md:hidden">
              {#if seen}<b>{labelOf(character, seen)}</b><span class="aside block">{says(character, seen)}</span>
              {:else}<span class="aside">not looked at</span>{/if}
            </td>
          {/if}
        </tr>
      {/each}
    </tbody>
  </table>
</div>
<p class="aside mt-2">
  {#if telling.length === 0}Nothing that can be seen now tells these two apart: wait for another season.{/if}
  {#if alike.length > 0}Much the same on both: {alike.map((line) => line.character.name.toLowerCase()).join(', ')}.{/if}
</p>
