import { describe, expect, it } from 'vitest';

import {
  HIDDEN_CHANCE,
  HIDDEN_HOLES,
  landmarkNear,
  pastUnknown,
  placementOf,
  scarSeen,
  type TreePlacement
} from '../src/bush/index.ts';
import { seededRng } from '../src/math/index.ts';
import { DEFAULT_BUSH_SETTINGS, deriveTree, type TreeState } from '../src/records/index.ts';
import { placeHoles } from '../src/rotation/index.ts';
import { columnsWithin, DEFAULT_COLUMNS, drawTruth } from '../src/trunk/index.ts';
import { id, SEASON, tree } from './seasonBush.ts';

/* A trunk of which nobody wrote anything down: what is asked, what is believed, and what a tape is laid from. */

const own = { season: SEASON, settings: DEFAULT_BUSH_SETTINGS };
const stateWith = (...more: object[]): TreeState =>
  deriveTree(tree(1, { more: more.map((fields) => ({ on: '2027-02-10', ...fields })) }).records, {
    season: SEASON,
    today: '2027-02-20'
  });
const placing = (state: TreeState): TreePlacement =>
  placementOf(state, { treeId: id(1), settings: DEFAULT_BUSH_SETTINGS, season: SEASON, wanted: 1 })!;
const said = (answer: 'never' | 'yes' | 'perhaps') => ({ kind: 'tappedBefore', answer });

describe('a scar that somebody points at', () => {
  const spot = { bearingDeg: 359.8, heightMm: 1203.4 };
  it('was drilled within a year or two where it is open, three in a weak tree (common practice)', () => {
    expect(scarSeen(spot, 'open', own)).toMatchObject({
      many: 1,
      bearingDeg: 0,
      heightMm: 1203,
      fromSeason: SEASON - 3,
      toSeason: SEASON - 1
    });
  });
  it('is of the large old bit where it is likely from before the small ones (common practice)', () => {
    const [faint, closed] = (['faint', 'closed'] as const).map((look) => scarSeen(spot, look, own));
    expect(faint).toMatchObject({ bitMm: 11.1125, depthMm: 50.8 });
    expect(closed).toMatchObject({ bitMm: DEFAULT_BUSH_SETTINGS.bitMm, depthMm: DEFAULT_BUSH_SETTINGS.depthMm });
    expect(faint!.toSeason).toBeLessThan(closed!.toSeason);
  });
  it('is what a tape is laid from where no hole, nail, root or limb is near', () => {
    const scar = { ...scarSeen({ bearingDeg: 200, heightMm: 1100 }, 'unknown', own) };
    const from = (state: TreeState) =>
      landmarkNear(
        placing(state),
        state.trunkFeatures,
        { bearingDeg: 190, heightMm: 1200 },
        { season: SEASON, paintOf: () => null }
      );
    expect(from(stateWith())).toBeNull();
    expect(from(stateWith(scar))).toEqual({ bearingDeg: 200, heightMm: 1100, name: { kind: 'scar' } });
    // Holes somewhere on a side are nothing to measure from.
    expect(from(stateWith({ ...scar, many: 8, spreadDeg: 30 }))).toBeNull();
    const nail = { kind: 'trunkFeature', what: 'nail', bearingDeg: 180, heightMm: 1500 };
    expect(from(stateWith(scar, nail))).toMatchObject({ name: { kind: 'feature', what: 'nail' } });
  });
});

describe('the past of a trunk', () => {
  it('is unknown until somebody says a word, notes a scar, or knows a hole of an earlier season', () => {
    const scar = scarSeen({ bearingDeg: 10, heightMm: 900 }, 'faint', own);
    const hole = { kind: 'taphole', season: SEASON - 1, bearingDeg: 90, heightMm: 900, bitMm: 7.94, depthMm: 38.1 };
    const unknown = (...more: object[]) => pastUnknown(stateWith(...more), SEASON);
    expect([unknown(), unknown({ ...hole, season: SEASON })]).toEqual([true, true]);
    expect([unknown(said('never')), unknown(said('perhaps')), unknown(scar), unknown(hole)]).toEqual(
      Array(4).fill(false)
    );
  });

  it('hides holes where it was tapped or nobody knows, and no scar tells where', () => {
    const hidden = (...more: object[]) =>
      placing(stateWith(...more)).task.trunk.holes.filter((hole) => hole.unsure).length;
    expect([hidden(), hidden(said('never')), hidden(said('perhaps')), hidden(said('yes'))]).toEqual([
      0,
      0,
      HIDDEN_HOLES,
      HIDDEN_HOLES
    ]);
    expect(hidden(said('yes'), scarSeen({ bearingDeg: 10, heightMm: 900 }, 'faint', own))).toBe(1);
  });

  it('has each of the perhaps hidden holes in so many of its possible truths', () => {
    const { trunk } = placing(stateWith(said('perhaps'))).task;
    const rng = seededRng(7);
    const draws = 4000;
    let there = 0;
    for (let i = 0; i < draws; i++)
      there += columnsWithin(trunk, drawTruth(trunk, DEFAULT_COLUMNS, rng, 0), 1e6).length / HIDDEN_HOLES;
    // Three standard errors of a share of independent draws.
    const error = 3 * Math.sqrt((HIDDEN_CHANCE * (1 - HIDDEN_CHANCE)) / (draws * HIDDEN_HOLES));
    expect(Math.abs(there / draws - HIDDEN_CHANCE)).toBeLessThan(error);
  });

  it('makes clear wood the less sure the more may hide in it (self-consistency)', () => {
    const clear = (...more: object[]) => placeHoles(placing(stateWith(...more)).task).proposals[0]!.outlook.pClear;
    const [never, perhaps, yes] = [clear(said('never')), clear(said('perhaps')), clear(said('yes'))];
    expect(never).toBe(clear());
    expect(perhaps).toBeLessThan(never);
    expect(yes).toBeLessThan(perhaps);
    expect(yes).toBeGreaterThan(0.5);
  });
});
