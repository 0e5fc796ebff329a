/** What can be done with a tree, as far as its species goes. */
export type SapClass =
  /** sugar and black maple: the sweetest sap */
  | 'sweet'
  /** any other maple: can be tapped, more to boil */
  | 'other'
  /** not a maple */
  | 'none';

export interface Species {
  readonly id: SpeciesId;
  readonly name: string;
  readonly latin: string;
  readonly sap: SapClass;
  /** twigs, buds and leaf scars in opposite pairs */
  readonly opposite: boolean;
  /**
   * how common it is in and beside a north-country sugarbush, before anything is known of the stand; working assumption
   */
  readonly regionalShare: number;
}

export type SpeciesId =
  | 'sugarMaple'
  | 'blackMaple'
  | 'redMaple'
  | 'silverMaple'
  | 'norwayMaple'
  | 'boxElder'
  | 'stripedMaple'
  | 'whiteAsh'
  | 'horseChestnut'
  | 'dogwood'
  | 'redOak'
  | 'basswood'
  | 'beech'
  | 'yellowBirch'
  | 'blackCherry'
  | 'hophornbeam'
  | 'aspen'
  | 'elm';

export const SPECIES: readonly Species[] = [
  { id: 'sugarMaple', name: 'sugar maple', latin: 'Acer saccharum', sap: 'sweet', opposite: true, regionalShare: 0.36 },
  { id: 'blackMaple', name: 'black maple', latin: 'Acer nigrum', sap: 'sweet', opposite: true, regionalShare: 0.015 },
  { id: 'redMaple', name: 'red maple', latin: 'Acer rubrum', sap: 'other', opposite: true, regionalShare: 0.14 },
  {
    id: 'silverMaple',
    name: 'silver maple',
    latin: 'Acer saccharinum',
    sap: 'other',
    opposite: true,
    regionalShare: 0.02
  },
  {
    id: 'norwayMaple',
    name: 'Norway maple',
    latin: 'Acer platanoides',
    sap: 'other',
    opposite: true,
    regionalShare: 0.02
  },
  { id: 'boxElder', name: 'box elder', latin: 'Acer negundo', sap: 'other', opposite: true, regionalShare: 0.02 },
  {
    id: 'stripedMaple',
    name: 'striped maple',
    latin: 'Acer pensylvanicum',
    sap: 'other',
    opposite: true,
    regionalShare: 0.03
  },
  { id: 'whiteAsh', name: 'ash', latin: 'Fraxinus', sap: 'none', opposite: true, regionalShare: 0.08 },
  {
    id: 'horseChestnut',
    name: 'horse-chestnut or buckeye',
    latin: 'Aesculus',
    sap: 'none',
    opposite: true,
    regionalShare: 0.01
  },
  { id: 'dogwood', name: 'dogwood', latin: 'Cornus', sap: 'none', opposite: true, regionalShare: 0.01 },
  { id: 'redOak', name: 'red oak', latin: 'Quercus rubra', sap: 'none', opposite: false, regionalShare: 0.05 },
  { id: 'basswood', name: 'basswood', latin: 'Tilia americana', sap: 'none', opposite: false, regionalShare: 0.04 },
  {
    id: 'beech',
    name: 'American beech',
    latin: 'Fagus grandifolia',
    sap: 'none',
    opposite: false,
    regionalShare: 0.07
  },
  {
    id: 'yellowBirch',
    name: 'yellow birch',
    latin: 'Betula alleghaniensis',
    sap: 'none',
    opposite: false,
    regionalShare: 0.05
  },
  {
    id: 'blackCherry',
    name: 'black cherry',
    latin: 'Prunus serotina',
    sap: 'none',
    opposite: false,
    regionalShare: 0.03
  },
  {
    id: 'hophornbeam',
    name: 'hophornbeam',
    latin: 'Ostrya virginiana',
    sap: 'none',
    opposite: false,
    regionalShare: 0.02
  },
  { id: 'aspen', name: 'aspen or poplar', latin: 'Populus', sap: 'none', opposite: false, regionalShare: 0.02 },
  { id: 'elm', name: 'elm', latin: 'Ulmus', sap: 'none', opposite: false, regionalShare: 0.02 }
];

export function speciesById(id: SpeciesId): Species {
  return SPECIES.find((species) => species.id === id)!;
}

export function isMaple(id: SpeciesId): boolean {
  return speciesById(id).sap !== 'none';
}
