<script lang="ts">
  import { insideOutline, outlineAreaHa } from '@baumkin/core/geometry';
  import {
    standPurposeSchema,
    wetnessSchema,
    type SiteFeature,
    type Stand,
    type StandPurpose,
    type Wetness
  } from '@baumkin/core/records';
  import { toast } from 'svelte-sonner';

  import { undoable } from '$lib/client/saved.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { PURPOSE_WORDS, WETNESS_WORDS } from '$lib/labels/stand.ts';

  import GroundFields, { type Ground } from './GroundFields.svelte';
  import { putIntoStands } from './putIntoStands.ts';
  import type { MapMode } from './StandMap.svelte';

  /** Stands with their purpose and ground, and what else lies in the bush: drawn on the map, named here. */
  let {
    mode = $bindable(),
    outline = $bindable(),
    hidden = $bindable()
  }: {
    mode: MapMode;
    /** the shape being drawn or changed */
    outline: [number, number][] | null;
    /** id of the shape that is being changed: the map shows the one under the hand instead */
    hidden: string | null;
  } = $props();
  const bush = useBush();

  type Kind = SiteFeature['kind'];
  type Editing =
    | {
        what: 'stand';
        id: string;
        isNew: boolean;
        name: string;
        purpose: StandPurpose;
        wetness: Wetness | '';
        areaHa: number | null;
        note: string;
        /** soil, and who may do what here */
        ground: Ground;
      }
    | { what: 'feature'; id: string; isNew: boolean; name: string; kind: Kind };
  const groundOf = ({ soilDepth, hardPan, soilPh, sun, mayTap, mayCut, byWord, wordUntil }: Ground): Ground => ({
    soilDepth,
    hardPan,
    soilPh,
    sun,
    mayTap,
    mayCut,
    byWord,
    wordUntil
  });
  const PLAIN: Ground = {
    soilDepth: null,
    hardPan: null,
    soilPh: null,
    sun: null,
    mayTap: true,
    mayCut: true,
    byWord: '',
    wordUntil: null
  };
  let editing = $state<Editing | null>(null);
  let problem = $state<string | null>(null);
  let gather = $state(true);
  const KIND_WORDS: Record<Kind, string> = {
    building: 'building',
    path: 'path',
    line: 'wire or tubing line',
    water: 'water',
    fence: 'deer fence',
    boundary: 'boundary',
    entrance: 'way in'
  };
  const stands = $derived(bush.overview?.stands ?? []);

  const MIN_POINTS: Record<Kind, number> = {
    building: 3,
    path: 2,
    line: 2,
    water: 2,
    fence: 2,
    boundary: 2,
    entrance: 1
  };
  const isPoint = (e: Editing) => e.what === 'feature' && e.kind === 'entrance';
  const closedShape = (e: Editing) => e.what === 'stand' || e.kind === 'building';
  const enough = $derived(
    editing !== null &&
      (editing.what === 'stand'
        ? outline === null || outline.length >= 3
        : outline !== null && outline.length >= MIN_POINTS[editing.kind])
  );
  const areaHa = $derived(outline && outline.length >= 3 ? outlineAreaHa(outline) : null);
  /** Trees inside the outline that belong elsewhere or nowhere. */
  const strangers = $derived.by(() => {
    const [e, line] = [editing, outline];
    if (e?.what !== 'stand' || !line || line.length < 3) return [];
    return bush.rows.filter(
      (row) =>
        row.eastM !== null &&
        row.northM !== null &&
        row.standId !== e.id &&
        insideOutline([row.eastM, row.northM], line)
    );
  });

  function begin(next: Editing, shape: readonly (readonly [number, number])[] | null): void {
    editing = next;
    problem = null;
    outline = shape ? shape.map(([e, n]) => [e, n]) : null;
    hidden = next.isNew ? null : next.id;
    mode = isPoint(next) ? 'point' : closedShape(next) ? 'shape' : 'course';
  }

  function end(): void {
    editing = null;
    outline = null;
    hidden = null;
    mode = 'look';
  }

  const newStand = () =>
    begin(
      {
        what: 'stand',
        id: crypto.randomUUID(),
        isNew: true,
        name: '',
        purpose: 'syrup',
        wetness: '',
        areaHa: null,
        note: '',
        ground: { ...PLAIN }
      },
      null
    );
  const newFeature = (kind: Kind) =>
    begin({ what: 'feature', id: crypto.randomUUID(), isNew: true, name: '', kind }, null);
  const changeStand = (stand: Stand) => {
    const { id, name, purpose, wetness, outline: shape, areaHa: ha, note } = stand;
    begin(
      {
        what: 'stand',
        id,
        isNew: false,
        name,
        purpose,
        wetness: wetness ?? '',
        areaHa: ha,
        note,
        ground: groundOf(stand)
      },
      shape
    );
  };
  const changeFeature = ({ id, name, kind, points }: SiteFeature) =>
    begin({ what: 'feature', id, isNew: false, name, kind }, points);

  async function save(): Promise<void> {
    if (!editing || !enough) return;
    const e = $state.snapshot(editing);
    const shape = $state.snapshot(outline) as [number, number][] | null;
    const moving = gather ? strangers : [];
    problem =
      e.what === 'stand'
        ? await bush.change.stand({
            id: e.id,
            name: e.name.trim(),
            purpose: e.purpose,
            wetness: e.wetness === '' ? null : e.wetness,
            areaHa: shape ? Number(outlineAreaHa(shape).toFixed(4)) || null : e.areaHa,
            outline: shape,
            note: e.note.trim(),
            ...e.ground,
            byWord: e.ground.byWord.trim()
          })
        : await bush.change.feature({ id: e.id, name: e.name.trim(), kind: e.kind, points: shape! });
    if (problem !== null) return;
    if (moving.length > 0)
      await putIntoStands(
        bush,
        moving.map((row) => ({ row, standId: e.id }))
      ).catch(() => null);
    toast.success(`${e.name.trim()} is on the map.`);
    end();
  }

  const remove = (what: 'stand' | 'feature', id: string) =>
    what === 'stand' ? bush.change.withoutStand(id) : bush.change.withoutFeature(id);

  async function takeAway(): Promise<void> {
    if (!editing) return;
    const { what, id, name } = editing;
    const [stand, feature] = [stands.find((s) => s.id === id), bush.features.find((f) => f.id === id)];
    const putBack = () => (stand ? bush.change.stand(stand) : feature && bush.change.feature(feature));
    problem = await remove(what, id);
    if (problem !== null) return;
    undoable(`${name} is off the map.`, () => putBack());
    end();
  }
</script>

{#if editing}
  <form
    class="flex flex-col gap-3"
    data-testid="shape-form"
    onsubmit={(event) => {
      event.preventDefault();
      void save();
    }}
  >
    <h2>{editing.isNew ? 'New' : 'Change'} {editing.what === 'stand' ? 'stand' : KIND_WORDS[editing.kind]}</h2>
    <p class="aside">
      {isPoint(editing)
        ? 'Click on the map where people come into the bush; a walk begins there.'
        : outline === null
          ? 'Click its corners on the map one after another; a double click ends it.'
          : 'Drag a corner to move it, a middle point to make a new one; a right click takes a corner out.'}
    </p>
    <label class="flex items-center gap-3"
      ><span class="w-20">Name</span><input
        class="input grow"
        required
        maxlength="80"
        bind:value={editing.name}
      /></label
    >
    {#if editing.what === 'stand'}
      <label class="flex items-center gap-3"
        ><span class="w-20">Kept</span>
        <select class="select grow" bind:value={editing.purpose}>
          {#each standPurposeSchema.options as purpose (purpose)}<option value={purpose}
              >{PURPOSE_WORDS[purpose]}</option
            >{/each}
        </select></label
      >
      <label class="flex items-center gap-3"
        ><span class="w-20">Ground</span>
        <select class="select grow" bind:value={editing.wetness}>
          <option value="">not said</option>
          {#each wetnessSchema.options as wetness (wetness)}<option value={wetness}>{WETNESS_WORDS[wetness]}</option
            >{/each}
        </select></label
      >
      <label class="flex flex-col gap-1"
        ><span>What it is managed for, and how</span><textarea
          class="textarea w-full"
          rows="2"
          maxlength="500"
          bind:value={editing.note}></textarea></label
      >
      <GroundFields bind:ground={editing.ground} />
      {#if areaHa !== null}<p>Inside the outline: <b>{preferences.ground(areaHa)}</b>.</p>{/if}
      {#if strangers.length > 0}
        <label class="flex items-center gap-2"
          ><input type="checkbox" class="checkbox" bind:checked={gather} />
          {counted(strangers.length, 'tree')} inside shall belong to it</label
        >
      {/if}
    {/if}
    {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
    <div class="flex flex-wrap gap-2">
      <button class="btn btn-primary btn-sm" disabled={!enough || editing.name.trim() === ''}>Keep it</button>
      <button type="button" class="btn btn-outline btn-sm" onclick={end}>Cancel</button>
      {#if !editing.isNew}<button type="button" class="btn btn-ghost btn-sm" onclick={takeAway}>Take it away</button
        >{/if}
    </div>
  </form>
{:else}
  <div class="flex flex-col gap-4">
    <section aria-labelledby="stands">
      <h2 id="stands">Stands</h2>
      <ul>
        {#each stands as stand (stand.id)}
          <li class="flex items-baseline gap-2 border-b border-base-300/60 py-1.5">
            <span class="grow"
              ><b>{stand.name}</b>
              <span class="aside"
                >{PURPOSE_WORDS[stand.purpose]}{stand.wetness
                  ? `, ${WETNESS_WORDS[stand.wetness]} ground`
                  : ''}{stand.areaHa ? `, ${preferences.ground(stand.areaHa)}` : ''}{stand.outline
                  ? ''
                  : ', not drawn'}{stand.mayTap ? '' : ', not to be tapped'}{stand.mayCut
                  ? ''
                  : ', nothing is cut'}{stand.note ? `. ${stand.note}` : ''}</span
              ></span
            >
            {#if bush.mayDecide}<button class="link text-sm" onclick={() => changeStand(stand)}>Change</button>{/if}
          </li>
        {/each}
      </ul>
      {#if bush.mayDecide}<button class="btn mt-2 btn-outline btn-sm" onclick={newStand}>Draw a stand</button>{/if}
    </section>
    <section aria-labelledby="features">
      <h2 id="features">What else lies there</h2>
      <ul>
        {#each bush.features as feature (feature.id)}
          <li class="flex items-baseline gap-2 border-b border-base-300/60 py-1.5">
            <span class="grow"><b>{feature.name}</b> <span class="aside">{KIND_WORDS[feature.kind]}</span></span>
            {#if bush.mayDecide}<button class="link text-sm" onclick={() => changeFeature(feature)}>Change</button>{/if}
          </li>
        {/each}
      </ul>
      {#if bush.mayDecide}
        <div class="mt-2 flex flex-wrap gap-2">
          {#each Object.entries(KIND_WORDS) as [kind, label] (kind)}
            <button class="btn btn-outline btn-sm" onclick={() => newFeature(kind as Kind)}
              >Draw {label === 'water' ? label : `a ${label}`}</button
            >
          {/each}
        </div>
      {/if}
      <p class="aside mt-2">
        Buildings, paths and wires within two tree lengths put a tree among those for trained fallers.
      </p>
    </section>
    {#if (bush.overview?.damaged ?? []).length > 0}
      <section class="border-l-4 border-error pl-3" aria-labelledby="damaged" data-testid="damaged">
        <h2 id="damaged">Cannot be read</h2>
        <p>These were stored by an older version and cannot be drawn. Everything else is whole.</p>
        <ul>
          {#each bush.overview!.damaged! as { what, id, name, reason } (id)}
            <li class="flex items-baseline gap-2 py-1">
              <span class="grow"><b>{name}</b> <span class="aside">{what}; {reason}</span></span>
              {#if bush.mayDecide}<button class="link text-sm" onclick={async () => (problem = await remove(what, id))}
                  >Take it away</button
                >{/if}
            </li>
          {/each}
        </ul>
      </section>
    {/if}
    {#if bush.mayDecide}
      <p><a class="link" href="/bush/{bush.id}/map/ground">A picture beneath, and where on earth the bush lies</a></p>
    {/if}
  </div>
{/if}
