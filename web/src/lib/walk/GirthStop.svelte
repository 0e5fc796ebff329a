<script lang="ts">
  import { toDiameter } from '@baumkin/core/measure';
  import { parseTrunkLength, UnreadableLength } from '@baumkin/core/units';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { questionWords } from '$lib/labels/measure.ts';
  import { askedOf } from '$lib/measure/askedReading.ts';
  import NumberPad from '$lib/ui/NumberPad.svelte';

  import { felt } from './aloud.ts';
  import type { RowStopProps } from './rowRounds.ts';

  /** The girth of one tree, typed on the pad; what is out of line is asked before it is written down. */
  const { stop, walk }: RowStopProps = $props();
  const bush = useBush();
  const breastHeight = $derived(bush.overview!.bush.settings.breastHeightMm);
  const MOST_KEYS = 7;
  let typed = $state('');
  /** what was typed stands before her, with a question about it */
  let asking = $state(false);
  const press = (key: string) => {
    if (typed.length < MOST_KEYS && !(key === '.' && typed.includes('.'))) typed += key;
  };
  const read = $derived.by(() => {
    if (typed === '') return null;
    try {
      const { valueMm } = parseTrunkLength(typed, preferences.trunkUnit);
      return { valueMm, dbhMm: toDiameter(valueMm, 'girth'), problem: null };
    } catch (error) {
      if (!(error instanceof UnreadableLength)) throw error;
      return { valueMm: 0, dbhMm: 0, problem: error.message };
    }
  });
  const question = $derived(
    read?.problem === null ? askedOf(bush, stop.treeId, { dbhMm: read.dbhMm, method: 'girthTape' }) : null
  );
  const { lastReading } = $derived(stop.row);
  const show = (mm: number) => preferences.length(mm, 'trunk');

  /** @param dbhMm where another diameter was meant than was typed */
  async function keep({ confirmed, dbhMm }: { confirmed: boolean; dbhMm?: number }): Promise<void> {
    if (read?.problem !== null) return;
    felt(true);
    const here = stop;
    const mm = dbhMm ?? read.dbhMm;
    const girth = dbhMm === undefined;
    const record = await bush.record(here.treeId, {
      kind: 'reading',
      quantity: girth ? 'girth' : 'diameter',
      valueMm: girth ? read.valueMm : mm,
      asWritten: `${typed} ${preferences.trunkUnit}`,
      method: 'girthTape',
      heightMm: breastHeight,
      confirmed,
      note: girth ? '' : 'typed otherwise, and corrected when it was asked about'
    });
    walk.finish(here, `Tree ${here.row.tag}: ${show(mm)} thick`, [record]);
  }
  const done = () => (question ? (asking = true) : void keepOnce({ confirmed: false }));
  const keepOnce = (meant: Parameters<typeof keep>[0]) => walk.write(() => keep(meant));
</script>

{#if asking && question && read?.problem === null}
  <div class="flex min-h-0 grow flex-col justify-center gap-3 text-lg" data-testid="asks">
    <p class="font-slab text-2xl leading-snug font-semibold">{typed} {preferences.trunkUnit} round: is that right?</p>
    <p>{questionWords(question)}</p>
    {#if lastReading}<p>In {Math.floor(lastReading.year)} it was {show(lastReading.dbhMm)} thick.</p>{/if}
  </div>
  <div class="grid shrink-0 gap-2">
    {#if question.correctedDbhMm}{@const meant = question.correctedDbhMm}<button
        class="btn h-16 text-xl btn-primary"
        disabled={walk.busy}
        onclick={() => keepOnce({ confirmed: false, dbhMm: meant })}>It is {show(meant)} thick</button
      >{/if}
    <button class="btn h-16 text-xl" disabled={walk.busy} onclick={() => keepOnce({ confirmed: true })}
      >Looked again: it is right</button
    >
    <button
      class="btn h-14 btn-ghost text-lg"
      onclick={() => {
        typed = '';
        asking = false;
      }}>Type it again</button
    >
  </div>
{:else}
  <div class="flex min-h-0 grow flex-col justify-center" data-testid="girth">
    <p class="text-lg">Girth, {preferences.length(breastHeight, 'hand')} above the ground</p>
    <p class="flex items-baseline gap-2 border-b-2 border-current pb-1">
      <output class="grow font-slab text-5xl font-semibold tabular-nums" aria-label="Girth">{typed || '–'}</output>
      <span class="text-2xl">{preferences.trunkUnit}</span>
    </p>
    <p class="mt-1 min-h-14 text-lg leading-tight" aria-live="polite">
      {#if read?.problem}<span class="font-semibold text-error">{read.problem}</span>
      {:else if read}<b>{show(read.dbhMm)} thick.</b>{/if}
      {#if lastReading}In {Math.floor(lastReading.year)} it was {show(lastReading.dbhMm)} thick, {show(
          Math.PI * lastReading.dbhMm
        )} round.{:else}It was never measured.{/if}
    </p>
  </div>
  <NumberPad
    onkey={press}
    ondelete={() => (typed = typed.slice(0, -1))}
    extra={{ label: '.', press: () => press('.') }}
  />
  <div class="grid shrink-0 grid-cols-[1fr_2fr] gap-2">
    <button class="btn h-16 text-base leading-tight" onclick={() => walk.putOff(stop)}>Come back later</button>
    <button class="btn h-16 text-xl btn-primary" disabled={read?.problem !== null || walk.busy} onclick={done}
      >Write it down</button
    >
  </div>
{/if}
