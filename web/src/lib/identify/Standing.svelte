<script lang="ts">
  import { sapMeaning, speciesById, type ClueTable } from '@baumkin/core/identify';
  import type { Judgement } from '@baumkin/core/identify';

  import {
    allowedWords,
    becauseWords,
    budBreakWords,
    headlineOf,
    inHundred,
    leadWords,
    ratioWords,
    toneOf
  } from '$lib/labels/identify.ts';
  import { counted } from '$lib/labels/counted.ts';
  import Told from '$lib/ui/Told.svelte';
  import { capital } from '$lib/words/capital.ts';

  /** The verdict on a tree, what it allows and means, and how the candidates stand. */
  const {
    judgement,
    begun,
    table,
    settled
  }: {
    judgement: Judgement;
    begun: boolean;
    table: ClueTable;
    /** trees beside it whose species is settled: they count in the start */
    settled: number;
  } = $props();
  const leading = $derived(speciesById(judgement.candidates[0]!.species));
  const meaning = $derived(
    begun && (judgement.verdict === 'settled' || judgement.verdict === 'mapleOpen') ? sapMeaning(leading.id) : null
  );
  const label = (id: Parameters<ClueTable['character']>[0], state: string) =>
    table.character(id).states.find((s) => s.id === state)!.label;
</script>

<div class="{toneOf(judgement.verdict, begun)} px-4 py-3" data-testid="verdict">
  <p class="font-slab text-xl font-semibold">{headlineOf(judgement.verdict, leading.id, begun)}</p>
  <p class="mt-1"><Told of={becauseWords(judgement.because, table)} /></p>
  <p class="mt-1 font-semibold" hidden={!begun}>{allowedWords(judgement.verdict, leading.sap)}</p>
</div>
{#if meaning}
  <p data-testid="meaning">
    {judgement.verdict === 'settled' ? 'Its sap' : `If it is ${leading.name}, its sap`} has about {meaning.sugarPct[0]} to
    {meaning.sugarPct[1]} % sugar{meaning.openGrownPct
      ? ` (${meaning.openGrownPct.join(' to ')} % where it stands open)`
      : ''}: {Math.round(meaning.ratio[0])} to {Math.round(meaning.ratio[1])} of sap to one of syrup. {budBreakWords(
      meaning.budBreakDays
    )}
  </p>
{/if}
{#if judgement.seasonEndingFor}
  <p class="border-l-4 border-primary pl-3" data-testid="season-ending">
    <b
      >The buds are swelling: {judgement.verdict === 'settled'
        ? `the sap season of ${speciesById(judgement.seasonEndingFor).name} is ending`
        : 'this maple’s sap season is ending'}.</b
    >
    Its sap turns yellowish and off-smelling now; pull its spouts. Swelling buds redden on many trees, so their colour and
    shape count half here.
  </p>
{/if}
<div class="md:order-last">
  <h2 class="mb-1">Standing</h2>
  <ol class="flex flex-col gap-1">
    {#each judgement.candidates.slice(0, 5) as candidate (candidate.species)}
      <li class="grid grid-cols-[1fr_4rem_6.2rem] items-center gap-2">
        <span class="truncate">{speciesById(candidate.species).name}</span>
        <span class="h-3 bg-base-200" aria-hidden="true">
          <span
            class="block h-3 {speciesById(candidate.species).sap === 'none' ? 'bg-base-content/45' : 'bg-secondary'}"
            style:width="{candidate.probability * 100}%"
          ></span>
        </span>
        <span class="text-right text-sm">{inHundred(candidate.probability)}</span>
      </li>
    {/each}
  </ol>
  <p class="aside mt-1">
    {capital(leading.name)} is {leadWords(judgement.lead, judgement.rival)}. The start is {settled === 0
      ? 'what is usual where maples are tapped: no tree beside it is settled'
      : `what is usual where maples are tapped, with the ${counted(settled, 'settled tree')} beside it`}.
  </p>
  {#if judgement.reasons.length > 0}
    <h2 class="mt-4 mb-1">What each clue says of {leading.name}</h2>
    <ul class="flex flex-col gap-0.5">
      {#each judgement.reasons as reason (reason.character)}
        <li>
          <b><Told of={label(reason.character, reason.state)} /></b>:
          {reason.contradicts ? `rare on ${leading.name}` : ratioWords(reason.ratio)}
        </li>
      {/each}
    </ul>
    <p class="aside mt-1">
      Weighed against {speciesById(judgement.rival).name}, the next that would be treated otherwise.
    </p>
  {/if}
</div>
