<script lang="ts">
  import { paintClash } from '@baumkin/core/records';
  import { untrack } from 'svelte';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import DayOfYear from '$lib/ui/DayOfYear.svelte';

  /** What holds for every felling in this bush: the paint, the quiet time of nests and young, whether the ash borer is here. */
  const bush = useBush();
  const kept = $derived(bush.overview!.bush.settings);
  let markPaint = $state(untrack(() => kept.markPaint));
  let quietFrom = $state(untrack(() => kept.quietFrom));
  let quietTo = $state(untrack(() => kept.quietTo));
  let ashBorer = $state(untrack(() => kept.ashBorer));
  let problem = $state<string | null>(null);
  const clash = $derived(paintClash(kept.paints, markPaint));
  const changed = $derived(
    markPaint !== kept.markPaint ||
      quietFrom !== kept.quietFrom ||
      quietTo !== kept.quietTo ||
      ashBorer !== kept.ashBorer
  );
</script>

<form
  class="flex flex-col items-start gap-3"
  aria-labelledby="felling-habits"
  data-testid="felling-habits"
  onsubmit={async (event) => {
    event.preventDefault();
    problem = await bush.change.settings({ markPaint, quietFrom, quietTo, ashBorer });
    if (problem === null) toast.success('So it is from now on.');
  }}
>
  <h2 id="felling-habits">What holds for every felling here</h2>
  <fieldset class="flex flex-col items-start gap-3" disabled={!bush.mayDecide}>
    <label class="flex flex-wrap items-center gap-2"
      >Trees to take are painted with <input class="input w-60" maxlength="60" required bind:value={markPaint} /></label
    >
    {#if clash.length > 0}<p class="border-l-4 border-primary pl-3">
        {clash.join(' and ')} is also the paint at tapholes: choose another for felling.
      </p>{/if}
    <div>
      <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
        <DayOfYear label="Nothing is cut from" bind:value={quietFrom} />
        <DayOfYear label="to" bind:value={quietTo} />
      </div>
      <p class="aside mt-1 max-w-prose">
        Birds nest and dens hold young from mid April to the end of July; bats raise theirs under loose bark and in
        cavities in June and July. A working assumption: local rules come first.
      </p>
    </div>
    <label class="flex max-w-prose items-start gap-2"
      ><input type="checkbox" class="checkbox mt-0.5" bind:checked={ashBorer} />
      <span>The ash borer was found here or near by: ash dies at 15 to 25 % a year, and a sound one is kept.</span
      ></label
    >
  </fieldset>
  {#if problem !== null}<p role="alert" class="font-semibold text-error">{problem}</p>{/if}
  {#if bush.mayDecide && changed}<button class="btn btn-outline">Keep these</button>{/if}
</form>
