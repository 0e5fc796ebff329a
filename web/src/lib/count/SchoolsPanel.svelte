<script lang="ts">
  import { guidelineTaps, TAP_GUIDELINES, type TapGuideline } from '@baumkin/core/taps';
  import { MM_PER_INCH } from '@baumkin/core/units';

  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { GUIDELINE_LABELS, guidelineRule } from '$lib/labels/taps.ts';

  import GuidelinePicture from './GuidelinePicture.svelte';
  import { USUAL, usuallyCarried, type Drilling } from './usualTree.ts';

  /** Where practitioners differ, side by side: taps by size, depth, and the rest. `drilling` is null while it cannot be read. */
  const { guideline, drilling }: { guideline: TapGuideline; drilling: Drilling | null } = $props();
  const show = (mm: number) => preferences.length(mm, 'trunk');

  /** Common practice. */
  const DEPTHS = [
    [1.5, 'most people now; our default'],
    [2, 'the deepest that is needed; some gain a little sap on thick trunks'],
    [2.5, 'older practice on trunks over two feet'],
    [3, 'older practice on giants; often meets dark heartwood, which gives no sap']
  ] as const;
  const DIFFERENCES = [
    [
      'Height',
      'From two to five feet is common. Lower runs no better; higher reaches fresh wood, if arms, snow and drop line allow, and if the bucket can be lifted down when the snow is gone.'
    ],
    [
      'Clearing the hole',
      'Some leave the shavings where they are, some brush them out, some rinse with clean water, some swab. Each works with a clean, sharp bit that goes in and out in one go. Nobody blows into a hole: breath brings microbes.'
    ],
    [
      'Plugging the hole afterwards',
      'It does not help. A plug keeps the wound wet and the tree from closing it; open holes close by themselves in one to two years.'
    ],
    [
      'The warm side, under a limb, over a root',
      'They run first on a bright morning and little more in a season. Where everybody goes there, holes crowd: see what that costs under Ways of placing.'
    ]
  ] as const;
</script>

<section aria-labelledby="schools" class="min-w-0">
  <h2 id="schools">Where the schools differ</h2>
  <p class="aside mb-2">
    Taps by diameter. They all ask for size; none asks whether the tree grows. Our default is the last to begin and
    never asks for more than two; over {show(18 * MM_PER_INCH)} some others ask for fewer.
  </p>
  <GuidelinePicture chosen={guideline} dbhMm={null} />
  <table class="mt-3 w-full max-w-2xl text-left text-sm">
    <thead
      ><tr class="border-b-2 border-base-content"
        ><th class="py-1 pr-4 font-semibold">School</th><th class="pr-4 font-semibold">Rule</th><th
          class="text-right font-semibold whitespace-nowrap">At {show(USUAL.dbhMm)}</th
        ></tr
      ></thead
    >
    <tbody>
      {#each TAP_GUIDELINES as school (school.id)}
        <tr class="border-b border-base-300/60"
          ><th class="py-1 pr-4 font-semibold whitespace-nowrap">{GUIDELINE_LABELS[school.id].name}</th><td class="pr-4"
            >{guidelineRule(school, preferences.units)}</td
          ><td class="text-right">{guidelineTaps(school, USUAL.dbhMm)}</td></tr
        >
      {/each}
    </tbody>
  </table>
  <p class="mt-3 max-w-2xl">
    <b>“Tap at forty years”, “at ten years”:</b> age does not tell. Two trees of one seed lot can be twice as thick as each
    other; one planted in the open may be ready at twenty-five, one under others not at eighty. Go by the tape.
  </p>
  <h2 class="mt-6">How deep: what each depth costs</h2>
  <p class="aside mb-2">
    On a tree {show(USUAL.dbhMm)} thick with rings of {preferences.length(USUAL.ringMm, 'ring')}, with your bit and
    band. The tape on the bit adds the bark.
  </p>
  <table class="w-full max-w-2xl text-left text-sm" data-testid="depths">
    <thead
      ><tr class="border-b-2 border-base-content"
        ><th class="py-1 pr-4 font-semibold">Wood</th><th class="pr-4 font-semibold">Who says so</th><th
          class="pr-4 text-right font-semibold">Buried after</th
        ><th class="text-right font-semibold">Holes a year it carries</th></tr
      ></thead
    >
    <tbody>
      {#each DEPTHS as [inches, who] (inches)}
        {@const mm = inches * MM_PER_INCH}
        <tr class="border-b border-base-300/60"
          ><th class="py-1 pr-4 font-semibold whitespace-nowrap">{preferences.length(mm, 'bit')}</th><td class="pr-4"
            >{who}</td
          ><td class="pr-4 text-right">{Math.round(mm / USUAL.ringMm)} seasons</td><td class="text-right"
            >{drilling ? usuallyCarried({ ...drilling, depthMm: mm }).toFixed(1) : ''}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
  <h2 class="mt-6">What else people do differently</h2>
  <dl class="mt-1 flex max-w-2xl flex-col gap-2">
    {#each DIFFERENCES as [what, says] (what)}
      <div>
        <dt class="font-semibold">{what}</dt>
        <dd>{says}</dd>
      </div>
    {/each}
  </dl>
</section>
