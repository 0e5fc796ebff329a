<script lang="ts">
  import { SPECIES } from '@baumkin/core/identify';
  import { toDiameter } from '@baumkin/core/measure';
  import type { TreeRow } from '@baumkin/core/records';
  import { SIDES, type Side } from '@baumkin/core/stand';
  import { parseTrunkLength, UnreadableLength } from '@baumkin/core/units';
  import type { SeenBlocker, SideSeen } from '@baumkin/core/thinning';
  import { untrack } from 'svelte';

  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { saved } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /** Stand under the tree, look up: each side free or blocked, and by what. Goes before anything the map makes of it. */
  const { row, ondone }: { row: TreeRow; ondone: () => void } = $props();
  const bush = useBush();
  const before = untrack(() => row.crownCard);
  let sides = $state<Record<Side, SideSeen>>(
    untrack(() => ({
      north: before?.north ?? null,
      east: before?.east ?? null,
      south: before?.south ?? null,
      west: before?.west ?? null
    }))
  );
  let blockers = $state<SeenBlocker[]>(untrack(() => [...(before?.blockers ?? [])]));
  let adding = $state<Side | null>(null);
  let tag = $state('');
  let species = $state('');
  let size = $state('');
  let problem = $state<string | null>(null);
  const NAME: Record<Side, string> = { north: 'North', east: 'East', south: 'South', west: 'West' };

  function say(side: Side, seen: SideSeen): void {
    sides[side] = sides[side] === seen ? null : seen;
    if (sides[side] === 'blocked') adding = side;
    else {
      blockers = blockers.filter((b) => b.side !== side);
      if (adding === side) adding = null;
    }
  }

  function add(): void {
    if (!adding) return;
    problem = null;
    const other = tag.trim() === '' ? null : bush.rows.find((r) => r.tag.toLowerCase() === tag.trim().toLowerCase());
    if (other === undefined || other?.id === row.id) {
      problem = `No other tree stands here under the tag ${tag.trim()}. Leave the tag empty for one without.`;
      return;
    }
    let dbhMm: number | null = null;
    if (other === null && size.trim() !== '')
      try {
        const { valueMm, quantity } = parseTrunkLength(size, preferences.trunkUnit);
        dbhMm = toDiameter(valueMm, quantity ?? 'diameter');
      } catch (error) {
        if (!(error instanceof UnreadableLength)) throw error;
        problem = error.message;
        return;
      }
    const known = SPECIES.find(({ id }) => id === species)?.id ?? null;
    blockers = [
      ...blockers,
      {
        side: adding,
        treeId: other?.id ?? null,
        species: other ? other.species : known,
        dbhMm,
        fate: 'stands'
      }
    ];
    tag = '';
    species = '';
    size = '';
  }

  async function save(): Promise<void> {
    await bush.loadTree(row.id);
    const record = await bush.record(row.id, {
      kind: 'crownCard',
      ...$state.snapshot(sides),
      blockers: $state.snapshot(blockers),
      note: ''
    });
    saved(bush, `The crown card of tree ${row.tag} is kept.`, record);
    ondone();
  }

  const says = (blocker: SeenBlocker) => {
    const name = SPECIES.find(({ id }) => id === blocker.species)?.name ?? 'species not noted';
    return blocker.treeId
      ? `tree ${bush.byId.get(blocker.treeId)?.tag ?? '?'}, ${name}`
      : `${name}, no tag${blocker.dbhMm ? `, about ${preferences.length(blocker.dbhMm, 'trunk')}` : ''}`;
  };
</script>

<form
  class="flex flex-col gap-3"
  data-testid="crown-card"
  onsubmit={(event) => {
    event.preventDefault();
    void save();
  }}
>
  <p class="aside">
    Stand under it and look up. A side is blocked when a crown as high as this one comes within an arm’s length or two.
  </p>
  {#each SIDES as side (side)}
    <div class="border-b border-base-300/60 pb-2">
      <div class="flex items-center gap-3">
        <span class="w-14 font-bold">{NAME[side]}</span>
        <ToggleGroup
          look="boxes"
          label="{NAME[side]} side"
          options={[
            { id: 'free', label: 'free' },
            { id: 'blocked', label: 'blocked' }
          ]}
          bind:value={() => sides[side] ?? null, (seen) => say(side, seen)}
        />
        {#if sides[side] === 'blocked' && adding !== side}<button
            type="button"
            class="link"
            onclick={() => (adding = side)}>by what?</button
          >{/if}
      </div>
      {#each blockers as blocker, i (i)}
        {#if blocker.side === side}
          <div class="mt-1.5 flex flex-wrap items-center gap-2 pl-[4.25rem]">
            <span class={blocker.fate === 'gone' ? 'line-through' : ''}>{says(blocker)}</span>
            {#if blocker.treeId === null}
              <label class="flex items-center gap-1.5"
                ><input
                  type="checkbox"
                  class="checkbox checkbox-sm"
                  checked={blocker.fate === 'take'}
                  disabled={!bush.mayDecide}
                  onchange={(event) =>
                    (blockers[i] = { ...blocker, fate: event.currentTarget.checked ? 'take' : 'stands' })}
                /> take it</label
              >
            {/if}
            <button type="button" class="link text-sm" onclick={() => (blockers = blockers.filter((_, k) => k !== i))}
              >Not this one</button
            >
          </div>
        {/if}
      {/each}
      {#if adding === side && sides[side] === 'blocked'}
        <div class="mt-2 flex flex-wrap items-end gap-2 pl-[4.25rem]">
          <label class="flex flex-col gap-0.5 text-sm"
            >Tag, if it has one <input class="input w-24" bind:value={tag} /></label
          >
          {#if tag.trim() === ''}
            <label class="flex flex-col gap-0.5 text-sm"
              >Species <select class="select w-36" bind:value={species}
                ><option value="">not noted</option>{#each SPECIES as each (each.id)}<option value={each.id}
                    >{each.name}</option
                  >{/each}</select
              ></label
            >
            <label class="flex flex-col gap-0.5 text-sm"
              >About how thick <input
                class="input w-24"
                placeholder="{preferences.trunkUnit} across"
                bind:value={size}
              /></label
            >
          {/if}
          <button type="button" class="btn btn-outline btn-sm" onclick={add}>Add</button>
          {#if problem !== null}<p role="alert" class="w-full text-sm font-semibold text-error">{problem}</p>{/if}
        </div>
      {/if}
    </div>
  {/each}
  <div class="flex gap-2">
    <button class="btn btn-primary" disabled={SIDES.every((side) => sides[side] === null)}>Keep the card</button>
    <button type="button" class="btn btn-ghost" onclick={ondone}>Cancel</button>
  </div>
</form>
