<script lang="ts">
  import { isMaple, SPECIES } from '@baumkin/core/identify';
  import { KIN_FROM, RING_PRIOR, type CrownClass } from '@baumkin/core/measure';
  import { wallsOffWell } from '@baumkin/core/trunk';
  import { growthRows, type GrowthRow } from '@baumkin/core/bush';

  import { goto } from '$app/navigation';
  import EmptyState from '$lib/ui/EmptyState.svelte';
  import StandSelect from '$lib/ui/StandSelect.svelte';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import WindowedList from '$lib/ui/WindowedList.svelte';

  import GrowthScatter from './GrowthScatter.svelte';

  /** Who grows, who stalls, and which tree to measure next. */
  const bush = useBush();
  let standId = $state('');
  const settings = $derived(bush.overview?.bush.settings ?? null);
  const trees = $derived(
    settings
      ? growthRows(
          bush.rows.filter((row) => standId === '' || row.standId === standId),
          settings,
          bush.season,
          bush.today
        )
      : []
  );

  const grown = $derived(trees.filter(({ measured }) => measured));

  type View = 'next' | 'stall' | 'grow' | 'due';
  const VIEWS: readonly [View, string, (tree: GrowthRow) => boolean, (a: GrowthRow, b: GrowthRow) => number][] = [
    [
      'next',
      'Measure next',
      (tree) => tree.worth > 0 || tree.row.questions > 0,
      (a, b) => b.row.questions - a.row.questions || b.worth - a.worth || (b.yearsSince ?? 99) - (a.yearsSince ?? 99)
    ],
    ['due', 'Due', (tree) => tree.due, (a, b) => (b.yearsSince ?? 99) - (a.yearsSince ?? 99)],
    ['stall', 'Fall behind', (tree) => tree.keepsUp === 'no', (a, b) => a.row.ringMm - b.row.ringMm],
    ['grow', 'Keep up', (tree) => tree.keepsUp === 'yes', (a, b) => b.row.ringMm - a.row.ringMm]
  ];
  let view = $state<View>('next');
  const shown = $derived.by(() => {
    const [, , test, order] = VIEWS.find(([id]) => id === view)!;
    return trees.filter(test).toSorted(order);
  });
  const count = (keepsUp: GrowthRow['keepsUp']) => trees.filter((tree) => tree.keepsUp === keepsUp).length;
  const ring = (mm: number) => preferences.length(mm, 'ring');
  const open = (treeId: string) => void goto(`/bush/${bush.id}/measure/${treeId}`);

  const CLASSES: readonly CrownClass[] = ['open', 'dominant', 'codominant', 'intermediate', 'suppressed'];
  const learned = $derived(
    CLASSES.flatMap((crownClass) => {
      const here = bush.expects.rings?.classes[crownClass].meanMm;
      return here !== undefined && Math.abs(here - RING_PRIOR[crownClass].meanMm) >= 0.05 ? [{ crownClass, here }] : [];
    })
  );
  type Kin = readonly (readonly [name: string, share: number | undefined])[];
  /** Those that lay more or less than others here, in words. */
  const lays = (kin: Kin) =>
    kin
      .flatMap(([name, share]) => (share !== undefined && Math.abs(share) >= 0.03 ? [{ name, share }] : []))
      .sort((a, b) => b.share - a.share)
      .map(({ name, share }) => `${name} ${Math.round(100 * Math.abs(share))} % ${share > 0 ? 'more' : 'less'}`)
      .join(', ');
  /** Stands and maples that lay more or less than others of their crown class. */
  const apart = $derived.by(() => {
    const { stands = {}, species = {} } = bush.expects.rings ?? {};
    const byStand = lays((bush.overview?.stands ?? []).map(({ id, name }) => [name, stands[id]]));
    const maples = SPECIES.filter(({ id }) => isMaple(id));
    const bySpecies = lays(maples.map(({ id, name }) => [name, species[id]]));
    return [...(byStand ? [`by stand, ${byStand}`] : []), ...(bySpecies ? [`by species, ${bySpecies}`] : [])].join(
      '; '
    );
  });
  /** How far single trees stray here, mm; null where it is as usual. */
  const spread = $derived.by(() => {
    const here = bush.expects.rings?.classes.codominant.sdMm ?? RING_PRIOR.codominant.sdMm;
    return Math.abs(here / RING_PRIOR.codominant.sdMm - 1) >= 0.1 ? here : null;
  });
</script>

<div class="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
  <section aria-labelledby="growth" class="min-w-0 lg:sticky lg:top-0 lg:self-start">
    <div class="flex flex-wrap items-baseline justify-between gap-x-4">
      <h1 id="growth">Who grows, who stalls</h1>
      <StandSelect bind:value={standId} />
    </div>
    {#if trees.length === 0}
      <EmptyState>
        No maple has been measured here yet. One reading each is a size; a second, some years on, is a growth.
      </EmptyState>
    {:else}
      <p class="mt-1 max-w-prose" data-testid="growth-words">
        {#if grown.length === 0}
          {counted(trees.length, 'maple has', 'maples have')} one reading each: a size, and no growth yet. A second reading
          some years on, or the rings of a core, tells it.
        {:else}
          {#if grown.length < trees.length}{grown.length} of {counted(trees.length, 'maple')} were measured twice or cored.
            Of these{:else}Of {counted(trees.length, 'maple')}{/if}
          {count('yes')} surely lay more wood than a hole every year kills, {count('no')} surely less; of {grown.length -
            count('yes') -
            count('no')} the growth is not known well enough to say.
        {/if}
      </p>
      <div class="mt-3"><GrowthScatter trees={grown} onchoose={open} /></div>
      <p class="aside mt-1 flex flex-wrap gap-x-4">
        <span
          >The line: what one hole a year asks for{trees.some(({ row }) => !wallsOffWell(row.species))
            ? '; broken for red and other maples, which wall wounds off less well'
            : ''}.</span
        >
        <span>● keeps up</span><span>○ open</span><span>▲ falls behind</span>
      </p>
      {#if apart}
        <p class="aside mt-2 max-w-prose" data-testid="kin-words">
          Against others of their crown class trees lay: {apart}. A stand or species is told apart from {KIN_FROM} trees on
          that were measured twice or cored.
        </p>
      {/if}
      {#if learned.length > 0}
        <p class="aside mt-2 max-w-prose">
          What unmeasured trees are taken to lay here, learned from the measured ones: {learned
            .map(({ crownClass, here }) => `${crownClass} ${ring(here)}`)
            .join(', ')} a year{spread
            ? `; a single codominant tree strays from that by about ${ring(spread)}, ${spread < RING_PRIOR.codominant.sdMm ? 'less' : 'more'} than is usual`
            : ''}.
        </p>
      {/if}
    {/if}
  </section>
  <section aria-label="Trees" class="min-w-0">
    <div class="mb-2">
      <ToggleGroup
        label="Show"
        options={VIEWS.map(([id, label, test]) => ({ id, label, count: trees.filter(test).length }))}
        bind:value={view}
      />
    </div>
    {#if view === 'next' && shown.length > 0}
      <p class="aside mb-2">The trees first whose count a new reading is most likely to change. The rest can wait.</p>
    {/if}
    {#if shown.length === 0}
      {#if trees.length > 0}<p>None at present.</p>{/if}
    {:else}
      <WindowedList items={shown} rowPx={50}>
        {#snippet line(tree)}
          <div class="flex h-full items-center gap-3">
            <a class="w-12 shrink-0 link font-bold" href="/bush/{bush.id}/measure/{tree.row.id}">{tree.row.tag}</a>
            <span class="min-w-0 grow leading-tight"
              >{preferences.length(tree.dbhMm, 'trunk')}, lays {ring(tree.row.ringMm)} a year ± {ring(
                tree.row.ringSeMm
              )}<span class="aside block text-[0.85rem]"
                >{tree.row.questions > 0
                  ? 'a reading is in question'
                  : tree.yearsSince === null
                    ? 'never measured'
                    : `last measured ${tree.row.lastReadingOn}`}; one hole a year asks for {ring(tree.neededMm)}</span
              ></span
            >
            {#if view === 'next'}
              <span class="shrink-0 text-right text-sm"
                >{tree.row.questions > 0 ? 'answer first' : `${Math.round(tree.worth * 10)} in 10`}</span
              >
            {/if}
          </div>
        {/snippet}
      </WindowedList>
    {/if}
  </section>
</div>
