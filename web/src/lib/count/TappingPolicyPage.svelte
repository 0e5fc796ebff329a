<script lang="ts">
  import { USUAL_DROP_MM } from '@baumkin/core/lines';
  import { ownGuidelineSchema, type Paint, type PaintPlace } from '@baumkin/core/records';
  import { tapGuidelineOf, TAP_GUIDELINES, type TapGuidelineId, type OwnStep } from '@baumkin/core/taps';
  import { DEFAULT_COLUMNS } from '@baumkin/core/trunk';
  import { MM_PER_FOOT, MM_PER_INCH } from '@baumkin/core/units';
  import X from '@lucide/svelte/icons/x';
  import { untrack } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { GUIDELINE_LABELS, guidelineRule } from '$lib/labels/taps.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import LengthInput from '$lib/ui/LengthInput.svelte';
  import Term from '$lib/ui/Term.svelte';

  import PaintFields from './PaintFields.svelte';
  import SchoolsPanel from './SchoolsPanel.svelte';
  import { USUAL, usuallyCarried } from './usualTree.ts';

  /** The bush's own habits: the ladder that it goes by, bit, depth, band and the stain that it accepts. */
  const bush = useBush();
  const kept = $derived(bush.overview!.bush.settings);

  let tapGuideline = $state<TapGuidelineId>(untrack(() => kept.tapGuideline));
  let steps = $state<OwnStep[]>(untrack(() => kept.ownGuideline.map((step) => ({ ...step }))));
  /** what cannot be read, by field */
  const unreadable = $state<Record<string, string | null>>({});
  let bitMm = $state(untrack(() => kept.bitMm));
  let depthMm = $state(untrack(() => kept.depthMm));
  let lowestMm = $state(untrack(() => kept.lowestMm));
  let highestMm = $state(untrack(() => kept.highestMm));
  let angleDeg = $state(untrack(() => kept.angleDeg));
  let snowMm = $state(untrack(() => kept.snowMm));
  let sapwoodMm = $state(untrack(() => kept.sapwoodMm));
  let collects = $state<'buckets' | 'tubing'>(untrack(() => (kept.dropMm === null ? 'buckets' : 'tubing')));
  let dropMm = $state(untrack(() => kept.dropMm ?? USUAL_DROP_MM));
  let paints = $state<Paint[]>(untrack(() => [...kept.paints]));
  let paintSince = $state<number | null>(untrack(() => kept.paintSince));
  let paintLasts = $state<number | null>(untrack(() => kept.paintLasts));
  let paintPlace = $state<PaintPlace>(untrack(() => kept.paintPlace));
  let accepted = $state(untrack(() => Math.round(100 * kept.acceptedShare)));
  let problem = $state<string | null>(null);

  /** Nobody drills deeper into wood. Common practice: 3 in. */
  const DEEPEST_MM = 3 * MM_PER_INCH;

  const BITS = [
    [7.9375, '5/16 in: usual now, closes soonest'],
    [9.525, '3/8 in'],
    [11.1125, '7/16 in: the old size, stains twice as much']
  ] as const;

  const change = $derived.by(() => {
    const wrong = Object.values(unreadable).find((problem) => problem !== null);
    if (wrong) return wrong;
    const own = ownGuidelineSchema.safeParse(steps);
    if (!own.success) return own.error.issues[0]?.message ?? 'That is no ladder.';
    if (tapGuideline === 'own' && own.data.length === 0)
      return 'Your own ladder needs a step: from which diameter on is one tap right?';
    if (highestMm - lowestMm < 100) return 'The band needs to be a hand high at least.';
    if (depthMm > DEEPEST_MM)
      return `Nobody needs to drill deeper than ${preferences.length(DEEPEST_MM, 'drill')} into wood: dark heartwood gives no sap.`;
    return {
      tapGuideline,
      ownGuideline: own.data,
      bitMm,
      depthMm,
      lowestMm,
      highestMm,
      angleDeg,
      snowMm,
      sapwoodMm,
      dropMm: collects === 'buckets' ? null : dropMm,
      acceptedShare: accepted / 100,
      paints,
      paintSince,
      paintLasts,
      paintPlace
    };
  });
  const picture = $derived(
    typeof change === 'string'
      ? tapGuidelineOf(kept)
      : tapGuidelineOf({ tapGuideline: change.tapGuideline, ownGuideline: change.ownGuideline })
  );
  const carried = $derived(typeof change === 'string' ? null : usuallyCarried(change));

  async function save(): Promise<void> {
    if (typeof change === 'string') return;
    problem = await bush.change.settings(change);
    if (problem === null) toast.success('These are the bush’s habits from now on.');
  }
</script>

<h1 class="sr-only">Habits</h1>
<div class="grid gap-x-10 gap-y-6 lg:grid-cols-[24rem_minmax(0,1fr)]">
  <form
    class="flex flex-col gap-4"
    data-testid="habits"
    onsubmit={(event) => {
      event.preventDefault();
      void save();
    }}
  >
    <fieldset class="flex flex-col gap-2" disabled={!bush.mayDecide}>
      <legend class="mb-1 font-slab text-lg font-semibold">How many by size</legend>
      <select class="select w-full" aria-label="Ladder" bind:value={tapGuideline}>
        {#each TAP_GUIDELINES as school (school.id)}<option value={school.id}>{GUIDELINE_LABELS[school.id].name}</option
          >{/each}
        <option value="own">Our own ladder</option>
      </select>
      {#if tapGuideline === 'own'}
        {#each steps as step, i (i)}
          <div class="flex items-center gap-2" role="group" aria-label="Step {i + 1}">
            from <LengthInput
              class="input w-28"
              label="Diameter"
              use="trunk"
              bind:valueMm={step.diameterMm}
              bind:problem={() => unreadable[`step ${i}`] ?? null, (problem) => (unreadable[`step ${i}`] = problem)}
            />
            <input class="input w-16" type="number" min="1" max="8" aria-label="Taps" bind:value={step.taps} />
            {step.taps === 1 ? 'tap' : 'taps'}
            <button
              type="button"
              class="grid h-9 w-9 place-items-center hover:bg-base-200"
              aria-label="Take step {i + 1} away"
              onclick={() => steps.splice(i, 1)}><X size={16} /></button
            >
          </div>
        {/each}
        <button
          type="button"
          class="link self-start"
          onclick={() =>
            steps.push({
              diameterMm: (12 + 6 * steps.length) * MM_PER_INCH,
              taps: (steps.at(-1)?.taps ?? 0) + 1
            })}>A step more</button
        >
      {:else}
        <p class="aside">{guidelineRule(picture, preferences.units)}; {GUIDELINE_LABELS[picture.id].provenance}.</p>
      {/if}
    </fieldset>
    <fieldset class="flex flex-col gap-2" disabled={!bush.mayDecide}>
      <legend class="mb-1 font-slab text-lg font-semibold">How they are drilled</legend>
      <label class="flex items-center gap-3"
        ><span class="w-32">Bit</span>
        <select class="select grow" bind:value={bitMm}
          >{#each BITS as [mm, label] (mm)}<option value={mm}>{label}</option>{/each}</select
        ></label
      >
      <label class="flex items-center gap-3"
        ><span class="w-32">Depth in wood</span><LengthInput
          use="drill"
          bind:valueMm={depthMm}
          bind:problem={() => unreadable.depth ?? null, (problem) => (unreadable.depth = problem)}
        /></label
      >
      <label class="flex items-center gap-3"
        ><span class="w-32">Band from</span><LengthInput
          use="hand"
          bind:valueMm={lowestMm}
          bind:problem={() => unreadable.lowest ?? null, (problem) => (unreadable.lowest = problem)}
        /></label
      >
      <label class="flex items-center gap-3"
        ><span class="w-32">up to</span><LengthInput
          use="hand"
          bind:valueMm={highestMm}
          bind:problem={() => unreadable.highest ?? null, (problem) => (unreadable.highest = problem)}
        /></label
      >
      <p class="aside">
        As high as arms, snow or drop lines reach. Commonly {preferences.length(2 * MM_PER_FOOT, 'hand')} to {preferences.length(
          5 * MM_PER_FOOT,
          'hand'
        )} up, {preferences.length(1.5 * MM_PER_INCH, 'drill')} deep.
      </p>
      <label class="flex items-center gap-3"
        ><span class="w-32">Snow at tapping</span><LengthInput
          use="hand"
          mayBeNothing
          bind:valueMm={snowMm}
          bind:problem={() => unreadable.snow ?? null, (problem) => (unreadable.snow = problem)}
        /></label
      >
      <label class="flex items-center gap-3"
        ><span class="w-32">Slope of the hole</span>
        <select class="select grow" bind:value={angleDeg}
          >{#each [0, 5, 10] as deg (deg)}<option value={deg}>{deg === 0 ? 'straight in' : `${deg}° upward`}</option
            >{/each}</select
        ></label
      >
      <p class="aside">
        Upward into the tree, so that it drains: the handle of the drill is lower than its tip. Who stands outside and
        says “downward” means the same hole.
      </p>
      <label class="flex items-center gap-3"
        ><span class="w-32">Sap runs into</span>
        <select class="select grow" bind:value={collects}
          ><option value="buckets">buckets</option><option value="tubing">tubing, by drop lines</option></select
        ></label
      >
      {#if collects === 'tubing'}<div class="flex items-center gap-3">
          <span class="w-32"><Term of="dropLine">Drop line</Term></span><LengthInput
            label="Drop line"
            use="hand"
            bind:valueMm={dropMm}
            bind:problem={() => unreadable.drop ?? null, (problem) => (unreadable.drop = problem)}
          />
        </div>{/if}
      <div class="flex items-center gap-3">
        <span class="w-32"><Term of="sapwood">Sapwood</Term></span><LengthInput
          label="Sapwood"
          use="drill"
          bind:valueMm={sapwoodMm}
          bind:problem={() => unreadable.sapwood ?? null, (problem) => (unreadable.sapwood = problem)}
        />
      </div>
      <p class="aside">
        Snow lifts the band: feet stand on it, and nothing hangs in it. How thick the sapwood is shows at a stump; {preferences.length(
          DEFAULT_COLUMNS.sapwoodMm,
          'drill'
        )} is a working assumption.
      </p>
    </fieldset>
    <PaintFields bind:paints bind:since={paintSince} bind:lasts={paintLasts} bind:place={paintPlace} />
    <fieldset class="flex flex-col gap-2" disabled={!bush.mayDecide}>
      <legend class="mb-1 font-slab text-lg font-semibold">How much stain you accept</legend>
      <label class="flex flex-col gap-1"
        >{accepted} % of the band in the long run
        <input type="range" class="range range-sm" min="2" max="40" bind:value={accepted} /></label
      >
      {#if carried !== null}
        <p>
          A tree {preferences.length(USUAL.dbhMm, 'trunk')} thick with rings of {preferences.length(
            USUAL.ringMm,
            'ring'
          )} then carries
          <b>{carried.toFixed(1)}</b> holes a year.
        </p>
      {/if}
    </fieldset>
    {#if typeof change === 'string'}<p role="alert" class="font-semibold text-error">{change}</p>{/if}
    {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
    {#if bush.mayDecide}<button class="btn self-start btn-primary" disabled={typeof change === 'string'}
        >These are our habits</button
      >
    {:else}<p class="aside">The habits are the steward’s to set.</p>{/if}
  </form>
  <SchoolsPanel guideline={picture} drilling={typeof change === 'string' ? null : change} />
</div>
