<script lang="ts">
  import { PROVEN_GAP } from '@baumkin/core/thinning';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import Slider from '$lib/ui/Slider.svelte';
  import Term from '$lib/ui/Term.svelte';

  import type { ThinDesk } from './desk.svelte.ts';

  /** Which trees to favour: the set with most points at a spacing, or at the spacing that gives the wished taps. */
  let { desk, onwrite }: { desk: ThinDesk; onwrite: (ids: readonly string[]) => void } = $props();

  const { bush } = $derived(desk);
  const busy = $derived(desk.work.done !== null);
  const unwritten = $derived([...desk.crops].filter((id) => !desk.pinned.has(id)));
  let wishedTaps = $state<number | null>(null);
  let spaced = $state('');

  const perHa = (taps: number) => (desk.stand?.areaHa ? `, ${preferences.perGround(taps / desk.stand.areaHa)}` : '');
  async function space(): Promise<void> {
    if (!wishedTaps || !desk.stand) return;
    const found = await desk.spaceFor(wishedTaps);
    if (!found) return;
    const at = preferences.length(desk.spacingM * 1000, 'ground');
    spaced = found.enough
      ? `At ${at} apart they carry ${Math.round(found.taps)} taps${perHa(found.taps)}: the widest spacing that gives as many.`
      : `Even at ${at} apart they carry only ${Math.round(found.taps)} taps: there are not as many good trees.`;
  }
</script>

<section aria-labelledby="crop-trees">
  <h2 id="crop-trees">Which to favour</h2>
  <Slider
    label="Spacing of crop trees"
    min={4}
    max={16}
    step={0.5}
    bind:value={desk.spacingM}
    onset={() => void desk.proposeCrops()}
    disabled={busy}
  >
    {#snippet says()}<span>
        {desk.crops.size}
        <Term of="cropTree">crop trees</Term> at least {preferences.length(desk.spacingM * 1000, 'ground')} apart: {desk.cropGap <=
        PROVEN_GAP
          ? 'the set with most points'
          : Number.isFinite(desk.cropGap)
            ? `a set within ${Number((100 * desk.cropGap).toFixed(1))} % of the most points there can be`
            : 'a good set; how near it is to the best could not be told in the time'}. {desk.pinned.size} you named yourself,
        {desk.vetoed.size} you said no to.
      </span>{/snippet}
  </Slider>
  <form
    class="mt-1.5 flex flex-wrap items-center gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      void space();
    }}
  >
    <label class="flex items-center gap-2"
      >for <input
        class="input w-20 input-sm"
        type="number"
        min="1"
        max="5000"
        aria-label="Taps wished for"
        bind:value={wishedTaps}
      /> taps</label
    >
    <button class="btn btn-outline btn-sm" disabled={busy || !wishedTaps}>Find the spacing</button>
  </form>
  {#if spaced !== ''}<p class="aside mt-1" role="status">{spaced}</p>{/if}
  {#if bush.mayDecide && unwritten.length > 0}
    <button class="btn mt-2 btn-outline btn-sm" onclick={() => onwrite(unwritten)}
      >Write these {unwritten.length} down as crop trees</button
    >
  {/if}
  {#if desk.thin && desk.thin.unknown.length > 0}
    <p class="aside mt-1">
      {desk.thin.unknown.length} of them stand where positions are too rough; their crown cards decide:
      {#each desk.thin.unknown.slice(0, 8) as tree, i (tree.id)}{i > 0 ? ', ' : ''}<a
          class="link"
          href="/bush/{bush.id}/thin/{tree.id}">{tree.tag}</a
        >{/each}.
    </p>
  {/if}
</section>
