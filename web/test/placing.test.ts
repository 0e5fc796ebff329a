import { bushSettingsSchema, deriveTree, type WorkRecord } from '@baumkin/core/records';
import {
  liveThrough,
  LossKernel,
  placeHoles,
  planEvenly,
  planGreedily,
  planRotation,
  type PlacementRule,
  type RuleTree,
  type PlannedHole,
  type RotationTask
} from '@baumkin/core/rotation';
import { bandOf, modelOf, placementOf, roundState, tooThinToTap, trunkOf, walkRows } from '@baumkin/core/bush';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { movedBy } from '../src/lib/place/sheetGeometry.ts';
import { corranHill } from '../../demo/corranHill.ts';

const settings = bushSettingsSchema.parse({});
const SEASON = 2027;
const lives = (() => {
  const byTree = new Map<string, WorkRecord[]>();
  for (const record of corranHill().records) byTree.set(record.treeId, [...(byTree.get(record.treeId) ?? []), record]);
  return [...byTree.values()];
})();
const tapped = lives.flatMap((records) => {
  const state = deriveTree(records, { season: SEASON, today: '2026-11-24' });
  return state.tapholes.length > 15 && state.dbhMm !== null && state.questioned.size === 0 ? [state] : [];
});

describe('the rotation on trunks with a long past (self-consistency: in trunks that the model draws)', () => {
  const model = modelOf(settings, null);
  const kernel = new LossKernel(settings.bitMm, model);
  const mean = (values: ArrayLike<number>) => Array.from(values).reduce((a, b) => a + b, 0) / values.length;

  it('loses no more than greed, and than the best even spacing started today', () => {
    const saved: { greedy: number; even: number }[] = [];
    for (const state of tapped.filter((_, i) => i % Math.floor(tapped.length / 8) === 0).slice(0, 8)) {
      const { trunk } = trunkOf(state, settings, SEASON)!;
      const past = trunk.holes.map(({ bearingDeg, heightMm, buriedMm, depthMm }) => ({
        bearingDeg,
        heightMm,
        buriedMm,
        depthMm
      }));
      const { ringMm } = state.growth;
      const { bitMm, depthMm, spacingMm } = settings;
      const band = bandOf(settings);
      const tree: RuleTree = { woodRadiusMm: trunk.woodRadiusMm, ringMm, bitMm, depthMm, ...band, taps: 1, past };
      const task: RotationTask = {
        woodRadiusMm: trunk.woodRadiusMm,
        ringMm,
        practice: { depthMm, spacingMm, ...band },
        kernel,
        past,
        taps: Array<number>(65).fill(1),
        seed: 1
      };
      const lost = (plan: readonly PlannedHole[]) => {
        const rule: PlacementRule = (season) => plan.filter((hole) => hole.season === season);
        return mean(liveThrough(rule, tree, model, { seasons: 40, trees: 150, from: 0, seed: 3 }).lostByTree);
      };
      const planned = lost(planRotation(task));
      saved.push({ greedy: lost(planGreedily(task)) - planned, even: lost(planEvenly(task)) - planned });
    }
    expect(saved).toHaveLength(8);
    // In the mean of the trees, and on none by more than the draws leave open.
    for (const rival of ['greedy', 'even'] as const) {
      expect(mean(saved.map((s) => s[rival]))).toBeGreaterThan(-0.0002);
      expect(Math.min(...saved.map((s) => s[rival]))).toBeGreaterThan(-0.0015);
    }
  });
});

describe('what the sheet is computed from', () => {
  const state = tapped[0]!;

  it('takes shavings, reach and what stands on the trunk along', () => {
    const task = placementOf(state, { treeId: 't', settings, season: SEASON, wanted: 3 })!.task;
    expect(task.seen!.length).toBe(state.shavings.size);
    expect(task.strategy).toBe('rotation');
    expect(task.line).toBeNull();
    const base = { id: 'f', treeId: 't', on: '2026-01-01', recordedAt: '2026-01-01T08:00:00Z', withdrawn: false };
    const feature = {
      ...base,
      correctsId: null,
      kind: 'trunkFeature' as const,
      note: '',
      since: null,
      bearingDeg: 10,
      heightMm: 900
    };
    const noted = {
      ...state,
      trunkFeatures: [
        { ...feature, what: 'seam' as const },
        { ...feature, what: 'line' as const }
      ]
    };
    expect(placementOf(noted, { treeId: 't', settings, season: SEASON, wanted: 3 })!.task.keepOff).toContainEqual({
      bearingDeg: 10,
      heightMm: 900,
      marginMm: 100,
      what: 'seam'
    });
    // The side of the line is liked where the bush says so, and whatever side it names itself.
    const sides = (more: object) =>
      placementOf(noted, { treeId: 't', settings: { ...settings, ...more }, season: SEASON, wanted: 3 })!.task.favoured;
    expect(sides({})).toEqual([]);
    expect(sides({ favours: ['lineSide'] })).toEqual([10]);
    expect(sides({ favours: ['warmSide'], favouredDeg: 90 })).toEqual([90, 180]);
    const tubing = { ...settings, dropMm: 800 };
    expect(placementOf(noted, { treeId: 't', settings: tubing, season: SEASON, wanted: 3 })!.task.line).toEqual({
      bearingDeg: 10,
      heightMm: 900,
      lengthMm: 800
    });
  });

  it('a tree too thin for the bush’s guideline gets no planned hole, unless somebody decided otherwise', () => {
    const thin = { ...state, dbhMm: 50, tappingDbhMm: 50, decision: null };
    const { task } = placementOf(thin, { treeId: 't', settings, season: SEASON, wanted: 1 })!;
    const { rotation, proposals } = placeHoles({ ...task, draws: 20 });
    expect(rotation).toBeNull();
    expect(proposals.some(({ planned }) => planned)).toBe(false);
    expect(tooThinToTap(thin, settings)).toBe(true);
    expect(tooThinToTap({ ...thin, dbhMm: 400 }, settings)).toBe(false);
    expect(tooThinToTap({ ...thin, dbhMm: null }, settings)).toBe(false);
    const decided = { ...state, dbhMm: 250, decision: { ...state.decision!, taps: 1 } };
    expect(placementOf(decided, { treeId: 't', settings, season: SEASON, wanted: 1 })!.task.taps).toBe(1);
  });

  it('snow lifts the band, and the band never vanishes', () => {
    expect(bandOf(settings)).toEqual({ lowestMm: 600, highestMm: 1500 });
    expect(bandOf({ ...settings, snowMm: 800 })).toEqual({ lowestMm: 950, highestMm: 2300 });
    const low = bandOf({ ...settings, lowestMm: 1500, highestMm: 1500, snowMm: 0 });
    expect(low.highestMm).toBeGreaterThan(low.lowestMm);
  });

  it('scars of unknown year lie in the trunk as holes of which little is known', () => {
    const scars = {
      id: 's',
      treeId: 't',
      on: '2026-01-01',
      recordedAt: '2026-01-01T08:00:00Z',
      withdrawn: false,
      correctsId: null,
      kind: 'scars' as const,
      many: 8,
      bearingDeg: 180,
      spreadDeg: 30,
      heightMm: null,
      fromSeason: 1990,
      toSeason: 2009,
      bitMm: 11.1125,
      depthMm: 50.8,
      note: ''
    };
    const { trunk, holes } = trunkOf({ ...state, scars: [scars] }, settings, SEASON)!;
    expect(trunk.holes.length).toBe(holes.length + 8);
    const unsure = trunk.holes.at(-1)!.unsure!;
    expect(unsure.buriedFromMm).toBeCloseTo(18 * state.growth.ringMm, 6);
    expect(unsure.buriedToMm).toBeCloseTo(37 * state.growth.ringMm, 6);
  });
});

describe('a round: what was planned against what was drilled', () => {
  const [a, b] = [
    { bearingDeg: 355, heightMm: 700 },
    { bearingDeg: 170, heightMm: 1400 }
  ];

  it('the planned hole that was drilled is done, whichever of them it was', () => {
    expect(roundState([a, b], [], 200)).toEqual({ open: [a, b], done: [], offMm: null, elsewhere: [] });
    const second = { bearingDeg: 172, heightMm: 1390 };
    expect(roundState([a, b], [second], 200)).toMatchObject({ open: [a], done: [b], elsewhere: [] });
    // Across north, 10 degrees of a radius of 200 mm are 35 mm.
    const first = { bearingDeg: 5, heightMm: 700 };
    expect(roundState([a, b], [first], 200).offMm).toBeCloseTo(34.9, 1);
    expect(roundState([a, b], [second, first], 200).open).toEqual([]);
  });

  it('a hole far from all plans leaves them open, and two holes never take one plan', () => {
    const far = { bearingDeg: 90, heightMm: 1000 };
    expect(roundState([a, b], [far], 200)).toMatchObject({ open: [a, b], done: [], offMm: null, elsewhere: [far] });
    const near = { bearingDeg: 350, heightMm: 700 };
    const nearer = { bearingDeg: 354, heightMm: 700 };
    expect(roundState([a], [near, nearer], 200)).toMatchObject({ done: [a], elsewhere: [near] });
  });
});

describe('a round cut into rows, one a page', () => {
  it('keeps to the walk, to the stand and to what fits; the holes of a tree stay together', () => {
    const line = fc.record({
      row: fc.record({ standId: fc.constantFrom('a', 'b', null) }),
      open: fc.array(fc.constant(0), { minLength: 1, maxLength: 4 })
    });
    fc.assert(
      fc.property(fc.array(line, { maxLength: 60 }), fc.integer({ min: 4, max: 20 }), (lines, most) => {
        const rows = walkRows(lines, most);
        expect(rows.flatMap((row) => row.lines)).toEqual(lines);
        for (const row of rows) {
          expect(row.holes).toBe(row.lines.reduce((sum, { open }) => sum + open.length, 0));
          expect(row.lines.every(({ row: { standId } }) => standId === row.standId)).toBe(true);
          expect(row.lines.length === 1 || row.holes <= most).toBe(true);
        }
      })
    );
    const even = Array.from({ length: 22 }, () => ({ row: { standId: 'a' }, open: [0] }));
    expect(walkRows(even, 18).map(({ holes }) => holes)).toEqual([11, 11]);
  });
});

describe('arrow keys on the bark', () => {
  it('left is where bearings grow, shown lengths are what is moved', () => {
    const at = { bearingDeg: 10, heightMm: 900 };
    expect(movedBy('ArrowUp', at, 20, 200)).toEqual({ bearingDeg: 10, heightMm: 920 });
    expect(movedBy('ArrowLeft', at, 20, 200)!.bearingDeg).toBeCloseTo(15.73, 2);
    expect(movedBy('ArrowRight', at, 20, 200)!.bearingDeg).toBeCloseTo(4.27, 2);
    expect(movedBy('Enter', at, 20, 200)).toBeNull();
  });
});
