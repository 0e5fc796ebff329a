import loadHighs from 'highs';
import { beforeAll } from 'vitest';
import { type Tree } from '../src/records/index.ts';
import { type StandTree } from '../src/stand/index.ts';
import { type Condition } from '../src/taps/index.ts';
import { highsSolver, type Solver } from '../src/thinning/index.ts';

/* Advice that could hurt somebody, or something, if it were wrong. Each fact is common practice unless a source is named. */

export let solve: Solver;

beforeAll(async () => {
  solve = highsSolver(await loadHighs());
});

export const TODAY = '2026-11-23';

export const LOOK: Condition = {
  on: '2026-08-01',
  diebackPct: null,
  oldestOpenHoleYears: null,
  stressed: null,
  peeledPct: null,
  peelFresh: false
};

export const ID = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

export const LINE: Tree = {
  id: ID(1),
  tag: '7',
  tagged: true,
  standId: null,
  stemOf: null,
  walkOrder: 0,
  eastM: 0,
  northM: 0,
  positionQuality: 'surveyed',
  positionAccuracyM: null
};

export function at(id: string, eastM: number, northM: number, dbhMm: number): StandTree {
  return { id, tag: id, species: 'sugarMaple', dbhMm, eastM, northM, positionQuality: 'surveyed' };
}
