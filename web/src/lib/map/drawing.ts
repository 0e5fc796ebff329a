import type { Point } from '@baumkin/core/geometry';
import type * as Leaflet from 'leaflet';

import { latLng } from './ground.ts';

type Shape = Leaflet.Polyline | Leaflet.Polygon;
/** Corners are kept to the centimetre. */
const round = (metres: number) => Number(metres.toFixed(2));

/** What a line round trees does to those that are chosen already. */
export type LassoHow = 'only' | 'add' | 'remove';

/**
 * Lets a free line be drawn round the trees that are meant; with shift they are added, with alt taken out.
 * @returns ends it
 */
export function lassoOn(
  map: Leaflet.Map,
  box: HTMLElement,
  told: {
    readonly ondraw: (line: [number, number][]) => void;
    readonly ondone: (line: readonly [number, number][], how: LassoHow) => void;
  }
): () => void {
  map.dragging.disable();
  let line: [number, number][] | null = null;
  const at = (event: PointerEvent): [number, number] => {
    const { lat, lng } = map.mouseEventToLatLng(event);
    return [lng, lat];
  };
  const draw = (next: [number, number][] | null) => {
    line = next;
    told.ondraw(next ?? []);
  };
  const down = (event: PointerEvent) => {
    if (event.button !== 0 || (event.target as HTMLElement).closest('.leaflet-control')) return;
    box.setPointerCapture(event.pointerId);
    draw([at(event)]);
  };
  const move = (event: PointerEvent) => {
    if (line) draw([...line, at(event)]);
  };
  const up = (event: PointerEvent) => {
    const drawn = line;
    if (!drawn) return;
    draw(null);
    if (drawn.length >= 4) told.ondone(drawn, event.shiftKey ? 'add' : event.altKey ? 'remove' : 'only');
  };
  box.addEventListener('pointerdown', down);
  box.addEventListener('pointermove', move);
  box.addEventListener('pointerup', up);
  return () => {
    map.dragging.enable();
    box.removeEventListener('pointerdown', down);
    box.removeEventListener('pointermove', move);
    box.removeEventListener('pointerup', up);
  };
}

/**
 * Lets an outline or a course be drawn, or the corners of one that is there be moved.
 * @returns ends it
 */
export function drawOutline(
  L: typeof Leaflet,
  map: Leaflet.Map,
  {
    closed,
    begun,
    colour,
    onoutline
  }: {
    readonly closed: boolean;
    /** the shape that is there; null to draw one */
    readonly begun: readonly Point[] | null;
    readonly colour: string;
    readonly onoutline: (points: [number, number][]) => void;
  }
): () => void {
  const style = { color: colour, weight: 2.5, fillOpacity: 0.1 };
  map.pm.setGlobalOptions({
    pathOptions: style,
    templineStyle: style,
    hintlineStyle: { ...style, dashArray: '5 5' }
  });
  const report = (layer: Shape) => {
    const rings = layer.getLatLngs();
    const points = (closed ? rings[0] : rings) as Leaflet.LatLng[];
    onoutline(points.map(({ lat, lng }): [number, number] => [round(lng), round(lat)]));
  };
  let layer: Shape | null = null;
  const edit = (drawn: Shape) => {
    layer = drawn;
    drawn.pm.enable({ allowSelfIntersection: false });
    drawn.on('pm:edit', () => report(drawn));
  };
  if (begun && begun.length > 1) {
    const made = closed ? L.polygon(begun.map(latLng), style) : L.polyline(begun.map(latLng), style);
    edit(made.addTo(map));
  } else {
    map.pm.enableDraw(closed ? 'Polygon' : 'Line', {
      allowSelfIntersection: false,
      finishOn: 'dblclick',
      // The page says what to do, in its own words.
      tooltips: false
    });
    map.once('pm:create', (event) => {
      map.pm.disableDraw();
      edit(event.layer as Shape);
      report(event.layer as Shape);
    });
  }
  return () => {
    map.off('pm:create');
    map.pm.disableDraw();
    layer?.remove();
  };
}
