<script lang="ts">
  import { placer } from '@baumkin/core/geometry';
  import { baseMapFitSchema, type BaseMapFit } from '@baumkin/core/records';
  import { toast } from 'svelte-sonner';

  import { useBush } from '$lib/client/bush.svelte.ts';
  import { preferences } from '$lib/client/preferences.svelte.ts';
  import { readCoordinate } from '$lib/ui/readMetres.ts';

  /** A scanned plan or a photograph under the map, laid down by two points; and where on earth the bush lies. */
  const bush = useBush();
  const origin = $derived(bush.overview?.bush.origin ?? null);
  const MAX_BYTES = 12_000_000;

  let picture = $state.raw<{ url: string; base64: string; width: number; height: number } | null>(null);
  let problem = $state<string | null>(null);
  let saving = $state(false);
  interface Pin {
    x: number;
    y: number;
    tag: string;
    east: string;
    north: string;
  }
  let pins = $state<Pin[]>([]);

  async function take(file: File | undefined): Promise<void> {
    problem = null;
    if (!file) return;
    if (file.size > MAX_BYTES) {
      problem = 'The picture is larger than 12 MB. Make it smaller first; nothing was changed.';
      return;
    }
    const bitmap = await createImageBitmap(file).catch(() => null);
    if (!bitmap) {
      problem = `${file.name} is no picture that can be shown. Take a PNG or a JPEG.`;
      return;
    }
    const bytes = new Uint8Array(await file.arrayBuffer());
    let binary = '';
    for (let i = 0; i < bytes.length; i += 0x8000) binary += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
    if (picture) URL.revokeObjectURL(picture.url);
    picture = { url: URL.createObjectURL(file), base64: btoa(binary), width: bitmap.width, height: bitmap.height };
    bitmap.close();
    pins = [];
  }

  function pin(event: MouseEvent): void {
    if (!picture) return;
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * picture.width;
    const y = ((event.clientY - box.top) / box.height) * picture.height;
    pins = [...pins.slice(0, 1), { x: Math.round(x), y: Math.round(y), tag: '', east: '', north: '' }];
  }

  /** Where a pin lies: the tree that it was named after, or metres. */
  function placeOf({ tag, east, north }: Pin): { eastM: number; northM: number } | string {
    if (tag.trim() !== '') {
      const row = bush.rows.find((r) => r.tag.toLowerCase() === tag.trim().toLowerCase());
      if (!row) return `No tree has the tag ${tag.trim()}.`;
      return row.eastM === null || row.northM === null
        ? `Tree ${row.tag} has no place.`
        : { eastM: row.eastM, northM: row.northM };
    }
    const [eastM, northM] = [readCoordinate(east, 'east'), readCoordinate(north, 'north')];
    if (typeof eastM === 'string') return eastM;
    if (typeof northM === 'string') return northM;
    return eastM === null || northM === null
      ? 'Say which tree stands there, or how far east and north it is.'
      : { eastM, northM };
  }

  const fit = $derived.by((): BaseMapFit | string | null => {
    if (!picture || pins.length < 2) return null;
    const places = pins.map(placeOf);
    const wrong = places.find((place) => typeof place === 'string');
    if (typeof wrong === 'string') return wrong;
    const parsed = baseMapFitSchema.safeParse({
      widthPx: picture.width,
      heightPx: picture.height,
      pins: pins.map((p, i) => ({ x: p.x, y: p.y, ...(places[i] as { eastM: number; northM: number }) }))
    });
    return parsed.success ? parsed.data : parsed.error.issues[0]!.message;
  });
  const laid = $derived(fit !== null && typeof fit !== 'string' ? placer(fit.pins) : null);

  async function lay(): Promise<void> {
    if (!picture || fit === null || typeof fit === 'string') return;
    saving = true;
    problem = await bush.change.baseMap({ pictureBase64: picture.base64, fit });
    saving = false;
    if (problem !== null) return;
    toast.success('The picture lies under the map.');
    picture = null;
    pins = [];
  }

  async function lift(): Promise<void> {
    problem = await bush.change.baseMap(null);
    if (problem === null) toast.success('The picture is taken away.');
  }

  let lat = $state('');
  let lon = $state('');
  const asked = $derived.by(() => {
    if (lat.trim() === '' || lon.trim() === '') return null;
    const [a, b] = [lat, lon].map((text) => Number(text.trim().replace(',', '.').replace('°', '')));
    return Math.abs(a!) <= 89 && Math.abs(b!) <= 180
      ? { lat: a!, lon: b! }
      : 'Write degrees with decimals, such as 46.50123.';
  });
  async function lieAt(): Promise<void> {
    if (!asked || typeof asked === 'string') return;
    problem = await bush.change.origin(asked);
    if (problem !== null) return;
    toast.success('The bush has its place on earth.');
    lat = lon = '';
  }
</script>

<h1>The ground under the map</h1>
<p class="mt-1"><a class="link" href="/bush/{bush.id}/map">Back to the map</a></p>
{#if !bush.mayDecide}
  <p class="mt-3">Laying the ground is the steward’s to do.</p>
{:else}
  {#if problem !== null}<p role="alert" class="mt-3 font-semibold text-error">{problem}</p>{/if}
  <div class="mt-4 grid gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_20rem]">
    <section aria-labelledby="picture" class="flex min-w-0 flex-col gap-3">
      <h2 id="picture">A picture beneath</h2>
      <p class="max-w-prose">
        A scanned plan, an old map, a photograph from above. Click two points in it whose places are known, far apart:
        two trees do well. Scale, turn and place follow from them.
        {#if bush.overview?.baseMap}One lies there now. <button class="link" onclick={lift}>Take it away</button>.{/if}
      </p>
      <label class="flex flex-col gap-1"
        >Picture
        <input
          type="file"
          class="file-input"
          accept="image/png,image/jpeg"
          onchange={(event) => take(event.currentTarget.files?.[0])}
        /></label
      >
      {#if picture}
        <!-- the points can be typed too, once both are set; a picture is looked at with the eye -->
        <!-- svelte-ignore a11y_no_noninteractive_element_interactions, a11y_click_events_have_key_events -->
        <div
          class="relative max-w-3xl cursor-crosshair"
          onclick={pin}
          role="img"
          aria-label="The picture to be laid down"
        >
          <img src={picture.url} alt="" class="block w-full" />
          {#each pins as p, i (i)}
            <span
              class="absolute grid h-6 w-6 -translate-x-1/2 -translate-y-1/2 place-items-center rounded-full border-2 border-neutral bg-primary text-sm font-bold text-primary-content"
              style:left="{(100 * p.x) / picture.width}%"
              style:top="{(100 * p.y) / picture.height}%">{i + 1}</span
            >
          {/each}
        </div>
        {#if pins.length < 2}<p>Click the {pins.length === 0 ? 'first' : 'second'} point.</p>{/if}
        {#each pins as p, i (i)}
          <div class="flex flex-wrap items-end gap-2">
            <b class="pb-2">Point {i + 1}</b>
            <label class="flex flex-col gap-1"
              >Tree<input class="input w-28 input-sm" placeholder="tag" bind:value={p.tag} /></label
            >
            <span class="pb-2">or</span>
            <label class="flex flex-col gap-1"
              >East<input class="input w-28 input-sm" disabled={p.tag.trim() !== ''} bind:value={p.east} /></label
            >
            <label class="flex flex-col gap-1"
              >North<input class="input w-28 input-sm" disabled={p.tag.trim() !== ''} bind:value={p.north} /></label
            >
          </div>
        {/each}
        {#if typeof fit === 'string'}<p role="alert" class="font-semibold text-error">{fit}</p>{/if}
        {#if laid}
          <p>
            A pixel is {preferences.length(laid.metresPerPixel * 1000, 'ground')}, the picture {preferences.length(
              laid.metresPerPixel * picture.width * 1000,
              'way'
            )} wide{Math.abs(laid.turnDeg) > 0.5 ? `, turned by ${Math.round(Math.abs(laid.turnDeg))}°` : ''}.
          </p>
          <button class="btn self-start btn-primary" onclick={lay} disabled={saving}
            >{saving ? 'Laying it …' : 'Lay it under the map'}</button
          >
        {/if}
      {/if}
    </section>
    <section aria-labelledby="earth" class="flex flex-col gap-3">
      <h2 id="earth">Where on earth</h2>
      <p>
        {#if origin}The origin, from which metres east and north are counted, lies at <b
            >{origin.lat.toFixed(6)}, {origin.lon.toFixed(6)}</b
          >.
        {:else}Not said yet. With it, receivers, GPX and GeoJSON can be used.{/if}
      </p>
      <form
        class="flex flex-col gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void lieAt();
        }}
      >
        <label class="flex items-center gap-3"
          ><span class="w-24">Latitude</span><input class="input grow" placeholder="46.50123" bind:value={lat} /></label
        >
        <label class="flex items-center gap-3"
          ><span class="w-24">Longitude</span><input
            class="input grow"
            placeholder="-40.00345"
            bind:value={lon}
          /></label
        >
        {#if typeof asked === 'string'}<p role="alert" class="font-semibold text-error">{asked}</p>{/if}
        <button class="btn self-start btn-outline btn-sm" disabled={asked === null || typeof asked === 'string'}
          >{origin ? 'Move the origin there' : 'The origin lies there'}</button
        >
      </form>
      <p class="aside">Degrees of WGS 84. Trees keep their metres: the whole bush moves with its origin.</p>
    </section>
  </div>
{/if}
