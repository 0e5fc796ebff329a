<script lang="ts">
  import { expectedSyrup, fireAdvice, panRate, storedSap, type FireAdvice } from '@baumkin/core/bush';
  import type { Batch } from '@baumkin/core/records';
  import {
    boiledTo,
    finishesAt,
    finishRise,
    JONES_RULE,
    keepsHours,
    pressureAt,
    waterBoilsAt
  } from '@baumkin/core/sap';

  import ScaledNumber from '$lib/ui/ScaledNumber.svelte';
  import { MM_PER_FOOT } from '@baumkin/core/units';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { BATCH_OF_WORDS, BECAME_WORDS, bottledWords, COLOUR_WORDS, hourWords, shortDay } from '$lib/labels/season.ts';

  import BatchForm from './BatchForm.svelte';
  import WrittenDown from './WrittenDown.svelte';
  import { SeasonDesk } from './desk.svelte.ts';

  /**
   * When is the fire lit, and when is it syrup? The page knows what waits, how long it keeps and how the pan boils, and says what the
   * thermometer has to show today; nobody looks up a table with sticky fingers.
   */
  const FEET_A_METRE = 1000 / MM_PER_FOOT;
  const bush = useBush();
  const desk = new SeasonDesk(bush);
  const settings = $derived(desk.settings);
  const now = new Date();
  const hour = now.getHours() + now.getMinutes() / 60;
  const store = $derived(storedSap(bush.bushRecords, desk.weather, { season: bush.season, today: bush.today, hour }));
  const pan = $derived(panRate(bush.bushRecords, settings.panM2));
  const made = $derived(store ? boiledTo(store, settings.finishBrix) : null);
  const hours = $derived(made && pan.litresAnHour ? made.waterKg / pan.litresAnHour : null);
  const moreComes = $derived(
    desk.runs.slice(0, 2).reduce((sum, run) => sum + run.litres * run.chance, 0) * desk.drilled
  );
  const advice = $derived(fireAdvice(store, hours, moreComes));
  const ADVICE: Readonly<Record<FireAdvice, [what: string, why: string]>> = {
    nothing: ['No sap waits', 'What is collected and not boiled yet stands here.'],
    spoilsSoon: [
      'Light the fire now',
      'The oldest of it turns within a day or so; sap that has turned makes dark syrup that keeps badly.'
    ],
    fullDay: ['Light the fire', 'There is enough for a day at the pan.'],
    runEnds: ['Light the fire', 'Little more comes in the next two days: it only gets older.'],
    wait: [
      'Save up a little longer',
      'More comes soon, and what stands here keeps. A fire for few litres costs wood and time.'
    ]
  };

  // Where water boils today.
  let by = $state<'altitude' | 'pressure' | 'water'>('altitude');
  let pressure = $state<number | null>(null);
  let waterC = $state<number | null>(null);
  /** as it is typed, metres; kept when it is let go */
  let altitude = $state<number | null>(null);
  const groundScale = $derived(
    preferences.units === 'metric'
      ? { shown: (m: number) => m, kept: (m: number) => m, name: 'm' }
      : { shown: (m: number) => m * FEET_A_METRE, kept: (ft: number) => ft / FEET_A_METRE, name: 'ft' }
  );
  const boilsC = $derived.by(() => {
    try {
      if (by === 'water') return waterC;
      if (by === 'pressure') return pressure === null ? null : waterBoilsAt(pressure);
      return settings.altitudeM === null ? null : waterBoilsAt(pressureAt(settings.altitudeM));
    } catch {
      return null;
    }
  });
  const finishC = $derived(boilsC === null ? null : boilsC + finishRise(settings.finishBrix));
  const seaC = $derived(finishesAt(settings.finishBrix, pressureAt(0)));

  const batches = $derived(
    bush.bushRecords
      .filter((record) => record.kind === 'batch')
      .filter(({ season }) => season === bush.season)
      .toReversed()
  );
  let open = $state(false);
  const share = (batch: Batch) => {
    const possible = expectedSyrup(batch)?.litres;
    return possible && batch.syrupLitres ? `${Math.round((100 * batch.syrupLitres) / possible)} %` : '';
  };
  const bottled = $derived(
    batches.reduce((sum, { bottles }) => sum + bottles.reduce((all, each) => all + each.litres * each.many, 0), 0)
  );
  const syrup = $derived(batches.reduce((sum, { syrupLitres }) => sum + (syrupLitres ?? 0), 0));
  const went = (which: 'kept' | 'given' | 'sold') =>
    batches.reduce(
      (sum, { bottles }) =>
        sum + bottles.reduce((all, each) => all + (each.went === which ? each.litres * each.many : 0), 0),
      0
    );
</script>

<h1 class="sr-only">Sap and syrup</h1>
<div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_21rem]">
  <section class="min-w-0" aria-labelledby="store">
    <div
      class="border-l-[6px] pl-4 {advice === 'nothing' || advice === 'wait' ? 'border-base-300' : 'border-primary'}"
      data-testid="store"
    >
      <h2 id="store" class="font-slab text-2xl">{ADVICE[advice][0]}</h2>
      <p>{ADVICE[advice][1]}</p>
      {#if store && made}
        <p class="mt-2 text-lg">
          {preferences.volume(store.litres)} at {store.brix.toFixed(1)} %{store.brixAssumed ? ' (partly assumed)' : ''} make
          {preferences.fewLitres(made.syrup.litres)} of syrup{hours !== null
            ? `: ${hours.toFixed(1)} hours at the fire`
            : ''}{pan.woodM3AKg ? `, ${preferences.stacked(made.waterKg * pan.woodM3AKg)} of wood` : ''}.
        </p>
        <p class="aside">
          The oldest was collected {shortDay(store.since.on)} at {hourWords(store.since.hour)}; stored closed and as
          cold as the air {store.turned >= 1
            ? 'it has turned by the reckoning: look and smell, and pour away what is yellow or ropy'
            : store.keepsHours !== null
              ? `it keeps about ${counted(Math.round(store.keepsHours), 'hour')} more`
              : 'it keeps beyond what is foretold'}. Snow packed round the vessel holds it near {preferences.degrees(
            1
          )}: {Math.round(keepsHours(1) / 24)} days.
        </p>
      {/if}
      {#if pan.batches > 0}<p class="aside">
          Your pan boils away {preferences.fewLitres(pan.litresAnHour!)} of water an hour ({preferences.fewLitres(
            pan.low!
          )} to {preferences.fewLitres(pan.high!)}), from {counted(pan.batches, 'batch', 'batches')}.
        </p>
      {:else if pan.litresAnHour !== null}<p class="aside">
          By its area the pan boils away some {preferences.fewLitres(pan.litresAnHour)} an hour ({preferences.fewLitres(
            pan.low!
          )} to {preferences.fewLitres(pan.high!)}); after two batches its own rate is known.
        </p>
      {:else if bush.mayDecide}<label class="mt-2 flex flex-wrap items-center gap-2"
          >How large is the pan’s surface? <input
            class="input w-24 input-sm"
            type="number"
            min="0.02"
            max="20"
            step="0.01"
            onchange={(event) =>
              event.currentTarget.value !== '' &&
              void bush.change.settings({ panM2: event.currentTarget.valueAsNumber })}
          /> m²: then hours at the fire can be told.</label
        >{/if}
    </div>
    <div class="mt-6 flex items-baseline gap-4">
      <h2 class="grow">Batches of {bush.season}</h2>
      {#if bush.mayRecord}<button class="btn btn-primary btn-sm" onclick={() => (open = true)}>A batch</button>{/if}
    </div>
    {#if batches.length === 0}<p>None is written down yet.</p>
    {:else}
      <div class="overflow-x-auto">
        <table class="w-full text-left whitespace-nowrap" data-testid="batches">
          <thead
            ><tr class="border-b-2 border-base-content"
              ><th class="py-1 pr-3">Day</th><th class="pr-3 text-right">Sap</th><th class="pr-3 text-right">Sugar</th
              ><th class="pr-3 text-right">Syrup</th><th
                class="pr-3 text-right"
                title="against what the mass balance allows">Of possible</th
              ><th class="pr-3 text-right">{JONES_RULE} rule</th><th class="pr-3 text-right">Hours</th><th class="pr-3"
                >Colour</th
              ></tr
            ></thead
          >
          <tbody>
            {#each batches as batch (batch.id)}
              <tr class="border-b border-base-300">
                <td class="py-1 pr-3"
                  >{shortDay(batch.on)}{batch.of === 'maple' ? '' : `, ${BATCH_OF_WORDS[batch.of]}`}</td
                >
                <td class="pr-3 text-right">{preferences.volume(batch.sapLitres)}</td>
                <td class="pr-3 text-right">{batch.sapBrix.toFixed(1)} %</td>
                <td class="pr-3 text-right"
                  >{batch.syrupLitres === null
                    ? BECAME_WORDS[batch.became]
                    : preferences.fewLitres(batch.syrupLitres)}</td
                >
                <td class="pr-3 text-right">{share(batch)}</td>
                <td class="pr-3 text-right"
                  >{batch.became === 'syrup' && batch.sapBrix > 0
                    ? preferences.fewLitres((batch.sapLitres * batch.sapBrix) / JONES_RULE)
                    : ''}</td
                >
                <td class="pr-3 text-right">{batch.hours?.toFixed(1) ?? ''}</td>
                <td class="pr-3">{batch.colour ? COLOUR_WORDS[batch.colour] : ''}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      <p class="aside mt-1">
        {preferences.fewLitres(syrup)} of syrup, {bottledWords(
          { kept: went('kept'), given: went('given'), sold: went('sold') },
          preferences
        )}{syrup > bottled + 0.05 ? `; ${preferences.fewLitres(syrup - bottled)} not bottled yet` : ''}. What the mass
        balance allows and did not come stayed on pan and filter, or the sugar was read wrong.
      </p>
      <WrittenDown
        title="Take a batch back"
        records={batches.toReversed()}
        say={(batch) =>
          `${preferences.volume(batch.sapLitres)} of ${batch.of} sap, ${batch.syrupLitres === null ? BECAME_WORDS[batch.became] : `${preferences.fewLitres(batch.syrupLitres)} of syrup`}`}
      />
    {/if}
  </section>
  <section class="flex flex-col gap-3" aria-labelledby="finish">
    <h2 id="finish">When it is syrup</h2>
    <p class="font-slab text-3xl" data-testid="finish">
      {finishC === null ? 'not known yet' : preferences.degrees(finishC, 1)}
    </p>
    {#if finishC === null}<p>Say below where water boils today, or how high the sugarhouse lies.</p>{/if}
    <p>
      {settings.finishBrix} % sugar boils {preferences.units === 'metric'
        ? `${finishRise(settings.finishBrix).toFixed(1)} °C`
        : `${(finishRise(settings.finishBrix) * 1.8).toFixed(1)} °F`} above today’s boiling water{boilsC === null
        ? ''
        : `, which boils at ${preferences.degrees(boilsC, 1)}`}. At the sea and in average air that is {preferences.degrees(
        seaC,
        1
      )}.
    </p>
    <label class="flex items-center gap-2"
      >Finished at <select
        class="select w-32"
        value={settings.finishBrix}
        disabled={!bush.mayDecide}
        onchange={(event) => void bush.change.settings({ finishBrix: Number(event.currentTarget.value) })}
      >
        <option value={66}>66.0 %</option><option value={66.9}>66.9 %</option>
      </select></label
    >
    <fieldset class="flex flex-col gap-1">
      <legend class="font-semibold">Water boils today</legend>
      <label class="flex flex-wrap items-center gap-2"
        ><input type="radio" class="radio radio-sm" bind:group={by} value="water" /> as measured in the pan
        <ScaledNumber
          class="input w-20 input-sm"
          scale={preferences.degreesScale}
          min={80}
          max={105}
          label="Boiling water"
          onfocus={() => (by = 'water')}
          bind:value={waterC}
        /></label
      >
      <label class="flex flex-wrap items-center gap-2"
        ><input type="radio" class="radio radio-sm" bind:group={by} value="pressure" /> by the air’s pressure
        <input
          class="input w-24 input-sm"
          type="number"
          min="600"
          max="1085"
          bind:value={pressure}
          onfocus={() => (by = 'pressure')}
          aria-label="Pressure, hPa"
        /> hPa</label
      >
      <label class="flex flex-wrap items-center gap-2"
        ><input type="radio" class="radio radio-sm" bind:group={by} value="altitude" /> by the altitude
        <ScaledNumber
          class="input w-24 input-sm"
          scale={groundScale}
          min={-430}
          max={4500}
          digits={0}
          label="Altitude"
          disabled={!bush.mayDecide}
          onfocus={() => (by = 'altitude')}
          bind:value={() => settings.altitudeM, (metres) => (altitude = metres)}
          onset={() => void bush.change.settings({ altitudeM: altitude })}
        /></label
      >
    </fieldset>
    <p class="aside">
      Boiling water, measured in the pan on the same day with the same thermometer, is the surest: its own error falls
      out. The air’s pressure is that of the place, not the one reduced to the sea.
    </p>
    <p class="caution text-sm">
      Hot syrup sticks and burns deep: long sleeves, no child at the pan, cold water at hand. It boils over in a moment
      and scorches at the end: finish in a smaller pan, never leave it. Steam and an open fire want a roof of its own.
      Fill hot at {preferences.degrees(82)} to {preferences.degrees(85)} and mind the pressure in closed jars. Food rules
      and labels are those of your place.
    </p>
  </section>
</div>
<BatchForm bind:open {store} waterBoilsC={boilsC} />
