import type { Station } from '@baumkin/core/records';

export interface StationInfo {
  readonly id: Station;
  readonly name: string;
  readonly key: string;
  /** what is outstanding there, in words */
  readonly outstanding: (count: number) => string;
  readonly done: string;
  /** said where nothing is outstanding and no tree came so far yet */
  readonly nothing: string;
}

const trees = (n: number) => (n === 1 ? '1 tree' : `${n} trees`);

/** The trail: the stations in the order of the work. */
export const TRAIL: readonly StationInfo[] = [
  {
    id: 'identify',
    name: 'Identify',
    key: '1',
    outstanding: (n) => `${trees(n)} unsettled`,
    done: 'all settled',
    nothing: 'nothing to settle'
  },
  {
    id: 'measure',
    name: 'Measure',
    key: '2',
    outstanding: (n) => `${trees(n)} due or in question`,
    done: 'all read',
    nothing: 'nothing to measure'
  },
  {
    id: 'count',
    name: 'Count',
    key: '3',
    outstanding: (n) => `${trees(n)} to decide`,
    done: 'all decided',
    nothing: 'nothing to decide'
  },
  {
    id: 'place',
    name: 'Place',
    key: '4',
    outstanding: (n) => `${trees(n)} to drill`,
    done: 'nothing to drill',
    nothing: 'nothing to drill'
  },
  {
    id: 'thin',
    name: 'Thin',
    key: '5',
    outstanding: (n) => `${trees(n)} to take or look at`,
    done: 'nothing marked',
    nothing: 'nothing marked'
  },
  {
    id: 'season',
    name: 'Season',
    key: '6',
    outstanding: (n) => `${trees(n)} to pull or look at`,
    done: 'weather to closing',
    nothing: 'weather to closing'
  }
];
