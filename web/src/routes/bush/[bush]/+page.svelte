<script lang="ts">
  import { isMaple, knownMaple, radiusOf, type Station } from '@baumkin/core';

  import { goto } from '$app/navigation';
  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { TRAIL } from '$lib/frame/stations.ts';
  import WalkOrder from '$lib/frame/WalkOrder.svelte';
  import Features from '$lib/ui/Features.svelte';
  import { PURPOSE_WORDS } from '$lib/ui/standWords.ts';

  const bush = $derived(useBush());
  const rows = $derived(bush.rows);
  const maples = $derived(rows.filter((r) => knownMaple(r) === true));
  const decided = $derived(rows.filter((r) => r.decidedTaps !== null));
  const taps = $derived(decided.reduce((sum, r) => sum + r.decidedTaps!, 0));
  const drilled = $derived(rows.reduce((sum, r) => sum + r.drilled, 0));

  const WHY: Record<Station, string> = {
    identify: 'No tree is tapped before it is known to be a maple.',
    measure: 'Sizes and growth are what the count hangs on.',
    count: 'Each maple needs its number before anyone carries a drill.',
    place: 'The holes are decided; find them clear wood.',
    thin: 'The marked trees still stand.'
  };
  const next = $derived(TRAIL.find((s) => bush.outstanding[s.id] > 0) ?? null);

  const placed = $derived(rows.filter((r) => r.eastM !== null && r.northM !== null));
  const frame = $derived.by(() => {
    const east = placed.map((r) => r.eastM!);
    const north = placed.map((r) => r.northM!);
    const pad = 8;
    const [w, e, s, n] = [
      Math.min(...east) - pad,
      Math.max(...east) + pad,
      Math.min(...north) - pad,
      Math.max(...north) + pad
    ];
    // Room above for the name of the northernmost stand.
    return { x: w, y: -n - 6, width: e - w, height: n - s + 6 };
  });
  const standLabels = $derived(
    (bush.overview?.stands ?? []).flatMap((stand) => {
      const inside = placed.filter((r) => r.standId === stand.id);
      if (inside.length === 0) return [];
      const x = inside.reduce((sum, r) => sum + r.eastM!, 0) / inside.length;
      const y = -Math.max(...inside.map((r) => r.northM!));
      return [{ stand, x, y }];
    })
  );
</script>

{#if bush.overview && rows.length === 0}
  <h1>{bush.overview.bush.name}</h1>
  <p class="mt-2 max-w-prose text-lg">
    This bush has no trees yet. Bring them in from a file: a tag and a girth each is enough to begin.
  </p>
  <a class="btn mt-4 btn-primary" href="/bush/{bush.id}/exchange">Bring trees in</a>
{:else if bush.overview}
  <div class="grid gap-x-9 gap-y-5 lg:grid-cols-[22rem_minmax(0,1fr)]">
    <section class="flex flex-col gap-5">
      <div>
        <h1>{bush.overview.bush.name}</h1>
        <p class="mt-2 text-lg leading-snug">
          {rows.length} tagged trees, {maples.length} of them maples. For season {bush.season}, {taps === 0 &&
          decided.length === 0
            ? 'nothing is decided yet'
            : `${taps} ${taps === 1 ? 'taphole is' : 'tapholes are'} decided on ${decided.length} trees, ${drilled} drilled`}.
        </p>
      </div>
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
    {#if placed.length > 0}
      <section class="min-w-0 max-md:hidden" aria-label="Stand map">
        <svg
          viewBox="{frame.x} {frame.y} {frame.width} {frame.height}"
          class="block max-h-[calc(100dvh-13rem)] w-full bg-base-200"
          role="group"
          aria-label="The trees from above, north up"
        >
          <Features features={bush.features} x={(east) => east} y={(north) => -north} stroke={0.9} />
          {#each placed as row (row.id)}
            {@const maple = knownMaple(row)}
            <!-- the bead string and the search reach every tree by key -->
            <!-- svelte-ignore a11y_click_events_have_key_events -->
            <g
              role="button"
              tabindex="-1"
              aria-label="Tree {row.tag}"
              class="cursor-pointer"
              onclick={() => goto(`/bush/${bush.id}/life/${row.id}`)}
            >
              <title>Tree {row.tag}{row.dbhMm ? `, ${preferences.length(row.dbhMm, 'trunk')}` : ''}</title>
              <circle
                cx={row.eastM}
                cy={-row.northM!}
                r={row.dbhMm ? radiusOf({ ...row, dbhMm: row.dbhMm }) : 1.5}
                class={maple === true
                  ? 'fill-secondary/35 stroke-secondary'
                  : maple === null
                    ? 'fill-primary/40 stroke-primary'
                    : 'fill-base-content/8 stroke-base-content/40'}
                stroke-width="0.35"
              />
              <circle cx={row.eastM} cy={-row.northM!} r="0.6" class="fill-base-content" />
            </g>
          {/each}
          {#each bush.features as feature (feature.id)}
            {@const [east, north] = feature.points[Math.floor(feature.points.length / 2)]!}
            <text
              x={east}
              y={3 - north}
              class="fill-base-content text-[5px] italic"
              style="paint-order: stroke"
              stroke="var(--color-base-200)"
              stroke-width="1.4">{feature.name}</text
            >
          {/each}
          {#each standLabels as { stand, x, y } (stand.id)}
            <text
              {x}
              y={y - 2}
              text-anchor="middle"
              class="fill-base-content font-slab text-[6px] font-semibold"
              style="paint-order: stroke"
              stroke="var(--color-base-200)"
              stroke-width="1.6">{stand.name}</text
            >
          {/each}
        </svg>
        <p class="aside mt-1.5 flex flex-wrap gap-x-5">
          <span class="flex items-center gap-1.5"
            ><span class="inline-block h-3.5 w-3.5 rounded-full border-2 border-secondary bg-secondary/35"
            ></span>maple</span
          >
          <span class="flex items-center gap-1.5"
            ><span class="inline-block h-3.5 w-3.5 rounded-full border-2 border-primary bg-primary/40"
            ></span>unsettled</span
          >
          <span class="flex items-center gap-1.5"
            ><span class="inline-block h-3.5 w-3.5 rounded-full border-2 border-base-content/40"></span>other trees</span
          >
          <span>Crowns to scale: as measured, or from the diameters.</span>
        </p>
      </section>
    {/if}
  </div>
{:else}
  <p class="aside">
    {bush.offline
      ? 'There is no network, and this device has not seen this bush before. Open it once where there is a network.'
      : 'Opening the bush …'}
  </p>
{/if}
