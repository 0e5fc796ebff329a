<script lang="ts">
  import { LITRES_A_TAP, SYRUP_SPREAD, tapsForSyrup } from '@baumkin/core/sap';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';

  /** How many taps and trees does a wish for syrup take? */
  const bush = useBush();
  const wish = $derived(bush.overview?.bush.settings.wishLitres ?? null);
  const scale = $derived(preferences.volumeScale);
  let problem = $state<string | null>(null);
  /** where the usual rule begins, and where it gives two */
  const [ONE, TWO] = $derived(preferences.units === 'metric' ? ['30 cm', '46 cm'] : ['12 in', '18 in']);
  const wants = $derived(wish === null ? null : tapsForSyrup(wish));
  async function say(text: string): Promise<void> {
    const number = Number(text.replace(',', '.'));
    if (text.trim() === '') problem = await bush.change.settings({ wishLitres: null });
    else if (!(number > 0)) problem = 'How much is a number above nought.';
    else problem = await bush.change.settings({ wishLitres: Math.min(100_000, Math.max(0.1, scale.kept(number))) });
  }
</script>

<section aria-labelledby="wish" class="flex flex-col gap-2" data-testid="wish">
  <h2 id="wish">How much syrup would you like in a year?</h2>
  <label class="flex items-center gap-2"
    ><input
      class="input w-28"
      inputmode="decimal"
      aria-label="Syrup in a year, {scale.name}"
      disabled={!bush.mayDecide}
      value={wish === null ? '' : String(Number(scale.shown(wish).toFixed(2)))}
      onchange={({ currentTarget }) => void say(currentTarget.value)}
    />
    {scale.name} of syrup</label
  >
  {#if problem !== null}<p role="alert" class="text-error">{problem}</p>{/if}
  {#if wants}
    <p class="text-lg">
      About <b>{counted(wants.usual, 'tap')}</b>, {wants.low} to {wants.high} in eight years of ten: one on each maple of
      {ONE} across and more, two on those thicker than {TWO}.
    </p>
  {/if}
  <p class="aside">
    A tap gives about {preferences.volume(LITRES_A_TAP)} of sap in a season with buckets, {preferences.volume(
      LITRES_A_TAP / SYRUP_SPREAD
    )} to {preferences.volume(LITRES_A_TAP * SYRUP_SPREAD)} (common practice), and some forty of it make one of syrup.
  </p>
</section>
