<script lang="ts">
  import type { SeasonGroup } from '@baumkin/core/bush';
  import { stockFor } from '@baumkin/core/sap';
  import { CLEARINGS, isDrillable } from '@baumkin/core/season';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { CLEARING_WORDS, dayWords } from '$lib/labels/season.ts';

  import type { SeasonDesk } from './desk.svelte.ts';

  /**
   * The card of the drilling day: what goes along, how each hole is made, and what to mix. It counts the spouts out, reckons the
   * dilution for the bottle at hand and says whether the wood can be drilled today.
   */
  const { desk, group }: { desk: SeasonDesk; group: SeasonGroup } = $props();
  const bush = useBush();
  const settings = $derived(desk.settings);
  const left = $derived(desk.taps - desk.drilled);

  let stockPct = $state(29);
  let by = $state<'volume' | 'weight'>('volume');
  let made = $state(1);
  /** what bits and spouts are wiped with, per cent */
  const WIPED_WITH = 3;
  const mix = $derived.by(() => {
    try {
      return { ml: Math.round(1000 * stockFor(made, WIPED_WITH, { pct: stockPct, by })), problem: null };
    } catch {
      return {
        ml: null,
        problem: `From a stock of ${stockPct || 'no'} % no ${WIPED_WITH} % can be made: it has to be stronger.`
      };
    }
  });
  const today = $derived(desk.weather.ahead[0] ?? null);
  const frozen = $derived(today !== null && !isDrillable(today));
  const next = $derived(desk.weather.ahead.find((day) => isDrillable(day)) ?? null);
</script>

<section
  aria-labelledby="the-day"
  class="mt-6 border-t-2 border-base-content pt-3 print:border-0"
  data-testid="drilling-day"
>
  <div class="flex items-baseline gap-4">
    <h2 id="the-day" class="grow text-lg">The drilling day</h2>
    <button class="btn btn-outline btn-sm print:hidden" onclick={() => print()}>Print this card</button>
  </div>
  {#if frozen}<p class="caution my-2">
      Today the wood stays frozen hard ({preferences.degrees(today!.maxC)} at most): it splits at the spout. {next
        ? `Wait until ${dayWords(next.on)}.`
        : 'Wait for a milder day.'}
    </p>{/if}
  <div class="grid gap-x-8 gap-y-4 md:grid-cols-2">
    <div>
      <h3>Along</h3>
      <ul class="list-disc pl-5">
        <li>
          {counted(left > 0 ? left : group.taps, 'spout')} of {preferences.length(settings.bitMm, 'bit')}, counted out;
          a few to spare
        </li>
        <li>
          a sharp bit of the same size, taped at {preferences.length(settings.depthMm, 'drill')}; a second one
        </li>
        <li>hammer, paint, the round’s list, a bottle for wiping and clean cloths</li>
        {#if settings.hangAfterDays === 0}<li>vessels and lids: rain, twigs and insects keep out</li>{/if}
      </ul>
      <h3 class="mt-3">Each hole</h3>
      <ol class="list-decimal pl-5">
        <li>Where the plan says, slightly upward into the tree, so that it drains.</li>
        <li>In and out in one go, the drill held straight: an oval hole leaks.</li>
        <li>Look at the shavings and write them down: pale is clear wood, brown is old.</li>
        <li>Set the spout with light taps until it sounds dull; its mouth looks down. Tug it.</li>
        {#if settings.hangAfterDays > 0}<li>
            Hang nothing yet: the hanging round follows after {counted(settings.hangAfterDays, 'day')}.
          </li>{/if}
        <li>Wipe bit and spout before the next tree; after brown wood always. Sick trees last.</li>
      </ol>
    </div>
    <div>
      <h3>Shavings in the hole</h3>
      <p class="aside">Schools differ; nobody blows into it.</p>
      <div class="flex flex-col" role="radiogroup" aria-label="Shavings in the hole">
        {#each CLEARINGS as way (way)}
          {@const [name, why] = CLEARING_WORDS[way]}
          <label class="flex items-start gap-2 py-1"
            ><input
              type="radio"
              class="radio mt-0.5 radio-sm"
              name="clearing"
              checked={settings.clearing === way}
              disabled={!bush.mayDecide}
              onchange={() => void bush.change.settings({ clearing: way })}
            /><span><b>{name}.</b> {why}{way === 'leave' ? ' Our default: what is not put in cannot foul.' : ''}</span
            ></label
          >
        {/each}
      </div>
      <h3 class="mt-2">To wipe with: {WIPED_WITH} % peroxide</h3>
      <div class="mt-1 flex flex-wrap items-center gap-2">
        <span>Stock of</span><input
          class="input w-20 input-sm"
          type="number"
          min="4"
          max="50"
          step="0.5"
          aria-label="Strength of the stock, per cent"
          bind:value={stockPct}
        />
        %
        <select class="select w-32 select-sm" aria-label="How its label counts" bind:value={by}>
          <option value="volume">by volume</option><option value="weight">by weight</option>
        </select>
      </div>
      <label class="mt-1 flex items-center gap-2"
        >makes <input class="input w-20 input-sm" type="number" min="0.1" max="20" step="0.1" bind:value={made} /> litres:</label
      >
      {#if mix.problem}<p class="text-error">{mix.problem}</p>{:else}<p class="font-slab text-xl" data-testid="mix">
          {mix.ml} ml of it, the rest clean water
        </p>{/if}
      <p class="caution mt-2 text-sm">
        Fresh each day, in a vented bottle, on bit and spout for a minute or two, not into the hole unless its label
        says so. Never together with vinegar or bleach. From 8 % on it burns: gloves and goggles. Pellets or gas of
        formaldehyde in holes are forbidden in many countries, and kill the wood.
      </p>
    </div>
  </div>
</section>
