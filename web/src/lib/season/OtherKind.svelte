<script lang="ts">
  import {
    otherRatio,
    type LikelyDay,
    type OtherSeason,
    type OtherTree,
    type OtherYear,
    type PlaceNow,
    type StoredSap
  } from '@baumkin/core/bush';
  import type { OtherSap } from '@baumkin/core/identify';
  import { OTHER_SAP_FACTS } from '@baumkin/core/season';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { counted } from '$lib/labels/counted.ts';
  import { shortDay } from '$lib/labels/season.ts';
  import { OTHER_TREES } from '$lib/labels/taps.ts';
  import { capital } from '$lib/words/capital.ts';

  /** One kind of trees that are no maples: when its sap rises, what it comes to, and which of them bear a hole. */
  const {
    kind,
    trees,
    rises,
    year,
    places,
    store,
    onlog,
    onplace,
    onbatch
  }: {
    kind: OtherSap;
    trees: readonly OtherTree[];
    rises: OtherSeason | null;
    year: OtherYear;
    places: readonly PlaceNow[];
    store: StoredSap | null;
    onlog: (place: PlaceNow) => void;
    onplace: () => void;
    onbatch: () => void;
  } = $props();
  const bush = useBush();
  const settings = $derived(bush.overview!.bush.settings);
  const isTapped = $derived(settings.alsoTaps.includes(kind));
  const facts = $derived(OTHER_SAP_FACTS[kind]);
  const ratio = $derived(otherRatio(kind, settings.finishBrix));
  const sum = (of: (tree: OtherTree) => number) => trees.reduce((all, tree) => all + of(tree), 0);
  const taps = $derived(sum(({ decided, row }) => Math.max(decided, row.drilled)));
  const drilled = $derived(sum(({ row }) => row.drilled));
  const bear = $derived(sum(({ suggested }) => suggested ?? 0));
  const perTap = $derived({ low: facts.litresATap.low / ratio.usual, high: facts.litresATap.high / ratio.usual });
  const span = ({ early, late }: LikelyDay) =>
    late === null
      ? `after ${shortDay(early)}, perhaps not before June`
      : `between ${shortDay(early)} and ${shortDay(late)}`;
  const between = (low: number, high: number, of = 1) =>
    `${preferences.fewLitres(low * of)} to ${preferences.fewLitres(high * of)}`;

  async function tapThem(tapped: boolean): Promise<void> {
    const others = settings.alsoTaps.filter((each) => each !== kind);
    const problem = await bush.change.settings({ alsoTaps: tapped ? [...others, kind] : others });
    if (problem) toast.error(problem);
  }
</script>

<section aria-labelledby="{kind}-head" data-testid={kind}>
  <div class="flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h2 id="{kind}-head" class="grow">{capital(OTHER_TREES[kind])}</h2>
    {#if bush.mayDecide}<label class="flex min-h-11 items-center gap-2"
        ><input
          type="checkbox"
          class="checkbox"
          checked={isTapped}
          onchange={(event) => void tapThem(event.currentTarget.checked)}
        />
        this bush taps its {OTHER_TREES[kind]}</label
      >{/if}
  </div>
  <div class="mt-1 border-l-[6px] pl-4 {isTapped ? 'border-primary' : 'border-base-300'}">
    <p class="font-slab text-xl leading-snug" data-testid="rises">
      {#if !rises}
        Their sap runs with the maples’, by frost and thaw.
      {:else if rises.from && rises.until}
        Sap rises from about {shortDay(rises.from.usual)} to {shortDay(rises.until.usual)}.
      {:else if rises.from}
        Sap rises from about {shortDay(rises.from.usual)} on; its end lies beyond what can be told.
      {:else}When their sap rises cannot be told yet.{/if}
    </p>
    <p>
      {#if rises?.from && rises.until}
        By the warmth of {counted(rises.years, 'spring')} and of this one so far, eight times in ten it begins {span(
          rises.from
        )} and ends {span(rises.until)}. It needs no frost, and ends when their own leaves come out.
      {:else if rises && rises.years > 0 && !rises.from}In most of the {counted(rises.years, 'spring')} in the book it is
        not warm enough before June.
      {:else if rises && !rises.from}It goes by warmth, and no spring is in the book: <a
          class="link"
          href="/bush/{bush.id}/season/weather">bring in weather</a
        >.{/if}
      {ratio.usual.toFixed(0)} litres make one, {ratio.low.toFixed(0)} to {ratio.high.toFixed(0)} by its sugar ({facts
        .brix.low}
      to {facts.brix.high} %).
      {#if taps > 0}
        {capital(counted(taps, 'hole gives', 'holes give'))} some {between(
          facts.litresATap.low,
          facts.litresATap.high,
          taps
        )} of sap and
        {between(perTap.low, perTap.high, taps)} of syrup.
      {:else if bear > 0}
        {capital(counted(trees.length, 'tree'))} with a tag would bear {counted(bear, 'hole')}: {between(
          facts.litresATap.low,
          facts.litresATap.high,
          bear
        )} of sap, {between(perTap.low, perTap.high, bear)} of syrup.
      {:else}
        A hole gives some {between(facts.litresATap.low, facts.litresATap.high)} of sap, and that {between(
          perTap.low,
          perTap.high
        )} of syrup.
      {/if}
      <span class="aside">From common practice; this bush’s own log tells more with every batch.</span>
    </p>
  </div>

  {#if isTapped}
    <div class="mt-4 grid gap-x-10 gap-y-5 lg:grid-cols-[minmax(0,1fr)_23rem]">
      <div class="min-w-0 overflow-x-auto">
        <p>
          {counted(trees.length, 'tree')}, {counted(bear, 'hole')} suggested, {taps} decided, {drilled} drilled.
        </p>
        <table class="mt-2 w-full text-left whitespace-nowrap">
          <thead
            ><tr class="border-b-2 border-base-content"
              ><th class="py-1 pr-3">Tree</th><th class="pr-3 text-right">Diameter</th><th class="pr-3 text-right"
                >Suggested</th
              ><th class="pr-3 text-right">Decided</th><th class="text-right">Drilled</th></tr
            ></thead
          >
          <tbody>
            {#each trees as { row, suggested, decided } (row.id)}
              <tr class="border-b border-base-300"
                ><td class="pr-3"
                  ><a class="inline-flex min-h-9 link items-center font-semibold" href="/bush/{bush.id}/count/{row.id}"
                    >{row.tag}</a
                  ></td
                ><td class="pr-3 text-right"
                  >{row.dbhMm === null ? 'not measured' : preferences.length(row.dbhMm, 'trunk')}</td
                ><td class="pr-3 text-right">{suggested ?? ''}</td><td class="pr-3 text-right"
                  >{row.decidedTaps === null ? '' : decided}</td
                ><td class="text-right"
                  >{#if decided > row.drilled}<a class="link" href="/bush/{bush.id}/place/{row.id}"
                      >{row.drilled > 0 ? `${row.drilled}, place the next` : 'place it'}</a
                    >{:else}{row.drilled || ''}{/if}</td
                ></tr
              >
            {/each}
          </tbody>
        </table>
      </div>
      <div class="flex flex-col gap-3">
        <h3 class="font-bold">Collected and boiled in {bush.season}</h3>
        <p>
          {year.sapLitres > 0
            ? `${preferences.volume(year.sapLitres)} of sap so far`
            : 'Nothing is collected yet'}{store
            ? `, ${preferences.volume(store.litres)} of it waits for the fire`
            : ''}.
          {#if year.ratio !== null}{preferences.fewLitres(year.syrupLitres)} of syrup: {year.ratio.toFixed(0)} to one.{/if}
        </p>
        {#each places as now (now.place.id)}
          <p class="flex items-baseline gap-3">
            <b class="grow">{now.place.name}</b><span>{counted(now.taps, 'hole')}</span>
            {#if bush.mayRecord}<button class="btn btn-outline btn-sm" onclick={() => onlog(now)}>Emptied</button>{/if}
          </p>
        {/each}
        <div class="flex flex-wrap gap-2">
          {#if bush.mayDecide}<button class="btn btn-outline btn-sm" onclick={onplace}>A collecting place</button>{/if}
          {#if bush.mayRecord}<button class="btn btn-primary btn-sm" onclick={onbatch}>A batch</button>{/if}
        </div>
        {#if kind === 'birch'}<p class="aside">
            Its sugars scorch where maple’s do not: a low fire in the end, and a thin layer. It is finished by taste and
            thickness well before it looks like maple syrup.
          </p>{/if}
      </div>
    </div>
  {/if}
</section>
