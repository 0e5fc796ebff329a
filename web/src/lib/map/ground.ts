import type { Point } from '@baumkin/core/geometry';
import type { SiteFeature, Stand } from '@baumkin/core/records';
import type * as Leaflet from 'leaflet';

/** A point of the bush as Leaflet counts it. */
export const latLng = ([east, north]: Point): [number, number] => [north, east];

/** Words on the map, in the middle of which a point lies. @param kind a class that says how they look */
export function word(L: typeof Leaflet, text: string, [east, north]: Point, kind: string): Leaflet.Marker {
  const label = document.createElement('span');
  label.textContent = text;
  return L.marker([north, east], {
    pane: 'over',
    interactive: false,
    keyboard: false,
    pmIgnore: true,
    icon: L.divIcon({ className: `map-word ${kind}`, html: label, iconSize: [0, 0] })
  } as Leaflet.MarkerOptions);
}

/** How each kind of feature is drawn: the theme's colour, the line's weight in pixels, and its dashes. */
const LOOKS: Readonly<
  Record<SiteFeature['kind'], { readonly ink: string; readonly weight: number; readonly dash?: string }>
> = {
  building: { ink: '--color-base-content', weight: 1 },
  path: { ink: '--color-base-content', weight: 2, dash: '2 6' },
  line: { ink: '--color-error', weight: 2 },
  water: { ink: '--color-info', weight: 5 },
  fence: { ink: '--color-secondary', weight: 3, dash: '1 5' },
  boundary: { ink: '--color-base-content', weight: 2, dash: '12 4 2 4' },
  entrance: { ink: '--color-base-content', weight: 3 }
};

/** What lies under the trees. */
export interface Ground {
  readonly stands: readonly Stand[];
  readonly features: readonly SiteFeature[];
  /** the map's box: its theme's colours are taken */
  readonly box: HTMLElement;
}

/** Draws the outlines of stands and what else lies on the ground, each with its name, in the place of what was there. */
export function drawGround(L: typeof Leaflet, under: Leaflet.LayerGroup, { stands, features, box }: Ground): void {
  under.clearLayers();
  const style = getComputedStyle(box);
  const colour = (name: string) => style.getPropertyValue(name).trim();
  const shared = { pane: 'baseMap', interactive: false, pmIgnore: true };
  for (const { name, outline, wetness } of stands) {
    if (!outline) continue;
    const wet = wetness === 'wet';
    under.addLayer(
      L.polygon(outline.map(latLng), {
        ...shared,
        color: colour('--color-base-content'),
        weight: 1.4,
        opacity: 0.55,
        dashArray: '7 5',
        fillColor: colour(wet ? '--color-info' : '--color-base-content'),
        fillOpacity: wet ? 0.1 : 0.025
      })
    );
    const { middle, top, bottom, crowded } = labelPlace(outline, stands);
    under.addLayer(word(L, name, [middle, crowded ? bottom : top], crowded ? 'stand-name below' : 'stand-name'));
  }
  for (const { name, kind, points: corners } of features) {
    const bends = kind === 'path' || kind === 'water';
    const points = (bends ? softened(corners) : corners).map(latLng);
    const { ink, weight, dash } = LOOKS[kind];
    const options = {
      ...shared,
      lineCap: 'round' as const,
      color: colour(ink),
      weight,
      opacity: kind === 'water' ? 0.5 : 0.8,
      dashArray: dash,
      fillOpacity: 0.75
    };
    under.addLayer(
      kind === 'entrance'
        ? L.circleMarker(points[0]!, { ...options, radius: 5, fill: false })
        : kind === 'building'
          ? L.polygon(points, options)
          : L.polyline(points, options)
    );
    under.addLayer(word(L, name, corners[Math.floor(corners.length / 2)]!, 'feature-name'));
  }
}

/** A stand's name goes above it, or below where another stand lies close above. */
function labelPlace(shape: readonly Point[], stands: readonly Stand[]) {
  const [easts, norths] = [shape.map(([e]) => e), shape.map(([, n]) => n)];
  const [west, east] = [Math.min(...easts), Math.max(...easts)];
  const [bottom, top] = [Math.min(...norths), Math.max(...norths)];
  const room = (top - bottom) / 5;
  const crowded = stands.some(({ outline: other }) =>
    other?.some(([e, n]) => other !== shape && e > west && e < east && n > top - room / 2 && n < top + room)
  );
  return { middle: (west + east) / 2, top, bottom, crowded };
}

/** A course with its corners cut twice, as water and feet do (Chaikin 1974). */
function softened(points: readonly Point[]): Point[] {
  let line = [...points];
  for (let round = 0; round < 2; round++)
    line = line.flatMap((p, i): Point[] => {
      const next = line[i + 1];
      if (!next) return [p];
      const between = (share: number): Point => [p[0] + share * (next[0] - p[0]), p[1] + share * (next[1] - p[1])];
      return i === 0 ? [p, between(0.75)] : i === line.length - 2 ? [between(0.25)] : [between(0.25), between(0.75)];
    });
  return line;
}
