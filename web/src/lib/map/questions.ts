import { isMaple, speciesById, type SpeciesId } from '@baumkin/core/identify';
import { fractionalYear } from '@baumkin/core/measure';
import { kindOf, REMEASURE_YEARS, tapsToHang, type TreeKind, type TreeRow } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { preferences } from '$lib/client/preferences.svelte.ts';

import type { Paint } from './treeLayer.ts';

/** One answer that trees may give to a question. */
interface Answer extends Paint {
  readonly label: string;
}

/** What the steward may ask of all trees at once. */
export interface Question {
  readonly id: string;
  readonly label: string;
  readonly answers: readonly Answer[];
  /** which answer a tree gives; null where the question does not concern it */
  answer(row: TreeRow): number | null;
  /** what it says of the tree in a word, for the map and the list */
  says(row: TreeRow): string;
}

const SPRUCE = '--color-secondary';
const AMBER = '--color-primary';
const INK = '--color-base-content';
const BLUE = '--color-info';
const ramp = (labels: readonly string[], variable = SPRUCE): Answer[] =>
  labels.map((label, i) => ({ label, variable, fill: 0.08 + (0.82 * i) / Math.max(1, labels.length - 1) }));

/** Species that stewards ask for, together where they are treated alike. */
const KIN: readonly (readonly [label: string, variable: string, fill: number, species: readonly SpeciesId[]])[] = [
  ['sugar and black maple', SPRUCE, 0.8, ['sugarMaple', 'blackMaple']],
  ['red and silver maple', BLUE, 0.6, ['redMaple', 'silverMaple']],
  ['other maples', BLUE, 0.2, []],
  ['a maple, species open', AMBER, 0.4, []],
  ['beech', INK, 0.6, ['beech']],
  ['ash', INK, 0.3, ['whiteAsh', 'blackAsh']],
  ['other trees', INK, 0.08, []]
];

/** What the paint on a trunk asks for. */
const MARKS: readonly (readonly [purpose: TreeRow['mark'], label: string, variable: string, fill: number])[] = [
  ['take', 'to take', '--color-error', 0.6],
  ['girdle', 'to girdle for wildlife', '--color-error', 0.2],
  ['keep', 'to keep', SPRUCE, 0.7],
  ['watch', 'to watch', AMBER, 0.45],
  ['brace', 'to be braced', BLUE, 0.5]
];

const KINDS: readonly TreeKind[] = ['maple', 'unsettled', 'other'];
const stepOf = (value: number, steps: readonly number[]) => steps.filter((step) => value >= step).length;

/** The questions, with labels in the steward's units. */
export function questionsFor(bush: BushState): readonly Question[] {
  const length = (mm: number, use: 'trunk' | 'ring') => preferences.length(mm, use);
  const diameters = preferences.units === 'metric' ? [250, 400, 600] : [254, 381, 508];
  const rings = [0.8, 1.2, 1.8];
  const bands = (steps: readonly number[], use: 'trunk' | 'ring') => [
    `under ${length(steps[0]!, use)}`,
    ...steps.slice(1).map((to, i) => `${length(steps[i]!, use)} to ${length(to, use)}`),
    `${length(steps.at(-1)!, use)} and more`
  ];
  const maple = (row: TreeRow) => kindOf(row) === 'maple';
  const hung = (row: TreeRow) => tapsToHang(row, bush.standOf(row), bush.today);
  const age = (row: TreeRow) =>
    row.lastReadingOn === null ? null : fractionalYear(bush.today) - fractionalYear(row.lastReadingOn);
  return [
    {
      id: 'kind',
      label: 'What is it?',
      answers: [
        { label: 'maple', variable: SPRUCE, fill: 0.45 },
        { label: 'not settled', variable: AMBER, fill: 0.5 },
        { label: 'another tree', variable: INK, fill: 0.1 }
      ],
      answer: (row) => KINDS.indexOf(kindOf(row)),
      says: (row) =>
        row.verdict === 'mapleOpen'
          ? 'maple'
          : kindOf(row) === 'unsettled' || !row.species
            ? '?'
            : speciesById(row.species).name
    },
    {
      id: 'species',
      label: 'Which species?',
      answers: KIN.map(([label, variable, fill]) => ({ label, variable, fill })),
      answer: (row) => {
        if (row.verdict === 'mapleOpen') return 3;
        if (kindOf(row) === 'unsettled' || !row.species) return null;
        const found = KIN.findIndex(([, , , species]) => species.includes(row.species!));
        return found >= 0 ? found : isMaple(row.species) ? 2 : KIN.length - 1;
      },
      says: (row) => (kindOf(row) === 'unsettled' || !row.species ? '?' : speciesById(row.species).name)
    },
    {
      id: 'diameter',
      label: 'How thick?',
      answers: ramp(bands(diameters, 'trunk')),
      answer: (row) => (row.dbhMm === null ? null : stepOf(row.dbhMm, diameters)),
      says: (row) => (row.dbhMm === null ? '' : length(row.dbhMm, 'trunk'))
    },
    {
      id: 'growth',
      label: 'How does it grow?',
      answers: ramp(bands(rings, 'ring')),
      answer: (row) => (row.ownGrowth === 0 ? null : stepOf(row.ringMm, rings)),
      says: (row) => (row.ownGrowth === 0 ? '' : `${length(row.ringMm, 'ring')} a year`)
    },
    {
      id: 'due',
      label: 'What is due?',
      answers: [
        { label: 'a question is open', variable: '--color-error', fill: 0.55 },
        { label: 'never measured', variable: AMBER, fill: 0.9 },
        { label: `older than ${REMEASURE_YEARS} years`, variable: AMBER, fill: 0.4 },
        { label: 'fresh', variable: SPRUCE, fill: 0.25 }
      ],
      answer: (row) => {
        if (kindOf(row) === 'other' || !row.tagged) return null;
        if (row.questions > 0) return 0;
        const years = age(row);
        return years === null ? 1 : years > REMEASURE_YEARS ? 2 : 3;
      },
      says: (row) => row.lastReadingOn?.slice(0, 4) ?? 'never'
    },
    {
      id: 'taps',
      label: 'How many taps?',
      answers: [
        { label: 'not decided', variable: AMBER, fill: 0.3 },
        { label: 'rests', variable: INK, fill: 0.15 },
        { label: 'one', variable: SPRUCE, fill: 0.3 },
        { label: 'two', variable: SPRUCE, fill: 0.6 },
        { label: 'three and more', variable: SPRUCE, fill: 0.9 }
      ],
      answer: (row) => (!maple(row) ? null : row.decidedTaps === null ? 0 : 1 + Math.min(3, hung(row))),
      says: (row) => (row.decidedTaps === null ? '' : hung(row) === 1 ? '1 tap' : `${hung(row)} taps`)
    },
    {
      id: 'place',
      label: 'How well is its place known?',
      answers: [
        { label: 'surveyed', variable: SPRUCE, fill: 0.7 },
        { label: 'paced', variable: SPRUCE, fill: 0.25 },
        { label: 'phone: too rough for crowns', variable: AMBER, fill: 0.4 },
        { label: 'as an instrument said', variable: BLUE, fill: 0.4 }
      ],
      answer: (row) =>
        row.positionAccuracyM !== null && row.positionAccuracyM !== undefined
          ? 3
          : row.positionQuality === null
            ? null
            : ['surveyed', 'paced', 'phone'].indexOf(row.positionQuality),
      says: (row) => row.positionQuality ?? ''
    },
    {
      id: 'marks',
      label: 'What is marked?',
      answers: MARKS.map(([, label, variable, fill]) => ({ label, variable, fill })),
      answer: (row) => {
        const found = MARKS.findIndex(([purpose]) => purpose === row.mark);
        return found < 0 ? null : found;
      },
      says: (row) => row.mark ?? ''
    }
  ];
}
