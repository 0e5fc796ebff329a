<script lang="ts">
  import type { SpeciesId } from '@baumkin/core/identify';
  import { barkThickness, insideBark } from '@baumkin/core/measure';
  import { chanceToCarry, growthBalance, longRunStainedShare, meanStain, type BalanceInput } from '@baumkin/core/taps';
  import { MM_PER_INCH } from '@baumkin/core/units';
  import { modelOf } from '@baumkin/core/bush';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { chanceInWords } from '$lib/labels/chance.ts';
  import Term from '$lib/ui/Term.svelte';

  /** Does new wood keep up with what holes kill? For this tree as it is drilled here, and as it might be. */
  const {
    dbhMm,
    ringMm,
    ringSeMm,
    measured,
    species
  }: {
    dbhMm: number;
    ringMm: number;
    ringSeMm: number;
    /** by readings of its own, and not assumed from trees of its crown class */
    measured: boolean;
    species: SpeciesId | null;
  } = $props();
  const bush = useBush();
  const kept = $derived(bush.overview!.bush.settings);

  let trying = $state(false);
  let bitMm = $state(untrack(() => kept.bitMm));
  let depthMm = $state(untrack(() => kept.depthMm));
  let bandMm = $state(untrack(() => kept.highestMm - kept.lowestMm));
  let accepted = $state(untrack(() => kept.acceptedShare));
  const input = $derived<BalanceInput>({
    dbhMm,
    ringMm,
    ringSeMm,
    bitMm: trying ? bitMm : kept.bitMm,
    depthMm: trying ? depthMm : kept.depthMm,
    bandMm: trying ? bandMm : kept.highestMm - kept.lowestMm,
    acceptedShare: trying ? accepted : kept.acceptedShare,
    model: modelOf(kept, species)
  });
  const balance = $derived(growthBalance(input));
  const stain = $derived(meanStain(input.bitMm, input.model));
  const ring = (mm: number) => preferences.length(mm, 'ring');
  const carried = (n: number) => (n >= 9.95 ? 'more than ten' : n.toFixed(1));
  const share = (s: number) => (s >= 0.995 ? 'all of it' : `${Math.round(s * 100)}\u00a0%`);
  const BITS = [
    [7.9375, '5/16 in'],
    [9.525, '3/8 in'],
    [11.1125, '7/16 in']
  ] as const;

  /* The ring that it lays, as uncertain as it is, against the rings that one, two and three taps ask for. */
  const WIDTH = 640;
  const MOST = $derived(Math.max(2.5, ringMm + 3 * ringSeMm, Math.min(5, 3.2 * balance.ringForOneMm)));
  const x = (mm: number) => 12 + (Math.min(MOST, Math.max(0, mm)) / MOST) * (WIDTH - 24);
  const hill = $derived.by(() => {
    const points = Array.from({ length: 61 }, (_, i) => (i / 60) * MOST);
    const se = Math.max(0.02, ringSeMm);
    const at = (mm: number) => 74 - 46 * Math.exp(-0.5 * ((mm - ringMm) / se) ** 2);
    return `M${x(0)} 74 ${points.map((mm) => `L${x(mm).toFixed(1)} ${at(mm).toFixed(1)}`).join(' ')} L${x(MOST)} 74 Z`;
  });
  const ticks = $derived(
    preferences.units === 'metric'
      ? [0, 1, 2, 3, 4].filter((mm) => mm <= MOST)
      : [0, 0.04, 0.08, 0.12, 0.16].map((i) => i * MM_PER_INCH).filter((mm) => mm <= MOST)
  );
</script>

<div class="flex max-w-2xl flex-col gap-2" data-testid="balance">
  <p>
    {measured ? 'It lays' : 'Its growth is not measured yet; trees of its crown class lay'}
    {ring(ringMm)} of wood a year (give or take {ring(ringSeMm)}). Over a band of {preferences.length(
      input.bandMm,
      'hand'
    )}, with a {preferences.length(input.bitMm, 'bit')} bit {preferences.length(input.depthMm, 'drill')} deep, that carries
    <b>{carried(balance.tapsCarried)}</b> holes a year, likely between {carried(balance.tapsCarriedLow)} and {carried(
      balance.tapsCarriedHigh
    )}. One hole a year asks for rings of {ring(balance.ringForOneMm)}, two for {ring(2 * balance.ringForOneMm)}. The
    chance that its growth carries one: {chanceInWords(chanceToCarry(1, input))}; two: {chanceInWords(
      chanceToCarry(2, input)
    )}.
  </p>
  <svg
    viewBox="0 0 {WIDTH} 104"
    class="block w-full"
    role="img"
    aria-label="The ring that it lays against the rings that one, two and three taps ask for"
  >
    <path d={hill} class="fill-secondary stroke-secondary" fill-opacity="0.35" stroke-width="1.5" />
    <line x1={x(0)} x2={x(MOST)} y1="74" y2="74" class="stroke-base-content" stroke-width="1" />
    {#each [1, 2, 3] as taps (taps)}
      {@const mm = taps * balance.ringForOneMm}
      {#if mm <= MOST}
        <line
          x1={x(mm)}
          x2={x(mm)}
          y1="20"
          y2="74"
          class="stroke-base-content"
          stroke-width="2"
          stroke-dasharray={taps === 1 ? undefined : '4 4'}
        />
        <text x={x(mm)} y="14" text-anchor="middle" class="fill-base-content text-[13px] font-bold"
          >{taps === 1 ? 'one tap' : taps}</text
        >
      {/if}
    {/each}
    {#each ticks as mm (mm)}<text
        x={x(mm)}
        y="92"
        text-anchor={mm === 0 ? 'start' : x(mm) > WIDTH - 30 ? 'end' : 'middle'}
        class="fill-base-content text-[12px]">{ring(mm)}</text
      >{/each}
  </svg>
  <p>
    In the long run one tap a year leaves {share(longRunStainedShare(balance, 1))} of the band <Term of="stained"
      >stained</Term
    >, two leave {share(longRunStainedShare(balance, 2))}; {trying ? 'accepted here' : 'you accept'}: {share(
      input.acceptedShare!
    )}.
    {#if balance.suggested === 0 && Number.isFinite(balance.restRhythmYears)}In balance: one hole every {balance.restRhythmYears}
      years.{/if}
  </p>
  <label class="flex items-center gap-2 text-sm"
    ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={trying} /> Try other habits on this tree; nothing is
    changed by it</label
  >
  {#if trying}
    <div class="grid gap-x-6 gap-y-2 md:grid-cols-2">
      <label class="flex items-center gap-3"
        >Bit <select class="select grow select-sm" bind:value={bitMm}
          >{#each BITS as [mm, label] (mm)}<option value={mm}>{label}</option>{/each}</select
        ></label
      >
      <label class="flex flex-col"
        >Depth {preferences.length(depthMm, 'drill')}<input
          type="range"
          class="range range-sm"
          min="25.4"
          max="76.2"
          step="3.175"
          bind:value={depthMm}
        /></label
      >
      <label class="flex flex-col"
        >Band {preferences.length(bandMm, 'hand')}, by reach, snow or drop lines<input
          type="range"
          class="range range-sm"
          min="300"
          max="2400"
          step="50"
          bind:value={bandMm}
        /></label
      >
      <label class="flex flex-col"
        >Accepted {share(accepted)}<input
          type="range"
          class="range range-sm"
          min="0.02"
          max="0.4"
          step="0.01"
          bind:value={accepted}
        /></label
      >
    </div>
  {/if}
  <details class="text-sm">
    <summary class="cursor-pointer">How that is worked out</summary>
    <p class="mt-1">
      A hole stains on average A = {stain.times.toFixed(1)} · π/4 · bit² of the surface, {Math.round(
        stain.areaMm2 / 100
      )} cm². It is in the way until rings bury it: half of depth / ring years in the mean. k holes a year over a band of
      height H round a trunk of diameter D under the bark stain φ = k · A · depth / (2 · ring · π · D · H) of it; holes that
      meet by chance make that 1 − e<sup>−φ</sup>. Here D is {preferences.length(insideBark(dbhMm), 'trunk')} and φ at one
      tap {Number.isFinite(balance.phiAtOneTap) ? balance.phiAtOneTap.toFixed(3) : 'without end'}. The band is taken to
      wrap round and keep its girth; on a real trunk it is about 0.95 of that. The bark is about {preferences.length(
        barkThickness(dbhMm),
        'drill'
      )} thick; depths are into wood.
    </p>
  </details>
</div>
