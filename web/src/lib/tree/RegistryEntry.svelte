<script lang="ts">
  import { combinedDiameter } from '@baumkin/core/measure';
  import { baseOf, positionSd } from '@baumkin/core/stand';
  import { toast } from 'svelte-sonner';

  import { saved, undoable } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { lineDraft } from '$lib/client/recordDraft.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import { fromOrigin } from '$lib/words/fromOrigin.ts';

  import { PlaceAnswer } from './placeAnswer.svelte.ts';
  import PlaceInput from './PlaceInput.svelte';
  import TreeForm from './TreeForm.svelte';

  /** The tree's line in the registry: tag, stand, place and how well it is known, the stems of its base, its neighbours. */
  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const row = $derived(bush.byId.get(treeId)!);
  const entry = $derived(bush.stateOf(treeId).entry);
  const spot = $derived(row.eastM === null || row.northM === null ? null : { eastM: row.eastM, northM: row.northM });
  const metres = (m: number) => preferences.length(m * 1000, 'ground');

  const stems = $derived(bush.rows.filter((other) => baseOf(other) === baseOf(row)));
  const sized = $derived(stems.flatMap((stem) => stem.dbhMm ?? []));
  const sd = $derived(row.positionQuality ? positionSd({ ...row, positionQuality: row.positionQuality }) : null);

  type Doing = 'place' | 'line' | 'stem' | 'neighbour' | null;
  let doing = $state<Doing>(null);
  let given = $state.raw(new PlaceAnswer(bush));
  let tag = $state('');
  let standId = $state('');
  let after = $state('');

  const before = $derived(bush.rows[bush.rows.findIndex((r) => r.id === treeId) - 1] ?? null);
  const holder = $derived(
    bush.rows.find((other) => other.id !== treeId && other.tag.toLowerCase() === tag.trim().toLowerCase())
  );
  const afterRow = $derived(bush.rows.find((other) => other.tag.toLowerCase() === after.trim().toLowerCase()) ?? null);

  function begin(what: Doing): void {
    doing = doing === what ? null : what;
    tag = row.tag;
    standId = row.standId ?? '';
    after = before?.tag ?? '';
    given = new PlaceAnswer(bush, before?.tag);
  }

  async function savePlace(): Promise<void> {
    const { place } = given;
    if (!place) return;
    const record = await bush.record(treeId, { kind: 'place', ...place });
    doing = null;
    saved(bush, `Tree ${row.tag}: its place is written down.`, record);
  }

  async function saveLine(): Promise<void> {
    if (tag.trim() !== row.tag || (standId || null) !== row.standId)
      await bush.record(treeId, { ...lineDraft(row, entry), tag: tag.trim(), tagged: true, standId: standId || null });
    if (afterRow && afterRow.id !== treeId && afterRow.id !== before?.id) {
      const others = bush.rows.filter((other) => other.id !== treeId).map((other) => other.id);
      others.splice(others.indexOf(afterRow.id) + 1, 0, treeId);
      const problem = await bush.change.walk(others);
      if (problem) toast.error(problem);
    }
    doing = null;
    toast.success('The line in the book is changed; the old one is kept.');
  }

  async function takeOut(): Promise<void> {
    if (!entry) return;
    // The tree's line is gone once it is out of the registry: what Undo needs is held before.
    const [opened, id, held] = [bush, treeId, lineDraft(row, entry)];
    const record = await opened.record(id, { ...held, withdrawn: true });
    undoable(
      `${held.tag} is out of the book. Its records are kept.`,
      () => opened.record(id, { ...held, correctsId: record.id }),
      { duration: 15_000 }
    );
  }
</script>

<section aria-labelledby="book" data-testid="book">
  <h2 id="book">Place and stems</h2>
  <p>
    {#if spot === null}
      It has no place on the map yet: its neighbours are not known.
    {:else}
      {fromOrigin(spot)} of the origin, {row.positionQuality ?? 'paced'}: within about {metres(
        sd ?? 1
      )}.{#if sd !== null && sd > 2}
        Too rough to say whose crowns touch.{/if}
    {/if}
    {#if !row.tagged}It has no tag: it is in the book for the crowns that it presses on.{/if}
  </p>
  {#if stems.length > 1}
    <p>
      {stems.length} stems of one base: {#each stems as stem, i (stem.id)}{i === 0
          ? ''
          : ', '}{#if stem.id === treeId}<b>{stem.tag}</b>{:else}<a
            class="link"
            href="/bush/{bush.id}/measure/{stem.id}">{stem.tag}</a
          >{/if}{/each}.
      {#if sized.length > 1}Together as thick as one trunk of {preferences.length(
          combinedDiameter(sized),
          'trunk'
        )}.{/if}
      They share a crown and do not compete.
    </p>
  {/if}
  {#if bush.mayRecord}
    <div class="mt-2 flex flex-wrap gap-2">
      {#each [['place', row.eastM === null ? 'Give its place' : 'Place it anew'], ['stem', 'Another stem'], ['neighbour', 'A neighbour without a tag'], ['line', 'Tag, stand, walk']] as const as [what, label] (what)}
        <button class="btn btn-outline btn-sm" aria-expanded={doing === what} onclick={() => begin(what)}
          >{label}</button
        >
      {/each}
    </div>
    {#if doing === 'place'}
      <form
        class="mt-3 flex flex-col gap-3"
        onsubmit={(event) => {
          event.preventDefault();
          void savePlace();
        }}
      >
        <PlaceInput answer={given} />
        <button class="btn self-start btn-primary btn-sm" disabled={!given.place}>Write it down</button>
      </form>
    {:else if doing === 'stem' || doing === 'neighbour'}
      <div class="mt-3">
        {#key doing}<TreeForm
            kind={doing}
            beside={row}
            ondone={() => (doing = doing === 'stem' ? null : doing)}
          />{/key}
      </div>
    {:else if doing === 'line'}
      <form
        class="mt-3 flex flex-col gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void saveLine();
        }}
      >
        <label class="flex items-center gap-3"
          ><span class="w-28">Tag</span><input class="input w-40" maxlength="20" bind:value={tag} /></label
        >
        {#if holder}<p role="alert" class="font-semibold text-error">
            The tag {holder.tag} hangs on another tree already.
          </p>{/if}
        <label class="flex items-center gap-3"
          ><span class="w-28">Stand</span>
          <select class="select w-40" bind:value={standId}>
            <option value="">none</option>
            {#each bush.overview?.stands ?? [] as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
          </select></label
        >
        {#if bush.mayDecide}
          <label class="flex items-center gap-3"
            ><span class="w-28">Walked after</span><input class="input w-40" maxlength="20" bind:value={after} /></label
          >
        {/if}
        <div class="flex flex-wrap gap-2">
          <button class="btn btn-primary btn-sm" disabled={tag.trim() === '' || holder !== undefined}
            >Change the line</button
          >
          {#if entry && bush.mayTakeBack(entry)}<button type="button" class="btn btn-outline btn-sm" onclick={takeOut}
              >Take it out of the book</button
            >{/if}
        </div>
      </form>
    {/if}
  {/if}
</section>
