<script lang="ts">
  import type { PlaceNow } from '@baumkin/core/bush';
  import { SAP_LOOKS, type SapLook } from '@baumkin/core/records';
  import { hydrometerBrix } from '@baumkin/core/sap';
  import { LITRES_PER_GALLON } from '@baumkin/core/units';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { LOOK_WORDS } from '$lib/labels/season.ts';
  import ScaledNumber from '$lib/ui/ScaledNumber.svelte';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import NumberPad from '$lib/ui/NumberPad.svelte';
  import { hourOf, timeOf } from '$lib/words/timeOfDay.ts';

  import { collectionDoubts } from './collectionDoubts.ts';

  /** A place was emptied: how full it was is touched on its picture, or typed. Three touches from the list to the book. */
  let { now = $bindable(), expected }: { now: PlaceNow | null; expected: number | null } = $props();
  const bush = useBush();

  let open = $state(false);
  let typed = $state('');
  let on = $state('');
  let time = $state('');
  let brix = $state<number | null>(null);
  let sapC = $state<number | null>(null);
  let look = $state<SapLook>('clear');
  let rain = $state(false);
  let ranOver = $state(false);
  let sure = $state(false);
  $effect(() => {
    if (now === null) return;
    untrack(() => {
      [typed, on, brix, sapC, look, rain, ranOver, sure] = ['', bush.today, null, null, 'clear', false, false, false];
      time = timeOf(new Date());
      open = true;
    });
  });

  const inGallons = $derived(preferences.units === 'inch');
  const litres = $derived(typed === '' ? null : Number(typed) * (inGallons ? LITRES_PER_GALLON : 1));
  const hour = $derived(hourOf(time));
  const atTwenty = $derived(brix === null || sapC === null ? brix : hydrometerBrix(brix, sapC));
  const draft = $derived(litres === null || hour === null || !on ? null : { on, hour, litres, brix: atTwenty, look });
  const doubts = $derived(now && draft ? collectionDoubts(now, draft) : []);
  const full = $derived(now && litres !== null ? Math.min(1, litres / now.holdsLitres) : 0);

  /** A touch on the picture, in tenths of what it holds. */
  function touch(event: PointerEvent): void {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const share = 1 - (event.clientY - box.top - 6) / (box.height - 12);
    const held = now!.holdsLitres / (inGallons ? LITRES_PER_GALLON : 1);
    typed = String(Math.round(held * Math.max(0, Math.min(1, Math.round(20 * share) / 20))));
    sure = false;
  }

  async function keep(): Promise<void> {
    if (!now || !draft || (doubts.length > 0 && !sure)) return;
    const { place, taps, drilledOn } = now;
    const record = await bush.recordOfBush({
      kind: 'collection',
      on: draft.on,
      placeId: place.id,
      hour: draft.hour,
      litres: Number(draft.litres.toFixed(1)),
      taps,
      drilledOn,
      brix: draft.brix === null ? null : Number(draft.brix.toFixed(2)),
      sapC,
      look,
      rain,
      ranOver,
      went: look === 'yellow' || look === 'ropy' ? 'pouredAway' : 'kept',
      note: ''
    });
    open = false;
    saved(bush, `${place.name}: ${preferences.volume(draft.litres)}.`, record);
  }
  $effect(() => {
    if (!open) untrack(() => (now = null));
  });
</script>

{#if now}
  <ModalDialog bind:open title="{now.place.name} is emptied" width="30rem">
    <form
      class="flex flex-col gap-3"
      onsubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <div class="grid grid-cols-[7rem_minmax(0,1fr)] gap-4">
        <!-- a picture to touch; whoever does not see it types on the pad beside -->
        <div
          class="relative h-64 cursor-pointer touch-none rounded-b-2xl border-[3px] border-t-0 border-base-content"
          role="presentation"
          data-testid="vessel"
          onpointerdown={touch}
          onpointermove={(event) => event.buttons > 0 && touch(event)}
        >
          <div class="absolute inset-x-0 bottom-0 rounded-b-xl bg-info/25" style:height="{100 * full}%"></div>
          {#if expected !== null}<div
              class="absolute inset-x-0 border-t-2 border-dashed border-primary"
              style:bottom="{100 * Math.min(1, expected / now.holdsLitres)}%"
            ></div>{/if}
          <span class="absolute inset-x-0 top-1 text-center text-sm">{preferences.volume(now.holdsLitres)}</span>
        </div>
        <div class="flex flex-col gap-2">
          <output class="font-slab text-3xl" data-testid="litres"
            >{typed === '' ? '–' : typed} {inGallons ? 'gal' : 'l'}</output
          >
          <NumberPad
            onkey={(digit) => ((typed = `${typed}${digit}`.replace(/^0+(?=\d)/, '').slice(0, 6)), (sure = false))}
            ondelete={() => ((typed = typed.slice(0, -1)), (sure = false))}
            extra={{ label: '.', press: () => typed.includes('.') || (typed = `${typed || '0'}.`) }}
          />
        </div>
      </div>
      {#if expected !== null}<p class="aside">
          Touch how full it was, or type. Dashed: what the weather lets expect, about {preferences.volume(expected)}.
        </p>{/if}
      <details>
        <summary class="min-h-11 cursor-pointer py-2 font-semibold">Sugar, hour, how it looks</summary>
        <div class="flex flex-col gap-2">
          <div class="flex flex-wrap items-center gap-3">
            <label class="flex items-center gap-2"
              >Day <input class="input w-40" type="date" max={bush.today} bind:value={on} required /></label
            >
            <label class="flex items-center gap-2"
              >at <input class="input w-28" type="time" bind:value={time} required /></label
            >
          </div>
          <div class="flex flex-wrap items-center gap-3">
            <label class="flex items-center gap-2"
              >Sugar <input class="input w-20" type="number" min="0" max="20" step="0.1" bind:value={brix} /> %</label
            >
            <label class="flex items-center gap-2"
              >by hydrometer, sap at <ScaledNumber
                class="input w-20"
                scale={preferences.degreesScale}
                min={-5}
                max={60}
                bind:value={sapC}
              /></label
            >
          </div>
          {#if brix !== null && sapC !== null && atTwenty !== null}<p class="aside">
              {atTwenty.toFixed(1)} % at 20 °C.
            </p>{/if}
          <label class="flex items-center gap-2"
            >It is <select class="select w-48" bind:value={look}>
              {#each SAP_LOOKS as each (each)}<option value={each}>{LOOK_WORDS[each]}</option>{/each}
            </select></label
          >
          <label class="flex min-h-11 items-center gap-2"
            ><input type="checkbox" class="checkbox" bind:checked={rain} /> rain got in</label
          >
          <label class="flex min-h-11 items-center gap-2"
            ><input type="checkbox" class="checkbox" bind:checked={ranOver} /> it had run over</label
          >
        </div>
      </details>
      {#if doubts.length > 0}
        <div class="border-l-[6px] border-primary pl-3">
          {#each doubts as doubt (doubt)}<p>{doubt}</p>{/each}
          <label class="flex min-h-11 items-center gap-2 font-semibold"
            ><input type="checkbox" class="checkbox" bind:checked={sure} /> it is as I wrote it</label
          >
        </div>
      {/if}
      <button class="btn h-14 text-lg btn-primary" disabled={draft === null || (doubts.length > 0 && !sure)}
        >Write it down</button
      >
    </form>
  </ModalDialog>
{/if}
