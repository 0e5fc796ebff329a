<script lang="ts">
  import type { LineJudged } from '@baumkin/core/bush';
  import { heightsAlong, readTrack } from '@baumkin/core/exchange';
  import { alongCourse } from '@baumkin/core/geometry';
  import { LEVELLING_ERRORS, LEVELLING_METHODS, type LevellingMethod } from '@baumkin/core/lines';
  import { MM_PER_FOOT } from '@baumkin/core/units';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { readChosen } from '$lib/client/decode.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { LEVELLING_WORDS } from '$lib/labels/lines.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import { groundUnit, readMetres } from '$lib/ui/readMetres.ts';
  import { listed } from '$lib/words/listed.ts';

  /** What was read along a line: heights against anything, or falls in a hundred. */
  let { open = $bindable(), judged }: { open: boolean; judged: LineJudged } = $props();
  const bush = useBush();

  interface Row {
    at: string;
    until: string;
    read: string;
  }
  const blank = (at = '', until = ''): Row => ({ at, until, read: '' });
  let method = $state<LevellingMethod>('level');
  let rows = $state<Row[]>([]);
  let afresh = $state(false);
  const bySlope = $derived(LEVELLING_ERRORS[method].of === 'slope');
  $effect(() => {
    if (!open) return;
    afresh = false;
    fromFile = null;
    untrack(begin);
  });
  const asTyped = (m: number, digits = 1) =>
    String(Number((groundUnit() === 'm' ? m : (1000 * m) / MM_PER_FOOT).toFixed(digits)));
  function begin(): void {
    const bends = alongCourse(judged.line.points).map((at) => asTyped(at));
    rows = bySlope ? bends.slice(1).map((until, i) => blank(bends[i], until)) : bends.map((at) => blank(at));
  }
  /** what a file told, or why it told nothing */
  let fromFile = $state<{ says: string; failed: boolean } | null>(null);
  async function bringIn(input: HTMLInputElement): Promise<void> {
    const origin = bush.overview?.bush.origin;
    const file = origin ? await readChosen(input, readTrack) : null;
    if (!origin || !file) return;
    const { name, told: track, problem: why } = file;
    if (why !== null) {
      fromFile = { says: `${name}: ${why}`, failed: true };
      return;
    }
    const { heights, far, flat } = heightsAlong(track, judged.line.points, origin);
    const left = [
      ...(far > 0 ? [`${counted(far, 'point')} too far from the line`] : []),
      ...(flat > 0 ? [`${counted(flat, 'point')} without a height`] : [])
    ];
    if (heights.length >= 2) {
      if (LEVELLING_ERRORS[method].of === 'slope' || method === 'level' || method === 'waterTube') method = 'phone';
      rows = heights.map(({ alongM, heightM }) => ({ at: asTyped(alongM), until: '', read: asTyped(heightM, 3) }));
    }
    const says = `${name}: ${counted(heights.length, 'height')} along the line${left.length > 0 ? `; left out: ${listed(left)}` : ''}.`;
    fromFile = { says, failed: heights.length < 2 };
  }
  function take(next: LevellingMethod): void {
    const before = LEVELLING_ERRORS[method].of;
    method = next;
    if (LEVELLING_ERRORS[next].of !== before) begin();
  }

  const percent = (text: string): number | string => {
    const value = Number(text.replace(',', '.').replace('%', '').trim());
    return Number.isFinite(value) && Math.abs(value) <= 200 ? value / 100 : `“${text}” is no fall in a hundred.`;
  };
  const filled = $derived(rows.filter(({ read }) => read.trim() !== ''));
  const told = $derived(
    filled.map(({ at, until, read }) => ({
      at: readMetres(at),
      until: bySlope ? readMetres(until) : 0,
      read: bySlope ? percent(read) : readMetres(read)
    }))
  );
  const beyond = $derived(
    told.find(({ at, until }) => [at, until].some((each) => typeof each === 'number' && each > judged.lengthM + 1))
  );
  const problem = $derived(
    told.flatMap(({ at, until, read }) => [at, until, read].filter((each) => typeof each === 'string'))[0] ??
      (told.some(({ at, until }) => at === null || until === null)
        ? 'Say where along the line each was read.'
        : null) ??
      (beyond ? `The line is ${preferences.length(1000 * judged.lengthM, 'way')} long.` : null) ??
      (bySlope && told.some(({ at, until }) => at === until) ? 'A fall is read between two places.' : null) ??
      (told.length < (bySlope ? 1 : 2) ? (bySlope ? 'Read one fall at least.' : 'Read two heights at least.') : null)
  );

  async function keep(): Promise<void> {
    if (problem) return;
    const numbers = told as { at: number; until: number; read: number }[];
    const record = await bush.recordOfBush({
      kind: 'levelling',
      lineId: judged.line.id,
      method,
      heights: bySlope ? [] : numbers.map(({ at, read }) => ({ alongM: at, heightM: read })),
      slopes: bySlope ? numbers.map(({ at, until, read }) => ({ fromM: at, toM: until, slope: read })) : [],
      sd: null,
      afresh,
      note: ''
    });
    open = false;
    saved(bush, `${judged.line.name}: ${counted(numbers.length, 'reading')}.`, record);
  }
</script>

<ModalDialog bind:open title="Level {judged.line.name}" width="30rem">
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    <label class="flex items-center gap-3"
      >Read with <select
        class="select grow"
        value={method}
        onchange={(event) => take(event.currentTarget.value as LevellingMethod)}
      >
        {#each LEVELLING_METHODS as each (each)}<option value={each}>{LEVELLING_WORDS[each]}</option>{/each}
      </select></label
    >
    <table class="w-full [&_td]:py-0.5 [&_td]:pr-2">
      <thead
        ><tr class="text-left"
          ><th>{bySlope ? 'From' : 'Along it'}, {groundUnit()}</th>{#if bySlope}<th>to, {groundUnit()}</th>{/if}<th
            >{bySlope ? 'falls, %' : `Height, ${groundUnit()}`}</th
          ></tr
        ></thead
      >
      <tbody>
        {#each rows as row, i (i)}
          <tr>
            <td><input class="input w-full input-sm" aria-label="Along it, {i + 1}" bind:value={row.at} /></td>
            {#if bySlope}<td
                ><input class="input w-full input-sm" aria-label="Until, {i + 1}" bind:value={row.until} /></td
              >{/if}
            <td
              ><input
                class="input w-full input-sm"
                inputmode="decimal"
                aria-label="{bySlope ? 'Fall' : 'Height'}, {i + 1}"
                bind:value={row.read}
              /></td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <button type="button" class="link" onclick={() => rows.push(blank())}>Another place</button>
      {#if bush.overview?.bush.origin}<label class="flex items-center gap-2"
          >or out of a GPX or GeoJSON file <input
            type="file"
            class="file-input w-52 file-input-sm"
            accept=".gpx,.geojson,.json"
            onchange={(event) => bringIn(event.currentTarget)}
          /></label
        >{/if}
    </div>
    {#if fromFile}<p role={fromFile.failed ? 'alert' : 'status'} class={fromFile.failed ? 'text-error' : ''}>
        {fromFile.says}
      </p>{/if}
    <p class="aside">
      {bySlope
        ? 'Downstream from the upper end; a rise has a minus.'
        : 'Of the pipe where it is held, above whatever you read against: only the differences count. What was not read stays empty.'}
      Earlier readings stay, and all are weighed together.
    </p>
    {#if judged.levelled}<label class="flex min-h-9 items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={afresh} /> it was moved since: what was read before holds no
        more</label
      >{/if}
    {#if problem && filled.length > 0}<p role="alert" class="text-error">{problem}</p>{/if}
    <button class="btn self-start btn-primary" disabled={problem !== null}>Write it down</button>
  </form>
</ModalDialog>
