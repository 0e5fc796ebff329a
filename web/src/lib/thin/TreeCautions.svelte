<script lang="ts">
  import type { TreeRow } from '@baumkin/core/records';
  import { CLEAR_TREE_LENGTHS, heightOf, positionSd, withinReach, type StandTree } from '@baumkin/core/stand';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { HAZARD_WORDS, WILDLIFE_WORDS } from '$lib/labels/taps.ts';
  import Told from '$lib/ui/Told.svelte';
  import { listed } from '$lib/words/listed.ts';

  /** What a faller has to know of a tree: what it can hit, what was seen on it, who lives in it, and who was hurt. */
  const { row, subject }: { row: TreeRow; subject: StandTree | null } = $props();
  const bush = useBush();
  const metres = (m: number) => preferences.length(m * 1000, 'ground');
  const reaches = $derived(subject ? withinReach(subject, heightOf(subject), bush.features, positionSd(subject)) : []);
  const hurt = $derived(bush.stumps.filter(({ cut }) => cut!.damaged.includes(row.id)));
</script>

{#if reaches.length > 0 || row.hazards.length > 0}
  <p class="caution" data-testid="within-reach">
    <b>For trained fallers.</b>
    {#if row.hazards.length > 0}Seen on it: <Told of={listed(row.hazards.map((h) => HAZARD_WORDS[h]))} />.{/if}
    {#if reaches.length > 0 && subject}Within {CLEAR_TREE_LENGTHS === 2 ? 'two' : CLEAR_TREE_LENGTHS} lengths of this tree,
      about
      {metres(heightOf(subject))}{subject.heightM === null ? ' tall by its diameter' : ' tall'}: {listed(
        reaches.map(
          ({ feature, distanceM, withinOneLength }) =>
            `${feature.name}, ${metres(distanceM)} away${withinOneLength ? ', which it can hit' : ''}`
        )
      )}.{/if}
  </p>
{/if}
{#if row.wildlife.length > 0}<p class="border-l-4 border-secondary pl-3">
    {listed(row.wildlife.map((home) => WILDLIFE_WORDS[home]))} here: a home is kept. If it must go all the same, the plan
    asks you.
  </p>{/if}
{#each hurt as other (other.id)}<p class="border-l-4 border-base-content pl-3">
    Hurt when {other.tag} came down on {other.cut!.on}{other.cut!.note ? `: ${other.cut!.note}` : '.'}
  </p>{/each}
