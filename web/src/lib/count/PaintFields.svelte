<script lang="ts">
  import { PAINT_PLACES, paintClash, PAINTS, type Paint, type PaintPlace } from '@baumkin/core/records';
  import X from '@lucide/svelte/icons/x';

  import { useBush } from '$lib/client/bush.svelte.ts';

  /** The colours that the seasons go by at the holes, where the mark sits, and how long it can be read. */
  interface Props {
    paints: Paint[];
    /** the season of the first colour; null for always */
    since: number | null;
    /** seasons for which a mark can be seen; null for good */
    lasts: number | null;
    place: PaintPlace;
  }
  let { paints = $bindable(), since = $bindable(), lasts = $bindable(), place = $bindable() }: Props = $props();
  const bush = useBush();
  const { markPaint } = $derived(bush.overview!.bush.settings);
  const clash = $derived(paintClash(paints, markPaint));
  const PLACE_WORDS: Readonly<Record<PaintPlace, string>> = {
    below: 'below the hole',
    above: 'above it',
    left: 'to its left',
    right: 'to its right',
    round: 'round it'
  };
</script>

<fieldset class="flex flex-col gap-2" disabled={!bush.mayDecide} data-testid="paint">
  <legend class="mb-1 font-slab text-lg font-semibold">Paint at the holes</legend>
  <p class="aside">
    Many put a mark in the season’s colour at each hole, so that the years can be read off the bark. Choose the colours
    in their turn, or none.
  </p>
  <ol class="flex flex-wrap items-center gap-2">
    {#each paints as paint, i (paint)}
      <li class="flex items-center gap-1.5 border border-base-300 py-0.5 pr-1 pl-2">
        <span class="inline-block h-3.5 w-3.5 border border-current" style="background: var(--paint-{paint})"></span>
        {paint}
        <button
          type="button"
          class="grid h-7 w-7 place-items-center hover:bg-base-200"
          aria-label="Take {paint} out"
          onclick={() => paints.splice(i, 1)}><X size={14} /></button
        >
      </li>
    {:else}<li>No paint.</li>{/each}
    <li>
      <select
        class="select w-40 select-sm"
        aria-label="Add a colour"
        value=""
        onchange={(event) => {
          const paint = event.currentTarget.value as Paint;
          if (paint && !paints.includes(paint)) paints.push(paint);
          event.currentTarget.value = '';
        }}
        ><option value="">add a colour</option
        >{#each PAINTS.filter((each) => !paints.includes(each)) as paint (paint)}<option value={paint}>{paint}</option
          >{/each}</select
      >
    </li>
  </ol>
  {#if paints.length > 0}
    <label class="flex items-center gap-3"
      ><span class="w-32">The mark sits</span><select class="select grow" bind:value={place}
        >{#each PAINT_PLACES as each (each)}<option value={each}>{PLACE_WORDS[each]}</option>{/each}</select
      ></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-32">{paints[0]} since season</span><input
        class="input w-28"
        type="number"
        min="1900"
        max="2200"
        placeholder="always"
        bind:value={since}
      /></label
    >
    <label class="flex items-center gap-3"
      ><span class="w-32">seen for</span><input
        class="input w-28"
        type="number"
        min="1"
        max="60"
        placeholder="for good"
        bind:value={lasts}
      />
      seasons</label
    >
  {/if}
  {#if clash.length > 0}<p class="border-l-4 border-primary pl-3" data-testid="paint-clash">
      Trees to take are painted with “{markPaint}”: {clash.join(' and ')} at a hole would look like it.
    </p>{/if}
</fieldset>
