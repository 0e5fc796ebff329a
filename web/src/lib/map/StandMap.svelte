<script lang="ts" module>
  import type { BaseMapFit, SiteFeature, Stand } from '@baumkin/core/records';

  /** What a click or a drag on the map does. */
  export type MapMode = 'look' | 'lasso' | 'point' | 'shape' | 'course';

  export interface BaseMapPicture {
    readonly url: string;
    readonly fit: BaseMapFit;
  }
</script>

<script lang="ts">
  import 'leaflet/dist/leaflet.css';
  import '@geoman-io/leaflet-geoman-free/dist/leaflet-geoman.css';

  import { insideOutline } from '@baumkin/core/geometry';
  import type * as Leaflet from 'leaflet';
  import { onMount, untrack } from 'svelte';

  import { preferences } from '$lib/client/preferences.svelte.ts';

  import { northUp } from './northUp.ts';
  import { makeTreeLayer, type MapTree, type Scene, type TreeLayer } from './treeLayer.ts';
  import { keepWordsApart } from '$lib/ui/keepApart.ts';

  /** The bush from above, north up, in metres: trees on a canvas, stands and features as shapes, a picture beneath. */
  const {
    scene,
    stands,
    features,
    baseMap = null,
    mode = 'look',
    way = [],
    rings = [],
    outline = null,
    editable = false,
    onpick,
    onlasso,
    onpoint,
    onoutline,
    hint
  }: {
    scene: Scene;
    stands: readonly Stand[];
    features: readonly SiteFeature[];
    baseMap?: BaseMapPicture | null;
    mode?: MapMode;
    /** a way to walk */
    way?: readonly (readonly [number, number])[];
    /** circles with a word in the middle */
    rings?: readonly {
      readonly eastM: number;
      readonly northM: number;
      readonly radiusM: number;
      readonly says: string;
    }[];
    /** the shape that is being drawn or changed; null where none is */
    outline?: readonly (readonly [number, number])[] | null;
    editable?: boolean;
    onpick?: (id: string | null) => void;
    onlasso?: (ids: string[], how: 'only' | 'add' | 'remove') => void;
    onpoint?: (eastM: number, northM: number) => void;
    onoutline?: (points: [number, number][]) => void;
    /** what a tree says when the pointer rests on it */
    hint?: (tree: MapTree) => string;
  } = $props();

  let box: HTMLDivElement;
  let L = $state.raw<typeof Leaflet | null>(null);
  let map = $state.raw<Leaflet.Map | null>(null);
  let trees: TreeLayer | null = null;
  let under: Leaflet.LayerGroup | null = null;
  let over: Leaflet.LayerGroup | null = null;
  let lasso = $state.raw<[number, number][]>([]);

  onMount(() => {
    let gone = false;
    void (async () => {
      const leaflet = (await import('leaflet')).default;
      if (editable) {
        // The drawing tools look for Leaflet in the window.
        (window as unknown as { L: typeof Leaflet }).L = leaflet;
        await import('@geoman-io/leaflet-geoman-free');
      }
      if (gone) return;
      const made = leaflet.map(box, {
        crs: leaflet.CRS.Simple,
        attributionControl: false,
        zoomSnap: 0.25,
        zoomDelta: 0.75,
        minZoom: -4,
        maxZoom: 6.5,
        zoomControl: true,
        boxZoom: false,
        zoomAnimation: !window.matchMedia('(prefers-reduced-motion: reduce)').matches
      });
      leaflet.control
        .scale({
          metric: preferences.units === 'metric',
          imperial: preferences.units === 'inch',
          position: 'bottomright'
        })
        .addTo(made);
      // Below the trees what lies on the baseMap, above them what is being done.
      made.createPane('baseMap').style.zIndex = '250';
      made.createPane('over').style.zIndex = '450';
      under = leaflet.layerGroup([], { pane: 'baseMap' }).addTo(made);
      over = leaflet.layerGroup().addTo(made);
      made.setView([0, 0], 0);
      trees = makeTreeLayer(leaflet).addTo(made) as TreeLayer;
      made.on('click', (event) => clicked(event.latlng.lng, event.latlng.lat));
      made.on('zoomend resize', () => keepWordsApart(box));
      made.on('mousemove', (event) => hovered(event.latlng.lng, event.latlng.lat));
      L = leaflet;
      map = made;
      frame();
    })();
    return () => {
      gone = true;
      map?.remove();
    };
  });

  const latLng = ([east, north]: readonly [number, number]): [number, number] => [north, east];
  type Shape = Leaflet.Polyline | Leaflet.Polygon;
  const pxPerM = () => 2 ** map!.getZoom();

  /** Ground to be seen around the outermost trees, metres. */
  const AROUND_M = 6;

  /** Brings everything into sight. */
  export function frame(): void {
    if (!map || !L) return;
    const points = [
      ...scene.trees.flatMap(({ northM, eastM }): [number, number][] => [
        [northM - AROUND_M, eastM - AROUND_M],
        [northM + AROUND_M, eastM + AROUND_M]
      ]),
      ...stands.flatMap((stand) => (stand.outline ?? []).map(latLng))
    ];
    if (points.length === 0) map.setView([0, 0], 2);
    else map.fitBounds(L.latLngBounds(points).pad(0.04), { animate: false });
  }

  /** Brings one tree into sight. */
  export function goTo(eastM: number, northM: number): void {
    map?.setView([northM, eastM], Math.max(3.2, map.getZoom()));
  }

  function clicked(eastM: number, northM: number): void {
    if (mode === 'point') onpoint?.(eastM, northM);
    else if (mode === 'look') onpick?.(trees!.at(eastM, northM, pxPerM())?.id ?? null);
  }

  function hovered(eastM: number, northM: number): void {
    if (mode !== 'look' || !hint) return;
    const tree = trees!.at(eastM, northM, pxPerM());
    box.title = tree ? hint(tree) : '';
  }

  $effect(() => {
    // The theme's colours are read while drawing.
    void preferences.theme;
    const next = scene;
    if (map) trees!.show(next);
  });

  $effect(() => {
    if (!map || !L || !under) return;
    void preferences.theme;
    const leaflet = L;
    under.clearLayers();
    const style = getComputedStyle(box);
    const colour = (name: string) => style.getPropertyValue(name).trim();
    const pane = 'baseMap';
    for (const stand of stands) {
      if (!stand.outline) continue;
      const shape = leaflet.polygon(stand.outline.map(latLng), {
        pane,
        interactive: false,
        pmIgnore: true,
        color: colour('--color-base-content'),
        weight: 1.4,
        opacity: 0.55,
        dashArray: '7 5',
        fillColor: colour(stand.wetness === 'wet' ? '--color-info' : '--color-base-content'),
        fillOpacity: stand.wetness === 'wet' ? 0.1 : 0.025
      });
      under.addLayer(shape);
      const { middle, top, bottom, crowded } = labelPlace(stand.outline);
      under.addLayer(word(stand.name, middle, crowded ? bottom : top, crowded ? 'stand-name below' : 'stand-name'));
    }
    for (const feature of features) {
      const closed = feature.kind === 'building';
      const bends = feature.kind === 'path' || feature.kind === 'water';
      const points = (bends ? softened(feature.points) : feature.points).map(latLng);
      const options = {
        pane,
        interactive: false,
        pmIgnore: true,
        lineCap: 'round' as const,
        color: colour(
          {
            building: '--color-base-content',
            path: '--color-base-content',
            line: '--color-error',
            water: '--color-info',
            fence: '--color-secondary',
            boundary: '--color-base-content',
            entrance: '--color-base-content'
          }[feature.kind]
        ),
        weight: { building: 1, path: 2, line: 2, water: 5, fence: 3, boundary: 2, entrance: 3 }[feature.kind],
        opacity: feature.kind === 'water' ? 0.5 : 0.8,
        dashArray:
          feature.kind === 'path'
            ? '2 6'
            : feature.kind === 'fence'
              ? '1 5'
              : feature.kind === 'boundary'
                ? '12 4 2 4'
                : undefined,
        fillOpacity: 0.75
      };
      under.addLayer(
        feature.kind === 'entrance'
          ? leaflet.circleMarker(points[0]!, { ...options, radius: 5, fill: false })
          : closed
            ? leaflet.polygon(points, options)
            : leaflet.polyline(points, options)
      );
      const [east, north] = feature.points[Math.floor(feature.points.length / 2)]!;
      under.addLayer(word(feature.name, east, north, 'feature-name'));
    }
    void document.fonts.ready.then(() => box && keepWordsApart(box));
  });

  $effect(() => {
    if (!map || !L || !over) return;
    void preferences.theme;
    over.clearLayers();
    const style = getComputedStyle(box);
    const amber = style.getPropertyValue('--color-primary').trim();
    const ink = style.getPropertyValue('--color-base-content').trim();
    const shared = { pane: 'over', interactive: false, pmIgnore: true };
    if (way.length > 1)
      over.addLayer(L.polyline(way.map(latLng), { ...shared, color: ink, weight: 1.6, opacity: 0.7 }));
    for (const ring of rings) {
      over.addLayer(
        L.circle([ring.northM, ring.eastM], {
          ...shared,
          radius: ring.radiusM,
          color: ink,
          weight: 1.6,
          fillColor: amber,
          fillOpacity: 0.16
        })
      );
      over.addLayer(word(ring.says, ring.eastM, ring.northM, 'ring-word'));
    }
    if (lasso.length > 1)
      over.addLayer(
        L.polygon(lasso.map(latLng), { ...shared, color: amber, weight: 2.5, fillOpacity: 0.1, dashArray: '4 4' })
      );
    keepWordsApart(box);
  });

  /** A stand's name goes above it, or below where another stand lies close above. */
  function labelPlace(shape: readonly (readonly [number, number])[]) {
    const [easts, norths] = [shape.map(([e]) => e), shape.map(([, n]) => n)];
    const [west, east, top, bottom] = [
      Math.min(...easts),
      Math.max(...easts),
      Math.max(...norths),
      Math.min(...norths)
    ];
    const room = (top - bottom) / 5;
    const crowded = stands.some(({ outline: other }) =>
      other?.some(([e, n]) => other !== shape && e > west && e < east && n > top - room / 2 && n < top + room)
    );
    return { middle: (west + east) / 2, top, bottom, crowded };
  }

  /** A course with its corners cut twice, as water and feet do (Chaikin 1974). */
  function softened(points: readonly (readonly [number, number])[]): (readonly [number, number])[] {
    let line = [...points];
    for (let round = 0; round < 2; round++)
      line = line.flatMap((p, i): (readonly [number, number])[] => {
        const next = line[i + 1];
        if (!next) return [p];
        const between = (share: number) => [p[0] + share * (next[0] - p[0]), p[1] + share * (next[1] - p[1])] as const;
        return i === 0 ? [p, between(0.75)] : i === line.length - 2 ? [between(0.25)] : [between(0.25), between(0.75)];
      });
    return line;
  }

  function word(text: string, eastM: number, northM: number, kind: string): Leaflet.Marker {
    const label = document.createElement('span');
    label.textContent = text;
    return L!.marker([northM, eastM], {
      pane: 'over',
      interactive: false,
      keyboard: false,
      pmIgnore: true,
      icon: L!.divIcon({ className: `map-word ${kind}`, html: label, iconSize: [0, 0] })
    } as Leaflet.MarkerOptions);
  }

  /* The picture of the baseMap, turned so that north is up. */
  $effect(() => {
    const [here, leaflet, picture] = [map, L, baseMap];
    if (!here || !leaflet || !picture) return;
    let layer: Leaflet.ImageOverlay | null = null;
    let gone = false;
    void northUp(picture).then((turned) => {
      if (gone || !turned) return;
      const { url, west, south, east, north } = turned;
      layer = leaflet
        .imageOverlay(
          url,
          [
            [south, west],
            [north, east]
          ],
          { pane: 'tilePane', opacity: 0.75 }
        )
        .addTo(here);
      layer.once('load', () => URL.revokeObjectURL(url));
    });
    return () => {
      gone = true;
      layer?.remove();
    };
  });

  /* Lasso: a free line round the trees that are meant. */
  $effect(() => {
    if (!map || mode !== 'lasso') return;
    const here = map;
    here.dragging.disable();
    let drawing = false;
    const at = (event: PointerEvent): [number, number] => {
      const { lat, lng } = here.mouseEventToLatLng(event);
      return [lng, lat];
    };
    const down = (event: PointerEvent) => {
      if (event.button !== 0 || (event.target as HTMLElement).closest('.leaflet-control')) return;
      drawing = true;
      box.setPointerCapture(event.pointerId);
      lasso = [at(event)];
    };
    const move = (event: PointerEvent) => {
      if (drawing) lasso = [...lasso, at(event)];
    };
    const up = (event: PointerEvent) => {
      if (!drawing) return;
      drawing = false;
      const line = lasso;
      lasso = [];
      if (line.length < 4) return;
      const [easts, norths] = [line.map(([e]) => e), line.map(([, n]) => n)];
      const found = trees!
        .within(Math.min(...easts), Math.min(...norths), Math.max(...easts), Math.max(...norths))
        .filter((tree) => insideOutline([tree.eastM, tree.northM], line));
      onlasso?.(
        found.map((tree) => tree.id),
        event.shiftKey ? 'add' : event.altKey ? 'remove' : 'only'
      );
    };
    box.addEventListener('pointerdown', down);
    box.addEventListener('pointermove', move);
    box.addEventListener('pointerup', up);
    return () => {
      here.dragging.enable();
      box.removeEventListener('pointerdown', down);
      box.removeEventListener('pointermove', move);
      box.removeEventListener('pointerup', up);
    };
  });

  /* Drawing a shape, and moving the corners of one that is there. */
  $effect(() => {
    const [here, leaflet] = [map, L];
    if (!here || !leaflet || !editable || (mode !== 'shape' && mode !== 'course')) return;
    const closed = mode === 'shape';
    const amber = getComputedStyle(box).getPropertyValue('--color-primary').trim();
    const style = { color: amber, weight: 2.5, fillOpacity: 0.1 };
    here.pm.setGlobalOptions({
      pathOptions: style,
      templineStyle: style,
      hintlineStyle: { ...style, dashArray: '5 5' }
    });
    const begun = untrack(() => outline);
    const report = (layer: Shape) => {
      const rings = layer.getLatLngs();
      const points = (closed ? rings[0] : rings) as Leaflet.LatLng[];
      onoutline?.(points.map(({ lat, lng }): [number, number] => [round(lng), round(lat)]));
    };
    let layer: Shape | null = null;
    const edit = (drawn: Shape) => {
      layer = drawn;
      drawn.pm.enable({ allowSelfIntersection: false });
      drawn.on('pm:edit', () => report(drawn));
    };
    if (begun && begun.length > 1) {
      const made = closed ? leaflet.polygon(begun.map(latLng), style) : leaflet.polyline(begun.map(latLng), style);
      edit(made.addTo(here));
    } else {
      here.pm.enableDraw(closed ? 'Polygon' : 'Line', { allowSelfIntersection: false, finishOn: 'dblclick' });
      here.once('pm:create', (event) => {
        here.pm.disableDraw();
        edit(event.layer as Shape);
        report(event.layer as Shape);
      });
    }
    return () => {
      here.off('pm:create');
      here.pm.disableDraw();
      layer?.remove();
    };
  });

  const round = (metres: number) => Number(metres.toFixed(2));
</script>

<div
  bind:this={box}
  class="stand-map isolate h-full w-full bg-base-200 font-sans {mode === 'look' ? '' : 'aiming'}"
  role="application"
  aria-label="Map of the bush, north up. Arrow keys move it, plus and minus change its scale."
  data-testid="map"
  data-ready={map !== null}
></div>

<style>
  .stand-map:global(.leaflet-container) {
    background: var(--color-base-200);
    font: inherit;
  }
  .stand-map :global(.map-word) {
    white-space: nowrap;
    pointer-events: none;
  }
  .stand-map :global(.map-word span) {
    position: absolute;
    transform: translate(-50%, -115%);
    color: var(--color-base-content);
    text-shadow:
      0 0 3px var(--color-base-200),
      0 0 3px var(--color-base-200),
      0 0 5px var(--color-base-200);
  }
  .stand-map :global(.stand-name span) {
    font: 600 1rem var(--font-slab);
  }
  .stand-map :global(.stand-name.below span) {
    transform: translate(-50%, 15%);
  }
  .stand-map :global(.feature-name span) {
    font-style: italic;
    font-size: 0.85rem;
  }
  .stand-map :global(.ring-word span) {
    font-weight: 700;
    transform: translate(-50%, -50%);
  }
  .stand-map.aiming {
    cursor: crosshair;
  }
  .stand-map :global(.leaflet-bar a) {
    background: var(--color-base-100);
    color: var(--color-base-content);
    border-color: var(--color-base-300);
    width: 2.25rem;
    height: 2.25rem;
    line-height: 2.25rem;
  }
  .stand-map :global(.leaflet-control-scale-line) {
    background: transparent;
    color: var(--color-base-content);
    border-color: var(--color-base-content);
    text-shadow: none;
  }
</style>
