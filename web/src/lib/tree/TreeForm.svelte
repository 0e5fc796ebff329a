<script lang="ts">
  import { insideOutline } from '@baumkin/core/geometry';
  import { SPECIES, type SpeciesId } from '@baumkin/core/identify';
  import { toDiameter } from '@baumkin/core/measure';
  import { declaration, type TreeRow } from '@baumkin/core/records';
  import { parseTrunkLength, UnreadableLength, type TrunkQuantity } from '@baumkin/core/units';
  import { untrack } from 'svelte';

  import { saved } from '$lib/client/saved.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  import { PlaceAnswer, type GivenPlace } from './placeAnswer.svelte.ts';
  import PlaceInput from './PlaceInput.svelte';

  /** A new tree: tagged, a neighbour noted in passing, or another stem of a base. One form, one save. */
  const {
    kind,
    beside = null,
    tapped = null,
    ondone
  }: {
    kind: 'tree' | 'neighbour' | 'stem';
    /** the tree that it is a neighbour or a stem of */
    beside?: TreeRow | null;
    tapped?: { readonly eastM: number; readonly northM: number } | null;
    ondone?: (treeId: string) => void;
  } = $props();
  const bush = useBush();

  let tag = $state(untrack(suggestedTag));
  let species = $state<SpeciesId | 'maple' | ''>(untrack(() => (kind === 'stem' ? (beside?.species ?? '') : '')));
  let quantity = $state<TrunkQuantity>(untrack(() => (kind === 'neighbour' ? 'diameter' : 'girth')));
  let size = $state('');
  let standId = $state<string>('auto');
  const given = new PlaceAnswer(
    bush,
    untrack(() => beside?.tag),
    () => tapped
  );
  const place = $derived(given.place);

  function suggestedTag(): string {
    const taken = new Set(bush.rows.map((row) => row.tag.toLowerCase()));
    if (kind === 'tree') {
      const numbers = bush.rows.map((row) => Number(row.tag)).filter(Number.isInteger);
      return numbers.length > 0 ? String(Math.max(...numbers) + 1) : '1';
    }
    const letters = 'abcdefghijklmnopqrstuvwxyz';
    const from = kind === 'stem' ? 1 : 0;
    const name = (letter: string) => (kind === 'stem' ? `${beside!.tag}${letter}` : `by ${beside!.tag} ${letter}`);
    return (
      [...letters]
        .slice(from)
        .map(name)
        .find((t) => !taken.has(t.toLowerCase())) ?? ''
    );
  }

  const holder = $derived(bush.rows.find((row) => row.tag.toLowerCase() === tag.trim().toLowerCase()));
  /** The stand whose outline the place lies in. */
  const standHere = $derived.by(() => {
    const stands = bush.overview?.stands ?? [];
    const inside = place && stands.find((s) => s.outline && insideOutline([place.eastM, place.northM], s.outline));
    return inside ?? (beside ? bush.standOf(beside) : null);
  });
  const measured = $derived.by(() => {
    if (size.trim() === '') return null;
    try {
      const length = parseTrunkLength(size, preferences.trunkUnit);
      const named = length.quantity ?? quantity;
      return { valueMm: length.valueMm, quantity: named, dbhMm: toDiameter(length.valueMm, named) };
    } catch (error) {
      if (error instanceof UnreadableLength) return error.message;
      throw error;
    }
  });
  const problem = $derived(
    tag.trim() === ''
      ? 'A tree needs a tag, or a name in the book.'
      : tag.trim().length > 20
        ? 'A tag has at most 20 signs.'
        : holder
          ? `The tag ${holder.tag} hangs on another tree already.`
          : typeof measured === 'string'
            ? measured
            : given.problem
  );

  async function save(): Promise<void> {
    if (problem !== null || typeof measured === 'string') return;
    const treeId = crypto.randomUUID();
    const shared = kind === 'stem' && beside && place === null && beside.eastM !== null && beside.northM !== null;
    const at: GivenPlace | null = shared
      ? {
          eastM: beside.eastM!,
          northM: beside.northM!,
          quality: beside.positionQuality ?? 'paced',
          accuracyM: beside.positionAccuracyM ?? null,
          asTaken: `on the base of ${beside.tag}`
        }
      : place;
    const [entry] = await bush.recordAll([
      {
        treeId,
        draft: {
          kind: 'entry',
          tag: tag.trim(),
          tagged: kind !== 'neighbour',
          standId: standId === 'auto' ? (standHere?.id ?? null) : standId || null,
          stemOf: kind === 'stem' ? (beside!.stemOf ?? beside!.id) : null,
          afterId: beside?.id ?? null,
          note: ''
        }
      },
      ...(at ? [{ treeId, draft: { kind: 'place' as const, ...at } }] : []),
      ...(species === ''
        ? []
        : [
            {
              treeId,
              draft: declaration(species === 'maple' ? null : species, kind === 'neighbour' ? 'noted in passing' : '')
            }
          ]),
      ...(measured
        ? [
            {
              treeId,
              draft: {
                kind: 'reading' as const,
                quantity: measured.quantity,
                valueMm: measured.valueMm,
                asWritten: size.trim().slice(0, 80),
                method:
                  kind === 'neighbour'
                    ? ('hug' as const)
                    : measured.quantity === 'girth'
                      ? ('girthTape' as const)
                      : ('diameterTape' as const),
                heightMm: bush.overview!.bush.settings.breastHeightMm,
                confirmed: false,
                note: ''
              }
            }
          ]
        : [])
    ]);
    saved(bush, `${tag.trim()} is in the book.`, entry!);
    size = '';
    tag = suggestedTag();
    ondone?.(treeId);
  }
</script>

<form
  class="flex flex-col gap-3"
  data-testid="tree-form"
  onsubmit={(event) => {
    event.preventDefault();
    void save();
  }}
>
  <label class="flex items-center gap-3"
    ><span class="w-20">{kind === 'neighbour' ? 'Noted as' : 'Tag'}</span>
    <input class="input grow" maxlength="20" autocomplete="off" bind:value={tag} /></label
  >
  <label class="flex items-center gap-3"
    ><span class="w-20">Species</span>
    <select class="select grow" bind:value={species}>
      <option value="">not settled yet</option>
      <option value="maple">maple, species open</option>
      {#each SPECIES as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
    </select></label
  >
  <div class="flex items-center gap-3">
    <select class="select w-28" aria-label="What was measured" bind:value={quantity}>
      <option value="girth">Girth</option><option value="diameter">Diameter</option>
    </select>
    <input
      class="input min-w-0 grow"
      aria-label="Size"
      placeholder={preferences.units === 'metric'
        ? quantity === 'girth'
          ? '115 cm'
          : '36.5 cm'
        : quantity === 'girth'
          ? '45 in'
          : '14 3/8"'}
      autocomplete="off"
      bind:value={size}
    />
  </div>
  {#if measured && typeof measured !== 'string'}
    <p class="aside">
      girth {preferences.length(measured.dbhMm * Math.PI, 'trunk')}, diameter {preferences.length(
        measured.dbhMm,
        'trunk'
      )}{kind === 'neighbour' ? ', by eye' : ''}
    </p>
  {/if}
  <PlaceInput answer={given} />
  {#if kind === 'stem' && place === null}<p class="aside">
      Without a place of its own it stands where {beside?.tag} does.
    </p>{/if}
  <label class="flex items-center gap-3"
    ><span class="w-20">Stand</span>
    <select class="select grow" bind:value={standId}>
      <option value="auto">{standHere ? `${standHere.name}, where it stands` : 'none known here'}</option>
      {#each bush.overview?.stands ?? [] as stand (stand.id)}<option value={stand.id}>{stand.name}</option>{/each}
      <option value="">none</option>
    </select></label
  >
  {#if problem !== null && (tag.trim() !== '' || size !== '')}<p role="alert" class="font-semibold text-error">
      {problem}
    </p>{/if}
  <button class="btn self-start btn-primary" disabled={problem !== null}
    >{kind === 'neighbour' ? 'Note the neighbour' : kind === 'stem' ? 'Add the stem' : 'Put it in the book'}</button
  >
</form>
