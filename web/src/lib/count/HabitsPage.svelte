<script lang="ts">
  import {
    DEFAULT_COLUMNS,
    growthBalance,
    ladderOf,
    ladderRule,
    ladderTaps,
    LADDERS,
    MM_PER_FOOT,
    MM_PER_INCH,
    ownLadderSchema,
    type LadderId,
    type OwnStep
  } from '@baumkin/core';
  import X from '@lucide/svelte/icons/x';
  import { untrack } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import LengthField from '$lib/ui/LengthField.svelte';

  import LadderPicture from './LadderPicture.svelte';

  /** The bush's own habits: the ladder that it goes by, bit, depth, band and the stain that it accepts. */
  const bush = $derived(useBush());
  const kept = $derived(bush.overview!.bush.settings);
  /** A drop line to begin with, mm. Common practice: some 30 in. */
  const USUAL_DROP_MM = 750;
  const show = (mm: number) => preferences.length(mm, 'trunk');

  let ladder = $state<LadderId>(untrack(() => kept.ladder));
  let steps = $state<OwnStep[]>(untrack(() => kept.ownLadder.map((step) => ({ ...step }))));
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
    const own = ownLadderSchema.safeParse(steps);
    if (!own.success) return own.error.issues[0]?.message ?? 'That is no ladder.';
    if (ladder === 'own' && own.data.length === 0)
      return 'Your own ladder needs a step: from which diameter on is one tap right?';
    if (highestMm - lowestMm < 100) return 'The band needs to be a hand high at least.';
    if (depthMm > DEEPEST_MM)
      return `Nobody needs to drill deeper than ${preferences.length(DEEPEST_MM, 'drill')} into wood: dark heartwood gives no sap.`;
    return {
      ladder,
      ownLadder: own.data,
      bitMm,
      depthMm,
      lowestMm,
      highestMm,
      angleDeg,
      snowMm,
      sapwoodMm,
      dropMm: collects === 'buckets' ? null : dropMm,
      acceptedShare: accepted / 100
    };
  });
  const picture = $derived(
    typeof change === 'string' ? ladderOf(kept) : ladderOf({ ladder: change.ladder, ownLadder: change.ownLadder })
  );
  /** A usual tree, to show what a habit does. */
  const USUAL = { dbhMm: 400, ringMm: 1.4, ringSeMm: 0 };
  const carried = $derived(
    typeof change === 'string'
      ? null
      : growthBalance({ ...USUAL, ...change, bandMm: change.highestMm - change.lowestMm }).tapsCarried
  );

  async function save(): Promise<void> {
    if (typeof change === 'string') return;
    problem = await bush.changeSettings(change);
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
      <select class="select w-full" aria-label="Ladder" bind:value={ladder}>
        {#each LADDERS as school (school.id)}<option value={school.id}>{school.name}</option>{/each}
        <option value="own">Our own ladder</option>
      </select>
      {#if ladder === 'own'}
        {#each steps as step, i (i)}
          <div class="flex items-center gap-2" role="group" aria-label="Step {i + 1}">
            from <LengthField
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
        <p class="aside">{ladderRule(picture, preferences.units)}; {picture.provenance}.</p>
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
        ><span class="w-32">Depth in wood</span><LengthField
          use="drill"
          bind:valueMm={depthMm}
          bind:problem={() => unreadable.depth ?? null, (problem) => (unreadable.depth = problem)}
        /></label
      >
      <label class="flex items-center gap-3"
        ><span class="w-32">Band from</span><LengthField
          use="hand"
          bind:valueMm={lowestMm}
          bind:problem={() => unreadable.lowest ?? null, (problem) => (unreadable.lowest = problem)}
        /></label
      >
      <label class="flex items-center gap-3"
        ><span class="w-32">up to</span><LengthField
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
        ><span class="w-32">Snow at tapping</span><LengthField
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
      <label class="flex items-center gap-3"
        ><span class="w-32">Sap runs into</span>
        <select class="select grow" bind:value={collects}
          ><option value="buckets">buckets</option><option value="tubing">tubing, by drop lines</option></select
        ></label
      >
      {#if collects === 'tubing'}<label class="flex items-center gap-3"
          ><span class="w-32">Drop line</span><LengthField
            use="hand"
            bind:valueMm={dropMm}
            bind:problem={() => unreadable.drop ?? null, (problem) => (unreadable.drop = problem)}
          /></label
        >{/if}
      <label class="flex items-center gap-3"
        ><span class="w-32">Sapwood</span><LengthField
          use="drill"
          bind:valueMm={sapwoodMm}
          bind:problem={() => unreadable.sapwood ?? null, (problem) => (unreadable.sapwood = problem)}
        /></label
      >
      <p class="aside">
        Snow lifts the band: feet stand on it, and nothing hangs in it. How thick the sapwood is shows at a stump; {preferences.length(
          DEFAULT_COLUMNS.sapwoodMm,
          'drill'
        )} is a working assumption.
      </p>
    </fieldset>
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
  <section aria-labelledby="schools" class="min-w-0">
    <h2 id="schools">Where the schools differ</h2>
    <p class="aside mb-2">
      Taps by diameter. They all ask for size; none asks whether the tree grows. The default is the most cautious in
      wide use.
    </p>
    <LadderPicture chosen={picture} dbhMm={null} />
    <table class="mt-3 w-full max-w-2xl text-left text-sm">
      <thead class="sr-only"><tr><th>School</th><th>Rule</th></tr></thead>
      <tbody>
        {#each LADDERS as school (school.id)}
          <tr class="border-b border-base-300/60"
            ><th class="py-1 pr-4 font-semibold whitespace-nowrap">{school.name}</th><td class="pr-4"
              >{ladderRule(school, preferences.units)}</td
            ><td class="text-right">{ladderTaps(school, USUAL.dbhMm)} at {show(USUAL.dbhMm)}</td></tr
          >
        {/each}
      </tbody>
    </table>
  </section>
</div>
