<script lang="ts">
  import { gearFor, suggestionFor, countable } from '@baumkin/core/bush';
  import { tapForbidden } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { GEAR_WORDS } from '$lib/labels/season.ts';

  import CollectingHabits from './CollectingHabits.svelte';
  import { SeasonDesk } from './desk.svelte.ts';

  /**
   * What has to be there before the first warm day? Counted from the taps that are decided and those that are only suggested yet,
   * with spares, and with what must not touch food.
   */
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  /** Taps that the count suggests on trees that nobody decided yet. */
  const suggested = $derived.by(() => {
    const { settings } = desk;
    return bush.rows.reduce((sum, row) => {
      const stand = bush.standOf(row);
      if (row.decidedTaps !== null || !countable(row, stand) || tapForbidden(row, stand, bush.today) !== null)
        return sum;
      return sum + suggestionFor(row, { settings, season: bush.season, today: bush.today, stand }, null).taps;
    }, 0);
  });
  const decided = $derived(desk.taps + desk.otherTaps);
  let withSuggested = $state(true);
  const taps = $derived(decided + (withSuggested ? suggested : 0));
  const gear = $derived(gearFor(taps, desk.places, desk.settings));
</script>

<h1 class="sr-only">Gear and clean</h1>
<div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_23rem]">
  <section class="min-w-0" aria-labelledby="list">
    <div class="flex items-baseline gap-4">
      <h2 id="list" class="grow">For {taps} taps</h2>
      <button class="btn btn-outline btn-sm print:hidden" onclick={() => print()}>Print the list</button>
    </div>
    <p>
      {decided} decided{desk.otherTaps > 0 ? ` (${desk.otherTaps} of them on birches and walnuts)` : ''}{suggested > 0
        ? `, ${suggested} more suggested and not decided yet`
        : ''}.
      {#if suggested > 0}<label class="inline-flex items-center gap-2 print:hidden"
          ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={withSuggested} /> count them in</label
        >{/if}
    </p>
    {#if taps === 0}<p class="mt-2 max-w-prose">
        What has to be there follows from the taps. <a class="link" href="/bush/{bush.id}/count/all">Decide them</a> first,
        or count in what is suggested.
      </p>{:else}<table class="mt-2 w-full max-w-2xl text-left" data-testid="gear">
        <thead
          ><tr class="border-b-2 border-base-content"
            ><th class="w-8"></th><th class="py-1">What</th><th class="text-right">Needed</th><th class="text-right"
              >With spares</th
            ></tr
          ></thead
        >
        <tbody>
          {#each gear as item (item.what)}
            <tr class="border-b border-base-300"
              ><td><span class="inline-block h-4 w-4 border border-base-content"></span></td><td class="py-1"
                >{GEAR_WORDS[item.what]}{item.what === 'spouts' || item.what === 'bits'
                  ? `, ${preferences.length(desk.settings.bitMm, 'bit')}`
                  : ''}{item.litres ? `, ${preferences.fewLitres(item.litres)} each` : ''}</td
              ><td class="text-right">{item.many}</td><td class="text-right font-bold">{item.withSpares}</td></tr
            >
          {/each}
        </tbody>
      </table>{/if}
    <div class="mt-6 max-w-lg"><CollectingHabits /></div>
  </section>
  <section class="flex flex-col gap-3" aria-labelledby="clean">
    <h2 id="clean">Clean, and fit for food</h2>
    <ul class="list-disc pl-5">
      <li>Everything that sap touches is food-grade: no paint pails, no pipe meant for drains.</li>
      <li>
        No lead: old spouts, solder, terneplate, brass and galvanised gear from before about 1995 do not go near sap.
      </li>
      <li>Wash in hot water, rinse twice, dry; soap leaves a taste. Bits and spouts once more on the drilling day.</li>
      <li>Lines: flushed, drained, their ends closed against insects; a spout is new or boiled each season.</li>
      <li>Stored dry and upside down, away from mice and fuel.</li>
    </ul>
    <p class="caution text-sm">
      Never tap trees treated with systemic insecticide, or at salted, sprayed or septic ground: write it down with the
      tree, and Count gives it none.
    </p>
    <p class="caution text-sm">
      Ice and hard snow: poles and cleats, and snowshoes off near buried stubs. No ladders for high taps. Somebody knows
      where you are and when you will be back; many woods have no signal. From the thaw on, look for ticks.
    </p>
  </section>
</div>
