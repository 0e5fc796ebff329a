<script lang="ts">
  import { compassPoint, type TreeRow } from '@baumkin/core';
  import { MARK_PURPOSES, type MarkPurpose } from '@baumkin/core/thinning';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';

  /** What is to become of a tree, why, and when to look again. */
  const {
    row,
    onmark
  }: {
    row: TreeRow;
    onmark: (mark: {
      purpose: MarkPurpose | 'none';
      reason: string;
      reviewOn: string | null;
      leanDeg: number | null;
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
      leanDeg: lean === '' ? null : Number(lean)
    });
  }}
>
  <label class="flex flex-col gap-1"
    >Mark it to
    <select class="select w-52" bind:value={purpose}
      >{#each MARK_PURPOSES as each (each)}<option value={each}>{WORDS[each]}</option>{/each}</select
    ></label
  >
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
  <button class="btn btn-outline">Mark it</button>
  {#if row.mark !== null}<button
      type="button"
      class="btn btn-ghost"
      onclick={() => onmark({ purpose: 'none', reason: '', reviewOn: null, leanDeg: null })}>Take the mark off</button
    >{/if}
</form>
