import { fromLocalMetres, offset, toLocalMetres } from '@baumkin/core/geometry';
import { rougher, type PositionQuality } from '@baumkin/core/stand';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { preferences } from '$lib/client/preferences.svelte.ts';
import { Receiver } from '$lib/devices/receiver.svelte.ts';
import { readCoordinate, readMetres } from '$lib/ui/readMetres.ts';

/** A place as it is going to be written down. */
export interface GivenPlace {
  readonly eastM: number;
  readonly northM: number;
  readonly quality: PositionQuality;
  readonly accuracyM: number | null;
  readonly asTaken: string;
}

/** How a place was found: each way says how far it may be off. */
export type WayToPlace = 'map' | 'from' | 'here' | 'degrees' | 'metres';

type Spot = Pick<GivenPlace, 'eastM' | 'northM'>;
type Answer =
  | { readonly place: GivenPlace }
  /** what is given is no place */
  | { readonly problem: string }
  /** it is half given so far */
  | { readonly wants: string }
  | null;

const NO_ORIGIN = 'This bush does not say where on earth it lies. A steward says so on the page of the ground.';
const FARTHEST_M = 100_000;

const rounded = ({ eastM, northM }: Spot): Spot => ({
  eastM: Number(eastM.toFixed(2)),
  northM: Number(northM.toFixed(2))
});

/** Where something stands, as it is being tapped, typed or received. */
export class PlaceAnswer {
  readonly #bush: BushState;
  readonly #tapped: () => Spot | null;
  readonly tapped = $derived.by(() => this.#tapped());
  /** a tap on the map says how the place is given, until another way is chosen */
  way = $derived<WayToPlace>(this.tapped ? 'map' : 'from');
  quality = $state<PositionQuality>('paced');
  /** tag or plot to measure from */
  anchor = $state('');
  bearing = $state('');
  distance = $state('');
  /** latitude or east */
  first = $state('');
  /** longitude or north */
  second = $state('');
  readonly receiver = new Receiver();

  readonly #answer = $derived.by((): Answer => {
    switch (this.way) {
      case 'map':
        return this.tapped && this.#by(this.tapped, 'tapped on the map');
      case 'from':
        return this.#fromAnchor();
      case 'here':
        return this.#fromReceiver();
      case 'degrees':
        return this.#fromDegrees();
      case 'metres':
        return this.#fromMetres();
    }
  });
  /** null while nothing is given, or nothing that could be right */
  readonly place = $derived(this.#answer && 'place' in this.#answer ? this.#answer.place : null);
  readonly problem = $derived(this.#answer && 'problem' in this.#answer ? this.#answer.problem : null);
  readonly wants = $derived(this.#answer && 'wants' in this.#answer ? this.#answer.wants : null);
  /** the place on earth, where the bush says where it lies */
  readonly degrees = $derived.by(() => {
    const origin = this.#origin;
    return this.place && origin ? fromLocalMetres(origin, this.place) : null;
  });

  /**
   * @param from tag of the tree to measure from, to begin with
   * @param tapped a spot that was tapped on the map; null where there is no map
   */
  constructor(bush: BushState, from = '', tapped: () => Spot | null = () => null) {
    this.#bush = bush;
    this.anchor = from;
    this.#tapped = tapped;
  }

  get #origin() {
    return this.#bush.overview?.bush.origin ?? null;
  }

  #by(spot: Spot, asTaken: string): Answer {
    return { place: { ...rounded(spot), quality: this.quality, accuracyM: null, asTaken } };
  }

  #fromMetres(): Answer {
    const [eastM, northM] = [readCoordinate(this.first, 'east'), readCoordinate(this.second, 'north')];
    if (typeof eastM === 'string') return { problem: eastM };
    if (typeof northM === 'string') return { problem: northM };
    if (eastM === null && northM === null) return null;
    if (eastM === null || northM === null) return { wants: `And how far ${eastM === null ? 'east' : 'north'}?` };
    return this.#by({ eastM, northM }, '');
  }

  #fromAnchor(): Answer {
    const { bearing, distance, quality } = this;
    if (bearing.trim() === '' && distance.trim() === '') return null;
    const name = this.anchor.trim().toLowerCase();
    const tree = this.#bush.rows.find((row) => row.tag.toLowerCase() === name);
    const plots = this.#bush.bushRecords.flatMap((r) => (r.kind === 'plot' && r.centre ? [r] : []));
    const plot = plots.find((p) => p.name.toLowerCase() === name || `plot ${p.name}`.toLowerCase() === name);
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
    if (bearing.trim() === '') return { wants: 'And which way?' };
    const degrees = Number(bearing.replace(',', '.').replace('°', ''));
    if (!(degrees >= 0 && degrees <= 360))
      return { problem: 'A bearing runs from 0 to 360 degrees, clockwise from north.' };
    const away = readMetres(distance);
    if (typeof away === 'string') return { problem: away };
    if (away === null) return { wants: 'And how far away?' };
    if (away > 200) return { problem: 'That is too far to tape: look at the unit.' };
    return {
      place: {
        ...rounded(offset(start, degrees, away)),
        quality: rougher(quality, start.quality),
        accuracyM: null,
        asTaken: `${preferences.length(away * 1000, 'ground')} at ${degrees}° from ${tree ? tree.tag : `plot ${plot!.name}`}`
      }
    };
  }

  #fromReceiver(): Answer {
    const fix = this.receiver.mean;
    if (!fix) return null;
    const origin = this.#origin;
    if (!origin) return { problem: NO_ORIGIN };
    const at = toLocalMetres(origin, fix);
    if (Math.hypot(at.eastM, at.northM) > FARTHEST_M)
      return { problem: 'The receiver is more than 100 km away from this bush.' };
    return {
      place: {
        ...rounded(at),
        quality: 'phone',
        accuracyM: Number(fix.accuracyM.toFixed(1)),
        asTaken: `mean of ${fix.fixes} fixes, ${this.receiver.name}`.slice(0, 120)
      }
    };
  }

  #fromDegrees(): Answer {
    const { first, second } = this;
    if (first.trim() === '' && second.trim() === '') return null;
    const origin = this.#origin;
    if (!origin) return { problem: NO_ORIGIN };
    const [lat, lon] = [first, second].map((text) => Number(text.replace(',', '.').replace('°', '').trim() || NaN));
    if (first.trim() === '' || second.trim() === '')
      return { wants: `And the ${first.trim() === '' ? 'latitude' : 'longitude'}?` };
    if (!(Math.abs(lat!) <= 89) || !(Math.abs(lon!) <= 180))
      return { problem: 'Write degrees with decimals, such as 46.50123.' };
    const at = toLocalMetres(origin, { lat: lat!, lon: lon! });
    if (Math.hypot(at.eastM, at.northM) > FARTHEST_M)
      return { problem: 'That is more than 100 km away from this bush.' };
    return this.#by(at, `${first.trim()}, ${second.trim()}`);
  }
}
