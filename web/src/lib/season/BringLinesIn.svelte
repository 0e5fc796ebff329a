<script lang="ts">
  import { pipeLinesIn } from '@baumkin/core/bush';
  import { readLinesGeoJson, type StatedLine, type StatedLines } from '@baumkin/core/exchange';
  import { tagKey } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { readChosen, type ChosenFile } from '$lib/client/decode.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { PIPE_USE_WORDS } from '$lib/labels/lines.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import { listed } from '$lib/words/listed.ts';

  import { drawLines } from './drawLines.ts';

  /** Lines that were drawn elsewhere: what a file tells of each is shown before any of it is written down. */
  const { onkept }: { onkept: (lineId: string) => void } = $props();
  const bush = useBush();
  let open = $state(false);
  let file = $state.raw<ChosenFile<StatedLines> | null>(null);
  let writing = $state(false);
  const lines = $derived(file?.told?.lines ?? []);

  async function look(input: HTMLInputElement): Promise<void> {
    const origin = bush.overview?.bush.origin;
    const chosen = origin ? await readChosen(input, (text) => readLinesGeoJson(text, origin)) : null;
    if (!chosen) return;
    file = chosen;
    open = true;
  }

  const known = $derived(new Set(pipeLinesIn(bush.bushRecords).map(({ name }) => name)));
  const places = $derived(
    new Set(bush.bushRecords.flatMap((record) => (record.kind === 'collectingPlace' ? record.name : [])))
  );
  const tags = $derived(new Set(bush.rows.map(({ tag }) => tagKey(tag))));
  const unknown = $derived([
    ...new Set(lines.flatMap(({ drops }) => drops.flatMap(({ tag }) => (tags.has(tagKey(tag)) ? [] : tag))))
  ]);
  const leads = ({ into }: StatedLine) =>
    into === null
      ? ''
      : lines.some(({ name }) => name === into) || known.has(into) || places.has(into)
        ? `into ${into}`
        : `into ${into}, which is not known here`;

  async function bringIn(): Promise<void> {
    if (lines.length === 0 || writing) return;
    writing = true;
    const written = await drawLines(bush, lines).finally(() => (writing = false));
    open = false;
    saved(bush, `${counted(written.length, 'line')} brought in.`, ...written);
    onkept(written[0]!.id);
  }
</script>

<label class="flex min-h-9 link cursor-pointer items-center text-sm focus-within:outline-2 max-md:min-h-12 print:hidden"
  >Bring lines in<input
    type="file"
    class="sr-only"
    accept=".geojson,.json,application/geo+json"
    onchange={(event) => void look(event.currentTarget)}
  /></label
>

<ModalDialog bind:open title="Lines out of a file" width="36rem">
  {#if file?.problem}
    <p role="alert" class="font-semibold text-error">{file.name}: {file.problem}</p>
    <p>
      Lines are read from GeoJSON: each LineString from its upper end to its foot, with its <i>name</i>, <i>use</i>
      (main, air, spur, lateral), <i>bore_mm</i>, <i>into</i> and <i>trees</i> where they are known.
    </p>
  {:else if file?.told}
    {@const { left, far } = file.told}
    <div class="flex flex-col gap-3">
      <p>
        {file.name}: {counted(lines.length, 'line')}{left + far > 0
          ? `; left out: ${listed([
              ...(left > 0 ? [counted(left, 'thing that is no line', 'things that are no lines')] : []),
              ...(far > 0 ? [counted(far, 'line far from this bush', 'lines far from this bush')] : [])
            ])}`
          : ''}.
      </p>
      <ul class="max-h-[45dvh] overflow-y-auto" data-testid="lines-in">
        {#each lines as line (line.name)}
          <li class="flex flex-wrap items-baseline gap-x-3 border-b border-base-300 py-1">
            <b class="grow">{line.name}</b>
            <span class="aside"
              >{PIPE_USE_WORDS[line.use]}, {preferences.length(1000 * line.lengthM, 'way')}
              {leads(line)}{line.drops.length > 0 ? `; ${counted(line.drops.length, 'tree')}` : ''}{known.has(line.name)
                ? '; drawn anew: there is one of that name'
                : ''}{line.unread.length > 0 ? `; not read, and taken as usual: ${listed(line.unread)}` : ''}</span
            >
          </li>
        {/each}
      </ul>
      {#if unknown.length > 0}<p role="alert" class="font-semibold">
          No tree here has the tag {listed(unknown.slice(0, 8))}{unknown.length > 8
            ? ` and ${unknown.length - 8} more`
            : ''}: their drops are left out.
        </p>{/if}
      <p class="aside">Heights in the file are read by “Level it”, line by line.</p>
      <button class="btn self-start btn-primary" disabled={writing} onclick={bringIn}
        >Bring in {counted(lines.length, 'line')}</button
      >
    </div>
  {/if}
</ModalDialog>
