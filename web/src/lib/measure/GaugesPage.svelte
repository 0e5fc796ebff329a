<script lang="ts">
  import { basalAreaFactors, gaugeRow, stickMarks } from '@baumkin/core/cruise';
  import { girthFromDiameter } from '@baumkin/core/measure';
  import { DEFAULT_BUSH_SETTINGS } from '@baumkin/core/records';
  import { tapGuidelineOf } from '@baumkin/core/taps';
  import { parseTrunkLength, UnreadableLength } from '@baumkin/core/units';
  import Printer from '@lucide/svelte/icons/printer';

  import { counted } from '$lib/labels/counted.ts';
  import { GUIDELINE_LABELS } from '$lib/labels/taps.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import Term from '$lib/ui/Term.svelte';

  /** Gauges to make oneself: a Biltmore stick at true scale, loops of cord, an angle gauge. */
  const bush = useBush();
  const metric = $derived(preferences.units === 'metric');
  let reachText = $state('');
  const reach = $derived.by(() => {
    const fallback = metric ? 640 : 635;
    if (reachText.trim() === '') return { mm: fallback, problem: null };
    try {
      const { valueMm } = parseTrunkLength(reachText, preferences.trunkUnit);
      return valueMm < 400 || valueMm > 900
        ? {
            mm: fallback,
            problem: `An arm reaches between ${preferences.length(400, 'hand')} and ${preferences.length(900, 'hand')}.`
          }
        : { mm: valueMm, problem: null };
    } catch (error) {
      if (error instanceof UnreadableLength) return { mm: fallback, problem: error.message };
      throw error;
    }
  });
  const marks = $derived(stickMarks(reach.mm, preferences.units));
  const guideline = $derived(tapGuidelineOf(bush.overview?.bush.settings ?? DEFAULT_BUSH_SETTINGS));
  const length = (mm: number) => preferences.length(mm, 'trunk');
  const steps = $derived(guideline.steps.filter((step) => step.taps > 0));
  const diameters = $derived(metric ? [200, 300, 400, 500] : [203.2, 304.8, 406.4, 508]);

  /** The stick is longer than a page: it is printed in pieces that are glued end to end. */
  const PIECE_MM = 170;
  const STICK_MM = 26;
  const pieces = $derived(
    Array.from({ length: Math.ceil((marks.at(-1)!.atMm + 10) / PIECE_MM) }, (_, i) => ({
      from: i * PIECE_MM,
      marks: marks.filter((mark) => mark.atMm >= i * PIECE_MM && mark.atMm < (i + 1) * PIECE_MM)
    }))
  );
</script>

<div class="flex flex-wrap items-baseline justify-between gap-x-4 print:hidden">
  <h1>Gauges to make yourself</h1>
  <button class="btn btn-outline btn-sm" onclick={() => window.print()}><Printer size={16} /> Print this page</button>
</div>
<div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)] print:block">
  <section aria-labelledby="stick" class="min-w-0">
    <h2 id="stick" class="mt-2">Biltmore stick</h2>
    <p class="max-w-prose">
      Hold it flat against the trunk at breast height, {length(reach.mm)} from your eye, its end in line with the left edge
      of the trunk. Without moving your head, read where the right edge falls. It errs by about {length(12)}; a tape by
      far less.
    </p>
    <label class="mt-2 flex flex-wrap items-center gap-3 print:hidden"
      ><span class="font-semibold">From your eye to the stick</span>
      <input class="input w-32 input-sm" placeholder={length(reach.mm)} bind:value={reachText} /></label
    >
    {#if reach.problem}<p role="alert" class="mt-1 font-semibold text-error">{reach.problem}</p>{/if}
    <p class="aside mt-1 print:hidden">Printed at 100 % it has its true size; here it may be drawn smaller.</p>
    <div class="mt-3 flex flex-col gap-3" data-testid="stick">
      {#each pieces as piece (piece.from)}
        <svg
          width="{PIECE_MM + 10}mm"
          height="{STICK_MM}mm"
          viewBox="0 0 {PIECE_MM + 10} {STICK_MM}"
          class="block h-auto max-w-full shrink-0 text-black print:max-w-none"
          style="background: #fff"
          role="img"
          aria-label="Piece {piece.from / PIECE_MM + 1} of the stick"
        >
          <rect
            x="0.2"
            y="0.2"
            width={PIECE_MM}
            height={STICK_MM - 0.4}
            fill="none"
            stroke="currentColor"
            stroke-width="0.3"
          />
          <path
            d="M{PIECE_MM} 0.2 h8 l-2 4 l2 4 l-2 4 l2 4 l-2 4 l2 {STICK_MM - 20.4} h-8"
            fill="none"
            stroke="currentColor"
            stroke-width="0.2"
            stroke-dasharray="1 1"
          />
          {#each piece.marks as mark (mark.diameter)}
            {@const x = mark.atMm - piece.from}
            <path d="M{x} 0.2 v{mark.numbered ? 12 : 6}" stroke="currentColor" stroke-width="0.3" />
            {#if mark.numbered}<text {x} y="17.5" font-size="4.6" text-anchor="middle" fill="currentColor"
                >{mark.diameter}</text
              >{/if}
          {/each}
          <text x="2" y={STICK_MM - 2} font-size="3.2" fill="currentColor"
            >{piece.from / PIECE_MM + 1} of {pieces.length} · diameter, {metric ? 'cm' : 'in'} · eye to stick {length(
              reach.mm
            )}</text
          >
        </svg>
      {/each}
      <svg
        width="110mm"
        height="9mm"
        viewBox="0 0 110 9"
        class="block h-auto max-w-full shrink-0 text-black print:max-w-none"
        style="background: #fff"
      >
        <path d="M5 1 V5 H105 V1" fill="none" stroke="currentColor" stroke-width="0.3" />
        <text x="55" y="8.6" font-size="3.2" text-anchor="middle" fill="currentColor"
          >Check with a ruler: this line is 10 cm (3 15/16 in) long. If not, print at 100 %.</text
        >
      </svg>
    </div>
  </section>
  <div class="flex flex-col gap-6 print:mt-6">
    <section aria-labelledby="loops">
      <h2 id="loops">Loops of cord</h2>
      <p class="max-w-prose">
        A loop that just goes round the trunk says that it has reached a size of the “{GUIDELINE_LABELS[
          guideline.id
        ].name.toLowerCase()}” rule. Cut them to these lengths, knot included.
      </p>
      <table class="mt-2 w-full max-w-md text-left">
        <thead
          ><tr class="border-b border-base-300"
            ><th class="py-1">From this diameter</th><th>the rule allows</th><th class="text-right">Loop</th></tr
          ></thead
        >
        <tbody>
          {#each steps as step (step.diameterMm)}
            <tr class="border-b border-base-300/60"
              ><td class="py-1">{length(step.diameterMm)}</td><td>{counted(step.taps, 'tap')}</td><td
                class="text-right font-bold">{length(girthFromDiameter(step.diameterMm))}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
    </section>
    <section aria-labelledby="angle">
      <h2 id="angle">Angle gauge</h2>
      <p class="max-w-prose">
        Hold a strip of this width {length(reach.mm)} from your eye and turn once round on the spot. Each trunk that looks
        wider than the strip counts for its factor of <Term of="basalArea" />. Measure the doubtful ones: a tree counts
        when it stands no farther away than this.
      </p>
      <div class="overflow-x-auto">
        <table class="mt-2 w-full text-left">
          <thead
            ><tr class="border-b border-base-300"
              ><th class="py-1">Factor</th><th class="text-right">Width</th>
              {#each diameters as d (d)}<th class="pl-3 text-right">{length(d)}</th>{/each}</tr
            ></thead
          >
          <tbody>
            {#each basalAreaFactors(preferences.units) as { bafM2PerHa, name } (name)}
              {@const gauge = gaugeRow(bafM2PerHa, reach.mm, diameters)}
              <tr class="border-b border-base-300/60"
                ><td class="py-1 whitespace-nowrap">{name}</td><td class="text-right font-bold"
                  >{preferences.length(gauge.widthMm, metric ? 'ring' : 'drill')}</td
                >
                {#each gauge.distancesM as distance, i (i)}<td class="pl-3 text-right whitespace-nowrap"
                    >{preferences.length(distance * 1000, 'ground')}</td
                  >{/each}</tr
              >
            {/each}
          </tbody>
        </table>
      </div>
    </section>
  </div>
</div>
