<script lang="ts">
  import { userFacing } from '@baumkin/core/errors';
  import type { ColumnCause } from '@baumkin/core/measure';
  import type { LengthUnit } from '@baumkin/core/units';
  import { formatOf, writeBadRows, type ReadOptions } from '@baumkin/core/exchange';
  import { toast } from 'svelte-sonner';

  import { api, asked } from '$lib/client/api.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import type { TreeLife } from '$lib/client/lives.ts';
  import { decodeText, saveAs } from '$lib/client/decode.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { asking } from '$lib/workers/asking.ts';
  import type { ImportPreview, ImportWorker } from '$lib/workers/import.worker.ts';

  import BadRows from './BadRows.svelte';

  /** A file is read and held against the bush before anything is stored: what is new, what is here already, what is wrong. */
  const bush = useBush();
  const MAX_BYTES = 7_000_000;
  /** So many bytes tell what a file is. */
  const BEGINNING = 1000;

  let fileName = $state('');
  let text = $state.raw<string | null>(null);
  let unit = $state<LengthUnit>(preferences.units === 'metric' ? 'cm' : 'in');
  let newTrees = $state(true);
  let sizesAre = $state.raw<NonNullable<ReadOptions['sizesAre']>>({});
  let preview = $state.raw<ImportPreview | null>(null);
  let problem = $state('');
  let busy = $state(false);
  /** the file where it is the archive of a whole bush: it is sent as it is, however large */
  let archive = $state.raw<File | null>(null);
  const show = (mm: number) => preferences.length(mm, 'trunk');

  async function take(file: File | undefined): Promise<void> {
    preview = null;
    text = null;
    archive = null;
    problem = '';
    sizesAre = {};
    if (!file) return;
    fileName = file.name;
    if (formatOf(decodeText(await file.slice(0, BEGINNING).arrayBuffer())) === 'archive') {
      archive = file;
      return;
    }
    if (file.size > MAX_BYTES) {
      problem = `${file.name} is larger than 7 MB. Split it and bring the parts in; nothing was changed.`;
      return;
    }
    text = decodeText(await file.arrayBuffer());
    await read();
  }

  async function read(): Promise<void> {
    if (text === null) return;
    busy = true;
    problem = '';
    const worker = new Worker(new URL('../workers/import.worker.ts', import.meta.url), { type: 'module' });
    try {
      const waiting: TreeLife[] = [];
      const unsent = [...bush.byId.values()].filter(({ id }) => bush.outbox.byTree.has(id));
      for await (const life of bush.lives(unsent)) waiting.push(life);
      const reading = { today: bush.today, defaultUnit: unit, sizesAre };
      const of = { bushId: bush.id, waiting: $state.snapshot(waiting) };
      preview = await asking<ImportWorker>(worker).read(text, reading, of, {
        today: bush.today,
        sizes: bush.expects.sizes ?? null,
        settings: $state.snapshot(bush.overview!.bush.settings),
        origin: bush.overview!.bush.origin ?? null,
        stands: bush.overview!.stands,
        newTrees
      });
    } catch (error) {
      const told = userFacing(error);
      if (!told) throw error;
      preview = null;
      problem = `${fileName}: ${told.message} Nothing was changed.`;
    } finally {
      worker.terminate();
      busy = false;
    }
  }

  async function send<T>(call: Parameters<typeof asked<T>>[0]): Promise<T | null> {
    busy = true;
    problem = '';
    try {
      const answer = await asked<T>(call, 'The server could not take the file; nothing was changed.');
      if (answer.problem === null) await bush.refresh();
      else
        problem =
          answer.status === null
            ? 'The server cannot be reached. The file is still here; try again when there is a network.'
            : answer.problem;
      return answer.data;
    } finally {
      busy = false;
    }
  }

  const here = { params: { path: { bush: bush.id } } };
  async function bring(): Promise<void> {
    const body = { text: text!, defaultUnit: unit, newTrees, sizesAre };
    const answer = await send(api.POST('/bushes/{bush}/import', { ...here, body }));
    if (!answer) return;
    toast.success(`Brought in: ${inWords(answer.counts)}.`);
    await read();
  }

  async function restore(): Promise<void> {
    // The file goes as it lies on the disk: nobody has to hold all of it.
    const asItIs = { bodySerializer: () => archive, headers: { 'content-type': 'application/json' } };
    const answer = await send(api.POST('/bushes/{bush}/archive', { ...here, ...asItIs, body: {} as never }));
    if (!answer) return;
    toast.success(`${answer.trees} trees with ${answer.records} records read back.`);
    archive = null;
  }

  type Counts = ImportPreview['plan']['counts'];
  const many = (n: number, one: string, more = `${one}s`) => `${n} ${n === 1 ? one : more}`;
  function inWords({ newTrees: fresh, readings, holes, determinations, places }: Counts): string {
    const parts = [
      [fresh, many(fresh, 'new tree')],
      [readings, many(readings, 'reading')],
      [holes, many(holes, 'taphole')],
      [determinations, many(determinations, 'species', 'species')],
      [places, many(places, 'better place')]
    ] as const;
    return (
      parts
        .filter(([n]) => n > 0)
        .map(([, words]) => words)
        .join(', ') || 'nothing new'
    );
  }

  const QUESTION: Record<ColumnCause, { looks: string; take: string; sizesAre: ReadOptions['sizesAre'] }> = {
    girthAsDiameter: { looks: 'girths called diameters', take: 'Read them as girths', sizesAre: { quantity: 'girth' } },
    diameterAsGirth: {
      looks: 'diameters called girths',
      take: 'Read them as diameters',
      sizesAre: { quantity: 'diameter' }
    },
    inchAsCm: { looks: 'inches called centimetres', take: 'Read them as inches', sizesAre: { unit: 'in' } },
    cmAsInch: { looks: 'centimetres called inches', take: 'Read them as centimetres', sizesAre: { unit: 'cm' } }
  };

  function reread(change: ReadOptions['sizesAre']): void {
    sizesAre = { ...sizesAre, ...change };
    void read();
  }
</script>

{#if bush.mayDecide}
  <p class="mt-1 max-w-prose">
    A table (CSV) of trees, readings, tapholes or species; waypoints (GPX); trees and stands (GeoJSON); the archive of a
    whole bush. Nothing is stored before you have seen what was understood, and what the bush has already is left as it
    is.
  </p>
  <div class="mt-3 flex flex-wrap items-end gap-3">
    <label class="flex flex-col gap-1"
      >File
      <input
        type="file"
        class="file-input"
        accept=".csv,.tsv,.txt,.gpx,.geojson,.json,text/csv"
        onchange={(event) => take(event.currentTarget.files?.[0])}
      />
    </label>
    <label class="flex flex-col gap-1"
      >Sizes without a unit are
      <select class="select w-36" bind:value={unit} onchange={read}>
        {#each ['cm', 'mm', 'in', 'ft', 'm'] as u (u)}<option value={u}>{u}</option>{/each}
      </select>
    </label>
  </div>
  {#if busy}<p role="status" class="mt-3">Reading …</p>{/if}
  {#if problem}<p role="alert" class="mt-3 font-semibold text-error">{problem}</p>{/if}
  {#if archive}
    <div class="mt-4" data-testid="archive">
      {#if bush.rows.length > 0}
        <p class="max-w-prose">
          <b>{fileName}</b> is the archive of a whole bush. It can only be read into an empty one, and this bush has
          {bush.rows.length} trees. <a class="link" href="/bushes">Make a new bush</a> and open the file there.
        </p>
      {:else}
        <p><b>{fileName}</b> is the archive of a whole bush.</p>
        <button class="btn mt-2 btn-primary" onclick={restore} disabled={busy}>Read it into this bush</button>
      {/if}
    </div>
  {:else if preview}
    {@const { file, plan } = preview}
    {@const { question, counts, bad } = plan}
    {@const anything = plan.records.length + plan.stands.length > 0}
    <div class="mt-4 flex flex-col gap-3" data-testid="preview">
      <p class="text-lg">
        New in {fileName}: <b>{inWords(counts)}</b>{plan.stands.length > 0
          ? `, ${many(plan.stands.length, 'stand')}`
          : ''}.
        {#if counts.unchanged > 0}{many(counts.unchanged, 'tree is', 'trees are')} here already as the file has {counts.unchanged ===
          1
            ? 'it'
            : 'them'}.{/if}
        {#if counts.grown > 0}{many(counts.grown, 'tree that is here gets', 'trees that are here get')} something new.{/if}
        <b>{many(bad.length, 'row')}</b> left out.
        {#if file.ignoredColumns.length > 0}Not used: {file.ignoredColumns.join(', ')}.{/if}
      </p>
      {#if question}
        <div class="border-2 border-primary p-3" role="alert" data-testid="column-question">
          <p class="font-slab text-lg font-semibold">
            Are these {question.explanations.map(({ cause }) => QUESTION[cause].looks).join(', or ')}?
          </p>
          <p>
            Half the trunks of this file would be thicker than {show(question.medianMm)}. {question.ofThisBush
              ? 'In this bush it is'
              : 'In most bushes it is about'}
            {show(question.expectedMm)}.
          </p>
          <div class="mt-2 flex flex-wrap gap-2">
            {#each question.explanations as { cause, correctedMm }, i (cause)}
              <button
                class="btn btn-sm {i === 0 ? 'btn-primary' : 'btn-outline'}"
                onclick={() => reread(QUESTION[cause].sizesAre)}>{QUESTION[cause].take}: {show(correctedMm)}</button
              >
            {/each}
          </div>
        </div>
      {/if}
      {#if counts.newTrees > 0 || !newTrees}
        <label class="flex min-h-11 items-center gap-2"
          ><input type="checkbox" class="checkbox" bind:checked={newTrees} onchange={read} /> Bring in trees whose tags the
          bush does not have</label
        >
      {/if}
      {#if anything}
        <button class="btn self-start {question ? 'btn-outline' : 'btn-primary'}" onclick={bring} disabled={busy}
          >Bring it in{question ? ' as it stands' : ''}</button
        >
      {/if}
      {#if bad.length > 0}
        <BadRows
          {bad}
          heading={file.heading}
          onsave={() => saveAs('rows-left-out.csv', writeBadRows({ ...file, bad }))}
        />
      {/if}
    </div>
  {/if}
{:else}
  <p class="mt-1">Bringing files in is the steward’s to do.</p>
{/if}
