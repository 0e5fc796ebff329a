<script lang="ts">
  import { crownRadius, defaultHeight, type CrownRadii } from '@baumkin/core/stand';

  import { saved } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { groundUnit, readMetres } from '$lib/ui/readMetres.ts';

  /** Height and crown, where somebody measures them; until then both are taken from the diameter. */
  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const row = $derived(bush.byId.get(treeId)!);
  const tree = $derived(bush.stateOf(treeId));
  const unit = $derived(groundUnit());
  const metres = (m: number) => preferences.length(m * 1000, 'ground');

  const SIDES = ['north', 'east', 'south', 'west'] as const;
  let height = $state('');
  let reaches = $state(['', '', '', '']);

  /** less is a slip of the pen, and no record takes it */
  const LEAST_HEIGHT_M = 0.5;

  function read(text: string, most: number, least = 0): number | null | string {
    const m = readMetres(text);
    if (typeof m === 'number' && m < least) return `A maple of ${metres(m)} is no tree yet: look at the unit.`;
    return typeof m === 'number' && m > most ? `No maple here reaches ${metres(m)}: look at the unit.` : m;
  }

  const heightM = $derived(read(height, 80, LEAST_HEIGHT_M));
  const radii = $derived(reaches.map((text) => read(text, 20)));
  const written = $derived(radii.filter((r) => r !== null).length);
  const problem = $derived(
    [heightM, ...radii].find((value) => typeof value === 'string') ??
      (written > 0 && written < 4
        ? 'A crown has four sides: measure all of them, from the trunk to the edge of the crown.'
        : null)
  );
  const any = $derived(heightM !== null || written > 0);

  async function save(): Promise<void> {
    if (problem !== null || !any) return;
    const record = await bush.record(treeId, {
      kind: 'heightAndCrown',
      heightM: heightM as number | null,
      crownRadiiM: written === 4 ? (radii as unknown as CrownRadii as [number, number, number, number]) : null,
      note: ''
    });
    height = '';
    reaches = ['', '', '', ''];
    saved(bush, `Tree ${row.tag}: written down.`, record);
  }
</script>

<section aria-labelledby="stature">
  <h2 id="stature">Height and crown</h2>
  <p>
    {#if tree.heightM !== null}{metres(tree.heightM)} tall, measured.
    {:else if row.dbhMm !== null}Taken to be about {metres(defaultHeight(row.dbhMm))} tall, from its diameter.{/if}
    {#if tree.crownRadiiM}Its crown reaches {tree.crownRadiiM.map((r, i) => `${metres(r)} ${SIDES[i]}`).join(', ')}.
    {:else if row.dbhMm !== null}Its crown is taken to reach about {metres(crownRadius(row.dbhMm, row.species))} all round.{/if}
  </p>
  {#if bush.mayRecord}
    <details class="mt-1">
      <summary class="cursor-pointer font-semibold max-md:py-2">Write down what was measured</summary>
      <form
        class="mt-2 flex flex-col gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <label class="flex items-center gap-3"
          ><span class="w-16">Height</span>
          <input class="input w-32" placeholder={unit === 'm' ? '21.5 m' : '70 ft'} bind:value={height} /></label
        >
        <fieldset class="grid grid-cols-2 gap-x-4 gap-y-2">
          <legend class="mb-1">From the trunk to the edge of the crown</legend>
          {#each SIDES as side, i (side)}
            <label class="flex items-center gap-3"
              ><span class="w-12">{side}</span>
              <input class="input w-24" placeholder={unit === 'm' ? '3.5 m' : '12 ft'} bind:value={reaches[i]} /></label
            >
          {/each}
        </fieldset>
        {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
        <button class="btn self-start btn-outline btn-sm" disabled={!any || problem !== null}>Write it down</button>
      </form>
    </details>
  {/if}
</section>
