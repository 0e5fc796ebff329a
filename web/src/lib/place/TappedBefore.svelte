<script lang="ts">
  import { HIDDEN_HOLES, pastUnknown, scarSeen } from '@baumkin/core/bush';
  import type { BarkSpot } from '@baumkin/core/geometry';
  import { compassPoint } from '@baumkin/core/math';
  import type { TappedBefore, TreeState } from '@baumkin/core/records';
  import { SCAR_LOOKS, type ScarLook } from '@baumkin/core/trunk';

  import { saved } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { SCAR_LOOK_LABELS, TAPPED_BEFORE } from '$lib/labels/placement.ts';

  /**
   * What an unknown past means for where to drill: asked of a trunk of which nothing is known, and scars that she can see are
   * pointed at on the sheet, without a year.
   */
  interface Props {
    treeId: string;
    tree: TreeState;
    /** the spot that was asked on the sheet */
    spot: BarkSpot | null;
    /** scars are being pointed at: nothing else is asked of the sheet meanwhile */
    pointing: boolean;
    /** a scar was noted: the spot is free for another */
    onnoted: () => void;
  }
  let { treeId, tree, spot, pointing = $bindable(), onnoted }: Props = $props();
  const bush = useBush();
  const row = $derived(bush.byId.get(treeId)!);

  const ANSWERS: readonly (readonly [TappedBefore['answer'], string])[] = [
    ['never', 'Never, somebody knows'],
    ['yes', 'Yes'],
    ['perhaps', 'Nobody knows']
  ];
  const unknown = $derived(pastUnknown(tree, bush.season));
  const said = $derived(tree.tappedBefore);
  const holesBefore = $derived(tree.tapholes.filter((hole) => hole.season < bush.season).length);
  let asking = $state(false);

  async function answer(to: TappedBefore['answer']): Promise<void> {
    asking = false;
    const record = await bush.record(treeId, { kind: 'tappedBefore', answer: to });
    saved(bush, `Tree ${row.tag}: ${TAPPED_BEFORE[to].toLowerCase()}.`, record);
    pointing = to === 'yes';
  }
  async function scar(look: ScarLook): Promise<void> {
    const record = await bush.record(
      treeId,
      scarSeen(spot!, look, { season: bush.season, settings: bush.overview!.bush.settings })
    );
    saved(bush, 'Scar noted. The sheet doubts that wood from now on.', record);
    onnoted();
  }
</script>

{#if pointing}
  <section class="border-l-[6px] border-primary pl-4" aria-labelledby="scars" data-testid="pointing">
    <h2 id="scars">Point at the scars that you see</h2>
    <p class="mt-1">
      {#if spot}{compassPoint(spot.bearingDeg)} side, {preferences.length(spot.heightMm, 'hand')} above the ground. What does
        the scar there look like?
      {:else if tree.scars.length === 0}Touch the sheet where one is, roughly: side of the trunk across, height up.
      {:else}{counted(tree.scars.length, 'scar is', 'scars are')} noted. Touch the next one, or say that these are all.{/if}
    </p>
    <div class="mt-2 flex flex-col gap-2">
      {#if spot}
        {#each SCAR_LOOKS as look (look)}
          {@const [name, says] = SCAR_LOOK_LABELS[look]}
          <button class="btn h-auto min-h-11 justify-start py-1.5 text-left" onclick={() => scar(look)}
            ><span>{name}<span class="aside block font-normal">{says}</span></span></button
          >
        {/each}
      {/if}
      <button class="btn self-start {spot ? 'btn-ghost' : 'btn-primary'} btn-sm" onclick={() => (pointing = false)}
        >{tree.scars.length === 0 ? 'None can be seen' : 'These are all that I see'}</button
      >
    </div>
  </section>
{:else if bush.mayRecord && (unknown || asking)}
  <section class="border-l-[6px] border-primary pl-4" aria-labelledby="before" data-testid="tapped-before">
    <h2 id="before">Was it tapped before?</h2>
    <p class="mt-1">
      Old holes hide dead wood. They close in a year or two and are hard to see then: go once round the trunk, from the
      knee to above your head.
    </p>
    <div class="mt-2 flex flex-wrap gap-2">
      {#each ANSWERS as [id, label] (id)}<button class="btn btn-sm" onclick={() => answer(id)}>{label}</button>{/each}
    </div>
  </section>
{:else if said && holesBefore === 0}
  <p class="aside" data-testid="past-said">
    {TAPPED_BEFORE[said.answer]}.
    {#if tree.scars.length > 0}{counted(tree.scars.length, 'scar is', 'scars are')} noted; others may have closed out of sight.
    {:else if said.answer !== 'never'}No scar is noted: the odds count with
      {said.answer === 'yes' ? `${HIDDEN_HOLES} hidden holes` : `up to ${HIDDEN_HOLES} hidden holes`} of the last 25 seasons
      anywhere in the band, which is a guess.{/if}
    {#if bush.mayRecord}
      <span class="flex flex-wrap gap-x-4">
        {#if said.answer !== 'never'}<button class="link" onclick={() => (pointing = true)}>Point at a scar</button
          >{/if}
        <button class="link" onclick={() => (asking = true)}>Answer anew</button>
      </span>
    {/if}
  </p>
{/if}
