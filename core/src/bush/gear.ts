import type { BushSettings } from '../records/index.ts';
import type { Vessel } from '../season/index.ts';
import type { PlaceNow } from './collecting.ts';

/** What has to be there for a season. */
export type GearKind =
  | 'spouts'
  | 'bits'
  | 'bucket'
  | 'lids'
  | 'bag'
  | 'pail'
  | 'tubes'
  | 'tank'
  | 'drops'
  | 'carryPails'
  | 'peroxide'
  | 'thermometer'
  | 'hydrometer'
  | 'filters';

export interface GearItem {
  readonly what: GearKind;
  readonly many: number;
  readonly withSpares: number;
  /** what one holds; null where it holds nothing */
  readonly litres: number | null;
}

/** Of what breaks and is lost so many of a hundred more are kept. Working assumption. */
const SPARE_SHARE = 0.05;
/** A bit drills so many holes before it is dull. Working assumption. */
const HOLES_A_BIT = 300;

const spared = (many: number) => many + Math.max(1, Math.ceil(many * SPARE_SHARE));

/**
 * The gear for so many taps: vessels as the collecting places have them, and as the bush collects where a tap belongs to none.
 * @param taps of the season
 */
export function gearFor(
  taps: number,
  places: readonly PlaceNow[],
  settings: Pick<BushSettings, 'vessel' | 'vesselLitres' | 'people' | 'carrier'>
): GearItem[] {
  if (taps === 0) return [];
  const vessels = new Map<string, { vessel: Vessel; litres: number; many: number }>();
  const add = (vessel: Vessel, litres: number, many: number) => {
    const key = `${vessel} ${litres}`;
    const known = vessels.get(key) ?? { vessel, litres, many: 0 };
    vessels.set(key, { ...known, many: known.many + many });
  };
  let [placed, drops] = [0, 0];
  for (const { place, trees } of places) {
    const own = trees.reduce((sum, row) => sum + Math.max(row.drilled, row.decidedTaps ?? 0), 0);
    placed += own;
    if (place.vessel === 'tank') drops += own;
    add(place.vessel, place.litres, place.vessels ?? Math.max(1, own));
  }
  const others = Math.max(0, taps - placed);
  if (others > 0) {
    add(settings.vessel, settings.vesselLitres, settings.vessel === 'tank' ? 1 : others);
    if (settings.vessel === 'tank') drops += others;
  }
  const list = [...vessels.values()];
  const hung = list.filter(({ vessel }) => vessel === 'bucket').reduce((sum, { many }) => sum + many, 0);
  const pails = list.filter(({ vessel }) => vessel === 'pail').reduce((sum, { many }) => sum + many, 0);
  const item = (what: GearKind, many: number, litres: number | null = null, withSpares = spared(many)): GearItem[] =>
    many > 0 ? [{ what, many, withSpares, litres }] : [];
  return [
    ...item('spouts', taps),
    ...item('bits', Math.ceil(taps / HOLES_A_BIT)),
    ...list.flatMap(({ vessel, litres, many }) => item(vessel, many, litres, vessel === 'tank' ? many : spared(many))),
    ...item('lids', hung + pails),
    ...item('tubes', pails),
    ...item('drops', drops),
    ...item(
      'carryPails',
      settings.carrier === 'hand' || settings.carrier === 'yoke' ? 2 * settings.people : settings.people
    ),
    ...item('peroxide', 1),
    ...item('thermometer', 1),
    ...item('hydrometer', 1),
    ...item('filters', 2)
  ];
}
