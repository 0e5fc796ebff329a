<script lang="ts">
  import { compassPoint } from '@baumkin/core/math';
  import type { SiteFeature, TreeRow } from '@baumkin/core/records';
  import {
    KEPT_FOR,
    MARK_PURPOSES,
    type GirdlingCaution,
    type KeptFor,
    type MarkPurpose
  } from '@baumkin/core/thinning';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';

  import { KEPT_WORDS } from '$lib/labels/thinning.ts';

  /** What is to become of a tree, why, and when to look again. */
  const {
    row,
    girdling,
    onmark
  }: {
    row: TreeRow;
    /** what lies within two lengths of it; null where its place is not known */
    girdling: GirdlingCaution<SiteFeature> | null;
    onmark: (mark: {
      purpose: MarkPurpose | 'none';
      reason: string;
      reviewOn: string | null;
      leanDeg: number | null;
      keepFor?: KeptFor | null;
    }) => Promise<void>;
  } = $props();
  const bush = useBush();
  const WORDS: Readonly<Record<MarkPurpose, string>> = {
    take: 'take',
    girdle: 'girdle for wildlife',
    keep: 'keep',
    watch: 'watch',
    brace: 'brace by a professional'
  };
  let purpose = $state<MarkPurpose>(untrack(() => row.mark ?? 'take'));
  let keepFor = $state<KeptFor | ''>(untrack(() => row.keepFor ?? ''));
  let reason = $state(untrack(() => row.markReason));
  let reviewOn = $state(untrack(() => row.reviewOn ?? `${Number(bush.today.slice(0, 4)) + 1}-10-01`));
  let lean = $state<number | ''>(untrack(() => row.leanDeg ?? ''));
  const reviewed = $derived(purpose === 'watch' || purpose === 'brace');
  const LEANS = [0, 45, 90, 135, 180, 225, 270, 315];
</script>

<form
  class="flex flex-wrap items-end gap-3"
  data-testid="mark-form"
  onsubmit={(event) => {
    event.preventDefault();
    void onmark({
      purpose,
      reason: reason.trim(),
      reviewOn: reviewed ? reviewOn : null,
      leanDeg: lean === '' ? null : Number(lean),
      keepFor: purpose === 'keep' && keepFor !== '' ? keepFor : null
    });
  }}
>
  <label class="flex flex-col gap-1"
    >Mark it to
    <select class="select w-52" bind:value={purpose}
      >{#each MARK_PURPOSES as each (each)}<option value={each}>{WORDS[each]}</option>{/each}</select
    ></label
  >
  {#if purpose === 'keep'}<label class="flex flex-col gap-1"
      >kept <select class="select w-52" bind:value={keepFor}
        ><option value="">not said</option>{#each KEPT_FOR as each (each)}<option value={each}
            >{KEPT_WORDS[each]}</option
          >{/each}</select
      ></label
    >{/if}
  <label class="flex flex-col gap-1">because <input class="input w-56" maxlength="500" bind:value={reason} /></label>
  {#if reviewed}<label class="flex flex-col gap-1"
      >look again by <input class="input w-40" type="date" min={bush.today} required bind:value={reviewOn} /></label
    >{/if}
  <label class="flex flex-col gap-1"
    >leans <select class="select w-28" bind:value={lean}
      ><option value="">no way</option>{#each LEANS as deg (deg)}<option value={deg}>{compassPoint(deg)}</option
        >{/each}</select
    ></label
  >
  {#if purpose === 'girdle'}
    <p class="caution w-full" data-testid="girdling">
      A girdled tree stands dead for years and drops limbs.
      {#if girdling === null}Its place is not on the map, so what it would stand over is not known.
      {:else if girdling.reaches.length > 0 || girdling.taps > 0}Within two lengths of it: {[
          ...girdling.reaches.map(({ feature }) => feature.name),
          ...(girdling.taps > 0 ? [`${girdling.taps} tapped ${girdling.taps === 1 ? 'tree' : 'trees'}`] : [])
        ].join(', ')}. People walk and work there: fell it by trained hands, or choose another tree.
      {:else}No path, building, line or tapped tree is noted within two lengths of it. Look yourself.{/if}
    </p>
  {/if}
  <button class="btn btn-outline">Mark it</button>
  {#if row.mark !== null}<button
      type="button"
      class="btn btn-ghost"
      onclick={() => onmark({ purpose: 'none', reason: '', reviewOn: null, leanDeg: null })}>Take the mark off</button
    >{/if}
</form>
