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

  import { drawGround, latLng, word } from './ground.ts';
  import { drawOutline, lassoOn } from './drawing.ts';
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
    pipes = [],
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
    /** lines of pipe */
    pipes?: readonly {
      readonly points: readonly (readonly [number, number])[];
      readonly name: string;
      readonly thin: boolean;
      readonly dashed: boolean;
      readonly chosen: boolean;
      /** something is wrong with it */
      readonly wrong: boolean;
    }[];
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
      // The ground lies below the trees, what is being drawn above them.
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

  const pxPerM = () => 2 ** map!.getZoom();

  /** Ground to be seen around the outermost trees, metres. */
  const AROUND_M = 6;

  /** Brings everything into sight. */
  export function frame(): void {
    if (!map || !L) return;
    const all = [
      ...scene.trees.flatMap(({ northM, eastM }): [number, number][] => [
        [northM - AROUND_M, eastM - AROUND_M],
        [northM + AROUND_M, eastM + AROUND_M]
      ]),
      ...stands.flatMap((stand) => (stand.outline ?? []).map(latLng))
    ];
    // Where lines are looked at, these and the ground about them.
    const points = pipes.length > 0 ? pipes.flatMap((pipe) => pipe.points.map(latLng)) : all;
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
    drawGround(L, under, { stands, features, box });
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
    for (const pipe of pipes) {
      const weight = (pipe.thin ? 2 : 3.5) + (pipe.chosen ? 2 : 0);
      over.addLayer(
        L.polyline(pipe.points.map(latLng), {
          ...shared,
          color: pipe.wrong ? amber : ink,
          weight,
          opacity: pipe.chosen ? 1 : 0.75,
          ...(pipe.dashed ? { dashArray: '6 6' } : {})
        })
      );
      if (pipe.name) over.addLayer(word(L, pipe.name, pipe.points[0]!, 'feature-name'));
    }
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
      over.addLayer(word(L, ring.says, [ring.eastM, ring.northM], 'ring-word'));
    }
    if (lasso.length > 1)
      over.addLayer(
        L.polygon(lasso.map(latLng), { ...shared, color: amber, weight: 2.5, fillOpacity: 0.1, dashArray: '4 4' })
      );
    keepWordsApart(box);
  });

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

  $effect(() => {
    if (!map || mode !== 'lasso') return;
    return lassoOn(map, box, {
      ondraw: (line) => (lasso = line),
      ondone: (line, how) => {
        const [easts, norths] = [line.map(([e]) => e), line.map(([, n]) => n)];
        const found = trees!
          .within(Math.min(...easts), Math.min(...norths), Math.max(...easts), Math.max(...norths))
          .filter((tree) => insideOutline([tree.eastM, tree.northM], line));
        onlasso?.(
          found.map((tree) => tree.id),
          how
        );
      }
    });
  });

  $effect(() => {
    if (!map || !L || !editable || (mode !== 'shape' && mode !== 'course')) return;
    return drawOutline(L, map, {
      closed: mode === 'shape',
      begun: untrack(() => outline),
      colour: getComputedStyle(box).getPropertyValue('--color-primary').trim(),
      onoutline: (points) => onoutline?.(points)
    });
  });
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
