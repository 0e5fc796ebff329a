<script lang="ts">
  import type { Shavings, Taphole } from '@baumkin/core/records';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { SHAVINGS_LABELS } from '$lib/labels/placement.ts';

  import { shavingsSeen } from './drilling.ts';

  /** What came out of a hole of this season: one tap says it, and it teaches the sheet about this trunk. */
  const { hole, number, seen }: { hole: Taphole; number: number; seen: Shavings | null } = $props();
  const bush = useBush();

  async function log(kind: Shavings['seen']): Promise<void> {
    if (seen?.seen === kind) return;
    await bush.record(hole.treeId, { ...shavingsSeen(hole, kind), ...(seen ? { correctsId: seen.id } : {}) });
    toast.success('Shavings written down.');
  }
  async function refine(change: Pick<Partial<Shavings>, 'brownShare' | 'brownFromMm'>): Promise<void> {
    if (!seen) return;
    const { brownShare, brownFromMm } = { ...seen, ...change };
    await bush.record(hole.treeId, {
      kind: 'shavings',
      tapholeId: hole.id,
      seen: 'partly',
      brownShare,
      brownFromMm,
      correctsId: seen.id
    });
  }
  /** A hole that stays dry tells of its wood as far as sap ran that day. */
  async function others(ran: Shavings['othersRan']): Promise<void> {
    if (!seen || seen.othersRan === ran) return;
    await bush.record(hole.treeId, {
      kind: 'shavings',
      tapholeId: hole.id,
      seen: 'dry',
      othersRan: ran,
      correctsId: seen.id
    });
  }
  const OTHERS: readonly [NonNullable<Shavings['othersRan']>, string][] = [
    ['well', 'Ran well'],
    ['little', 'A little'],
    ['none', 'Not at all']
  ];
  /** Depths at which shavings may have turned, in steps that a hand can tell apart. */
  const depths = $derived(
    Array.from({ length: Math.floor(hole.depthMm / 6.35) }, (_, i) => Math.round((i + 1) * 6.35 * 10) / 10)
  );
</script>

<div class="border-t border-base-300 pt-3" data-testid="drilled">
  <h2>Hole {number} of this season: the shavings?</h2>
  <div class="mt-1.5 grid grid-cols-2 gap-2">
    {#each SHAVINGS_LABELS as [kind, label, meaning] (kind)}
      <button
        class="min-h-12 border-2 px-2 text-left leading-tight {seen?.seen === kind
          ? 'border-primary bg-primary/15'
          : 'border-base-300'}"
        aria-pressed={seen?.seen === kind}
        disabled={!bush.mayRecord}
        onclick={() => log(kind)}
      >
        <b>{label}</b><span class="aside block">{meaning}</span>
      </button>
    {/each}
  </div>
  {#if seen?.seen === 'partly'}
    <label class="mt-2 flex items-center gap-3"
      >Brown share
      <select
        class="select w-auto select-sm"
        value={String(seen.brownShare)}
        onchange={(e) => refine({ brownShare: Number(e.currentTarget.value) })}
      >
        {#each [0.1, 0.25, 0.5, 0.75, 0.9] as share (share)}<option value={String(share)}
            >{Math.round(share * 100)} %</option
          >{/each}
      </select>
    </label>
    <label class="mt-2 flex items-center gap-3"
      >Brown from
      <select
        class="select w-auto select-sm"
        value={seen.brownFromMm === null ? '' : String(seen.brownFromMm)}
        onchange={(e) => refine({ brownFromMm: e.currentTarget.value === '' ? null : Number(e.currentTarget.value) })}
      >
        <option value="">not looked</option>
        {#each depths as mm (mm)}<option value={String(mm)}>{preferences.length(mm, 'drill')} in</option>{/each}
      </select>
    </label>
  {/if}
  {#if seen?.seen === 'dry'}
    <fieldset class="mt-2">
      <legend>How did the other holes run that day?</legend>
      <div class="mt-1 flex flex-wrap gap-2">
        {#each OTHERS as [ran, label] (ran)}
          <button
            class="min-h-11 border-2 px-3 {seen.othersRan === ran ? 'border-primary bg-primary/15' : 'border-base-300'}"
            aria-pressed={seen.othersRan === ran}
            disabled={!bush.mayRecord}
            onclick={() => others(ran)}>{label}</button
          >
        {/each}
      </div>
      <p class="aside mt-1">
        {seen.othersRan === 'none'
          ? 'Then it teaches nothing of the wood: no sap ran.'
          : seen.othersRan === null
            ? 'Until you say, it teaches half of what a dry hole on a good day does.'
            : ''}
      </p>
    </fieldset>
  {/if}
  {#if bush.mayTakeBack(hole)}<button class="aside mt-1.5 link" onclick={() => bush.withdraw(hole)}
      >Take this hole back</button
    >{/if}
</div>
