<script lang="ts">
  import { ringFromWidths } from '@baumkin/core/measure';
  import type { RingCount } from '@baumkin/core/records';
  import { UnreadableLength } from '@baumkin/core/units';

  import { readLength } from '$lib/ui/readLength.ts';
  import ToggleGroup from '$lib/ui/ToggleGroup.svelte';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { saved } from '$lib/client/saved.ts';
  import { ringCountWords } from '$lib/labels/measure.ts';

  /** Rings that were counted on a core or a stump: growth without years of waiting, age, and where the wood is hollow. */
  const { treeId }: { treeId: string } = $props();
  const bush = useBush();
  const row = $derived(bush.byId.get(treeId)!);
  const tree = $derived(bush.stateOf(treeId));

  /** at breast height, with the bark; a fifth more, for a stump is thicker, and pith is seldom in the middle */
  const radiusMm = $derived(row.dbhMm === null ? null : (1.2 * row.dbhMm) / 2);
  const metric = $derived(preferences.units === 'metric');
  let source = $state<RingCount['source']>('core');
  const EMPTY = { height: '', rings: '', last5: '', last10: '', last20: '', hollow: '' };
  /** A stump is sawn about so high, mm. */
  const STUMP_MM = 300;
  /** Rings as wide as this are asked about, mm. Common practice: open-grown trees lay on 4 to 5 mm. */
  const FASTEST_MM = 6;
  let texts = $state({ ...EMPTY });
  let toPith = $state(false);

  type Said =
    | Required<
        Pick<
          RingCount,
          'source' | 'heightMm' | 'rings' | 'toPith' | 'last5Mm' | 'last10Mm' | 'last20Mm' | 'hollowFromMm' | 'note'
        >
      >
    | { readonly problem: string };
  const refusal = (typed: string) => `No trunk here has ${typed}: look at the unit.`;
  const said = $derived.by((): Said => {
    try {
      const width = (text: string) =>
        readLength(text, { unit: metric ? 'mm' : 'in', leastMm: 0.1, mostMm: 300, refusal });
      const [last5Mm, last10Mm, last20Mm] = [width(texts.last5), width(texts.last10), width(texts.last20)];
      const widths = [last5Mm, last10Mm, last20Mm].filter((each) => each !== null);
      if (widths.some((each, i) => i > 0 && each <= widths[i - 1]!))
        return { problem: 'More rings are wider than fewer: look at the widths again.' };
      const rings = texts.rings.trim() === '' ? null : Number(texts.rings);
      if (rings !== null && !(Number.isInteger(rings) && rings >= 1 && rings <= 600))
        return { problem: 'Rings are counted whole, from 1 to 600.' };
      const measured = last20Mm !== null ? 20 : last10Mm !== null ? 10 : last5Mm !== null ? 5 : 0;
      if (rings !== null && rings < measured)
        return { problem: `${rings} rings were counted, but the outermost ${measured} measured: look at both again.` };
      const hollowFromMm = readLength(texts.hollow, { unit: preferences.trunkUnit, mostMm: 1000, refusal });
      if (toPith && hollowFromMm !== null)
        return { problem: 'Where the wood is hollow there is no pith to count to: take back one of the two.' };
      const deepest = Math.max(0, hollowFromMm ?? 0, ...widths);
      if (radiusMm !== null && deepest > radiusMm)
        return {
          problem: `From bark to pith this trunk has ${preferences.length(radiusMm, 'trunk')}: look at the unit.`
        };
      const usualMm = source === 'core' ? bush.overview!.bush.settings.breastHeightMm : STUMP_MM;
      return {
        source,
        heightMm: readLength(texts.height, { unit: preferences.trunkUnit, mostMm: 5000, refusal }) ?? usualMm,
        rings,
        toPith: toPith && rings !== null,
        last5Mm,
        last10Mm,
        last20Mm,
        hollowFromMm,
        note: ''
      };
    } catch (error) {
      if (error instanceof UnreadableLength) return { problem: error.message };
      throw error;
    }
  });
  const any = $derived(Object.values(texts).some((text, i) => i > 0 && text.trim() !== ''));
  const ring = $derived('problem' in said ? null : ringFromWidths(said));

  async function save(): Promise<void> {
    if ('problem' in said) return;
    const record = await bush.record(treeId, { kind: 'ringCount', ...said });
    texts = { ...EMPTY };
    toPith = false;
    saved(bush, `Tree ${row.tag}: written down.`, record);
  }
</script>

<section aria-labelledby="rings">
  <h2 id="rings">Counted rings</h2>
  {#each tree.ringCounts as count (count.id)}
    <p data-testid="ring-count">{ringCountWords(count, preferences)}</p>
  {:else}
    <p>A core or a stump tells in a minute what two tapes tell in years: its last rings, and whether it is hollow.</p>
  {/each}
  {#if bush.mayRecord}
    <details class="mt-1">
      <summary class="cursor-pointer font-semibold max-md:py-2">Write down a core or a stump</summary>
      <form
        class="mt-2 flex flex-col gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <ToggleGroup
          label="Rings counted on"
          options={[
            { id: 'core', label: 'Core' },
            { id: 'stump', label: 'Stump or sawn face' }
          ]}
          bind:value={source}
        />
        <label class="flex items-center gap-3"
          ><span class="w-28">At height</span>
          <input
            class="input w-32"
            placeholder={source === 'core' ? (metric ? '130 cm' : '51 in') : metric ? '30 cm' : '12 in'}
            bind:value={texts.height}
          /></label
        >
        <div class="flex flex-wrap items-center gap-3">
          <label class="flex items-center gap-3"
            ><span class="w-28">Rings, all</span>
            <input class="input w-24" inputmode="numeric" placeholder="84" bind:value={texts.rings} /></label
          >
          <label class="flex min-h-11 items-center gap-2"
            ><input type="checkbox" class="checkbox" bind:checked={toPith} /> to the pith</label
          >
        </div>
        <fieldset class="flex flex-wrap items-center gap-x-3 gap-y-2">
          <legend class="mb-1">Width of the outermost rings, bark left out</legend>
          {#each [['last5', '5', '8'], ['last10', '10', '15'], ['last20', '20', '28']] as const as [key, rings, mm] (key)}
            <label class="flex items-center gap-2"
              >{rings}
              <input
                class="input w-20"
                placeholder={metric ? `${mm} mm` : `${(Number(mm) / 25.4).toFixed(2)} in`}
                aria-label="Width of the outermost {rings} rings"
                bind:value={texts[key]}
              /></label
            >
          {/each}
        </fieldset>
        <label class="flex items-center gap-3"
          ><span class="w-28">Hollow from</span>
          <input class="input w-24" placeholder={metric ? '9 cm' : '3 1/2 in'} bind:value={texts.hollow} />
          under the bark</label
        >
        {#if any && 'problem' in said}<p role="alert" class="font-semibold text-error">{said.problem}</p>{/if}
        {#if ring}<p class="bg-base-200 px-3 py-2" data-testid="ring-told">
            That makes <b>{preferences.length(ring.ringMm, 'ring')} a year</b>, give or take {preferences.length(
              ring.seMm,
              'ring'
            )}: {source === 'core' ? 'one radius of a trunk that is not round' : 'as that radius has it'}.
            {#if ring.ringMm > FASTEST_MM}<b
                >Maples in a sugarbush seldom lay on more than {preferences.length(FASTEST_MM, 'ring')}:</b
              > look at the unit, and whether one radius was measured and not both.{/if}
          </p>{/if}
        <button class="btn self-start btn-outline btn-sm" disabled={!any || 'problem' in said}>Write it down</button>
      </form>
      {#if source === 'core'}<p class="aside mt-2">
          A core is a wound of its own: as seldom as you can, low, and away from where sap is tapped.
        </p>{/if}
    </details>
  {/if}
</section>
