<script lang="ts">
  import { wayTo } from '@baumkin/core/bush';
  import { speciesById } from '@baumkin/core/identify';
  import { toLocalMetres } from '@baumkin/core/geometry';
  import { compassPoint } from '@baumkin/core/math';
  import { tagKey, type TreeRow } from '@baumkin/core/records';

  import MapPin from '@lucide/svelte/icons/map-pin';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { Receiver } from '$lib/devices/receiver.svelte.ts';
  import ModalDialog from '$lib/ui/ModalDialog.svelte';
  import NumberPad from '$lib/ui/NumberPad.svelte';

  /** A tree by its tag, on a pad of numbers where there are no keys; before anything is typed, those that stand next to the last one. */
  let {
    open = $bindable(),
    near,
    onchoose
  }: { open: boolean; near: string | null; onchoose: (treeId: string) => void } = $props();
  const bush = useBush();
  const MOST = 8;
  let wanted = $state('');
  let field = $state<HTMLInputElement>();
  /** letters are typed on the device's own keys */
  let letters = $state(false);

  interface Found {
    readonly row: TreeRow;
    readonly says: string;
  }
  const found = $derived.by((): Found[] => {
    const text = wanted.trim().toLowerCase();
    if (text === '') return nearest;
    const starts = bush.rows.filter((row) => row.tag.toLowerCase().startsWith(text));
    return starts
      .sort((a, b) => a.tag.length - b.tag.length)
      .slice(0, MOST)
      .map((row) => ({ row, says: row.dbhMm ? preferences.length(row.dbhMm, 'trunk') : '' }));
  });
  const here = $derived(near === null ? null : (bush.byId.get(near) ?? null));
  const receiver = new Receiver();
  $effect(() => {
    if (!open) receiver.stop();
  });
  const origin = $derived(bush.overview?.bush.origin ?? null);
  /** where the device says that she stands; null where it was not asked, or does not tell */
  const stands = $derived.by(() => {
    const { mean } = receiver;
    if (!mean || !origin || receiver.source === null) return null;
    return { ...toLocalMetres(origin, mean), positionQuality: 'phone' as const, positionAccuracyM: mean.accuracyM };
  });
  const from = $derived(stands ?? here);
  const nearest = $derived.by((): Found[] => {
    if (!open || !from) return [];
    return bush.walked
      .flatMap((row) => {
        const way = row.id === here?.id && !stands ? null : wayTo(from, row);
        return way ? [{ row, way }] : [];
      })
      .sort((a, b) => a.way.metres - b.way.metres)
      .slice(0, MOST)
      .map(({ row, way: { metres, bearingDeg } }) => ({
        row,
        says: `${preferences.length(1000 * metres, 'way')}${bearingDeg === null ? '' : ` ${compassPoint(bearingDeg)}`}`
      }));
  });

  const isTaken = $derived(bush.rows.some(({ tag }) => tagKey(tag) === tagKey(wanted.trim())));
  /** A tree that is not in the book yet: it is walked after the one where she was last. */
  async function addHere(): Promise<void> {
    const treeId = crypto.randomUUID();
    const tag = wanted.trim();
    const record = await bush.record(treeId, {
      kind: 'entry',
      tag,
      tagged: true,
      standId: here?.standId ?? null,
      stemOf: null,
      afterId: here?.id ?? null,
      note: ''
    });
    saved(bush, `Tree ${tag} is in the book.`, record);
    choose(treeId);
  }

  function choose(treeId: string): void {
    wanted = '';
    open = false;
    onchoose(treeId);
  }
  function write(): void {
    letters = true;
    field?.blur();
    // The keys come only with a focus that is new.
    setTimeout(() => field?.focus());
  }
</script>

<ModalDialog bind:open title="Find a tree by its tag">
  <form
    onsubmit={(event) => {
      event.preventDefault();
      if (wanted.trim() !== '' && found[0]) choose(found[0].row.id);
    }}
  >
    <input
      class="input w-full max-md:h-14 max-md:text-2xl"
      aria-label="Tag"
      autocomplete="off"
      inputmode={letters ? 'text' : 'none'}
      bind:this={field}
      bind:value={wanted}
    />
  </form>
  <div class="mt-2 hidden pointer-coarse:block">
    <NumberPad
      onkey={(digit) => (wanted += digit)}
      ondelete={() => (wanted = wanted.slice(0, -1))}
      extra={{ label: 'abc', press: write }}
    />
  </div>
  {#if wanted.trim() === '' && origin && receiver.source === null}<button
      class="btn mt-3 min-h-12 w-full"
      onclick={() => receiver.ownPhone()}><MapPin size={18} /> Nearest to where I stand</button
    >{/if}
  {#if wanted.trim() === ''}
    {#if receiver.problem}<p role="alert" class="mt-3 font-semibold text-error">{receiver.problem}</p>
    {:else if receiver.source !== null && !stands}<p role="status" class="mt-3">Finding out where you stand …</p>{/if}
    {#if found.length > 0}<p class="mt-3 font-semibold">
        {stands
          ? `Next to you, within about ${preferences.length(1000 * stands.positionAccuracyM, 'ground')}`
          : `Next to tree ${here?.tag}`}
      </p>{/if}
  {/if}
  <ul class="mt-2" data-testid="found">
    {#each found as { row, says } (row.id)}
      <li>
        <button
          class="flex min-h-12 w-full items-center gap-3 px-2 text-left hover:bg-base-200 max-md:text-lg"
          onclick={() => choose(row.id)}
        >
          <b class="min-w-12">{row.tag}</b>
          <span>{row.species ? speciesById(row.species).name : 'unsettled'}</span>
          <span class="ml-auto">{says}</span>
        </button>
      </li>
    {/each}
  </ul>
  {#if wanted.trim() !== '' && !isTaken}
    {#if found.length === 0}<p class="px-2">No tree has a tag that starts like that.</p>{/if}
    {#if bush.mayRecord}<button class="btn mt-2 h-auto min-h-14 w-full text-base leading-tight" onclick={addHere}
        >Add tree {wanted.trim()} to the book{here ? `, next to ${here.tag}` : ''}</button
      >{/if}
  {/if}
</ModalDialog>
