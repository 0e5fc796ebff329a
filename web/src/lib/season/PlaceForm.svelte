<script lang="ts">
  import { sapOf, type CollectingPlaceRecord } from '@baumkin/core/records';
  import { CARRIERS, highestTapMm, VESSELS, type Carrier, type Vessel } from '@baumkin/core/season';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { CARRIER_WORDS, VESSEL_WORDS } from '$lib/labels/season.ts';
  import { listed } from '$lib/words/listed.ts';
  import LengthInput from '$lib/ui/LengthInput.svelte';
  import ScaledNumber from '$lib/ui/ScaledNumber.svelte';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  import { treesNamed } from './treesNamed.ts';

  /** Where sap is collected: what stands there, whose sap runs into it, and how it is carried away. */
  let {
    open = $bindable(),
    of = null,
    sap = 'maple'
  }: { open: boolean; of?: CollectingPlaceRecord | null; sap?: CollectingPlaceRecord['of'] } = $props();
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);

  let name = $state('');
  let vessel = $state<Vessel>('bucket');
  let vacuum = $state(false);
  let litres = $state(13);
  let vessels = $state<number | null>(null);
  let rimMm = $state(400);
  let tubeMm = $state(700);
  let carrier = $state<Carrier>('hand');
  let tags = $state('');
  let unreadable = $state<Record<string, string | null>>({});
  $effect(() => {
    if (!open) return;
    untrack(() => {
      name = of?.name ?? '';
      vessel = of?.vessel ?? settings.vessel;
      vacuum = of?.vacuum ?? settings.vacuum;
      litres = of?.litres ?? settings.vesselLitres;
      vessels = of?.vessels ?? null;
      rimMm = of?.rimMm ?? 400;
      tubeMm = of?.tubeMm ?? 700;
      carrier = of?.carrier ?? settings.carrier;
      tags = of ? of.treeIds.flatMap((id) => bush.byId.get(id)?.tag ?? []).join(', ') : '';
    });
  });
  const named = $derived(treesNamed(tags, bush.rows));
  const others = $derived(
    bush.bushRecords.filter((record) => record.kind === 'collectingPlace' && record.id !== of?.id)
  );
  const elsewhere = $derived(
    named.rows.filter(({ id }) =>
      others.some((place) => place.kind === 'collectingPlace' && place.treeIds.includes(id))
    )
  );
  /** Trees of another kind; one whose species is open counts as maple until somebody knows better. */
  const mixed = $derived(named.rows.filter((row) => (sapOf(row) ?? 'maple') !== (of?.of ?? sap)));
  const highest = $derived(highestTapMm({ vessel, rimMm, tubeMm }));
  const problem = $derived(
    Object.values(unreadable).find((each) => each !== null) ??
      (name.trim() === '' ? 'It needs a name that the crew knows it by.' : null) ??
      (litres < 0.5 ? 'Say what one vessel holds.' : null) ??
      (named.unknown.length > 0 ? `No tree has the tag ${named.unknown.slice(0, 5).join(', ')}.` : null) ??
      (named.rows.length === 0 ? 'Say whose sap runs into it.' : null) ??
      (mixed.length > 0
        ? `${listed(mixed.slice(0, 5).map(({ tag }) => tag))} ${mixed.length === 1 ? 'is' : 'are'} no ${of?.of ?? sap}: sap of two kinds is never put together.`
        : null) ??
      (elsewhere.length > 0
        ? `The sap of ${elsewhere
            .slice(0, 5)
            .map(({ tag }) => tag)
            .join(', ')} goes to another place already.`
        : null)
  );

  async function keep(): Promise<void> {
    if (problem) return;
    const record = await bush.recordOfBush({
      kind: 'collectingPlace',
      name: name.trim(),
      of: of?.of ?? sap,
      vessel,
      vacuum: vessel === 'tank' && vacuum,
      litres,
      vessels: vessel === 'tank' ? (vessels ?? 1) : vessels,
      rimMm: vessel === 'pail' ? rimMm : null,
      tubeMm: vessel === 'pail' ? tubeMm : null,
      carrier,
      treeIds: named.rows.map(({ id }) => id),
      eastM: of?.eastM ?? null,
      northM: of?.northM ?? null,
      note: of?.note ?? '',
      ...(of ? { correctsId: of.id } : {})
    });
    open = false;
    saved(bush, `${name.trim()}: ${counted(named.rows.length, 'tree')}.`, record);
  }

  /** Nothing is collected there any more; what was emptied stays in the log. */
  async function giveUp(): Promise<void> {
    if (!of) return;
    const { name: its } = of;
    const taken = await bush.withdraw(of);
    open = false;
    saved(bush, `${its} is given up.`, ...taken);
  }
</script>

<ModalDialog bind:open title={of ? `Change ${of.name}` : 'A collecting place'} width="34rem">
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    <label class="flex flex-col gap-1">Name <input class="input w-full" maxlength="60" bind:value={name} /></label>
    <label class="flex flex-col gap-1"
      >Sap runs into <select class="select w-full" bind:value={vessel}>
        {#each VESSELS as each (each)}<option value={each}>{VESSEL_WORDS[each]}</option>{/each}
      </select></label
    >
    {#if vessel === 'tank'}<label class="flex items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={vacuum} /> a pump pulls on its lines</label
      >{/if}
    <div class="flex flex-wrap items-end gap-4">
      <label class="flex flex-col gap-1"
        >One holds <span class="whitespace-nowrap"
          ><ScaledNumber
            class="input w-28"
            scale={preferences.volumeScale}
            min={0.5}
            required
            bind:value={() => litres, (held) => (litres = held ?? 0)}
          /></span
        ></label
      >
      <label class="flex flex-col gap-1"
        >How many <input
          class="input w-40"
          type="number"
          min="1"
          placeholder={vessel === 'tank' ? 'one' : 'one for each tap'}
          bind:value={vessels}
        /></label
      >
      <label class="flex grow flex-col gap-1"
        >Carried <select class="select w-full" bind:value={carrier}>
          {#each CARRIERS as each (each)}<option value={each}>{CARRIER_WORDS[each]}</option>{/each}
        </select></label
      >
    </div>
    {#if vessel === 'pail'}
      <div class="flex flex-wrap items-end gap-4">
        <label class="flex flex-col gap-1"
          >Height of its rim <LengthInput
            class="input w-28"
            use="hand"
            bind:valueMm={rimMm}
            bind:problem={() => unreadable.rim ?? null, (p) => (unreadable.rim = p)}
          /></label
        >
        <label class="flex flex-col gap-1"
          >The tube <LengthInput
            class="input w-28"
            use="hand"
            bind:valueMm={tubeMm}
            bind:problem={() => unreadable.tube ?? null, (p) => (unreadable.tube = p)}
          /></label
        >
      </div>
      <p class="aside">
        A tap higher than {preferences.length(highest!, 'hand')} does not reach into it. Prop the pail so that snow does not
        tip it, and weigh the lid down.
      </p>
    {/if}
    <label class="flex flex-col gap-1"
      >Trees, by their tags
      <textarea class="textarea w-full" rows="2" placeholder="101-118, 120, 124a" bind:value={tags}></textarea></label
    >
    <p class="aside">
      {counted(named.rows.length, 'tree')}, {counted(
        named.rows.reduce((sum, row) => sum + row.drilled, 0),
        'hole'
      )} of this season so far. Vessels and all that touches sap: food-grade; no old spouts with lead in them, no brass, no
      galvanised pails from before about 1995.
    </p>
    {#if problem && (tags !== '' || name !== '')}<p role="alert" class="text-error">{problem}</p>{/if}
    <div class="flex gap-3">
      <button class="btn btn-primary" disabled={problem !== null}>Keep it</button>
      {#if of}<button type="button" class="btn btn-ghost" onclick={giveUp}>Give this place up</button>{/if}
    </div>
  </form>
</ModalDialog>
