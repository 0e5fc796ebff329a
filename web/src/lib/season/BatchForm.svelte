<script lang="ts">
  import { expectedSyrup } from '@baumkin/core/bush';
  import type { Batch } from '@baumkin/core/records';
  import { hydrometerBrix, litresToSyrup, type Sugared } from '@baumkin/core/sap';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { BATCH_OF_WORDS, BECAME_WORDS, COLOUR_WORDS, WENT_WORDS } from '$lib/labels/season.ts';
  import ScaledNumber from '$lib/ui/ScaledNumber.svelte';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import { entriesOf } from '$lib/words/entriesOf.ts';

  /** From sap to bottle: what went onto the fire, what came off it, and where it went. */
  let {
    open = $bindable(),
    store,
    waterBoilsC,
    sap = 'maple'
  }: { open: boolean; store: Sugared | null; waterBoilsC: number | null; sap?: Batch['of'] } = $props();
  const bush = useBush();

  type Bottle = Batch['bottles'][number];
  let of = $state<Batch['of']>('maple');
  let became = $state<Batch['became']>('syrup');
  let on = $state('');
  let sapLitres = $state<number | null>(null);
  let sapBrix = $state<number | null>(null);
  let iceLitres = $state<number | null>(null);
  let iceBrix = $state<number | null>(null);
  let syrupLitres = $state<number | null>(null);
  let readBrix = $state<number | null>(null);
  let readC = $state<number | null>(null);
  let hours = $state<number | null>(null);
  let woodM3 = $state<number | null>(null);
  let colour = $state<NonNullable<Batch['colour']> | ''>('');
  let bottles = $state<Bottle[]>([]);
  let note = $state('');
  let sure = $state(false);
  $effect(() => {
    if (!open) return;
    untrack(() => {
      [of, became, on, note, colour, bottles, sure] = [sap, 'syrup', bush.today, '', '', [], false];
      [iceLitres, iceBrix, syrupLitres, readBrix, readC, hours, woodM3] = [null, null, null, null, null, null, null];
      sapLitres = store ? Math.round(store.litres) : null;
      sapBrix = store ? Number(store.brix.toFixed(1)) : null;
    });
  });
  const syrupBrix = $derived(
    readBrix === null
      ? bush.overview!.bush.settings.finishBrix
      : readC === null
        ? readBrix
        : hydrometerBrix(readBrix, readC)
  );
  const draft = $derived(
    sapLitres === null || sapBrix === null
      ? null
      : { sapLitres, sapBrix, iceLitres: iceLitres ?? 0, syrupBrix: became === 'syrup' ? syrupBrix : null }
  );
  const possible = $derived(draft ? expectedSyrup(draft) : null);
  /** Sap with more sugar than this is none. */
  const SWEETEST = 12;
  const doubts = $derived.by(() => {
    const list: string[] = [];
    if (sapBrix !== null && sapBrix > SWEETEST) list.push(`${sapBrix} % is no sap: is that the sugar of the syrup?`);
    if (of === 'birch' && sapBrix !== null && sapBrix > 2.5) list.push('Birch sap seldom has more than 1.5 % sugar.');
    if (possible && syrupLitres !== null && syrupLitres > 1.05 * possible.litres)
      list.push(
        `More syrup came than there was sugar for: ${preferences.fewLitres(possible.litres)} are possible. One of litres, sugar or syrup is wrong, or it is too thin.`
      );
    if (became === 'syrup' && syrupBrix !== null && syrupBrix < 65.5)
      list.push(
        `At ${syrupBrix.toFixed(1)} % it is too thin to keep: it ferments. Boil it on, or keep it cold and use it soon.`
      );
    if (became === 'syrup' && syrupBrix !== null && syrupBrix > 68.5)
      list.push(`At ${syrupBrix.toFixed(1)} % it will crystallise: thin it with hot water or sap.`);
    if (iceLitres !== null && sapLitres !== null && iceLitres > sapLitres)
      list.push('That is more ice than there was sap.');
    return list;
  });
  const stuck = $derived(iceLitres !== null && sapLitres !== null && iceLitres > sapLitres);
  const bottled = $derived(bottles.reduce((sum, { litres, many }) => sum + litres * many, 0));

  async function keep(): Promise<void> {
    if (!draft || stuck || (doubts.length > 0 && !sure)) return;
    const isSyrup = became === 'syrup';
    const record = await bush.recordOfBush({
      kind: 'batch',
      on,
      season: Number(on.slice(0, 4)),
      of,
      sapLitres: draft.sapLitres,
      sapBrix: draft.sapBrix,
      iceLitres: draft.iceLitres,
      iceBrix: iceBrix ?? 0,
      became,
      syrupLitres: isSyrup ? syrupLitres : null,
      syrupBrix: isSyrup && syrupLitres !== null && syrupBrix !== null ? Number(syrupBrix.toFixed(2)) : null,
      hours,
      woodM3,
      waterBoilsC:
        waterBoilsC !== null && waterBoilsC >= 80 && waterBoilsC <= 105 ? Number(waterBoilsC.toFixed(2)) : null,
      colour: isSyrup && colour !== '' ? colour : null,
      bottles: isSyrup ? $state.snapshot(bottles) : [],
      note
    });
    open = false;
    saved(
      bush,
      isSyrup && syrupLitres !== null ? `${preferences.fewLitres(syrupLitres)} of syrup.` : 'The batch is in the book.',
      record
    );
  }
</script>

<ModalDialog bind:open title="A batch" width="38rem">
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    <div class="flex flex-wrap items-end gap-3">
      <label class="flex flex-col gap-1"
        >Day <input class="input w-40" type="date" max={bush.today} required bind:value={on} /></label
      >
      <label class="flex flex-col gap-1"
        >Sap of <select class="select w-32" bind:value={of}
          >{#each entriesOf(BATCH_OF_WORDS) as [id, label] (id)}<option value={id}>{label}</option>{/each}</select
        ></label
      >
      <label class="flex flex-col gap-1"
        >It <select class="select w-48" bind:value={became}
          >{#each entriesOf(BECAME_WORDS) as [id, label] (id)}<option value={id}>{label}</option>{/each}</select
        ></label
      >
    </div>
    <div class="flex flex-wrap items-end gap-3">
      <label class="flex flex-col gap-1"
        >Sap <span class="whitespace-nowrap"
          ><ScaledNumber
            class="input w-28"
            scale={preferences.volumeScale}
            min={0}
            required
            bind:value={sapLitres}
          /></span
        ></label
      >
      <label class="flex flex-col gap-1"
        >its sugar, % <input
          class="input w-24"
          type="number"
          min="0"
          max="95"
          step="0.1"
          required
          bind:value={sapBrix}
        /></label
      >
      <label class="flex flex-col gap-1"
        >ice taken off <span class="whitespace-nowrap"
          ><ScaledNumber class="input w-28" scale={preferences.volumeScale} min={0} bind:value={iceLitres} /></span
        ></label
      >
      {#if iceLitres}<label class="flex flex-col gap-1"
          >melted, the ice has, % <input
            class="input w-28"
            type="number"
            min="0"
            max="20"
            step="0.1"
            bind:value={iceBrix}
          /></label
        >{/if}
    </div>
    {#if became === 'syrup'}
      {#if possible}<p class="aside" data-testid="possible">
          {preferences.fewLitres(possible.litres)} of syrup are possible; {litresToSyrup(
            sapBrix || 1,
            syrupBrix ?? 66
          ).toFixed(0)} of sap to one.
        </p>{/if}
      <div class="flex flex-wrap items-end gap-3">
        <label class="flex flex-col gap-1"
          >Syrup <span class="whitespace-nowrap"
            ><ScaledNumber class="input w-28" scale={preferences.volumeScale} min={0} bind:value={syrupLitres} /></span
          ></label
        >
        <label class="flex flex-col gap-1"
          >hydrometer shows, % <input
            class="input w-32"
            type="number"
            min="0"
            max="90"
            step="0.1"
            bind:value={readBrix}
          /></label
        >
        <label class="flex flex-col gap-1"
          >at <span class="whitespace-nowrap"
            ><ScaledNumber class="input w-24" scale={preferences.degreesScale} min={0} bind:value={readC} /></span
          ></label
        >
        <label class="flex flex-col gap-1"
          >Colour <select class="select w-36" bind:value={colour}
            ><option value="">not looked</option>{#each entriesOf(COLOUR_WORDS) as [id, label] (id)}<option value={id}
                >{label}</option
              >{/each}</select
          ></label
        >
      </div>
      {#if readBrix !== null && readC !== null && syrupBrix !== null}<p class="aside">
          {syrupBrix.toFixed(1)} % at 20 °C.
        </p>{/if}
    {:else if became === 'usedAsSap'}
      <p class="caution text-sm">
        Boil it before you give it away: raw sap carries what was in bucket, line and air. Closed and cold it keeps a
        day or two.
      </p>
    {/if}
    <div class="flex flex-wrap items-end gap-3">
      <label class="flex flex-col gap-1"
        >At the fire, hours <input
          class="input w-28"
          type="number"
          min="0"
          max="400"
          step="0.25"
          bind:value={hours}
        /></label
      >
      <label class="flex flex-col gap-1"
        >Wood, m³ stacked <input
          class="input w-28"
          type="number"
          min="0"
          max="100"
          step="0.01"
          bind:value={woodM3}
        /></label
      >
      <label class="flex grow flex-col gap-1"
        >{became === 'pouredAway' ? 'Why' : 'Worth a line'}
        <input class="input w-full" maxlength="500" bind:value={note} required={became === 'pouredAway'} /></label
      >
    </div>
    {#if became === 'syrup'}
      <fieldset class="flex flex-col gap-2">
        <legend class="font-semibold">Bottles</legend>
        {#each bottles as bottle, i (i)}
          <div class="flex flex-wrap items-center gap-2">
            <input class="input w-20" type="number" min="1" step="1" aria-label="How many" bind:value={bottle.many} />
            of
            <ScaledNumber
              class="input w-24"
              scale={preferences.volumeScale}
              min={0.01}
              required
              label="What each holds"
              digits={3}
              bind:value={() => bottle.litres, (litres) => (bottle.litres = litres ?? 0.01)}
            />,
            <select class="select w-28" aria-label="What became of them" bind:value={bottle.went}
              >{#each entriesOf(WENT_WORDS) as [id, label] (id)}<option value={id}>{label}</option>{/each}</select
            >
            <button type="button" class="btn btn-ghost btn-sm" onclick={() => bottles.splice(i, 1)}>Take away</button>
          </div>
        {/each}
        <button
          type="button"
          class="link self-start"
          onclick={() => bottles.push({ litres: 0.5, many: 1, went: 'kept' })}>Another size</button
        >
        {#if bottled > 0 && syrupLitres !== null && bottled > syrupLitres + 0.05}<p class="text-error">
            {preferences.fewLitres(bottled)} in bottles are more than the {preferences.fewLitres(syrupLitres)} of syrup.
          </p>{/if}
      </fieldset>
    {/if}
    {#if doubts.length > 0}
      <div class="border-l-[6px] border-primary pl-3">
        {#each doubts as doubt (doubt)}<p>{doubt}</p>{/each}
        {#if !stuck}<label class="flex min-h-11 items-center gap-2 font-semibold"
            ><input type="checkbox" class="checkbox" bind:checked={sure} /> it is as I wrote it</label
          >{/if}
      </div>
    {/if}
    <button class="btn self-start btn-primary" disabled={draft === null || stuck || (doubts.length > 0 && !sure)}
      >Write it down</button
    >
  </form>
</ModalDialog>
