<script lang="ts">
  import { speciesById } from '@baumkin/core/identify';
  import { otherSapOfTree, tapsToHang, type Stand } from '@baumkin/core/records';
  import { freeToGrow, sidesReleased } from '@baumkin/core/thinning';
  import Trash from '@lucide/svelte/icons/trash-2';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import Told from '$lib/ui/Told.svelte';

  import type { JudgedChoice } from './desk.svelte.ts';
  import { LIMIT_WORDS } from '$lib/labels/thinning.ts';

  /** Before and after, for every choice that lies on the table. */
  let {
    choices,
    now,
    shown = $bindable(),
    stand
  }: { choices: readonly JudgedChoice[]; now: JudgedChoice; shown: string; stand: Stand } = $props();
  const bush = useBush();
  const columns = $derived([now, ...choices]);
  const pct = (share: number) => `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`;
  const own = $derived(bush.rows.filter((row) => row.standId === stand.id));
  const kept = $derived(new Map(bush.bushRecords.map((record) => [record.id, record])));

  const ROWS: readonly (readonly [string, (choice: JudgedChoice) => string])[] = [
    ['Trees taken', ({ taken }) => String(taken.size)],
    ['Basal area taken', ({ judgement }) => pct(judgement.share)],
    ['Crop trees free to grow', ({ judgement }) => `${freeToGrow(judgement)} of ${judgement.freed.length}`],
    ['Sides freed', ({ judgement }) => String(sidesReleased(judgement))],
    [
      'Taps decided this season',
      ({ taken }) =>
        String(
          own.reduce(
            (n, row) =>
              n + (taken.has(row.id) || otherSapOfTree(row) !== null ? 0 : tapsToHang(row, stand, bush.today)),
            0
          )
        )
    ],
    ['Taps that are carried', ({ tapsLeft }) => String(Math.round(tapsLeft))],
    ['Taps lost', ({ judgement }) => String(Math.round(judgement.lostTaps))],
    ['Stems', ({ figures }) => preferences.perGround(figures.stemsPerHa)],
    ['Basal area', ({ figures }) => preferences.basalAreaDensity(figures.basalAreaPerHa)],
    [
      'Quadratic mean diameter',
      ({ figures }) => (figures.stems > 0 ? preferences.length(figures.quadraticMeanMm, 'trunk') : '')
    ],
    ['Ground under crowns', ({ figures }) => (figures.crownCover === null ? 'not drawn' : pct(figures.crownCover))],
    [
      'Leading species',
      ({ figures }) =>
        figures.species
          .slice(0, 2)
          .map(({ species, share }) => `${species ? speciesById(species).name : 'unsettled'} ${pct(share)}`)
          .join(', ')
    ],
    ['Other species left', ({ judgement }) => pct(judgement.othersShare)],
    ['New wide openings', ({ judgement }) => String(judgement.openings.length)],
    ['Crowns freed in all', ({ judgement }) => (judgement.worth / 100).toFixed(1)]
  ];
</script>

<div class="mt-2 overflow-x-auto">
  <table class="text-left" data-testid="choices" aria-label="Choices for {stand.name}, before and after">
    <thead>
      <tr class="border-b-2 border-base-content align-bottom">
        <td></td>
        {#each columns as choice (choice.id)}
          <th class="max-w-40 px-3 py-1 text-right font-semibold">
            {#if choice.id === 'now'}<span class="inline-block border-b-[3px] border-transparent">{choice.name}</span
              >{:else}
              <button
                class="border-b-[3px] px-1 text-right {shown === choice.id
                  ? 'border-base-content font-bold'
                  : 'border-transparent hover:underline'}"
                aria-pressed={shown === choice.id}
                onclick={() => (shown = choice.id)}>{choice.name}</button
              >
              {@const record = kept.get(choice.id)}
              {#if record && bush.mayDecide}<button
                  class="btn btn-square btn-ghost btn-xs"
                  aria-label="Throw “{choice.name}” away"
                  onclick={() => void bush.withdraw(record)}><Trash size={14} /></button
                >{/if}
            {/if}
          </th>
        {/each}
      </tr>
    </thead>
    <tbody>
      {#each ROWS as [label, say] (label)}
        <tr class="border-b border-base-300/60">
          <th class="py-1 pr-3 font-normal whitespace-nowrap"><Told of={label} /></th>
          {#each columns as choice (choice.id)}<td
              class="px-3 text-right tabular-nums {label === 'Leading species'
                ? 'min-w-36 text-sm'
                : 'whitespace-nowrap'} {shown === choice.id ? 'bg-base-200 font-semibold' : ''}">{say(choice)}</td
            >{/each}
        </tr>
      {/each}
      <tr>
        <th class="py-1 pr-3 font-normal">Beyond the limits</th>
        {#each columns as choice (choice.id)}<td
            class="max-w-52 px-3 py-1 text-right text-sm {choice.judgement.broken.length > 0 ? 'font-semibold' : ''}"
            >{choice.id === 'now' || choice.judgement.broken.length === 0
              ? '–'
              : choice.judgement.broken.map((id) => LIMIT_WORDS[id]).join('; ')}</td
          >{/each}
      </tr>
    </tbody>
  </table>
</div>
