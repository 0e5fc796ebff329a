<script lang="ts" module>
  import type { PositionQuality } from '@baumkin/core/stand';

  /** A place as it is going to be written down. */
  export interface GivenPlace {
    readonly eastM: number;
    readonly northM: number;
    readonly quality: PositionQuality;
    readonly accuracyM: number | null;
    readonly asTaken: string;
  }
</script>

<script lang="ts">
  import { fromLocalMetres, offset, toLocalMetres } from '@baumkin/core/geometry';
  import { rougher } from '@baumkin/core/stand';
  import { untrack } from 'svelte';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { Receiver } from '$lib/devices/receiver.svelte.ts';
  import { groundUnit, readMetres } from '$lib/ui/readMetres.ts';

  /** Where a tree stands, given in the way in which it was found: each way says how far it may be off. */
  let {
    place = $bindable(),
    problem = $bindable(),
    tapped = null,
    from = ''
  }: {
    /** null while nothing is given */
    place: GivenPlace | null;
    problem: string | null;
    /** a spot that was tapped on the map; null where there is no map */
    tapped?: { readonly eastM: number; readonly northM: number } | null;
    /** tag of the tree to measure from, to begin with */
    from?: string;
  } = $props();
  const bush = useBush();
  const origin = $derived(bush.overview?.bush.origin ?? null);

  type Way = 'map' | 'from' | 'here' | 'degrees' | 'metres';
  const WAYS: Record<Way, string> = {
    map: 'tapped on the map',
    from: 'bearing and distance',
    here: 'by a receiver, here',
    degrees: 'latitude and longitude',
    metres: 'metres from the origin'
  };
  /** a tap on the map says how the place is given, until another way is chosen */
  let way = $derived<Way>(tapped !== null ? 'map' : 'from');
  let quality = $state<PositionQuality>('paced');
  let anchor = $state(untrack(() => from));
  let bearing = $state('');
  let distance = $state('');
  let first = $state('');
  let second = $state('');
  const receiver = new Receiver();
  $effect(() => () => receiver.stop());

  const plots = $derived(bush.bushRecords.flatMap((r) => (r.kind === 'plot' && r.centre ? [r] : [])));
  const WORDS: Record<PositionQuality, string> = {
    surveyed: 'surveyed, to a hand or two',
    paced: 'paced, to a metre or so',
    phone: 'by phone, to five metres or so'
  };

  type Answer = { place: GivenPlace } | { problem: string } | null;
  const answer = $derived.by((): Answer => {
    switch (way) {
      case 'map':
        return tapped && { place: { ...rounded(tapped), quality, accuracyM: null, asTaken: 'tapped on the map' } };
      case 'from':
        return fromAnchor();
      case 'here':
        return fromReceiver();
      case 'degrees':
        return fromDegrees();
      case 'metres': {
        const [eastM, northM] = [readMetres(first), readMetres(second)];
        if (eastM === null && northM === null) return null;
        if (typeof eastM === 'string' || typeof northM === 'string')
          return { problem: typeof eastM === 'string' ? eastM : (northM as string) };
        if (eastM === null || northM === null) return { problem: 'Give both, east and north.' };
        return { place: { ...rounded({ eastM, northM }), quality, accuracyM: null, asTaken: '' } };
      }
    }
  });
  $effect(() => {
    place = answer && 'place' in answer ? answer.place : null;
    problem = answer && 'problem' in answer ? answer.problem : null;
  });

  const rounded = ({ eastM, northM }: { eastM: number; northM: number }) => ({
    eastM: Number(eastM.toFixed(2)),
    northM: Number(northM.toFixed(2))
  });

  function fromAnchor(): Answer {
    if (bearing.trim() === '' && distance.trim() === '') return null;
    const tag = anchor.trim().toLowerCase();
    const tree = bush.rows.find((row) => row.tag.toLowerCase() === tag);
    const plot = plots.find((p) => p.name.toLowerCase() === tag || `plot ${p.name}`.toLowerCase() === tag);
    const start =
      tree?.eastM != null && tree.northM != null
        ? { eastM: tree.eastM, northM: tree.northM, quality: tree.positionQuality ?? 'paced' }
        : plot?.centre
          ? { ...plot.centre, quality: 'paced' as const }
          : null;
    if (!start)
      return {
        problem: tree ? `Tree ${tree.tag} has no place itself.` : 'Measure from a tree or plot that has a place.'
      };
    const degrees = Number(bearing.replace(',', '.').replace('°', ''));
    if (bearing.trim() === '' || !(degrees >= 0 && degrees <= 360))
      return { problem: 'A bearing runs from 0 to 360 degrees, clockwise from north.' };
    const away = readMetres(distance);
    if (typeof away === 'string') return { problem: away };
    if (away === null || away > 200)
      return { problem: away === null ? 'How far away?' : 'That is too far to tape: look at the unit.' };
    return {
      place: {
        ...rounded(offset(start, degrees, away)),
        quality: rougher(quality, start.quality),
        accuracyM: null,
        asTaken: `${preferences.length(away * 1000, 'ground')} at ${degrees}° from ${tree ? tree.tag : `plot ${plot!.name}`}`
      }
    };
  }

  function fromReceiver(): Answer {
    const fix = receiver.mean;
    if (!fix) return null;
    if (!origin)
      return { problem: 'This bush does not say where on earth it lies. A steward says so on the page of the ground.' };
    const at = toLocalMetres(origin, fix);
    if (Math.hypot(at.eastM, at.northM) > 100_000)
      return { problem: 'The receiver is more than 100 km away from this bush.' };
    return {
      place: {
        ...rounded(at),
        quality: 'phone',
        accuracyM: Number(fix.accuracyM.toFixed(1)),
        asTaken: `mean of ${fix.fixes} fixes, ${receiver.name}`.slice(0, 120)
      }
    };
  }

  function fromDegrees(): Answer {
    if (first.trim() === '' && second.trim() === '') return null;
    if (!origin)
      return { problem: 'This bush does not say where on earth it lies. A steward says so on the page of the ground.' };
    const [lat, lon] = [first, second].map((text) => Number(text.replace(',', '.').replace('°', '').trim() || NaN));
    if (!(Math.abs(lat!) <= 89) || !(Math.abs(lon!) <= 180))
      return { problem: 'Write degrees with decimals, such as 46.50123.' };
    const at = toLocalMetres(origin, { lat: lat!, lon: lon! });
    if (Math.hypot(at.eastM, at.northM) > 100_000) return { problem: 'That is more than 100 km away from this bush.' };
    return { place: { ...rounded(at), quality, accuracyM: null, asTaken: `${first.trim()}, ${second.trim()}` } };
  }

  const shown = $derived(answer && 'place' in answer ? answer.place : null);
  const shownDegrees = $derived(shown && origin ? fromLocalMetres(origin, shown) : null);
</script>

<fieldset class="flex flex-col gap-2">
  <legend class="mb-1 font-semibold">Where it stands</legend>
  <label class="flex items-center gap-3"
    ><span class="w-20">Found</span>
    <select class="select grow" bind:value={way}>
      {#each Object.entries(WAYS) as [id, words] (id)}
        {#if id !== 'map' || tapped !== null}<option value={id}>{words}</option>{/if}
      {/each}
    </select></label
  >
  {#if way === 'from'}
    <div class="grid grid-cols-3 gap-2">
      <label class="flex flex-col gap-1"
        >From <input class="input w-full" placeholder="tag or plot" autocomplete="off" bind:value={anchor} /></label
      >
      <label class="flex flex-col gap-1"
        >Bearing <input class="input w-full" inputmode="decimal" placeholder="215°" bind:value={bearing} /></label
      >
      <label class="flex flex-col gap-1"
        >Distance <input
          class="input w-full"
          placeholder={groundUnit() === 'm' ? '4.2 m' : '14 ft'}
          bind:value={distance}
        /></label
      >
    </div>
    <p class="aside">Bearing from true north, from the mark towards the new tree.</p>
  {:else if way === 'degrees' || way === 'metres'}
    <div class="grid grid-cols-2 gap-2">
      <label class="flex flex-col gap-1"
        >{way === 'degrees' ? 'Latitude' : 'East'}
        <input class="input w-full" placeholder={way === 'degrees' ? '46.50123' : '12.5 m'} bind:value={first} /></label
      >
      <label class="flex flex-col gap-1"
        >{way === 'degrees' ? 'Longitude' : 'North'}
        <input class="input w-full" placeholder={way === 'degrees' ? '-40.00345' : '40 m'} bind:value={second} /></label
      >
    </div>
  {:else if way === 'here'}
    {#if receiver.source === null}
      <div class="flex flex-wrap gap-2">
        <button type="button" class="btn btn-outline btn-sm" onclick={() => receiver.ownPhone()}
          >This device’s own</button
        >
        {#each receiver.offered as device (device.url)}
          <button type="button" class="btn btn-outline btn-sm" onclick={() => receiver.listen(device)}
            >{device.name}</button
          >
        {/each}
      </div>
    {:else}
      <p role="status">
        {#if receiver.problem}{receiver.problem}
        {:else if receiver.mean}{receiver.mean.fixes} fixes so far, within about {preferences.length(
            receiver.mean.accuracyM * 1000,
            'ground'
          )}. Stand still at the trunk: it gets better for a minute or two.
        {:else}Waiting for a fix …{/if}
        <button type="button" class="link" onclick={() => receiver.stop()}>Stop</button>
      </p>
    {/if}
  {/if}
  {#if way !== 'here'}
    <label class="flex items-center gap-3"
      ><span class="w-20">Known</span>
      <select class="select grow" bind:value={quality}>
        {#each Object.entries(WORDS) as [id, words] (id)}<option value={id}>{words}</option>{/each}
      </select></label
    >
  {/if}
  {#if answer && 'problem' in answer}<p role="alert" class="font-semibold text-error">{answer.problem}</p>{/if}
  {#if shown}
    <p class="aside">
      {preferences.length(shown.eastM * 1000, 'ground')} east, {preferences.length(shown.northM * 1000, 'ground')} north{shownDegrees
        ? ` (${shownDegrees.lat.toFixed(6)}, ${shownDegrees.lon.toFixed(6)})`
        : ''}, {shown.quality}.
    </p>
  {/if}
</fieldset>
