<script lang="ts">
  import { CARRIERS, VESSELS } from '@baumkin/core/season';
  import { untrack } from 'svelte';
  import { toast } from 'svelte-sonner';

  import ScaledNumber from '$lib/ui/ScaledNumber.svelte';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { CARRIER_WORDS, VESSEL_WORDS } from '$lib/labels/season.ts';

  /** How the bush drills and collects: what its days, loads and rounds are reckoned by. */
  const bush = useBush();
  const kept = $derived(bush.overview!.bush.settings);
  let form = $state(
    untrack(() => {
      const { vessel, vacuum, vesselLitres, carrier, people, hoursADay, leastLitres, litresAnHour, hangAfterDays } =
        kept;
      return { vessel, vacuum, vesselLitres, carrier, people, hoursADay, leastLitres, litresAnHour, hangAfterDays };
    })
  );
  let problem = $state<string | null>(null);
  async function save(): Promise<void> {
    problem = await bush.change.settings($state.snapshot(form));
    if (problem === null) toast.success('The season is reckoned by this from now on.');
  }
</script>

<form
  class="flex flex-col gap-2 print:hidden"
  data-testid="collecting-habits"
  onsubmit={(event) => {
    event.preventDefault();
    void save();
  }}
>
  <h2>How this bush collects</h2>
  <fieldset class="flex flex-col gap-2" disabled={!bush.mayDecide}>
    <label class="flex items-center gap-3"
      ><span class="w-40">Sap runs into</span><select class="select grow" bind:value={form.vessel}
        >{#each VESSELS as each (each)}<option value={each}>{VESSEL_WORDS[each]}</option>{/each}</select
      ></label
    >
    {#if form.vessel === 'tank'}<label class="flex items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={form.vacuum} /> a pump pulls on the lines</label
      >{/if}
    <label class="flex items-center gap-3"
      ><span class="w-40">One holds</span><span class="whitespace-nowrap"
        ><ScaledNumber
          scale={preferences.volumeScale}
          min={0.5}
          required
          bind:value={() => form.vesselLitres, (held) => (form.vesselLitres = held ?? 13)}
        /></span
      ></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-40">Carried</span><select class="select grow" bind:value={form.carrier}
        >{#each CARRIERS as each (each)}<option value={each}>{CARRIER_WORDS[each]}</option>{/each}</select
      ></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-40">People</span><input
        class="input w-24"
        type="number"
        min="1"
        max="500"
        required
        bind:value={form.people}
      /></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-40">Hours a day of each</span><input
        class="input w-24"
        type="number"
        min="0.5"
        max="16"
        step="0.5"
        required
        bind:value={form.hoursADay}
      /></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-40">Vessels are hung</span><select class="select grow" bind:value={form.hangAfterDays}>
        <option value={0}>on the drilling day</option>
        <option value={1}>a day later</option>
        <option value={2}>two days later</option>
      </select></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-40">No hole for less than</span><span class="whitespace-nowrap"
        ><ScaledNumber
          scale={preferences.volumeScale}
          min={0}
          max={60}
          required
          bind:value={() => form.leastLitres, (least) => (form.leastLitres = least ?? 0)}
        /></span
      ></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-40">An hour’s way is worth</span><span class="whitespace-nowrap"
        ><ScaledNumber
          scale={preferences.volumeScale}
          min={1}
          max={500}
          required
          bind:value={() => form.litresAnHour, (worth) => (form.litresAnHour = worth ?? 30)}
        /> of sap</span
      ></label
    >
  </fieldset>
  {#if problem}<p role="alert" class="text-error">{problem}</p>{/if}
  {#if bush.mayDecide}<button class="btn self-start btn-primary">Keep it so</button>{/if}
</form>
