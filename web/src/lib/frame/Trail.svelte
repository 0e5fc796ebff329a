<script lang="ts">
  import { hasComeTo, STATIONS, type Station } from '@baumkin/core/records';

  import { useBush } from '$lib/client/bush.svelte.ts';

  import { stationHref } from './pages.ts';
  import { TRAIL } from './stations.ts';

  /** The stations in working order, as blazes along a path; each says what is left to do there. */
  const {
    current,
    treeId,
    walking
  }: {
    current: Station | null;
    treeId: string | null;
    /** on a phone a walk has the screen to itself */
    walking: boolean;
  } = $props();
  const bush = useBush();
  /** Of a bush without trees nothing is done, nor to be done: it has yet to begin. */
  const begun = $derived(bush.overview !== null && bush.rows.length + bush.stumps.length > 0);
  /** Where nothing is to be done it is done only if some tree came so far; before that, a station that trees wait for is named. */
  const came = (station: Station) => [...bush.rows, ...bush.stumps].some((row) => hasComeTo(station, row));
  const waitsFor = (station: Station) =>
    station === 'count' || station === 'place'
      ? (TRAIL.slice(0, STATIONS.indexOf(station)).find(({ id }) => bush.outstanding[id] > 0) ?? null)
      : null;
  const href = (station: Station) => stationHref(bush.id, station, treeId);
</script>

<nav
  aria-label="Stations"
  class="border-base-300 bg-base-200 max-md:order-last max-md:shrink-0 max-md:border-t md:w-[11.5rem] md:shrink-0 md:border-r md:px-4 md:py-5 print:hidden {walking
    ? 'max-md:hidden'
    : ''}"
>
  <ol class="relative flex max-md:justify-around md:flex-col md:gap-1">
    <svg
      class="pointer-events-none absolute top-3 left-[7px] h-[calc(100%-3rem)] w-3 max-md:hidden"
      viewBox="0 0 12 100"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <path
        d="M6 0 C 10 12 2 24 6 36 S 10 60 6 72 S 2 92 6 100"
        fill="none"
        stroke="currentColor"
        stroke-width="1.5"
        stroke-dasharray="3 4"
        opacity="0.55"
        vector-effect="non-scaling-stroke"
      />
    </svg>
    {#each TRAIL as station (station.id)}
      {@const left = bush.outstanding[station.id]}
      {@const here = station.id === current}
      {@const done = begun && left === 0 && came(station.id)}
      {@const waits = left > 0 || done ? null : waitsFor(station.id)}
      <li class="relative">
        <a
          href={href(station.id)}
          aria-current={here ? 'page' : undefined}
          class="flex items-start gap-3 py-2 max-md:h-14 max-md:min-w-14 max-md:flex-col max-md:items-center max-md:justify-center max-md:gap-0.5 max-md:py-0"
        >
          <span
            class="mt-0.5 h-[22px] w-[13px] shrink-0 rounded-[2px] border-2 max-md:mt-0 max-md:h-3 max-md:w-7 {here
              ? 'border-primary bg-primary'
              : done
                ? 'border-secondary bg-secondary'
                : 'border-base-content bg-base-100'}"
          ></span>
          <span class="flex flex-col leading-tight">
            <span
              class="font-slab text-[1.05rem] max-md:font-sans max-md:text-[0.82rem] {here
                ? 'font-bold'
                : 'font-medium'}">{station.name}</span
            >
            <span class="aside text-[0.85rem] max-md:hidden"
              >{bush.overview === null
                ? '…'
                : !begun
                  ? 'no trees yet'
                  : waits
                    ? `waits for ${waits.name}`
                    : left > 0
                      ? station.outstanding(left)
                      : done
                        ? station.done
                        : station.nothing}</span
            >
          </span>
        </a>
      </li>
    {/each}
  </ol>
</nav>
