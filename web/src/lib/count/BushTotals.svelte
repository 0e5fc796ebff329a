<script lang="ts">
  import { comingToSize, costOfTheThinnest } from '@baumkin/core/bush';
  import { otherSapOfTree, tapsToHang, type TreeRow } from '@baumkin/core/records';
  import {
    gearFor,
    guidelineTaps,
    TAP_GUIDELINES,
    tapGuidelineOf,
    type Collecting,
    type Suggestion
  } from '@baumkin/core/taps';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { gearWords, GUIDELINE_LABELS, tapWords } from '$lib/labels/taps.ts';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';

  /** What the counts of a bush come to: taps in all, trees that come to size, and the gear to buy. */
  const { lines }: { lines: readonly { readonly row: TreeRow; readonly suggestion: Suggestion }[] } = $props();
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const guideline = $derived(tapGuidelineOf(settings));

  const sum = (of: (line: (typeof lines)[number]) => number) => lines.reduce((total, line) => total + of(line), 0);
  const totals = $derived({
    suggested: sum(({ suggestion }) => suggestion.taps),
    decided: sum(({ row }) => tapsToHang(row, bush.standOf(row), bush.today)),
    // In a rest rhythm, the mean over its years.
    growth: Math.round(sum(({ suggestion: { balance } }) => balance.suggested || 1 / balance.restRhythmYears)),
    grown: lines.filter(({ suggestion }) => suggestion.growthMeasured).length,
    open: lines.filter(({ row }) => row.decidedTaps === null).length
  });
  /** Decided, but on trees that are no settled maples of a sugarbush, or must not be tapped now: nobody drills them. */
  const aside = $derived(
    bush.rows.reduce((n, row) => n + (otherSapOfTree(row) === null ? (row.decidedTaps ?? 0) : 0), 0) - totals.decided
  );
  const byGuideline = $derived(
    TAP_GUIDELINES.map((school) => ({ school, taps: sum(({ row }) => guidelineTaps(school, row.dbhMm!)) }))
  );
  const coming = $derived(
    comingToSize(
      lines.map(({ row }) => row),
      settings
    )
  );
  const early = $derived(costOfTheThinnest(coming, settings));
  const pct = (share: number) => `${Math.round(100 * share)} %`;
  let collecting = $state<Collecting>('buckets');
  const gearTaps = $derived(totals.decided || totals.suggested);
  const gear = $derived(
    gearFor(gearTaps, collecting).map(({ what, count }) => ({ count, ...gearWords(what, gearTaps, settings.bitMm) }))
  );
</script>

<aside class="flex flex-col gap-5">
  <section aria-labelledby="totals">
    <h2 id="totals">Taps in all</h2>
    <table class="w-full" data-testid="totals">
      <tbody>
        <tr class="border-b border-base-300"
          ><th class="py-1 text-left font-semibold">Suggested</th><td class="text-right font-bold"
            >{totals.suggested}</td
          ></tr
        >
        <tr class="border-b border-base-300"
          ><th class="py-1 text-left font-semibold">Decided</th><td class="text-right font-bold">{totals.decided}</td
          ></tr
        >
        <tr class="border-b border-base-300"
          ><th class="py-1 text-left font-normal">Growth carries</th><td class="text-right">{totals.growth}</td></tr
        >
        {#each byGuideline as { school, taps } (school.id)}
          <tr class="border-b border-base-300/60"
            ><th class="py-1 text-left font-normal {school.id === guideline.id ? 'font-bold' : ''}"
              >{GUIDELINE_LABELS[school.id].name}</th
            ><td class="text-right">{taps}</td></tr
          >
        {/each}
      </tbody>
    </table>
    <p class="aside mt-1">
      {lines.length} measured maples in stands that are kept for syrup; {totals.open} not decided. {totals.grown ===
      lines.length
        ? 'The growth of all is measured.'
        : `${totals.grown === 0 ? 'No growth' : `The growth of ${totals.grown}`} is measured; of the others what trees like them lay is taken.`}
      {#if aside > 0}{counted(aside, 'tap is', 'taps are')} decided on trees that are not settled as maples of such a stand,
        or must not be tapped now, and not counted here.{/if}
    </p>
    <p class="aside mt-1 print:hidden">Keys on a row: arrows step, 0 to 8 decide, Enter opens the tree.</p>
  </section>
  <section aria-labelledby="coming">
    <h2 id="coming">Coming to size</h2>
    {#if coming.length === 0}<p class="aside">No tree comes to the next step within ten years.</p>{/if}
    <ul class="text-sm">
      {#each coming.slice(0, 12) as { row, at } (row.id)}
        <li class="flex items-baseline gap-2 border-b border-base-300/60 py-1">
          <a class="link font-bold" href="/bush/{bush.id}/count/{row.id}">{row.tag}</a>
          <span class="grow">{tapWords(at.taps)} about {bush.season + Math.ceil(at.years)}</span>
          <span class="aside"
            >{bush.season + Math.floor(at.earliest)} to {at.latest === null
              ? '…'
              : bush.season + Math.ceil(at.latest)}</span
          >
        </li>
      {/each}
    </ul>
    {#if coming.length > 12}<p class="aside">and {coming.length - 12} more within ten years.</p>{/if}
    {#if early}
      <p class="aside mt-1">
        Tapped now, the thinnest of them would in the long run have {pct(early.now)} of its band stained, against {pct(
          early.then
        )} at the size that the ladder asks for. One tap takes most of what a small tree gives.
      </p>
    {/if}
  </section>
  <section aria-labelledby="gear">
    <h2 id="gear">Gear for {totals.decided > 0 ? 'what is decided' : 'what is suggested'}</h2>
    <div class="mt-1 text-sm print:hidden">
      <ToggleGroup
        label="Collecting"
        options={[
          { id: 'buckets', label: 'Buckets' },
          { id: 'tubing', label: 'Tubing' }
        ]}
        bind:value={collecting}
      />
    </div>
    <ul class="text-sm">
      {#each gear as item (item.name)}
        <li class="border-b border-base-300/60 py-1">
          <b>{item.count}</b>
          {item.name} <span class="aside">{item.because}</span>
        </li>
      {/each}
    </ul>
  </section>
</aside>
