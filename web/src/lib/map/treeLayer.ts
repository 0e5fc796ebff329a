import Flatbush from 'flatbush';
import type * as Leaflet from 'leaflet';

/** A tree as the map draws it. */
export interface MapTree {
  readonly id: string;
  readonly tag: string;
  readonly eastM: number;
  readonly northM: number;
  readonly crownM: number;
  readonly trunkM: number;
  /** index into the tones; null for a tree that the question does not concern */
  readonly tone: number | null;
  /** what the question has to say of it; shown where there is room */
  readonly says: string;
  /** how far off its place may be, one standard deviation, metres */
  readonly roughM: number;
  readonly tagged: boolean;
  /** how each side of the crown is, from north round by east; only crop trees have it */
  readonly sides?: readonly MapSide[];
  /** what stands on the trunk: a mark, or who lives there */
  readonly sign?: MapSign;
}

export type MapSide = 'free' | 'freed' | 'blocked' | 'unknown';
export type MapSign = 'take' | 'girdle' | 'keep' | 'watch' | 'brace' | 'home' | 'hazard';

/** How a tone is painted: a colour of the theme and how strongly it fills the crown. */
export interface Paint {
  readonly variable: string;
  readonly fill: number;
}

/** A tree that the question does not concern. */
const NO_ANSWER: Paint = { variable: '--color-base-content', fill: 0.05 };
/** Crowns up to this radius are stamped, pixels. */
const LARGEST_STAMP_PX = 14;

interface CrownLook {
  readonly colour: string;
  readonly fill: number;
  /** outside what the map asks */
  readonly faint: boolean;
  /** its place is rough: a broken edge */
  readonly rough: boolean;
}

/** A crown around the pen's origin. */
function paintCrown(pen: CanvasRenderingContext2D, radiusPx: number, { colour, fill, faint, rough }: CrownLook): void {
  pen.fillStyle = pen.strokeStyle = colour;
  pen.lineWidth = faint ? 0.6 : 1.2;
  pen.setLineDash(rough ? [4, 4] : []);
  pen.beginPath();
  pen.arc(0, 0, radiusPx, 0, 2 * Math.PI);
  pen.globalAlpha = fill;
  pen.fill();
  pen.globalAlpha = faint ? 0.4 : 0.9;
  pen.stroke();
}

/** Four arcs round a crown: whole and thick where the side is free, broken and thin where it is not. */
function paintSides(
  pen: CanvasRenderingContext2D,
  { x, y, radiusPx }: { readonly x: number; readonly y: number; readonly radiusPx: number },
  sides: readonly MapSide[],
  { ink, amber, spruce }: { readonly ink: string; readonly amber: string; readonly spruce: string }
): void {
  pen.save();
  sides.forEach((side, i) => {
    if (side === 'unknown') return;
    const middle = (i * Math.PI) / 2 - Math.PI / 2;
    pen.beginPath();
    pen.arc(x, y, radiusPx, middle - 0.66, middle + 0.66);
    pen.strokeStyle = side === 'free' ? spruce : side === 'freed' ? amber : ink;
    pen.lineWidth = side === 'blocked' ? 1.2 : Math.min(5, Math.max(2, radiusPx / 7));
    pen.setLineDash(side === 'blocked' ? [2, 3] : []);
    pen.stroke();
  });
  pen.restore();
}

/** A mark on the trunk, by its shape alone. */
function paintSign(
  pen: CanvasRenderingContext2D,
  { x, y, size }: { readonly x: number; readonly y: number; readonly size: number },
  sign: MapSign,
  ink: string
): void {
  pen.save();
  pen.strokeStyle = pen.fillStyle = ink;
  pen.lineWidth = Math.max(1.4, size / 3.2);
  pen.beginPath();
  if (sign === 'take') {
    pen.moveTo(x - size, y - size);
    pen.lineTo(x + size, y + size);
    pen.moveTo(x + size, y - size);
    pen.lineTo(x - size, y + size);
  } else if (sign === 'girdle') {
    pen.moveTo(x - size * 1.2, y);
    pen.lineTo(x + size * 1.2, y);
  } else if (sign === 'keep') {
    pen.rect(x - size, y - size, 2 * size, 2 * size);
  } else if (sign === 'watch') {
    pen.ellipse(x, y, size * 1.4, size * 0.8, 0, 0, 2 * Math.PI);
  } else if (sign === 'brace') {
    pen.moveTo(x - size, y + size);
    pen.lineTo(x - size, y - size);
    pen.lineTo(x + size, y - size);
    pen.lineTo(x + size, y + size);
  } else if (sign === 'hazard') {
    pen.moveTo(x, y - size * 1.3);
    pen.lineTo(x + size * 1.2, y + size * 0.9);
    pen.lineTo(x - size * 1.2, y + size * 0.9);
    pen.closePath();
  } else {
    // A roof: something lives there.
    pen.moveTo(x - size * 1.2, y);
    pen.lineTo(x, y - size * 1.2);
    pen.lineTo(x + size * 1.2, y);
  }
  pen.stroke();
  pen.restore();
}

/** What the layer draws from; handed over anew whenever anything of it changes. */
export interface Scene {
  readonly trees: readonly MapTree[];
  readonly tones: readonly Paint[];
  readonly chosen: ReadonlySet<string>;
  readonly current: string | null;
}

/** Rougher positions than this are drawn as rough, metres. */
const ROUGH_M = 2;
/** Pixels to a metre from which there is room for words, and the most trees that get any. */
const WORDS_FROM = 7;
const MAX_WORDS = 250;
/** A finger finds a tree this close, pixels. */
const REACH_PX = 14;

/**
 * Trees on one canvas, found by a spatial index: only what is in sight is drawn, so that twenty thousand stay smooth.
 * Leaflet moves the canvas while the map is dragged and asks for a new picture when it rests.
 */
export function makeTreeLayer(L: typeof Leaflet) {
  // Leaflet's renderers are made to be extended; its type declarations leave their inner methods out.
  const Renderer = L.Renderer as unknown as new (options: object) => Leaflet.Renderer;
  const inherited = Renderer.prototype as unknown as { _update: (this: unknown) => void };

  class TreeLayer extends Renderer {
    declare _container: HTMLCanvasElement;
    declare _bounds: Leaflet.Bounds;
    declare _map: Leaflet.Map & { _animatingZoom?: boolean };
    #scene: Scene = { trees: [], tones: [], chosen: new Set(), current: null };
    #index: Flatbush | null = null;
    #indexed: readonly MapTree[] | null = null;
    #isDrawn = false;

    show(scene: Scene): void {
      this.#scene = scene;
      if (scene.trees !== this.#indexed) {
        this.#indexed = scene.trees;
        this.#index = scene.trees.length > 0 ? new Flatbush(scene.trees.length) : null;
        for (const { eastM, northM } of scene.trees) this.#index?.add(eastM, northM);
        this.#index?.finish();
      }
      this.#isDrawn = false;
      // The words of the page come first: twenty thousand trees take some tenths of a second. Where the map moves meanwhile, it
      // has drawn them by then.
      requestAnimationFrame(() => setTimeout(() => this._map && !this.#isDrawn && this._update()));
    }

    /** The tree under a place: its trunk, or the crown whose trunk is nearest. */
    at(eastM: number, northM: number, pxPerM: number): MapTree | null {
      const { trees } = this.#scene;
      let best: MapTree | null = null;
      let least = Infinity;
      for (const i of this.#index?.neighbors(eastM, northM, 12) ?? []) {
        const tree = trees[i]!;
        const away = Math.hypot(tree.eastM - eastM, tree.northM - northM);
        if (away > Math.max(tree.crownM, REACH_PX / pxPerM) || away >= least) continue;
        [best, least] = [tree, away];
      }
      return best;
    }

    /** Trees within a box, by their trunks. */
    within(west: number, south: number, east: number, north: number): MapTree[] {
      return (this.#index?.search(west, south, east, north) ?? []).map((i) => this.#scene.trees[i]!);
    }

    _initContainer(): void {
      this._container = document.createElement('canvas');
      this._container.setAttribute('aria-hidden', 'true');
    }

    _destroyContainer(): void {
      this._container.remove();
    }

    _update(): void {
      if (this._map._animatingZoom && this._bounds) return;
      inherited._update.call(this);
      this.#isDrawn = true;
      const size = this._bounds.getSize();
      const ratio = Math.min(2, window.devicePixelRatio || 1);
      const canvas = this._container;
      L.DomUtil.setPosition(canvas, this._bounds.min!);
      canvas.width = ratio * size.x;
      canvas.height = ratio * size.y;
      canvas.style.width = `${size.x}px`;
      canvas.style.height = `${size.y}px`;
      const context = canvas.getContext('2d')!;
      context.setTransform(ratio, 0, 0, ratio, -this._bounds.min!.x * ratio, -this._bounds.min!.y * ratio);
      this.#draw(context);
    }

    #draw(context: CanvasRenderingContext2D): void {
      const map = this._map;
      const at = (layer: Leaflet.Point) => map.layerPointToLatLng(layer);
      const [corner, opposite] = [at(this._bounds.min!), at(this._bounds.max!)];
      const pad = 12;
      const trees = this.within(corner.lng - pad, opposite.lat - pad, opposite.lng + pad, corner.lat + pad);
      const zero = map.latLngToLayerPoint([0, 0]);
      const pxPerM = map.latLngToLayerPoint([0, 1000]).subtract(zero).x / 1000;
      const x = (tree: MapTree) => zero.x + tree.eastM * pxPerM;
      const y = (tree: MapTree) => zero.y - tree.northM * pxPerM;
      const style = getComputedStyle(this._container);
      const colour = (variable: string) => style.getPropertyValue(variable).trim();
      const [ink, paper, amber] = ['--color-base-content', '--color-base-200', '--color-primary'].map(colour) as [
        string,
        string,
        string
      ];

      const { tones, chosen, current } = this.#scene;
      const paints = [...tones, NO_ANSWER].map((paint) => ({ colour: colour(paint.variable), fill: paint.fill }));
      const ratio = Math.min(2, window.devicePixelRatio || 1);
      const stamps = new Map<number, HTMLCanvasElement>();
      for (const tree of trees) {
        const r = Math.max(1.5, tree.crownM * pxPerM);
        const tone = tree.tone ?? tones.length;
        const rough = tree.roughM > ROUGH_M && pxPerM > 1.5;
        const look = { ...paints[tone]!, faint: tree.tone === null, rough };
        if (r > LARGEST_STAMP_PX) {
          context.save();
          context.translate(x(tree), y(tree));
          paintCrown(context, r, look);
          context.restore();
          continue;
        }
        // Small crowns of one look are painted once and stamped: twenty thousand arcs would take a tenth of a second.
        const size = Math.round(2 * r);
        const key = (size * 2 + Number(rough)) * 64 + tone;
        let stamp = stamps.get(key);
        if (!stamp) {
          stamp = document.createElement('canvas');
          stamp.width = stamp.height = Math.ceil((size + 4) * ratio);
          const pen = stamp.getContext('2d')!;
          pen.setTransform(ratio, 0, 0, ratio, stamp.width / 2, stamp.height / 2);
          paintCrown(pen, size / 2, look);
          stamps.set(key, stamp);
        }
        const width = stamp.width / ratio;
        context.drawImage(stamp, x(tree) - width / 2, y(tree) - width / 2, width, width);
      }

      context.fillStyle = ink;
      for (const tree of trees) {
        if (!tree.tagged) continue;
        const r = Math.max(pxPerM > 1 ? 1.3 : 0.6, (tree.trunkM * pxPerM) / 2);
        if (r < 1.5) {
          context.fillRect(x(tree) - r, y(tree) - r, 2 * r, 2 * r);
          continue;
        }
        context.beginPath();
        context.arc(x(tree), y(tree), r, 0, 2 * Math.PI);
        context.fill();
      }

      const spruce = colour('--color-secondary');
      for (const tree of trees) {
        const at = { x: x(tree), y: y(tree) };
        const radiusPx = Math.max(5, tree.crownM * pxPerM + 2);
        if (tree.sides && pxPerM > 1.2) paintSides(context, { ...at, radiusPx }, tree.sides, { ink, amber, spruce });
        const size = Math.max(3, Math.min(8, 0.9 * pxPerM));
        if (tree.sign) paintSign(context, { ...at, size }, tree.sign, ink);
      }

      context.strokeStyle = amber;
      context.lineWidth = pxPerM > 4 ? 3 : 2;
      context.beginPath();
      for (const tree of trees) {
        if (!chosen.has(tree.id)) continue;
        const r = Math.max(4, (tree.trunkM * pxPerM) / 2 + 4);
        context.moveTo(x(tree) + r, y(tree));
        context.arc(x(tree), y(tree), r, 0, 2 * Math.PI);
      }
      context.stroke();
      const here = current === null ? undefined : trees.find((tree) => tree.id === current);
      if (here) {
        const r = Math.max(9, here.crownM * pxPerM + 3);
        context.strokeStyle = ink;
        context.lineWidth = 2.5;
        context.beginPath();
        context.arc(x(here), y(here), r, 0, 2 * Math.PI);
        context.stroke();
      }

      if (pxPerM < WORDS_FROM || trees.length > MAX_WORDS) return;
      context.font = `600 ${Math.min(15, 8 + pxPerM / 3)}px ${style.fontFamily}`;
      context.textAlign = 'center';
      context.lineWidth = 3;
      context.strokeStyle = paper;
      context.fillStyle = ink;
      for (const tree of trees) {
        const below = y(tree) + (tree.trunkM * pxPerM) / 2;
        const lines = [tree.tag, ...(tree.says === '' ? [] : [tree.says])];
        lines.forEach((line, i) => {
          context.strokeText(line, x(tree), below + 14 * (i + 1));
          context.fillText(line, x(tree), below + 14 * (i + 1));
        });
      }
    }
  }
  // Room beyond the edge, so that a short drag shows no empty ground.
  return new TreeLayer({ padding: 0.25, pane: 'overlayPane' });
}

export type TreeLayer = ReturnType<typeof makeTreeLayer>;
