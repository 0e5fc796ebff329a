<script lang="ts">
  import {
    speciesById,
    type AgeClass,
    type CharacterId,
    type ClueTable,
    type LookSeason,
    type PairToTell
  } from '@baumkin/core/identify';

  import { capital } from '$lib/words/capital.ts';
  import { listed } from '$lib/words/listed.ts';

  import SideBySide from './SideBySide.svelte';

  /** Two kinds that are new, side by side, before anything is asked of them. */
  interface Props {
    pair: PairToTell;
    table: ClueTable;
    season: LookSeason;
    age: AgeClass;
    onknown: () => void;
  }
  const { pair, table, season, age, onknown }: Props = $props();
  const nameOf = (id: CharacterId) => table.character(id).name.toLowerCase();
</script>

<p class="aside">New</p>
<h1>{capital(speciesById(pair.a).name)}, or {speciesById(pair.b).name}?</h1>
<p class="mt-1 max-w-2xl">
  {pair.told
    ? `What tells them, the surest first: ${listed(pair.by.map(nameOf))}.`
    : `The woods as they are do not tell them surely. Most helps: ${listed(pair.by.map(nameOf))}. Where that is not enough, say so and look again in another season.`}
</p>
<div class="mt-3">
  <SideBySide a={pair.a} b={pair.b} {table} {age} {season} evidence={{}} these />
</div>
<button class="btn mt-4 btn-primary" onclick={onknown}>Ask me</button>
