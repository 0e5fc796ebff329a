<script lang="ts">
  import { hourSavedCosts, paceOf, type PacedHole } from '@baumkin/core/bush';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';

  /**
   * Should the round go slower? Minutes at each tree are held against what the shavings showed, and an hour saved against litres lost, so that
   * nobody argues from a feeling.
   */
  const { holes }: { holes: readonly PacedHole[] } = $props();
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const pace = $derived(paceOf(holes));
  const price = $derived(pace && hourSavedCosts(pace, settings.stainLoss));
  const advice = $derived.by(() => {
    if (!price) return '';
    if (price.low > settings.litresAnHour) return 'Take the time: mark the place, and look where the bit goes.';
    return price.high < settings.litresAnHour
      ? 'The hour saved is worth more than the sap.'
      : 'Whether that hour is worth it cannot be told yet.';
  });
  const pct = (share: number) => `${Math.round(100 * share)} %`;
  const minutes = (many: number) => `${many.toFixed(1)} minutes`;
</script>

<section aria-labelledby="haste-costs" class="flex flex-col gap-2" data-testid="haste-costs">
  <h2 id="haste-costs">Does haste cost sap?</h2>
  {#if !pace || !price || pace.verdict === 'tooFew'}
    <p>
      {pace
        ? `Too few to tell: ${pace.holes} holes were written down one after another as they were drilled, ${pace.brown} of them brown.`
        : 'No hole is timed yet.'}
      Touch “Drilled here” at the tree, and say what the shavings looked like: after some sixty holes, eight of them brown,
      this page says whether a slower round pays.
    </p>
  {:else}
    <p>
      At the usual {minutes(pace.usualMinutes)} a hole, {pct(pace.asUsual)} are brown; in half the time
      <b>{pct(pace.halved.share)}</b>
      (8 in 10: {pct(pace.halved.low)} to {pct(pace.halved.high)}).
      {#if pace.verdict === 'hurryCosts'}
        An hour saved so costs about <b>{preferences.volume(price.litres)}</b> of a season’s sap ({preferences.volume(
          price.low
        )} to {preferences.volume(price.high)}); to you an hour is worth {preferences.volume(settings.litresAnHour)}.
        <b>{advice}</b>
      {:else if pace.verdict === 'hurryCostsNothing'}
        <b>Haste costs nothing here</b> that {pace.holes} holes would show.
      {:else}
        Whether haste costs, {pace.holes} holes do not tell yet.
      {/if}
    </p>
    <p class="aside">
      Minutes at a tree, the way left aside, of holes written down where they were drilled. Everybody is held against
      their own pace, every place against what was expected of it: nobody’s name stands here.
    </p>
  {/if}
</section>
