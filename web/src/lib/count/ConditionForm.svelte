<script lang="ts">
  import type { CrownClass } from '@baumkin/core/measure';
  import {
    conditionEffects,
    DEFECT_KINDS,
    HAZARD_KINDS,
    vigourClass,
    WILDLIFE_KINDS,
    type DefectKind,
    type HazardKind,
    type WildlifeKind
  } from '@baumkin/core/taps';
  import X from '@lucide/svelte/icons/x';
  import { untrack } from 'svelte';

  import { saved } from '$lib/client/saved.ts';
  import { conditionWords, DEFECT_WORDS, HAZARD_WORDS, WILDLIFE_WORDS } from '$lib/labels/taps.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { capital } from '$lib/words/capital.ts';
  import { readMetres } from '$lib/ui/readMetres.ts';
  import Term from '$lib/ui/Term.svelte';
  import Told from '$lib/ui/Told.svelte';

  import CrownDrawing from './CrownDrawing.svelte';

  /** Looking up at one tree: crown, old holes, trunk, what may fall, who lives there. What each does to the count is said at once. */
  const { treeId, ondone }: { treeId: string; ondone: () => void } = $props();
  const uid = $props.id();
  const bush = useBush();
  /** An old look is shown beside the form, never filled into it: each thing is looked at anew. */
  const before = untrack(() => bush.stateOf(treeId).assessment);

  let dieback = $state<number | null>(null);
  let crownClass = $state<CrownClass | null>(null);
  let openYears = $state<number | null>(null);
  let stressed = $state<boolean | null>(null);
  let peeled = $state<number | null>(null);
  let peelFresh = $state(false);
  // Defects, hazards and homes are taken over from the last look: they rarely end within a year, and are easily taken off.
  let defects = $state(
    (before?.defects ?? []).map((d) => ({
      kind: d.kind,
      bearing: d.bearingDeg === null ? '' : String(d.bearingDeg),
      height: d.heightMm === null ? '' : preferences.length(d.heightMm, 'hand')
    }))
  );
  let hazards = $state<HazardKind[]>([...(before?.hazards ?? [])]);
  let wildlife = $state<WildlifeKind[]>([...(before?.wildlife ?? [])]);
  const something = $derived(
    dieback !== null ||
      crownClass !== null ||
      openYears !== null ||
      stressed !== null ||
      peeled !== null ||
      defects.length > 0 ||
      hazards.length > 0 ||
      wildlife.length > 0
  );

  const CLASSES = [
    [5, 'healthy', 'up to 10 %'],
    [20, 'light', 'to 25 %'],
    [40, 'moderate', 'to 50 %'],
    [70, 'severe', 'more'],
    [100, 'dead', 'all']
  ] as const;
  const CROWNS: readonly [CrownClass, string][] = [
    ['open', 'open-grown: light from all sides'],
    ['dominant', 'dominant: above its neighbours'],
    ['codominant', 'codominant: light from above'],
    ['intermediate', 'intermediate: squeezed'],
    ['suppressed', 'suppressed: under the others']
  ];
  const effects = $derived(
    conditionEffects(
      {
        on: bush.today,
        diebackPct: dieback,
        oldestOpenHoleYears: openYears,
        stressed,
        peeledPct: peeled,
        peelFresh,
        defects: defects.map(({ kind }) => kind),
        hazards
      },
      bush.today
    )
  );

  const placed = $derived(
    defects.map(({ kind, bearing, height }) => {
      const bearingDeg = bearing.trim() === '' ? null : Number(bearing.replace(',', '.').replace('°', ''));
      const metres = readMetres(
        /[a-z"']/i.test(height) ? height : height.trim() === '' ? '' : `${height} ${preferences.trunkUnit}`
      );
      return {
        kind,
        bearingDeg: bearingDeg === 360 ? 0 : bearingDeg,
        heightMm: typeof metres === 'number' ? metres * 1000 : metres
      };
    })
  );
  const problem = $derived.by(() => {
    for (const { bearingDeg, heightMm } of placed) {
      if (bearingDeg !== null && !(bearingDeg >= 0 && bearingDeg < 360))
        return 'A side of the trunk runs from 0 to 360 degrees.';
      if (typeof heightMm === 'string') return heightMm;
      if (heightMm !== null && heightMm > 5000) return 'That is higher than anybody taps: look at the unit.';
    }
    return null;
  });

  function toggle<T>(list: T[], item: T): T[] {
    return list.includes(item) ? list.filter((other) => other !== item) : [...list, item];
  }

  async function save(): Promise<void> {
    if (problem !== null) return;
    const record = await bush.record(treeId, {
      kind: 'assessment',
      diebackPct: dieback,
      crownClass,
      oldestOpenHoleYears: openYears,
      stressed,
      peeledPct: peeled,
      peelFresh: peelFresh && peeled !== null && peeled > 0,
      defects: placed.map(({ kind, bearingDeg, heightMm }) => ({
        kind,
        bearingDeg,
        heightMm: heightMm as number | null
      })),
      hazards: [...hazards],
      wildlife: [...wildlife],
      note: ''
    });
    ondone();
    saved(bush, 'Condition written down.', record);
  }
</script>

{#snippet choices<T extends string>(
  label: string,
  kinds: readonly T[],
  words: Readonly<Record<T, string>>,
  chosen: T[],
  set: (next: T[]) => void
)}
  <fieldset class="flex flex-wrap gap-1.5">
    <legend class="mb-1">{label}</legend>
    {#each kinds as kind (kind)}
      <button
        type="button"
        class="min-h-9 border border-base-content px-2.5 text-sm max-md:min-h-11 {chosen.includes(kind)
          ? 'bg-neutral font-bold text-neutral-content'
          : ''}"
        aria-pressed={chosen.includes(kind)}
        onclick={() => set(toggle(chosen, kind))}>{words[kind]}</button
      >
    {/each}
  </fieldset>
{/snippet}

<form
  class="flex flex-col gap-3"
  data-testid="condition"
  onsubmit={(event) => {
    event.preventDefault();
    void save();
  }}
>
  {#if before}<p class="aside">
      Last looked at on {before.on}{before.diebackPct === null ? '' : `: ${before.diebackPct} % dieback`}. Look at each
      thing anew; what you leave alone is written down as not looked at.
    </p>{/if}
  <div class="flex flex-wrap gap-2" role="group" aria-label="How full is the crown?">
    {#each CLASSES as [pct, name, span] (name)}
      {@const on = dieback !== null && vigourClass(dieback) === name}
      <button
        type="button"
        class="flex flex-col items-center border px-1.5 py-1 {on
          ? 'border-2 border-base-content bg-base-200 font-bold'
          : 'border-base-300'}"
        aria-pressed={on}
        onclick={() => (dieback = on ? null : pct)}
        ><CrownDrawing diebackPct={pct} /><span class="text-sm">{name}</span><span class="aside">{span}</span></button
      >
    {/each}
  </div>
  <label class="flex flex-col gap-1" for="{uid}-dieback">
    <span
      ><Term of="dieback">Dead fine branches</Term> in the live crown:
      <b>{dieback === null ? 'not looked at' : `${dieback} %`}</b></span
    >
    <input
      id="{uid}-dieback"
      type="range"
      class="range w-full range-sm {dieback === null ? 'opacity-50' : ''}"
      min="0"
      max="100"
      step="5"
      bind:value={() => dieback ?? 0, (pct) => (dieback = pct)}
    />
  </label>
  <div class="grid gap-3 md:grid-cols-2">
    <label class="flex flex-col gap-1"
      >Crown<select class="select w-full" bind:value={crownClass}
        ><option value={null}>not judged</option>{#each CROWNS as [id, label] (id)}<option value={id}>{label}</option
          >{/each}</select
      ></label
    >
    <label class="flex flex-col gap-1"
      >Oldest hole still open<select class="select w-full" bind:value={openYears}
        ><option value={null}>not looked</option><option value={0}>all have closed</option
        >{#each [1, 2, 3, 4] as years (years)}<option value={years}
            >after {years}{years === 4 ? ' years or more' : years === 1 ? ' year' : ' years'}</option
          >{/each}</select
      ></label
    >
  </div>
  <div class="grid gap-3 md:grid-cols-2">
    <label class="flex flex-col gap-1"
      >Leaves eaten, drought, ice or root damage last summer<select class="select w-full" bind:value={stressed}
        ><option value={null}>not known</option><option value={true}>yes</option><option value={false}>no</option
        ></select
      ></label
    >
    <label class="flex flex-col gap-1"
      >Bark peeled by porcupine or squirrel<select class="select w-full" bind:value={peeled}
        ><option value={null}>not looked</option><option value={0}>none</option><option value={10}
          >a tenth of its girth</option
        ><option value={25}>a quarter of its girth</option><option value={50}>half of its girth or more</option></select
      ></label
    >
  </div>
  {#if peeled !== null && peeled > 0}
    <label class="flex items-center gap-2"
      ><input type="checkbox" class="checkbox" bind:checked={peelFresh} /> The peeling is fresh</label
    >
  {/if}
  <ul class="border-l-4 border-primary pl-3" aria-label="What that does to the count" data-testid="effects">
    {#each effects as effect (effect.reason.why)}
      <li>
        {effect.unknown
          ? 'Look up at the crown: until then it counts as not looked at.'
          : conditionWords(effect.reason)}
        <b
          >{effect.unknown
            ? 'Not known.'
            : effect.taps === Infinity
              ? 'No limit.'
              : effect.taps === 0
                ? 'Rest.'
                : ''}</b
        >
      </li>
    {/each}
  </ul>
  <fieldset class="flex flex-col gap-2">
    <legend class="mb-1">On the trunk: new holes keep a hand away</legend>
    {#each defects as defect, i (i)}
      <div class="flex flex-wrap items-center gap-2" role="group" aria-label="Defect {i + 1}">
        <select class="select w-40 select-sm" aria-label="Kind" bind:value={defect.kind}
          >{#each DEFECT_KINDS as kind (kind)}<option value={kind}>{DEFECT_WORDS[kind]}</option>{/each}</select
        >
        <input
          class="input w-20 input-sm"
          aria-label="Side, degrees"
          placeholder="side, °"
          bind:value={defect.bearing}
        />
        <input class="input w-24 input-sm" aria-label="Height" placeholder="how high" bind:value={defect.height} />
        <button
          type="button"
          class="grid h-9 w-9 place-items-center hover:bg-base-200"
          aria-label="Take defect {i + 1} away"
          onclick={() => defects.splice(i, 1)}><X size={16} /></button
        >
      </div>
    {/each}
    <button
      type="button"
      class="link self-start"
      onclick={() => defects.push({ kind: 'wound' as DefectKind, bearing: '', height: '' })}>A defect</button
    >
  </fieldset>
  {#if defects.some(({ kind }) => kind === 'borers')}
    <p class="caution">
      Round, clean holes of about 10 mm (3/8 in) can be the work of a beetle that has to be reported. Do not move its
      wood; photograph the holes and ask the forestry or plant health office.
    </p>
  {/if}
  {@render choices('What may fall or break', HAZARD_KINDS, HAZARD_WORDS, hazards, (next) => (hazards = next))}
  {#if hazards.length > 0}
    <p class="caution">
      <Told of={capital(hazards.map((hazard) => HAZARD_WORDS[hazard]).join(', '))} />: nobody works under this tree
      before somebody trained has looked at it. Local rules come first. Nothing here says that a tree is safe.
    </p>
  {/if}
  {@render choices('Who lives there', WILDLIFE_KINDS, WILDLIFE_WORDS, wildlife, (next) => (wildlife = next))}
  {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
  <div class="flex gap-2">
    <button class="btn btn-outline btn-sm" disabled={problem !== null || !something}>Write this down</button>
    {#if before}<button type="button" class="btn btn-ghost btn-sm" onclick={ondone}>Cancel</button>{/if}
  </div>
</form>
