<script lang="ts">
  import { heightOf, isSugarbush, positionSd, radiusOf, type TreeRow } from '@baumkin/core';
  import {
    entryWarning,
    freeSides,
    freeToGrow,
    gapsIn,
    northernRim,
    isAcid,
    reasonsFor,
    sidesFreed,
    throwsEasily,
    WINDTHROW_SHARE
  } from '@baumkin/core/thinning';
  import { onDestroy, onMount } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import StandMap from '$lib/map/StandMap.svelte';
  import type { MapSide, MapSign, MapTree } from '$lib/map/treeLayer.ts';
  import Term from '$lib/ui/Term.svelte';

  import ChoicesTable from './ChoicesTable.svelte';
  import CropTrees from './CropTrees.svelte';
  import { deskOf } from './desk.svelte.ts';
  import LimitSliders from './LimitSliders.svelte';
  import PickedTree from './PickedTree.svelte';
  import { standTrees } from './standTrees.ts';
  import { LIMIT_WORDS, listed, MARK_SAID, reasonWords } from './words.ts';
  import StandPicker from './StandPicker.svelte';

  /** The stand from above with its crop trees, and which trees to take for them within what one entry may do. */
  const bush = useBush();
  const desk = deskOf(bush);
  onMount(() => {
    if (!desk.begun) void desk.begin(desk.stand?.id ?? null);
  });
  $effect(() => desk.follow());
  onDestroy(() => {
    desk.work.stop();
    desk.price.stop();
  });

  let picked = $state<string | null>(null);
  let keptName = $state('');
  let map = $state<StandMap | null>(null);
  const busy = $derived(desk.work.done !== null);
  const shown = $derived(desk.choice);
  const warning = $derived(entryWarning(desk.rows));

  /** Trees whose crown is in the upper half of the stand's heights are drawn stronger. */
  const tall = $derived.by(() => {
    const heights = standTrees(desk.rows).map((tree) => ({ id: tree.id, h: heightOf(tree) }));
    const top = Math.max(1, ...heights.map(({ h }) => h));
    return new Set(heights.filter(({ h }) => h > 0.7 * top).map(({ id }) => id));
  });
  const TONES = [
    { variable: '--color-secondary', fill: 0.42 },
    { variable: '--color-primary', fill: 0.55 },
    { variable: '--color-base-content', fill: 0.2 },
    { variable: '--color-base-content', fill: 0.08 }
  ] as const;

  function sidesOf(id: string): MapSide[] | undefined {
    const states = desk.thin?.plan.sides.get(id);
    const taken = shown?.taken ?? new Set<string>();
    return states?.map((state): MapSide => {
      if (!state.known) return 'unknown';
      if (freeSides([state], new Set()) === 1) return 'free';
      return freeSides([state], taken) === 1 ? 'freed' : 'blocked';
    });
  }

  function signOf(row: TreeRow): MapSign | undefined {
    if (shown?.taken.has(row.id)) return row.mark === 'girdle' ? 'girdle' : 'take';
    if (row.mark && row.mark !== 'take' && row.mark !== 'girdle') return row.mark;
    if (row.wildlife.length > 0) return 'home';
    return row.hazards.length > 0 || row.fallen !== null ? 'hazard' : undefined;
  }

  /** Ground to be seen round the stand, metres. */
  const AROUND_M = 20;
  const box = $derived.by(() => {
    const points =
      desk.stand?.outline ?? desk.rows.flatMap(({ eastM, northM }) => (eastM === null ? [] : [[eastM, northM!]]));
    const [easts, norths] = [points.map(([e]) => e!), points.map(([, n]) => n!)];
    return [Math.min(...easts), Math.min(...norths), Math.max(...easts), Math.max(...norths)] as const;
  });
  const near = (eastM: number, northM: number) =>
    eastM > box[0] - AROUND_M && northM > box[1] - AROUND_M && eastM < box[2] + AROUND_M && northM < box[3] + AROUND_M;

  const trees = $derived(
    bush.rows.flatMap((row): MapTree[] => {
      const { id, tag, eastM, northM, dbhMm, positionQuality } = row;
      if (eastM === null || northM === null || dbhMm === null) return [];
      const here = row.standId === desk.stand?.id;
      if (!here && !near(eastM, northM)) return [];
      return [
        {
          id,
          tag: row.tagged === false ? '' : tag,
          eastM,
          northM,
          crownM: radiusOf({ ...row, dbhMm }),
          trunkM: dbhMm / 1000,
          tone: !here ? null : shown?.taken.has(id) ? 1 : desk.crops.has(id) ? 0 : tall.has(id) ? 2 : 3,
          says: '',
          roughM: positionQuality === null ? 0 : positionSd({ ...row, positionQuality }),
          tagged: row.tagged !== false,
          ...(here && desk.crops.has(id) ? { sides: sidesOf(id) } : {}),
          ...(here ? { sign: signOf(row) } : {})
        }
      ];
    })
  );
  const scene = $derived({ trees, tones: TONES, chosen: new Set<string>(), current: picked });

  let gaps = $state(false);
  /** Openings that the shown choice would make, and gaps that are there already. */
  const there = $derived.by(() => {
    const { stand, limits, thin } = desk;
    return gaps && stand?.outline && thin
      ? gapsIn([...thin.plan.trees.map(({ tree }) => tree), ...thin.plan.around], stand.outline, limits.openingM ?? 15)
      : null;
  });
  const rings = $derived.by(() => {
    return [
      ...(there ?? []).map((disc) => ({ ...disc, says: 'gap' })),
      ...(shown?.judgement.openings ?? []).map((disc) => ({ ...disc, says: 'opens' }))
    ];
  });

  const rim = $derived(
    desk.thin && there
      ? northernRim(
          desk.thin.plan.trees.flatMap(({ tree }) => (shown?.taken.has(tree.id) ? [] : [tree])),
          there
        )
      : []
  );
  const row = $derived(picked === null ? null : (bush.byId.get(picked) ?? null));
  async function markAll(ids: readonly string[]): Promise<void> {
    const { thin } = desk;
    if (!thin || !shown) return;
    const records = await bush.recordAll(
      ids.map((id) => ({
        treeId: id,
        draft: {
          kind: 'mark' as const,
          purpose: 'take' as const,
          reason: reasonWords(reasonsFor(thin.plan, id, shown.taken), (tree) => bush.tagOf(tree)) || shown.name,
          reviewOn: null,
          leanDeg: bush.byId.get(id)?.leanDeg ?? null
        }
      }))
    );
    toast.success(
      ids.length === 1 ? `Tree ${bush.tagOf(ids[0]!)} is marked to take.` : `${ids.length} trees are marked to take.`,
      { action: { label: 'Undo', onClick: () => void bush.withdraw(...records) } }
    );
  }

  async function choose(choice: 'crop' | 'veto' | 'none', ids: readonly string[]): Promise<void> {
    const records = await bush.recordAll(
      ids.map((id) => ({ treeId: id, draft: { kind: 'cropChoice' as const, choice, reason: '' } }))
    );
    const what = { crop: 'chosen as crop tree', veto: 'never a crop tree', none: 'left to be judged' }[choice];
    toast.success(`${ids.length === 1 ? `Tree ${bush.tagOf(ids[0]!)}` : `${ids.length} trees`}: ${what}.`, {
      action: { label: 'Undo', onClick: () => void bush.withdraw(...records) }
    });
  }

  async function mark(id: string, purpose: 'keep' | 'none'): Promise<void> {
    const records = await bush.recordAll([
      {
        treeId: id,
        draft: { kind: 'mark', purpose, reason: '', reviewOn: null, leanDeg: bush.byId.get(id)?.leanDeg ?? null }
      }
    ]);
    toast.success(`Tree ${bush.tagOf(id)}: ${MARK_SAID[purpose].toLowerCase()}.`, {
      action: { label: 'Undo', onClick: () => void bush.withdraw(...records) }
    });
  }

  async function takeDespite(id: string, says: string): Promise<void> {
    const records = await bush.recordAll([
      {
        treeId: id,
        draft: {
          kind: 'mark',
          purpose: 'take',
          reason: `decided all the same: ${says}`.slice(0, 500),
          despite: true,
          leanDeg: bush.byId.get(id)?.leanDeg ?? null
        }
      }
    ]);
    toast.success(`Tree ${bush.tagOf(id)} is marked to take.`, {
      action: { label: 'Undo', onClick: () => void bush.withdraw(...records) }
    });
  }

  async function keep(): Promise<void> {
    if (!shown || !desk.stand) return;
    const record = await bush.recordOfBush({
      kind: 'thinningPlan',
      standId: desk.stand.id,
      name: keptName.trim() || shown.name,
      taken: [...shown.taken],
      note: ''
    });
    keptName = '';
    toast.success('Kept, to be compared.', {
      action: { label: 'Undo', onClick: () => void bush.withdrawOfBush(record) }
    });
  }

  async function keepLimits(): Promise<void> {
    const refused = await desk.keepLimits();
    if (refused !== null) toast.error(refused);
    else toast.success('Limits and spacing are the bush’s own now: every plan begins with them.');
  }

  const unmarked = $derived(shown ? [...shown.taken].filter((id) => !desk.marked.has(id)) : []);
  const judged = $derived(shown?.judgement ?? null);
  const untagged = $derived(desk.rows.filter(({ tagged }) => tagged === false).length);
</script>

<h1 class="sr-only">The plan</h1>
<div class="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
  <StandPicker {desk} />
  {#if busy && desk.proposed.length === 0}
    <p class="aside">choosing crop trees …</p>
  {:else if desk.refused === null && judged && desk.now}
    <p data-testid="in-short">
      <b>{desk.crops.size}</b>
      <Term of="cropTree">crop trees</Term>; <b>{freeToGrow(desk.now.judgement)}</b> of them free to grow now{#if shown && shown.taken.size > 0},
        <b>{freeToGrow(judged)}</b> with “{shown.name}”: {shown.taken.size}
        {shown.taken.size === 1 ? 'tree' : 'trees'} taken, {(100 * judged.share).toFixed(0)} % of the <Term
          of="basalArea"
        />{/if}.
    </p>
  {/if}
  <button class="ml-auto link text-sm" onclick={() => map?.frame()}>Show all</button>
</div>
{#if bush.overview && desk.stands.length === 0}
  <p class="max-w-prose text-lg">
    A plan is made for a stand, and this bush has none yet. <a class="link" href="/bush/{bush.id}/map"
      >Draw one on the map</a
    >, and put its trees into it.
  </p>
{/if}
{#if warning.wait}
  <p class="caution mb-3 max-w-prose">
    {Math.round(100 * warning.stressedShare)} % of the trees that were looked at had a hard year: defoliation, drought or
    ice. Wait a year before you thin; the shock would come on top.
  </p>
{/if}
{#if desk.notYet && desk.refused === null}
  {@const { why, now, wanted, cruised } = desk.notYet}
  <div class="mb-3 max-w-prose border-l-4 border-primary pl-3" data-testid="not-yet">
    <p class="font-slab text-xl font-semibold">Do not thin yet</p>
    <p>
      {#if why === 'cover'}Only {Math.round(100 * now)} % of its ground lies under crowns, and {Math.round(
          100 * wanted
        )} % should stay so. Let the crowns close first.
      {:else if desk.limits.school === 'timber'}The trees in the book come to <b>{preferences.basalAreaDensity(now)}</b
        >. The timber guides leave a stand of this size alone below {preferences.basalAreaDensity(wanted)} to {preferences.basalAreaDensity(
          wanted + 1
        )}.
      {:else}Standing open, its crowns would cover {Math.round(100 * now)} % of the ground: there is no tree too many by the
        sugarbush guides.{/if}
      {#if why === 'stocking' && desk.limits.school === 'timber'}
        {#if cruised === null}Count a few plots: they tell whether the book is short of its trees.
        {:else if cruised >= wanted + 1}Plots found {preferences.basalAreaDensity(cruised)}: many of its trees are not
          in the book, and what a plan says holds where they are.
        {:else}Plots found {preferences.basalAreaDensity(cruised)}, no more than that.{/if}
      {/if}
      {now >= wanted
        ? 'You can still make a plan: it keeps these limits and takes little.'
        : 'No plan keeps these limits; they are yours to loosen.'}
      {desk.limits.school === 'timber' ? 'The sugarbush guides see it otherwise: try them beside it.' : ''}
    </p>
  </div>
{/if}
{#if desk.stand && throwsEasily(desk.stand) && desk.refused === null}
  <p class="mb-3 max-w-prose border-l-4 border-base-content pl-3" data-testid="windthrow">
    Its ground is {desk.stand.wetness === 'wet'
      ? 'wet'
      : desk.stand.soilDepth === 'shallow'
        ? 'shallow'
        : 'over a hard pan'}: roots hold badly, and wind throws trees whose neighbours are gone. No more than {Math.round(
      100 * WINDTHROW_SHARE
    )} % is taken at once here.
  </p>
{/if}
{#if desk.stand && isAcid(desk.stand)}
  <p class="mb-3 max-w-prose border-l-4 border-base-content pl-3">
    Its soil is acid (pH {desk.stand.soilPh}): sugar maple runs short of calcium on such ground. Look at the crowns
    every summer, and thin none that are dying back.
  </p>
{/if}
{#if desk.thin && desk.thin.clashes.length > 0 && desk.refused === null}
  <section class="mb-3 max-w-prose border-l-4 border-error pl-3" aria-labelledby="clashes" data-testid="clashes">
    <h2 id="clashes">Two wishes clash here: you decide</h2>
    <ul>
      {#each desk.thin.clashes as { row: tree, clash: says } (tree.id)}
        <li class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-base-300/60 py-1.5">
          <span class="grow"
            ><button class="link font-bold" onclick={() => (picked = tree.id)}
              >{tree.tagged === false ? 'without a tag' : tree.tag}</button
            >: {says}. No plan takes it.</span
          >
          {#if bush.mayDecide}
            {#if tree.mark !== 'keep'}<button class="btn btn-outline btn-sm" onclick={() => mark(tree.id, 'keep')}
                >Keep it</button
              >{/if}
            {#if !tree.fallen}<button class="btn btn-outline btn-sm" onclick={() => takeDespite(tree.id, says)}
                >Take it all the same</button
              >{/if}
          {/if}
        </li>
      {/each}
    </ul>
  </section>
{/if}
{#if desk.refused !== null}
  <p class="max-w-prose text-lg" data-testid="refused">{desk.refused}</p>
  {#if desk.stand && isSugarbush(desk.stand) && desk.thin && desk.thin.unknown.length > 0}
    <p class="mt-2 max-w-prose">
      Without a good map you can still free crowns: stand under each crop tree, look up, and fill its crown card side by
      side. The cards give the marks and the list.
      {#each desk.thin.unknown.slice(0, 12) as tree, i (tree.id)}{i > 0 ? ', ' : ''}<a
          class="link"
          href="/bush/{bush.id}/thin/{tree.id}">{tree.tag}</a
        >{/each}
    </p>
  {/if}
{/if}
<div class="grid gap-x-6 gap-y-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
  <div class="min-w-0">
    <div class="relative h-[36rem] overflow-hidden border border-base-300 max-md:h-[22rem]">
      {#key desk.stand?.id}
        <StandMap
          bind:this={map}
          {scene}
          {rings}
          stands={desk.stand ? [desk.stand] : []}
          features={bush.features}
          onpick={(id) => (picked = id)}
          hint={(tree) => (tree.tag === '' ? 'without a tag' : `tree ${tree.tag}`)}
        />
      {/key}
    </div>
    <p class="aside mt-1 flex flex-wrap gap-x-4 gap-y-0.5">
      <span><i class="swatch bg-secondary/45"></i> crop tree</span>
      <span><i class="swatch bg-primary/60"></i> taken</span>
      <span><i class="swatch bg-base-content/25"></i> stays, tall</span>
      <span><i class="swatch bg-base-content/10"></i> stays, low</span>
      <span>Arcs round a crop tree: green free, amber freed, broken blocked.</span>
      <span>Crown drawn broken: its place is rough.</span>
      <span
        >On the trunk: cross taken, bar girdled, square kept, eye watched, bracket braced, roof lived in, triangle
        hazard.</span
      >
      <label class="flex items-center gap-1.5"
        ><input type="checkbox" class="checkbox checkbox-xs" bind:checked={gaps} /> show gaps of {preferences.length(
          (desk.limits.openingM ?? 15) * 1000,
          'ground'
        )} and more</label
      >
    </p>
    {#if there !== null}
      <p class="mt-1" data-testid="rim">
        {#if there.length === 0}
          No gap of that width lies in this stand.
        {:else if rim.length === 0}
          {there.length}
          {there.length === 1 ? 'gap' : 'gaps'}; no tree that stays reaches a northern rim.
        {:else}
          {there.length}
          {there.length === 1 ? 'gap' : 'gaps'}. The southern sun comes in to the trees at the northern rim: {rim
            .map((id) => bush.byId.get(id))
            .map((row) => (row && row.tagged !== false ? row.tag : 'one without a tag'))
            .join(', ')}.
        {/if}
      </p>
    {/if}
    {#if row}
      <PickedTree
        {desk}
        {row}
        ontake={() => markAll([row.id])}
        onmark={(purpose) => mark(row.id, purpose)}
        onchoose={(choice) => choose(choice, [row.id])}
      />
    {/if}
  </div>
  <div class="flex min-w-0 flex-col gap-5">
    {#if desk.refused === null && desk.stand}
      <CropTrees {desk} onwrite={(ids) => choose('crop', ids)} />
      <section aria-labelledby="limits" class="flex flex-col gap-3">
        <h2 id="limits">What one entry may do</h2>
        {#if desk.work.done !== null}
          <p role="status" class="flex flex-wrap items-center gap-3" data-testid="solving">
            <span class="loading loading-sm" aria-hidden="true"></span>
            {#if desk.improving}Best so far: {desk.improving.taken.size} trees; at most {Number.isFinite(
                desk.improving.gap
              ) && desk.improving.gap < 10
                ? `${(100 * desk.improving.gap).toFixed(1)} %`
                : 'some'} from the best there is{:else}Weighing the trees against each other{/if}
            <button class="link" onclick={() => desk.work.stop()}>Stop</button>
          </p>
        {:else}
          <button class="btn self-start btn-primary" onclick={() => desk.makePlan()} disabled={desk.crops.size === 0}
            >{desk.plan ? 'Make the plan again' : 'Make the plan'}</button
          >
        {/if}
        <LimitSliders bind:limits={desk.limits} binding={desk.stale ? null : desk.binding} disabled={busy} />
        {#if bush.mayDecide && desk.differs && !busy}
          <button class="btn self-start btn-outline btn-sm" onclick={keepLimits}>Keep these limits for the bush</button>
        {/if}
        <label class="flex items-center gap-2 max-md:min-h-11"
          ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={desk.keepMarks} disabled={busy} />
          {desk.marked.size} marks to take go in any case</label
        >
        <label class="flex items-center gap-2 max-md:min-h-11"
          ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={desk.takeHazards} disabled={busy} /> hazards
          over a path, building or line go in any case, unless they are marked to keep or something lives in them</label
        >

        {#if desk.work.failed}<p role="alert" class="font-semibold text-error">
            That broke off by a fault. What was there is kept; try it again.
          </p>{/if}
        {#if desk.clash}
          <p role="alert" class="border-l-4 border-error pl-3" data-testid="clash">
            No choice of trees keeps all of this at once: {listed(desk.clash.map((id) => LIMIT_WORDS[id]))}
            {desk.clash.length === 1 ? 'cannot be kept.' : 'contradict each other.'} Loosen one of them; nothing was changed.
          </p>
        {:else if desk.plan && desk.stale}
          <p class="aside">Limits or crop trees have changed since the plan was made.</p>
        {:else if desk.plan}
          <p class="aside" data-testid="proven">
            {desk.plan.status === 'proven'
              ? desk.plan.gap < 0.0001
                ? 'Nothing better exists within these limits.'
                : `Proven to within ${(100 * desk.plan.gap).toFixed(2)} % of the best there is.`
              : `Stopped: it may fall ${(100 * desk.plan.gap).toFixed(1)} % short of the best there is.`}
            {#if desk.price.done !== null}Looking which limit binds …{:else if desk.binding?.length === 0}No limit holds
              it back.{/if}
          </p>
        {/if}
      </section>
    {/if}
  </div>
</div>

{#if desk.refused === null && shown && desk.now && desk.stand}
  <section class="mt-5" aria-labelledby="choices">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <h2 id="choices">Side by side</h2>
      {#if desk.plan && !busy}<button class="btn btn-outline btn-sm" onclick={() => desk.makeOthers()}
          >A lighter and a stronger one beside it</button
        >{/if}
      {#if bush.mayDecide && shown.taken.size > 0}
        <form
          class="flex items-center gap-2"
          onsubmit={(event) => {
            event.preventDefault();
            void keep();
          }}
        >
          <input
            class="input w-44 input-sm"
            maxlength="60"
            placeholder="a name for it"
            aria-label="Name to keep it under"
            bind:value={keptName}
          />
          <button class="btn btn-outline btn-sm">Keep “{shown.name}”</button>
        </form>
      {/if}
      {#if bush.mayDecide && unmarked.length > 0}
        <button class="btn btn-primary btn-sm" onclick={() => markAll(unmarked)}
          >Mark all {unmarked.length} of “{shown.name}” to take</button
        >
      {/if}
    </div>
    {#if desk.others !== ''}<p class="aside" role="status">{desk.others}</p>{/if}
    <ChoicesTable choices={desk.choices} now={desk.now} bind:shown={desk.shown} stand={desk.stand} />
    {#if sidesFreed(shown.judgement) > 0 || untagged > 0}
      <p class="aside mt-1.5 max-w-prose">
        {untagged > 0 ? `${untagged} trees of this stand have no tag and count all the same. ` : ''}Crowns freed in all:
        crop trees weighed by their points, less what the lost taps cost. Every choice is judged alike. No figure here
        says that a tree is safe to fell.
      </p>
    {/if}
  </section>
{/if}

<style>
  .swatch {
    display: inline-block;
    width: 0.8rem;
    height: 0.8rem;
    border-radius: 50%;
    border: 1px solid currentColor;
    vertical-align: -0.1rem;
  }
</style>
