<script lang="ts">
  import {
    CLEAR_TREE_LENGTHS,
    crownSides,
    heightOf,
    knownMaple,
    removal,
    REMOVAL_LIMIT,
    SIDES,
    SIDES_WANTED,
    positionSd,
    speciesById,
    TOUCHING_M,
    withinReach,
    type Competitor,
    type Side
  } from '@baumkin/core';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import CrownPlan from './CrownPlan.svelte';
  import { standTrees } from './standTrees.ts';

  const { treeId }: { treeId: string } = $props();
  const bush = $derived(useBush());
  const row = $derived(bush.byId.get(treeId)!);
  const mapped = $derived(standTrees(bush.rows));
  const subject = $derived(mapped.find((t) => t.id === treeId) ?? null);
  const taken = $derived(new Set(bush.rows.filter((r) => r.mark === 'take').map((r) => r.id)));
  const sides = $derived(subject ? crownSides(subject, mapped, taken) : null);
  const stand = $derived(bush.standOf(row));
  const inStand = $derived(
    bush.rows.flatMap((r) => (r.standId === row.standId && r.dbhMm !== null ? [{ id: r.id, dbhMm: r.dbhMm }] : []))
  );
  const out = $derived(removal(inStand, taken));
  const maple = $derived(knownMaple(row));
  /** Maples in whose light this tree stands, with the side that it blocks. */
  const crowds = $derived.by(() => {
    if (!subject) return [];
    const maples = new Set(bush.rows.filter((r) => knownMaple(r) === true).map((r) => r.id));
    return mapped.flatMap((crop) => {
      if (crop.id === subject.id || !maples.has(crop.id)) return [];
      const own = crownSides(crop, [subject], new Set());
      return own.known && own.competitors[0] ? [{ crop, side: own.competitors[0].side }] : [];
    });
  });
  const reaches = $derived(
    subject ? withinReach(subject.eastM, subject.northM, heightOf(subject), bush.features, positionSd(subject)) : []
  );
  const metres = (m: number) => preferences.length(m * 1000, 'ground');

  async function mark(id: string, purpose: 'take' | 'keep' | 'none', reason: string): Promise<void> {
    const other = bush.byId.get(id)!;
    await bush.loadTree(id);
    const record = await bush.record(id, { kind: 'mark', purpose, reason, reviewOn: null, leanDeg: null });
    const said = { take: 'marked to take', keep: 'marked to keep', none: 'no longer marked' }[purpose];
    toast.success(`Tree ${other.tag}: ${said}.`, {
      action: { label: 'Undo', onClick: () => void bush.withdraw(record) }
    });
  }

  function toggle(id: string): void {
    if (!bush.mayDecide || id === treeId) return;
    const now = bush.byId.get(id)!.mark;
    if (now === 'keep') {
      toast.info(`Tree ${bush.byId.get(id)!.tag} is marked to keep. Take that mark off first, on its own sheet.`);
      return;
    }
    void mark(id, now === 'take' ? 'none' : 'take', now === 'take' ? '' : `crowds tree ${row.tag}`);
  }

  const name = (c: Competitor) => (c.tree.species ? speciesById(c.tree.species).name : 'species unsettled');
  const gap = (c: Competitor) =>
    c.gapM <= 0 ? `crowns overlap by ${metres(-c.gapM)}` : `${metres(c.gapM)} between the crowns`;
  const SIDE_NAME: Record<Side, string> = { north: 'North', east: 'East', south: 'South', west: 'West' };
</script>

{#if stand?.purpose === 'wildlife'}
  <p class="caution mb-4 max-w-prose">
    {stand.name} is left for wildlife: nothing is thinned here for maples. What you see is for looking.
  </p>
{/if}
{#if !subject || !sides}
  <p class="max-w-prose">
    {#if row.dbhMm === null}How far its crown reaches depends on how thick it is. <a
        class="link"
        href="/bush/{bush.id}/measure/{treeId}">Measure this tree first</a
      >.
    {:else}This tree has no place on the map, so its neighbours are not known. Positions come in with a <a
        class="link"
        href="/bush/{bush.id}/exchange">file of trees</a
      >.{/if}
  </p>
{:else}
  <div class="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,35rem)_minmax(20rem,1fr)]">
    <section aria-label="Seen from above" class="min-w-0">
      <CrownPlan
        {subject}
        trees={mapped}
        features={bush.features}
        {sides}
        {taken}
        kept={new Set(bush.rows.filter((r) => r.mark === 'keep').map((r) => r.id))}
        ontoggle={toggle}
      />
      <p class="aside mt-1.5">
        Crowns to scale: as measured, or from the trunk’s diameter. A neighbour counts when its crown comes within {metres(
          TOUCHING_M
        )} and it is not clearly shorter.
      </p>
    </section>
    <section class="flex flex-col gap-4" aria-label="Crown sides">
      {#if !sides.known}
        <p class="border-l-4 border-primary pl-3">
          <b>The positions are too rough</b> to say whose crowns touch. Stand under the tree, look up and decide side by side.
        </p>
      {:else}
        <p class="font-slab text-2xl font-semibold" data-testid="free-sides">
          {sides.freeSides} of 4 sides free
        </p>
        {#if maple === false}
          <p>It is no maple, so its own light is not the question; whose light it takes is.</p>
        {:else if sides.freeSides >= SIDES_WANTED}
          <p>Its crown is free to grow: three or four free sides are the aim.</p>
        {:else}
          <p>Three or four free sides are the aim: free {SIDES_WANTED - sides.freeSides} more to release this crown.</p>
        {/if}
        {#if crowds.length > 0}
          <p data-testid="crowds">
            It stands in the light of
            {#each crowds as { crop, side }, i (crop.id)}{i === 0 ? '' : i === crowds.length - 1 ? ' and ' : ', '}<a
                class="link"
                href="/bush/{bush.id}/thin/{crop.id}">{crop.tag}</a
              >
              (its {side} side){/each}.
          </p>
        {/if}
        <dl class="flex flex-col gap-2">
          {#each SIDES as side (side)}
            {@const all = sides.competitors.filter((c) => c.side === side)}
            <div class="grid grid-cols-[3.6rem_1fr] gap-x-2">
              <dt class="font-bold">{SIDE_NAME[side]}</dt>
              <dd>
                {#each all as competitor (competitor.tree.id)}
                  {@const marked = taken.has(competitor.tree.id)}
                  <div class="flex items-start justify-between gap-2">
                    <span class={marked ? 'line-through' : ''}>
                      <a class="link" href="/bush/{bush.id}/thin/{competitor.tree.id}">{competitor.tree.tag}</a>
                      {name(competitor)}, {preferences.length(competitor.tree.dbhMm, 'trunk')}<span class="aside block"
                        >{metres(competitor.distanceM)} away, {gap(competitor)}</span
                      >
                    </span>
                    {#if bush.mayDecide}
                      <button
                        class="btn btn-sm {marked ? 'btn-neutral' : 'btn-outline'}"
                        onclick={() => toggle(competitor.tree.id)}
                        aria-label="{marked ? 'Unmark' : 'Take'} tree {competitor.tree.tag}"
                        >{marked ? 'Unmark' : 'Take'}</button
                      >
                    {/if}
                  </div>
                {:else}free{/each}
              </dd>
            </div>
          {/each}
        </dl>
      {/if}
      <div data-testid="removal">
        <h2>What the marks take out of {stand?.name ?? 'the bush'}</h2>
        <div class="relative my-1.5 h-4 bg-base-300" aria-hidden="true">
          <div
            class="absolute inset-y-0 left-0 {out.overLimit ? 'bg-error' : 'bg-neutral'}"
            style:width="{Math.min(100, out.share * 200)}%"
          ></div>
          <div class="absolute -inset-y-1 w-0.5 bg-base-content" style:left="{REMOVAL_LIMIT * 200}%"></div>
        </div>
        <p>
          <b>{(out.share * 100).toFixed(1)} %</b> of the basal area: {out.trees}
          {out.trees === 1 ? 'tree' : 'trees'}, {preferences.basalArea(out.basalAreaM2)}.
          {out.overLimit
            ? 'That is more than one entry should take: the rest would stand in shock. Spread it over ten years.'
            : `One entry takes at most about ${REMOVAL_LIMIT * 100} % of the tagged trees’ basal area.`}
        </p>
      </div>
      {#if bush.mayDecide}
        <div class="flex flex-wrap gap-2">
          {#if row.mark === 'take' || row.mark === 'keep'}
            <button class="btn btn-outline btn-sm" onclick={() => mark(treeId, 'none', '')}
              >Take the “{row.mark}” mark off this tree</button
            >
          {:else}
            <button class="btn btn-outline btn-sm" onclick={() => mark(treeId, 'keep', 'kept by the steward')}
              >Keep this tree</button
            >
            <button class="btn btn-outline btn-sm" onclick={() => mark(treeId, 'take', 'marked on its own sheet')}
              >Take this tree</button
            >
          {/if}
        </div>
      {/if}
      {#if reaches.length > 0}
        <p class="caution" data-testid="within-reach">
          <b>For trained fallers.</b> Within {CLEAR_TREE_LENGTHS === 2 ? 'two' : CLEAR_TREE_LENGTHS} lengths of this tree,
          about
          {metres(heightOf(subject))}{subject.heightM === null ? ' tall by its diameter' : ' tall'}: {#each reaches as { feature, distanceM, withinOneLength }, i (feature.id)}{i ===
            0
              ? ''
              : '; '}{feature.name}, {metres(distanceM)} away{withinOneLength ? ', which it can hit' : ''}{/each}.
        </p>
      {/if}
      <p class="caution">
        Felling kills. No figure here says that a tree is safe to fell. Dead tops, hollow butts, leaners and hung-up
        trees are for trained fallers. Keep two tree lengths clear; helmet, eye, ear and leg protection; never alone; a
        way of retreat. Nests, dens, boundaries and local rules come first.
      </p>
    </section>
  </div>
{/if}
