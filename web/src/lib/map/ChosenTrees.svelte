<script lang="ts">
  import { userFacing } from '@baumkin/core/errors';
  import { deriveTree, kindOf, type TreeRow, type TreeState } from '@baumkin/core/records';
  import { basalArea, quadraticMeanDiameter, walkLength } from '@baumkin/core/stand';
  import { toast } from 'svelte-sonner';

  import { undoable } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saveAs } from '$lib/client/decode.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import { putIntoStands } from './putIntoStands.ts';
  import type { Question } from './questions.ts';

  /** What was chosen, as a list and in figures, and what can be done with it. */
  const {
    chosen,
    question,
    onclear,
    onshow
  }: {
    chosen: readonly TreeRow[];
    question: Question;
    onclear: () => void;
    onshow: (row: TreeRow) => void;
  } = $props();
  const bush = useBush();
  const sized = $derived(chosen.flatMap((row) => row.dbhMm ?? []));
  const maples = $derived(chosen.filter((row) => kindOf(row) === 'maple').length);
  const taps = $derived(chosen.reduce((sum, row) => sum + (row.decidedTaps ?? 0), 0));
  const area = $derived(sized.reduce((sum, dbh) => sum + basalArea(dbh), 0));
  let standId = $state('');
  /** Longer lists are for the file and for paper. */
  const SHOWN = 60;

  async function intoStand(): Promise<void> {
    const moved = chosen.filter((row) => row.standId !== (standId || null));
    const moves = moved.map((row) => ({ row, standId: standId || null }));
    const back = await putIntoStands(bush, moves).catch(() => null);
    if (!back) return;
    undoable(`${counted(moved.length, 'tree belongs', 'trees belong')} to another stand now.`, () => back());
  }

  async function csv(): Promise<void> {
    const { TABLES, writeTable } = await import('@baumkin/core/exchange');
    const out: { tree: TreeRow; stand: string | null; state: TreeState }[] = [];
    try {
      for await (const { tree, records } of bush.lives(chosen))
        out.push({
          tree,
          stand: bush.standOf(tree)?.name ?? null,
          state: deriveTree(records, { season: bush.season, today: bush.today })
        });
    } catch (error) {
      // Not all is here: the page says so.
      if (userFacing(error)) return;
      throw error;
    }
    saveAs(
      'chosen-trees.csv',
      writeTable(
        TABLES.find(({ name }) => name === 'trees')!,
        out
      )
    );
  }

  async function gpx(): Promise<void> {
    const origin = bush.overview?.bush.origin;
    if (!origin) {
      toast.error('This bush does not say where on earth it lies. Say so on the page of the ground first.');
      return;
    }
    const { writeGpx } = await import('@baumkin/core/exchange');
    const points = chosen.flatMap((row) =>
      row.eastM === null || row.northM === null
        ? []
        : [
            {
              tag: row.tag,
              species: kindOf(row) === 'unsettled' ? null : row.species,
              eastM: row.eastM,
              northM: row.northM,
              about: question.says(row)
            }
          ]
    );
    saveAs('chosen-trees.gpx', writeGpx(bush.overview!.bush.name, points, origin), 'application/gpx+xml');
  }
</script>

<section aria-labelledby="chosen" data-testid="chosen">
  <h2 id="chosen">
    {chosen.length === 0 ? 'Nothing chosen' : `${counted(chosen.length, 'tree')} chosen`}
  </h2>
  {#if chosen.length === 0}
    <p class="aside">Draw a line round trees, take an answer above, a stand or a rule. The list appears here.</p>
  {:else}
    <p>
      {counted(maples, 'maple')}{taps > 0 ? `, ${counted(taps, 'tap')} decided` : ''}{#if sized.length > 0}; {preferences.basalArea(
          area
        )} of basal area, mean {preferences.length(quadraticMeanDiameter(sized), 'trunk')}{/if}. The walk past them: {preferences.length(
        walkLength(chosen) * 1000,
        'way'
      )}.
    </p>
    <div class="mt-2 flex flex-wrap gap-2 print:hidden">
      <button class="btn btn-primary btn-sm" onclick={() => bush.walkOnly(chosen.map((row) => row.id))}
        >Walk these</button
      >
      <button class="btn btn-outline btn-sm" onclick={csv}>CSV</button>
      <button class="btn btn-outline btn-sm" onclick={gpx}>GPX</button>
      <button class="btn btn-outline btn-sm" onclick={() => window.print()}>Print</button>
      <button class="btn btn-ghost btn-sm" onclick={onclear}>Clear</button>
    </div>
    {#if bush.mayRecord && (bush.overview?.stands.length ?? 0) > 0}
      <div class="mt-2 flex items-center gap-2 text-sm print:hidden">
        <select class="select grow select-sm" aria-label="Stand" bind:value={standId}>
          <option value="">no stand</option>
          {#each bush.overview!.stands as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
        </select>
        <button class="btn btn-outline btn-sm" onclick={intoStand}>Put them there</button>
      </div>
    {/if}
    <table class="mt-2 w-full text-left text-sm">
      <thead class="sr-only"><tr><th>Tag</th><th>Size</th><th>{question.label}</th></tr></thead>
      <tbody>
        {#each chosen.slice(0, SHOWN) as row (row.id)}
          <tr class="border-b border-base-300/60">
            <td class="py-1"><button class="link font-bold" onclick={() => onshow(row)}>{row.tag}</button></td>
            <td class="text-right tabular-nums">{row.dbhMm === null ? '' : preferences.length(row.dbhMm, 'trunk')}</td>
            <td class="pl-4">{question.says(row)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if chosen.length > SHOWN}<p class="aside">and {chosen.length - SHOWN} more, in the files.</p>{/if}
  {/if}
</section>
