<script lang="ts">
  import { diameterFromStick, METHOD_SD_MM, toDiameter, type MeasureMethod } from '@baumkin/core/measure';
  import { parseTrunkLength, UnreadableLength, type TrunkQuantity } from '@baumkin/core/units';
  import { toast } from 'svelte-sonner';

  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { saved } from '$lib/client/saved.ts';
  import { METHOD_LABEL, questionWords } from '$lib/labels/measure.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { besideOnWalk } from '$lib/client/rows.ts';

  import Listening from '$lib/devices/Listening.svelte';
  import RegistryEntry from '$lib/tree/RegistryEntry.svelte';
  import Term from '$lib/ui/Term.svelte';

  import { askedOf } from './askedReading.ts';
  import GrowthLine from './GrowthLine.svelte';
  import HeightAndCrownForm from './HeightAndCrownForm.svelte';
  import OldQuestions from './OldQuestions.svelte';
  import RingCountForm from './RingCountForm.svelte';

  const { treeId }: { treeId: string } = $props();
  const uid = $props.id();
  const bush = useBush();
  const row = $derived(bush.byId.get(treeId)!);
  const tree = $derived(bush.stateOf(treeId));
  const show = (mm: number) => preferences.length(mm, 'trunk');

  let chosen = $state<'girth' | 'diameter'>('girth');
  let text = $state('');
  let method = $state<MeasureMethod>('girthTape');
  /** what was looked at again and is right; another reading asks anew */
  let confirmedAs = $state('');
  const confirmed = $derived(confirmedAs === `${chosen} ${text}`);
  /** why it was not measured at breast height; empty where it was */
  let elsewhere = $state('');
  let atText = $state('');
  const breastHeight = $derived(bush.overview!.bush.settings.breastHeightMm);
  const WHY = ['a swelling', 'a branch', 'a fork', 'a wound', 'deep snow'] as const;
  const at = $derived.by((): { mm: number } | { problem: string } => {
    if (elsewhere === '') return { mm: breastHeight };
    if (atText.trim() === '') return { problem: 'Say how high above the ground it was measured.' };
    try {
      const { valueMm } = parseTrunkLength(atText, preferences.trunkUnit);
      return valueMm <= 5000 ? { mm: valueMm } : { problem: 'Nobody measures that high: look at the unit.' };
    } catch (error) {
      if (error instanceof UnreadableLength) return { problem: error.message };
      throw error;
    }
  });

  const METHODS: Record<'girth' | 'diameter', readonly MeasureMethod[]> = {
    girth: ['girthTape'],
    diameter: ['diameterTape', 'calipers', 'biltmore', 'plainStick', 'hug']
  };

  function setQuantity(quantity: 'girth' | 'diameter'): void {
    chosen = quantity;
    if (!METHODS[quantity].includes(method)) method = METHODS[quantity][0]!;
  }

  /** how far the eye was from a stick held across: the edges of the trunk lie behind it */
  let reachText = $state('');
  const reachUsual = $derived(preferences.units === 'metric' ? '65 cm' : '25 in');
  const isStick = $derived(chosen === 'diameter' && method === 'plainStick');

  const parsed = $derived.by(() => {
    if (text.trim() === '') return null;
    try {
      const length = parseTrunkLength(text, preferences.trunkUnit);
      if (isStick) {
        const reach = parseTrunkLength(reachText.trim() || reachUsual, preferences.trunkUnit);
        const valueMm = diameterFromStick(length.valueMm, reach.valueMm);
        return { ok: true as const, valueMm, quantity: 'diameter' as const, dbhMm: valueMm };
      }
      const quantity: TrunkQuantity = length.quantity ?? chosen;
      return { ok: true as const, ...length, quantity, dbhMm: toDiameter(length.valueMm, quantity) };
    } catch (error) {
      if (error instanceof UnreadableLength) return { ok: false as const, message: error.message };
      throw error;
    }
  });

  const beside = $derived(besideOnWalk(bush.byId.values(), treeId));
  const last = $derived(tree.lastReading);
  const lastDated = $derived(row.lastReading);
  const question = $derived(parsed?.ok ? askedOf(bush, treeId, { dbhMm: parsed.dbhMm, method }) : null);

  const ring = $derived(tree.growth);
  const growthWords = $derived.by(() => {
    const rate = `${preferences.length(ring.ringMm, 'ring')} of wood a year, give or take ${preferences.length(ring.ringSeMm, 'ring')}`;
    const { species, stands } = bush.expects.rings ?? {};
    const apart =
      (species && row.species && row.species in species) || (stands && row.standId && row.standId in stands);
    const like = apart ? 'trees like it here: crown class, stand and species' : 'its crown class';
    if (!ring.observed)
      return `No growth measured yet. ${apart ? 'Trees like it here, by crown class, stand and species,' : 'Trees of its crown class'} lay about ${rate}.`;
    const share = Math.round(ring.weightOfReadings * 10);
    const own = [
      ...(ring.spanYears > 0 ? [`its own readings over ${Math.round(ring.spanYears)} years`] : []),
      ...(tree.ringCounts.length > 0 ? ['its counted rings'] : [])
    ].join(' and ');
    return `It lays about ${rate}. ${share >= 9 ? `That rests on ${own}` : `About ${share} parts in 10 of that rest on ${own}, the rest on ${like}`}.`;
  });

  async function save(): Promise<void> {
    if (!parsed?.ok || (question && !confirmed) || 'problem' in at) return;
    const record = await bush.record(treeId, {
      kind: 'reading',
      quantity: parsed.quantity,
      valueMm: parsed.valueMm,
      asWritten: isStick ? `${text.trim()} on a stick ${reachText.trim() || reachUsual} off` : text.trim(),
      method,
      heightMm: at.mm,
      confirmed,
      note: elsewhere === '' ? '' : `because of ${elsewhere}`
    });
    saved(bush, `Tree ${row.tag}: ${show(parsed.dbhMm)} thick.`, record);
    text = elsewhere = atText = '';
  }

  /** A line from a caliper or tape: taken as if it were typed. */
  function hear(written: string): void {
    try {
      const { quantity } = parseTrunkLength(written, 'cm');
      setQuantity(quantity === 'girth' ? 'girth' : 'diameter');
      if (quantity !== 'girth') method = 'calipers';
      text = written.replace(/^(girth|diameter)\s+/i, '');
    } catch (error) {
      if (!(error instanceof UnreadableLength)) throw error;
      toast.error(`The device sent “${written}”: ${error.message}`);
    }
  }

  function takeCorrection(): void {
    if (!question?.correctedDbhMm) return;
    setQuantity('diameter');
    text = show(question.correctedDbhMm);
  }
</script>

<div class="grid gap-x-10 gap-y-6 lg:grid-cols-[25rem_1fr]">
  <section aria-label="New reading" class="flex flex-col gap-3">
    {#if bush.mayRecord}
      <form
        class="flex flex-col gap-3"
        onsubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <ToggleGroup
          look="boxes"
          label="What was measured"
          options={[
            { id: 'girth', label: 'Girth, the way round' },
            { id: 'diameter', label: 'Diameter, across' }
          ]}
          bind:value={() => chosen, setQuantity}
        />
        <Listening onreading={hear} />
        <label class="flex flex-col gap-1" for="{uid}-reading">
          <span
            >{chosen === 'girth' ? 'Girth' : 'Diameter'} at <Term of="dbh">breast height</Term> ({preferences.length(
              bush.overview!.bush.settings.breastHeightMm,
              'hand'
            )})</span
          >
          <input
            id="{uid}-reading"
            class="input h-14 w-full text-2xl"
            placeholder={preferences.units === 'metric'
              ? chosen === 'girth'
                ? '115 cm'
                : '36.5 cm'
              : chosen === 'girth'
                ? '45 in'
                : '14 3/8"'}
            autocomplete="off"
            data-testid="reading"
            bind:value={text}
          />
        </label>
        {#if chosen === 'diameter'}
          <label class="flex items-center gap-3">
            <span>Measured with</span>
            <select class="select grow" bind:value={method}>
              {#each METHODS.diameter as m (m)}<option value={m}
                  >{METHOD_LABEL[m]}, ± {preferences.length(
                    METHOD_SD_MM[m],
                    preferences.units === 'metric' ? 'drill' : 'trunk'
                  )}</option
                >{/each}
            </select>
          </label>
        {/if}
        {#if isStick}
          <label class="flex flex-wrap items-center gap-x-3"
            >Your eye was off the stick by
            <input class="input w-28" placeholder={reachUsual} bind:value={reachText} /></label
          >
          <p class="aside">
            Hold it flat against the trunk, close one eye, and write what it shows from edge to edge: the edges lie
            behind the stick, so the trunk is thicker than that. The figure below puts it right.
          </p>
        {/if}
        <div class="flex flex-wrap items-center gap-x-3 gap-y-2 text-sm">
          <label class="flex items-center gap-2"
            >Where
            <select class="select w-52 select-sm" bind:value={elsewhere}>
              <option value="">at breast height</option>
              {#each WHY as why (why)}<option value={why}>elsewhere, because of {why}</option>{/each}
            </select></label
          >
          {#if elsewhere !== ''}
            <label class="flex items-center gap-2"
              >at <input
                class="input w-28 input-sm"
                placeholder={preferences.units === 'metric' ? '160 cm' : '63 in'}
                bind:value={atText}
              /> up</label
            >
          {/if}
        </div>
        {#if 'problem' in at && atText.trim() !== ''}<p role="alert" class="font-semibold text-error">
            {at.problem}
          </p>{/if}
        {#if parsed && !parsed.ok}
          <p role="alert" class="font-semibold text-error">{parsed.message}</p>
        {:else if parsed?.ok}
          <p class="bg-base-200 px-3 py-2 text-lg" data-testid="conversion">
            girth <b>{show(parsed.dbhMm * Math.PI)}</b>, diameter <b>{show(parsed.dbhMm)}</b>
          </p>
          {#if question}
            <div class="border-2 border-primary p-3" role="alert" data-testid="question">
              <p class="font-slab text-lg font-semibold">Is that right?</p>
              <p>{questionWords(question)}</p>
              {#if last && lastDated}<p class="aside">On {last.on} it was {show(lastDated.dbhMm)} thick.</p>{/if}
              <div class="mt-2 flex flex-wrap gap-2">
                {#if question.correctedDbhMm}
                  <button type="button" class="btn btn-primary" onclick={takeCorrection}
                    >Make it {show(question.correctedDbhMm)} thick</button
                  >
                {/if}
                <label class="flex min-h-11 items-center gap-2"
                  ><input
                    type="checkbox"
                    class="checkbox"
                    bind:checked={() => confirmed, (on) => (confirmedAs = on ? `${chosen} ${text}` : '')}
                  /> I looked again: it is right</label
                >
              </div>
            </div>
          {/if}
        {/if}
        <button
          class="btn btn-primary md:self-start"
          disabled={!parsed?.ok || (question !== null && !confirmed) || 'problem' in at}>Save the reading</button
        >
      </form>
      <p class="aside">
        From the uphill side; along and square to a leaning trunk; above or below a swelling. A fork below breast height
        makes two stems, each on its own.
      </p>
    {:else}
      <p>Viewers look; they do not write.</p>
    {/if}
    <RingCountForm {treeId} />
    <HeightAndCrownForm {treeId} />
    <RegistryEntry {treeId} />
  </section>

  <section aria-label="Growth" class="flex min-w-0 flex-col gap-4">
    <OldQuestions {row} {tree} {beside} />
    <div>
      <h2>Growth</h2>
      <p>{growthWords}</p>
    </div>
    {#if tree.readings.length > 0}
      <GrowthLine {tree} today={bush.today} />
      <table class="w-full max-w-xl text-left">
        <thead
          ><tr class="border-b border-base-300"
            ><th class="py-1 font-semibold">Day</th><th class="font-semibold">As written</th><th
              class="text-right font-semibold">Diameter</th
            ><th class="pl-5 font-semibold">With</th></tr
          ></thead
        >
        <tbody>
          {#each [...tree.readings].reverse() as reading (reading.id)}
            <tr class="border-b border-base-300/60">
              <td class="py-1">{reading.on}</td>
              <td>{reading.quantity} {reading.asWritten}</td>
              <td class="text-right"
                >{show(toDiameter(reading.valueMm, reading.quantity))}{tree.questioned.has(reading.id) ? ' ?' : ''}</td
              >
              <td class="pl-5"
                >{METHOD_LABEL[reading.method]}{Math.abs(reading.heightMm - breastHeight) > 20
                  ? `, ${preferences.length(reading.heightMm, 'hand')} up${reading.note ? ` ${reading.note}` : ''}`
                  : ''}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    {:else}
      <p class="aside">
        One reading tells the size; a second, three to five years on, tells the growth, and that is what the count hangs
        on.
      </p>
    {/if}
  </section>
</div>
