<script lang="ts">
  import { freeToGrow, reasonsFor, sidesReleased } from '@baumkin/core/thinning';
  import { onDestroy, onMount } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { saved } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import Term from '$lib/ui/Term.svelte';

  import ChoicesTable from './ChoicesTable.svelte';
  import CropTrees from './CropTrees.svelte';
  import { deskOf } from './desk.svelte.ts';
  import LimitSliders from './LimitSliders.svelte';
  import { markTrees } from './marks.ts';
  import PickedTree from './PickedTree.svelte';
  import PlanAdvice from './PlanAdvice.svelte';
  import PlanMap from './PlanMap.svelte';
  import NoStand from './NoStand.svelte';
  import StandPicker from './StandPicker.svelte';
  import { LIMIT_WORDS, reasonWords } from '$lib/labels/thinning.ts';
  import { listed } from '../words/listed.ts';

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
  let map = $state<PlanMap | null>(null);
  const busy = $derived(desk.work.done !== null);
  const shown = $derived(desk.choice);

  const row = $derived(picked === null ? null : (bush.byId.get(picked) ?? null));
  async function take(ids: readonly string[]): Promise<void> {
    const { thin } = desk;
    if (!thin || !shown) return;
    const { name, taken } = shown;
    const reasonOf = (id: string) => reasonWords(reasonsFor(thin.plan, id, taken), (tree) => bush.tagOf(tree)) || name;
    await markTrees(bush, ids, 'take', { reasonOf });
  }

  async function choose(choice: 'crop' | 'veto' | 'none', ids: readonly string[]): Promise<void> {
    const records = await bush.recordAll(
      ids.map((id) => ({ treeId: id, draft: { kind: 'cropChoice' as const, choice, reason: '' } }))
    );
    const what = { crop: 'chosen as crop tree', veto: 'never a crop tree', none: 'left to be judged' }[choice];
    saved(bush, `${ids.length === 1 ? `Tree ${bush.tagOf(ids[0]!)}` : `${ids.length} trees`}: ${what}.`, ...records);
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
    saved(bush, 'Kept, to be compared.', record);
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

{#if bush.overview && desk.stands.length === 0}
  <NoStand title="No stand to plan for" />
{:else}
  <h1 class="sr-only">The plan</h1>
  <div class="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <StandPicker {desk} />
    {#if busy && desk.proposed.length === 0}
      <p class="aside">choosing crop trees …</p>
    {:else if desk.refused === null && judged && desk.now}
      <p data-testid="in-short">
        <b>{desk.crops.size}</b>
        <Term of="cropTree">crop trees</Term>; <b>{freeToGrow(desk.now.judgement)}</b> of them free to grow now{#if shown && shown.taken.size > 0},
          <b>{freeToGrow(judged)}</b> with “{shown.name}”: {counted(shown.taken.size, 'tree')} taken, {(
            100 * judged.share
          ).toFixed(0)} % of the <Term of="basalArea" />{/if}.
      </p>
    {/if}
    <button class="ml-auto link text-sm" onclick={() => map?.frame()}>Show all</button>
  </div>
  <PlanAdvice {desk} onpick={(id) => (picked = id)} />
  <div class="grid gap-x-6 gap-y-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
    <div class="min-w-0">
      <PlanMap bind:this={map} {desk} bind:picked />
      {#if row}
        <PickedTree
          {desk}
          {row}
          ontake={() => take([row.id])}
          onmark={(purpose) => markTrees(bush, [row.id], purpose)}
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
            <button class="btn self-start btn-outline btn-sm" onclick={keepLimits}
              >Keep these limits for the bush</button
            >
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
              {desk.plan.status === 'optimal'
                ? desk.plan.gap < 0.0001
                  ? 'Nothing better exists within these limits.'
                  : `Proven to within ${(100 * desk.plan.gap).toFixed(2)} % of the best there is.`
                : `Stopped: it may fall ${(100 * desk.plan.gap).toFixed(1)} % short of the best there is.`}
              {#if desk.price.done !== null}Looking which limit binds …{:else if desk.binding?.length === 0}No limit
                holds it back.{/if}
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
          <button class="btn btn-primary btn-sm" onclick={() => take(unmarked)}
            >Mark all {unmarked.length} of “{shown.name}” to take</button
          >
        {/if}
      </div>
      {#if desk.others !== ''}<p class="aside" role="status">{desk.others}</p>{/if}
      <ChoicesTable choices={desk.choices} now={desk.now} bind:shown={desk.shown} stand={desk.stand} />
      {#if sidesReleased(shown.judgement) > 0 || untagged > 0}
        <p class="aside mt-1.5 max-w-prose">
          {untagged > 0 ? `${untagged} trees of this stand have no tag and count all the same. ` : ''}Crowns freed in
          all: crop trees weighed by their points, less what the lost taps cost. Every choice is judged alike. No figure
          here says that a tree is safe to fell.
        </p>
      {/if}
    </section>
  {/if}
{/if}
