<script lang="ts">
  import { writeBadRows } from '@baumkin/core/exchange';
  import { LENGTH_UNITS } from '@baumkin/core/units';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saveAs } from '$lib/client/decode.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { broughtWords, CAUSE_WORDS } from '$lib/labels/importing.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';

  import BadRows from './BadRows.svelte';
  import BroughtIn from './BroughtIn.svelte';
  import ColumnsUnderstood from './ColumnsUnderstood.svelte';
  import ImportQuestions from './ImportQuestions.svelte';
  import KnownNow from './KnownNow.svelte';
  import { Importing } from './importing.svelte.ts';

  /** A file is read and held against the bush before anything is stored: what is new, what is here already, what is asked. */
  const bush = useBush();
  const importing = new Importing(bush);
  const show = (mm: number) => preferences.length(mm, 'trunk');
  /** From so many new things on the numbers are asked once more. */
  const MANY = 200;
  let sure = $state(false);
  let came = $state(0);

  async function bring(): Promise<void> {
    sure = false;
    const counts = await importing.bring();
    if (!counts) return;
    came += 1;
    toast.success(`Brought in: ${broughtWords(counts)}.`);
  }
  async function restore(): Promise<void> {
    const answer = await importing.restore();
    if (answer) toast.success(`${answer.trees} trees with ${answer.records} records read back.`);
  }
</script>

{#if bush.mayDecide}
  <p class="mt-1 max-w-prose">
    A table (.xlsx, .ods or CSV) of trees, readings, tapholes or species; waypoints (GPX); trees and stands (GeoJSON);
    the archive of a whole bush. Nothing is stored before you have seen what was understood, and what the bush has
    already is left as it is.
  </p>
  <div class="mt-3 flex flex-wrap items-end gap-3">
    <label class="flex flex-col gap-1"
      >File
      <input
        type="file"
        class="file-input"
        accept=".csv,.tsv,.txt,.xlsx,.ods,.gpx,.geojson,.json,text/csv"
        onchange={(event) => importing.take(event.currentTarget.files?.[0])}
      />
    </label>
    <label class="flex flex-col gap-1"
      >Sizes without a unit are
      <select class="select w-36" bind:value={importing.unit} onchange={() => importing.read()}>
        {#each LENGTH_UNITS as u (u)}<option value={u}>{u}</option>{/each}
      </select>
    </label>
  </div>
  {#if importing.sheets.length > 1}
    <label class="mt-3 flex flex-wrap items-center gap-2"
      >The workbook has {importing.sheets.length} sheets. Read
      <select
        class="select w-56"
        value={importing.sheet}
        onchange={(event) => importing.takeSheet(Number(event.currentTarget.value))}
      >
        {#each importing.sheets as { name }, i (i)}<option value={i}>{name}</option>{/each}
      </select></label
    >
  {/if}
  {#if importing.busy}<p role="status" class="mt-3">Reading …</p>{/if}
  {#if importing.problem}<p role="alert" class="mt-3 font-semibold text-error">{importing.problem}</p>{/if}
  {#if importing.archive}
    <div class="mt-4" data-testid="archive">
      {#if bush.rows.length > 0}
        <p class="max-w-prose">
          <b>{importing.fileName}</b> is the archive of a whole bush. It can only be read into an empty one, and this
          bush has
          {bush.rows.length} trees. <a class="link" href="/bushes">Make a new bush</a> and open the file there.
        </p>
      {:else}
        <p><b>{importing.fileName}</b> is the archive of a whole bush.</p>
        <button class="btn mt-2 btn-primary" onclick={restore} disabled={importing.busy}>Read it into this bush</button>
      {/if}
    </div>
  {:else if importing.preview}
    {@const { file, plan } = importing.preview}
    {@const { question, counts, bad, mixed } = plan}
    {@const anything = plan.records.length + plan.stands.length > 0}
    {@const cells = bad.filter(({ fault }) => fault === 'cell')}
    <div class="mt-4 flex flex-col gap-4" data-testid="preview">
      <p class="text-lg">
        New in {importing.fileName}: <b>{broughtWords(counts)}</b>{plan.stands.length > 0
          ? `, ${counted(plan.stands.length, 'stand')}`
          : ''}.
        {#if counts.unchanged > 0}{counted(counts.unchanged, 'tree is', 'trees are')} here already as the file has {counts.unchanged ===
          1
            ? 'it'
            : 'them'}.{/if}
        {#if counts.grown > 0}{counted(counts.grown, 'tree that is here gets', 'trees that are here get')} something new.{/if}
        <b>{counted(importing.leftOut, 'row')}</b> left out{importing.questions.length > 0
          ? `, ${importing.leftOut === 1 ? 'and it waits' : 'some of which wait'} for an answer`
          : ''}.
      </p>
      {#if question}
        <div class="border-2 border-primary p-3" role="alert" data-testid="column-question">
          <p class="font-slab text-lg font-semibold">
            Are these {question.explanations.map(({ cause }) => CAUSE_WORDS[cause].looks).join(', or ')}?
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
                onclick={() => importing.tellColumn(cause)}>{CAUSE_WORDS[cause].take}: {show(correctedMm)}</button
              >
            {/each}
          </div>
        </div>
      {/if}
      {#if importing.questions.length > 0}<ImportQuestions
          {importing}
          table={file.table}
          {mixed}
          likelyTags={plan.likelyTags}
        />{/if}
      {#if file.table}<ColumnsUnderstood {importing} table={file.table} heading={file.heading} />
      {:else if file.ignoredColumns.length > 0}<p>Not used: {file.ignoredColumns.join(', ')}.</p>{/if}
      {#if counts.newTrees > 0 || importing.newTrees === false}
        <label class="flex min-h-11 items-center gap-2"
          ><input
            type="checkbox"
            class="checkbox"
            checked={importing.newTrees !== false}
            onchange={(event) => {
              importing.newTrees = event.currentTarget.checked ? null : false;
              void importing.read();
            }}
          /> Bring in trees whose tags the bush does not have</label
        >
      {/if}
      {#if anything}
        <button
          class="btn self-start {question || importing.questions.length > 0 ? 'btn-outline' : 'btn-primary'}"
          onclick={() => (plan.records.length > MANY ? (sure = true) : void bring())}
          disabled={importing.busy}
          >{importing.questions.length > 0
            ? 'Bring in what is clear'
            : `Bring it in${question ? ' as it stands' : ''}`}</button
        >
        <ModalDialog bind:open={sure} title="Bring all this in?">
          <p class="text-lg">
            {broughtWords(counts)}, into {bush.overview!.bush.name}. {importing.leftOut === 0
              ? 'No row is left out.'
              : `${counted(importing.leftOut, 'row is', 'rows are')} left out and can come later.`}
          </p>
          <div class="mt-4 flex flex-wrap gap-2">
            <button class="btn btn-primary" onclick={bring}>Bring it in</button>
            <button class="btn" onclick={() => (sure = false)}>Look again</button>
          </div>
        </ModalDialog>
      {/if}
      {#if cells.length > 0}
        <BadRows
          bad={cells}
          heading={file.heading}
          onsave={() => saveAs('rows-left-out.csv', writeBadRows({ ...file, bad }))}
        />
      {/if}
    </div>
  {/if}
  {#if came > 0}<KnownNow />{/if}
  <BroughtIn {came} ongone={() => importing.read()} />
{:else}
  <p class="mt-1">Bringing files in is the steward’s to do.</p>
{/if}
