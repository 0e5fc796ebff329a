import type { SpeciesId } from '@baumkin/core/identify';
import type { SiteFeature, Stand } from '@baumkin/core/records';

export type Mix = readonly (readonly [SpeciesId, number])[];

export interface StandPlan {
  readonly name: string;
  readonly purpose: Stand['purpose'];
  readonly note: string;
  readonly wetness: Stand['wetness'];
  readonly outline: readonly (readonly [east: number, north: number])[];
  readonly box: readonly [west: number, south: number, east: number, north: number];
  readonly trees: number;
  readonly clumps: number;
  readonly mix: Mix;
  readonly tappedSince: number | null;
  readonly sun?: Stand['sun'];
}

export const STANDS: readonly StandPlan[] = [
  {
    name: 'Upper Bush',
    purpose: 'syrup',
    note: '',
    wetness: 'dry',
    outline: [
      [-4, 89],
      [60, 91],
      [132, 91],
      [231, 93],
      [233, 150],
      [229, 209],
      [140, 211],
      [62, 207],
      [-5, 208]
    ],
    box: [0, 90, 230, 205],
    trees: 232,
    clumps: 26,
    mix: [
      ['sugarMaple', 0.81],
      ['redMaple', 0.04],
      ['beech', 0.05],
      ['yellowBirch', 0.03],
      ['whiteAsh', 0.03],
      ['basswood', 0.02],
      ['hophornbeam', 0.02]
    ],
    tappedSince: 1998,
    sun: 'sunny'
  },
  {
    name: 'Brook Bottom',
    purpose: 'mixed',
    note: 'Red maple for late sap; ash is let go, elm stays where it lives.',
    wetness: 'wet',
    outline: [
      [-5, -4],
      [90, -5],
      [180, -3],
      [233, -4],
      [234, 60],
      [228, 82],
      [130, 79],
      [60, 82],
      [-5, 81]
    ],
    box: [0, 0, 230, 80],
    trees: 108,
    clumps: 14,
    mix: [
      ['redMaple', 0.46],
      ['sugarMaple', 0.25],
      ['whiteAsh', 0.1],
      ['yellowBirch', 0.09],
      ['elm', 0.05],
      ['silverMaple', 0.03],
      ['basswood', 0.02]
    ],
    tappedSince: 2014
  },
  {
    name: 'North Ledge',
    purpose: 'wildlife',
    note: 'Beech nuts, oak mast and dens. Nothing is felled here but what hangs over the footpath.',
    wetness: 'moist',
    outline: [
      [238, 58],
      [290, 55],
      [335, 62],
      [336, 140],
      [333, 209],
      [285, 211],
      [239, 207],
      [241, 120]
    ],
    box: [240, 60, 330, 205],
    trees: 64,
    clumps: 10,
    mix: [
      ['beech', 0.32],
      ['sugarMaple', 0.3],
      ['redOak', 0.14],
      ['hophornbeam', 0.1],
      ['blackCherry', 0.07],
      ['aspen', 0.04],
      ['stripedMaple', 0.03]
    ],
    tappedSince: null
  }
];

/** In the south-west, where the footpath comes in. */
export const WAY_IN = { eastM: 0, northM: 90 };

/** Up through the Upper Bush, where wood is hauled out. */
export const HAULING_TRACK: Omit<SiteFeature, 'id'> = {
  kind: 'path',
  name: 'Hauling track',
  points: [
    [158, 84],
    [160, 98],
    [157, 113],
    [161, 130],
    [158, 152]
  ]
};

/** Brook, footpath, track, shed and the way in. The path and the shed lie in the gaps between the stands. */
export const LANDSCAPE: readonly Omit<SiteFeature, 'id'>[] = [
  {
    kind: 'water',
    name: 'Corran Brook',
    points: [
      [338, 52],
      [300, 47],
      [262, 38],
      [228, 43],
      [196, 34],
      [170, 38],
      [142, 27],
      [108, 30],
      [80, 20],
      [48, 24],
      [20, 13],
      [-10, 15]
    ]
  },
  {
    kind: 'path',
    name: 'Footpath to the ledge',
    points: [
      [-10, 87],
      [30, 84],
      [74, 86],
      [108, 82],
      [140, 82],
      [190, 86],
      [226, 85],
      [234, 100],
      [235, 150],
      [236, 212]
    ]
  },
  {
    kind: 'building',
    name: 'Sap shed',
    points: [
      [118, 84],
      [126, 84],
      [126, 89],
      [118, 89]
    ]
  },
  HAULING_TRACK,
  { kind: 'entrance', name: 'Way in', points: [[WAY_IN.eastM, WAY_IN.northM]] }
];
