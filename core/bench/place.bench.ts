import { bench, describe } from 'vitest';

import {
  carryOn,
  LossKernel,
  PlacedTrunk,
  placeHoles,
  planRotation,
  type PlacementTask
} from '../src/rotation/index.ts';
import { seededRng } from '../src/math/index.ts';
import {
  columnBearing,
  DEFAULT_COLUMNS,
  DEFAULT_PRACTICE,
  drawTrunks,
  gridFor,
  heatMap,
  judgeSpot,
  type Trunk,
  learnTrunk,
  rowHeight,
  trunkToday,
  type SeenShavings
} from '../src/trunk/index.ts';

/** A trunk with 60 old holes: 30 seasons of two. */
const holes = Array.from({ length: 60 }, (_, i) => ({
  season: 1997 + Math.floor(i / 2),
  bearingDeg: (i * 137.5) % 360,
  heightMm: 700 + ((i * 97) % 700),
  bitMm: 7.9375,
  depthMm: 38.1
}));
const trunk = trunkToday(520, 1.2, 2027, holes);
const task: PlacementTask = {
  trunk,
  practice: DEFAULT_PRACTICE,
  model: DEFAULT_COLUMNS,
  seed: 1,
  draws: 600,
  cellMm: 12,
  ringMm: 1.2,
  ringCv: 0.2,
  wanted: 3,
  taps: 2
};

describe('heat map of a trunk with 60 old holes (wanted: first picture within 100 ms, full within 1 s)', () => {
  bench('first picture', () => void placeHoles({ ...task, draws: 60, cellMm: 30 }));
  bench('full', () => void placeHoles(task));
});

const on = (tree: Trunk) => ({ trunk: tree, path: DEFAULT_PRACTICE, model: DEFAULT_COLUMNS });
const drawn = drawTrunks(on(trunk), { draws: 60, rng: seededRng(1), ringCv: 0.2 });
const grid = gridFor(trunk, 600, 1500, 30);
describe('one heat map, the same draws and cells', () => {
  bench('columns painted onto the cells that they reach', () => {
    heatMap(drawn, grid);
  });
  bench('straightforward: every cell asks every column of every draw', () => {
    for (let row = 0; row < grid.rows; row++)
      for (let column = 0; column < grid.columns; column++)
        judgeSpot(drawn, { bearingDeg: columnBearing(grid, column), heightMm: rowHeight(grid, row) });
  });
});

const kernel = new LossKernel(7.9375, DEFAULT_COLUMNS);
const past = trunk.holes.map(({ bearingDeg, heightMm, buriedMm, depthMm }) => ({
  bearingDeg,
  heightMm,
  buriedMm,
  depthMm
}));
const seen = Array.from({ length: 12 }, (_, i): SeenShavings => ({
  hole: 48 + i,
  seen: i % 5 === 0 ? 'partly' : 'pale',
  brownShare: i % 5 === 0 ? 0.4 : null,
  brownFromMm: null
}));
describe('one trunk', () => {
  const rotation = {
    woodRadiusMm: trunk.woodRadiusMm,
    ringMm: 1.2,
    practice: DEFAULT_PRACTICE,
    kernel,
    past,
    taps: Array<number>(57).fill(2),
    seed: 1
  };
  bench('rotation, two taps for 57 seasons', () => void planRotation(rotation));
  const carried = planRotation(rotation).flatMap((hole) =>
    hole.season > 0 ? [{ ...hole, season: hole.season - 1 }] : []
  );
  bench('the same, carried on from last season', () => void carryOn(rotation, carried));
  bench('a loss kernel', () => void new LossKernel(7.9375, DEFAULT_COLUMNS));
  bench('learning from twelve shavings, 500 truths', () => {
    learnTrunk(trunk, seen, DEFAULT_COLUMNS, { draws: 500, depthMm: 38.1, seed: 1 });
  });
});

describe('a bush of eight trees with 25 old holes each', () => {
  const bush = Array.from({ length: 8 }, (_, i) =>
    trunkToday(
      320 + 25 * i,
      1.3,
      2027,
      holes.slice(0, 25).map((h) => ({ ...h, season: h.season + 14 }))
    )
  );
  bench('planned as in a tapping round', () => {
    for (const each of bush) new PlacedTrunk({ ...task, trunk: each, taps: 1, wanted: 1 }).plan();
  });
  bench('straightforward: the clearest cell of a picture of every tree, cell by cell', () => {
    for (const each of bush) {
      const truths = drawTrunks(on(each), { draws: 200, rng: seededRng(1), ringCv: 0.2 });
      const cells = gridFor(each, 600, 1500, 25);
      for (let row = 0; row < cells.rows; row++)
        for (let column = 0; column < cells.columns; column++)
          judgeSpot(truths, { bearingDeg: columnBearing(cells, column), heightMm: rowHeight(cells, row) });
    }
  });
});
