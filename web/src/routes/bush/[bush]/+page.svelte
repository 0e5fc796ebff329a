<script lang="ts">
  import { isMaple } from '@baumkin/core/identify';
  import { knownMaple, otherSapOfTree, tapsToHang, type Station } from '@baumkin/core/records';

  import { goto } from '$app/navigation';
  import Begin from '$lib/begin/Begin.svelte';
  import { FEW_TREES } from '$lib/begin/few.ts';
  import WishForm from '$lib/begin/WishForm.svelte';
  import WishHeld from '$lib/begin/WishHeld.svelte';
  import { counted } from '$lib/labels/counted.ts';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { TRAIL } from '$lib/frame/stations.ts';
  import WalkOrder from '$lib/frame/WalkOrder.svelte';
  import Legend from '$lib/map/Legend.svelte';
  import { mapTrees } from '$lib/map/mapTrees.ts';
  import { questionsFor } from '$lib/map/questions.ts';
  import StandMap from '$lib/map/StandMap.svelte';
  import { PURPOSE_WORDS } from '$lib/labels/stand.ts';

  const bush = useBush();
  const rows = $derived(bush.rows);
  const tagged = $derived(rows.filter((r) => r.tagged !== false));
  const maples = $derived(tagged.filter((r) => knownMaple(r) === true));
  /** all but birches and walnuts, which are told by themselves */
  const ours = $derived(rows.filter((r) => otherSapOfTree(r) === null));
  const decided = $derived(ours.filter((r) => r.decidedTaps !== null));
  const toHang = $derived(ours.map((r) => tapsToHang(r, bush.standOf(r), bush.today)).filter((n) => n > 0));
  const taps = $derived(toHang.reduce((sum, n) => sum + n, 0));
  const drilled = $derived(ours.reduce((sum, r) => sum + r.drilled, 0));

  const WHY: Record<Station, string> = {
    identify: 'No tree is tapped before it is known to be a maple.',
    measure: 'Sizes and growth are what the count hangs on.',
    count: 'Each maple needs its number before anyone carries a drill.',
    place: 'The holes are decided; find them clear wood.',
    thin: 'Marked trees still stand, or a watched one is due.',
    season: 'Spouts still in, or holes that a summer has gone over, are to be looked at.'
  };
  const next = $derived(TRAIL.find((s) => bush.outstanding[s.id] > 0) ?? null);

  let asked = $state('kind');
  const questions = $derived(questionsFor(bush));
  const question = $derived(questions.find((q) => q.id === asked)!);
  const trees = $derived(mapTrees(rows, question));
  const scene = $derived({ trees, tones: question.answers, chosen: new Set<string>(), current: null });
  const baseMap = $derived(
    bush.overview?.baseMap ? { url: `/api/v1/bushes/${bush.id}/base-map`, fit: bush.overview.baseMap } : null
  );
</script>

{#if bush.overview && rows.length === 0}
  <Begin />
{:else if bush.overview}
  <div class="grid gap-x-9 gap-y-5 lg:grid-cols-[22rem_minmax(0,1fr)]">
    <section class="flex flex-col gap-5">
      <div>
        <h1>{bush.overview.bush.name}</h1>
        <p class="mt-2 text-lg leading-snug">
          {counted(tagged.length, 'tagged tree')}, {maples.length === 0 && bush.outstanding.identify > 0
            ? 'none of them settled as a maple yet'
            : `${maples.length} of them ${maples.length === 1 ? 'a maple' : 'maples'}`}. For season {bush.season}, {taps ===
            0 && decided.length === 0
            ? 'nothing is decided yet'
            : `${counted(taps, 'taphole is', 'tapholes are')} decided on ${counted(toHang.length, 'tree')}, ${drilled} drilled`}.
        </p>
      </div>
      {#if bush.overview.bush.settings.wishLitres !== null}<WishHeld
          wishLitres={bush.overview.bush.settings.wishLitres}
        />{/if}
      {#if bush.openQuestions > 0}
        <p class="border-l-[6px] border-warning pl-4">
          <a class="inline-flex min-h-11 link items-center text-lg font-semibold" href="/bush/{bush.id}/questions"
            >{counted(bush.openQuestions, 'question')} to answer</a
          ><br />People wrote what does not go together, or propose something.
        </p>
      {/if}
      {#if next}
        <div class="border-l-[6px] border-primary pl-4">
          <p class="aside">The next best job</p>
          <p class="font-slab text-2xl font-semibold">{next.outstanding(bush.outstanding[next.id])}</p>
          <p class="mt-1">{WHY[next.id]}</p>
          <a class="btn mt-3 btn-primary" href="/bush/{bush.id}/{next.id}">{next.name}</a>
        </div>
      {:else}
        <p class="font-slab text-2xl font-semibold">Everything is done for now.</p>
      {/if}
      <ul class="flex flex-col">
        {#each bush.overview.stands as stand (stand.id)}
          {@const inside = rows.filter((r) => r.standId === stand.id)}
          <li class="border-t border-base-300 py-1.5">
            <b>{stand.name}</b>{stand.areaHa ? `, ${preferences.ground(stand.areaHa)}` : ''}: {inside.length} trees, {inside.filter(
              (r) => r.species && isMaple(r.species)
            ).length} maples;
            {PURPOSE_WORDS[stand.purpose]}
          </li>
        {/each}
      </ul>
      <WalkOrder />
    </section>
    <section
      class="flex min-w-0 flex-col gap-2 {trees.length > 0 ? 'max-md:hidden' : ''}"
      aria-label={trees.length > 0 ? 'Stand map' : 'What it takes'}
    >
      {#if trees.length > 0}
        <div class="h-[calc(100dvh-12.5rem)] min-h-80 border border-base-300">
          <StandMap
            {scene}
            stands={bush.overview.stands}
            features={bush.features}
            {baseMap}
            onpick={(id) => id && goto(`/bush/${bush.id}/life/${id}`)}
            hint={(tree) => `Tree ${tree.tag}${tree.says === '' ? '' : `: ${tree.says}`}`}
          />
        </div>
        <div class="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-5">
          <Legend {questions} bind:asked {rows} />
          <a class="btn btn-outline" href="/bush/{bush.id}/map">Work on the map</a>
        </div>
      {:else if rows.length <= FEW_TREES}
        <WishForm />
      {:else}
        <p class="max-w-prose">
          No tree has a place yet, so there is no map. Places come in with a <a
            class="link"
            href="/bush/{bush.id}/exchange">file</a
          >, from a receiver, by bearing and distance, or by a click:
          <a class="link" href="/bush/{bush.id}/map">begin on the map</a>.
        </p>
      {/if}
    </section>
  </div>
{/if}
