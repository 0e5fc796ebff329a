<script lang="ts">
  import type { LineReadingRecord, PipeLineRecord } from '@baumkin/core/records';
  import { KPA_PER_INCH_OF_MERCURY, LITRES_PER_GALLON } from '@baumkin/core/units';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { readingWords } from '$lib/labels/lineCare.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import { groundUnit, readMetres } from '$lib/ui/readMetres.ts';
  import { hourOf, timeOf } from '$lib/words/timeOfDay.ts';

  /** A line while it runs: timed at its foot into a pail, or gauges along it. */
  interface Props {
    open: boolean;
    lines: readonly PipeLineRecord[];
  }
  let { open = $bindable(), lines }: Props = $props();
  const bush = useBush();
  let lineId = $state('');
  let litres = $state('');
  let minutes = $state('');
  let gauges = $state<{ at: string; read: string }[]>([]);
  let inInches = $state(false);
  let time = $state('');
  $effect(() => {
    if (!open) return;
    untrack(() => {
      [litres, minutes, gauges] = ['', '', [0, 1].map(() => ({ at: '', read: '' }))];
      if (!lines.some(({ id }) => id === lineId)) lineId = lines[0]?.id ?? '';
      inInches = preferences.units === 'inch';
      time = timeOf(new Date());
    });
  });

  const inGallons = $derived(preferences.units === 'inch');
  /** What is typed as a number; null where nothing is. */
  function number(text: string): number | string | null {
    if (text.trim() === '') return null;
    const value = Number(text.replace(',', '.').trim());
    return Number.isFinite(value) && value >= 0 ? value : `“${text}” is no figure.`;
  }
  const read = $derived(
    gauges
      .filter((gauge) => gauge.at.trim() !== '' || gauge.read.trim() !== '')
      .map((gauge) => ({ at: readMetres(gauge.at), kPa: number(gauge.read) }))
  );
  const hour = $derived(hourOf(time));
  const timed = $derived([number(litres), number(minutes)] as const);
  const problem = $derived.by((): string | null => {
    for (const each of [...timed, ...read.flatMap(({ at, kPa }) => [at, kPa])])
      if (typeof each === 'string') return each;
    if (hour === null) return 'Say at what time.';
    if ((timed[0] === null) !== (timed[1] === null)) return 'Say how much came, and in how many minutes.';
    if (timed[1] === 0) return 'Say in how many minutes it came.';
    if (read.some(({ at, kPa }) => at === null || kPa === null))
      return 'Say of each gauge where it is, and what it shows.';
    const most = inInches ? 30 : 101;
    if (read.some(({ kPa }) => (kPa as number) > most)) return `No gauge shows more than ${most}.`;
    return read.length === 0 && timed[0] === null ? 'Time it into a pail, or read a gauge.' : null;
  });
  const begun = $derived(read.length > 0 || timed.some((each) => each !== null));

  async function keep(): Promise<void> {
    if (problem || hour === null) return;
    const [of, during] = timed as readonly [number | null, number | null];
    const record = (await bush.recordOfBush({
      kind: 'lineReading',
      lineId,
      hour,
      gauges: read.map(({ at, kPa }) => ({
        alongM: at as number,
        kPa: Number(((kPa as number) * (inInches ? KPA_PER_INCH_OF_MERCURY : 1)).toFixed(1))
      })),
      litres: of === null ? null : of * (inGallons ? LITRES_PER_GALLON : 1),
      minutes: during,
      note: ''
    })) as LineReadingRecord;
    const where = lines.find(({ id }) => id === lineId)!.name;
    open = false;
    saved(bush, `${readingWords(record, { where, shown: preferences })}.`, record);
  }
</script>

<ModalDialog bind:open title="Read a line" width="30rem">
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    <label class="flex items-center gap-3"
      >Line <select class="select grow" bind:value={lineId}>
        {#each lines as { id, name } (id)}<option value={id}>{name}</option>{/each}
      </select></label
    >
    <label class="flex items-center gap-3"
      ><span class="grow">At</span><input type="time" class="input w-32" bind:value={time} /></label
    >
    <fieldset class="flex flex-wrap items-center gap-2">
      <legend class="font-semibold">Timed at its foot, into a pail</legend>
      <input
        class="input w-24"
        inputmode="decimal"
        aria-label="What came, {inGallons ? 'gallons' : 'litres'}"
        bind:value={litres}
      />
      {inGallons ? 'gal' : 'l'} in
      <input class="input w-20" inputmode="decimal" aria-label="Minutes" bind:value={minutes} /> minutes
    </fieldset>
    <fieldset class="flex flex-col gap-1">
      <legend class="font-semibold">Vacuum gauges along it</legend>
      <div class="grid grid-cols-2 gap-x-3 gap-y-1">
        <span class="aside">From its upper end, {groundUnit()}</span>
        <span class="aside">It shows, {inInches ? 'inHg' : 'kPa'}</span>
        {#each gauges as gauge, i (i)}
          <input class="input w-full" inputmode="decimal" aria-label="Gauge {i + 1}: where" bind:value={gauge.at} />
          <input class="input w-full" inputmode="decimal" aria-label="Gauge {i + 1}: shows" bind:value={gauge.read} />
        {/each}
      </div>
      <div class="flex flex-wrap gap-4">
        <button type="button" class="link" onclick={() => gauges.push({ at: '', read: '' })}>Another gauge</button>
        <button type="button" class="link" onclick={() => (inInches = !inInches)}
          >{inInches ? 'They show kPa' : 'They show inches of mercury'}</button
        >
      </div>
    </fieldset>
    <p class="aside">Read several in one go: what differs between them tells where to look.</p>
    {#if problem && begun}<p role="alert" class="text-error">{problem}</p>{/if}
    <button class="btn self-start btn-primary" disabled={problem !== null}>Write it down</button>
  </form>
</ModalDialog>
