import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { tries } from '../../testing/long.ts';
import {
  compareStrategies,
  hiddenTruth,
  minutesAHole,
  objections,
  othersOnPractice,
  PlacedTrunk,
  placeHoles,
  placementStrategyById,
  PLACEMENT_STRATEGIES,
  lostBy,
  practiceTrunk,
  type PracticeOther,
  type RuleTree,
  type PlacementTask
} from '../src/rotation/index.ts';
import { wrapDegrees } from '../src/math/index.ts';
import { DEFAULT_COLUMNS, DEFAULT_PRACTICE, trunkToday, type RecordedHole, type Trunk } from '../src/trunk/index.ts';

const hole = (season: number, bearingDeg: number, heightMm: number): RecordedHole => ({
  season,
  bearingDeg,
  heightMm,
  bitMm: 7.9375,
  depthMm: 38.1
});
const task = (trunk: Trunk, more: Partial<PlacementTask> = {}): PlacementTask => ({
  trunk,
  practice: DEFAULT_PRACTICE,
  model: DEFAULT_COLUMNS,
  seed: 7,
  draws: 150,
  cellMm: 30,
  ringMm: 1.4,
  ringCv: 0.2,
  wanted: 3,
  taps: 0,
  ...more
});
const past = Array.from({ length: 14 }, (_, i) => hole(2013 + i, 150 + ((i * 37) % 60), 800 + ((i * 151) % 500)));
const trunk = trunkToday(380, 1.4, 2027, past);

describe('the planned placement', () => {
  it('gives this season’s holes from the plan, clear, and the coming seasons behind them', () => {
    const { proposals, rotation } = placeHoles(task(trunk, { taps: 2 }));
    const plan = rotation!.plan.filter(({ season }) => season < 25);
    expect(proposals.filter(({ planned }) => planned)).toHaveLength(2);
    for (const { outlook } of proposals) expect(outlook.pClear).toBeGreaterThan(0.93);
    expect(new Set(plan.map(({ season }) => season)).size).toBe(25);
    expect(plan.filter(({ season }) => season < 10).every(({ lost }) => lost < 0.05)).toBe(true);
  });

  it('a bare trunk’s first hole is where a practised hand would begin: not low on the cold side', () => {
    // Common practice, no published source: chest height, and the side that thaws first.
    const bare = trunkToday(320, 1.5, 2027, []);
    const [first] = placeHoles(task(bare, { taps: 1, wanted: 1 })).proposals;
    expect(Math.abs(wrapDegrees(first!.bearingDeg - 180))).toBeLessThan(90);
    expect(first!.heightMm).toBeGreaterThan(900);
    const [liked] = placeHoles(task(bare, { taps: 1, wanted: 1, favoured: [60] })).proposals;
    expect(Math.abs(wrapDegrees(liked!.bearingDeg - 60))).toBeLessThan(50);
  });

  it('a hole that is drilled is in the plan no more, and the next keeps its distance', () => {
    const taken = [{ bearingDeg: 20, heightMm: 1000 }];
    const { proposals } = placeHoles(task(trunk, { taps: 2, taken }));
    expect(proposals.filter(({ planned }) => planned)).toHaveLength(1);
    for (const proposal of proposals) expect(objections(task(trunk, { taken }), proposal)).toEqual([]);
  });

  it('turns with the trunk: the same wood is as clear wherever north is', () => {
    const turned = { ...trunk, holes: trunk.holes.map((h) => ({ ...h, bearingDeg: (h.bearingDeg + 77) % 360 })) };
    const clear = (t: Trunk, turn: number) =>
      new PlacedTrunk(task(t)).ask({ bearingDeg: (190 + turn) % 360, heightMm: 950 }).outlook;
    expect(clear(turned, 77).pClear).toBeCloseTo(clear(trunk, 0).pClear, 9);
    expect(clear(turned, 77).stained).toBeCloseTo(clear(trunk, 0).stained, 9);
  });

  it('brown shavings where the model thought wood clear move the next hole away from there', () => {
    const young = trunkToday(380, 1.4, 2027, [hole(2024, 180, 900), hole(2026, 184, 1150)]);
    const seen = [{ hole: 1, seen: 'brown' as const, brownShare: null, brownFromMm: null }];
    const near = { bearingDeg: 182, heightMm: 1020 };
    const blind = new PlacedTrunk(task(young, { draws: 400 })).ask(near).outlook;
    const wise = new PlacedTrunk(task(young, { draws: 400, seen })).ask(near).outlook;
    expect(wise.pClear).toBeLessThan(blind.pClear);
  });
});

describe('what speaks against a place', () => {
  const line = { bearingDeg: 90, heightMm: 900, lengthMm: 600 };

  it('no proposal breaks a mask, whatever stands on the trunk and whichever strategy is followed', () => {
    const defect = fc.record({
      bearingDeg: fc.double({ min: 0, max: 359, noNaN: true }),
      heightMm: fc.double({ min: 600, max: 1500, noNaN: true }),
      marginMm: fc.double({ min: 50, max: 250, noNaN: true })
    });
    fc.assert(
      fc.property(
        fc.array(defect, { maxLength: 5 }),
        fc.constantFrom(...PLACEMENT_STRATEGIES.map(({ id }) => id)),
        fc.constantFrom(null, line),
        (keepOff, strategy, droppedFrom) => {
          const asked = task(trunk, { keepOff, strategy, line: droppedFrom, draws: 20, taps: 1 });
          for (const proposal of placeHoles(asked).proposals) {
            expect(objections(asked, proposal)).toEqual([]);
          }
        }
      ),
      tries(40)
    );
  });

  it('says what it is', () => {
    const asked = task(trunk, {
      keepOff: [{ bearingDeg: 0, heightMm: 1000, marginMm: 150, what: 'seam' }],
      line,
      taken: [{ bearingDeg: 270, heightMm: 1000 }],
      strategy: 'handSpan'
    });
    expect(objections(asked, { bearingDeg: 10, heightMm: 1010 })).toContainEqual({ why: 'nearDefect', what: 'seam' });
    expect(objections(asked, { bearingDeg: 95, heightMm: 850 })).toContainEqual({ why: 'lineReach' });
    expect(objections({ ...asked, strategy: 'rotation' }, { bearingDeg: 95, heightMm: 1000 })).toEqual([]);
    expect(objections(asked, { bearingDeg: 280, heightMm: 1100 })).toContainEqual({ why: 'crowded' });
    const old = past.at(-1)!;
    expect(objections(asked, { bearingDeg: old.bearingDeg, heightMm: old.heightMm + 90 })).toContainEqual({
      why: 'withinSpan',
      season: expect.any(Number) as number
    });
    expect(objections(asked, { bearingDeg: 0, heightMm: 2500 })).toContainEqual({ why: 'outsideBand' });
  });

  it('each strategy says what it is taught to say', () => {
    const one = trunkToday(400, 1.5, 2027, [hole(2026, 180, 1000)]);
    const at = (leftMm: number, upMm: number) => ({
      bearingDeg: 180 + (leftMm / one.woodRadiusMm) * (180 / Math.PI),
      heightMm: 1000 + upMm
    });
    const said = (id: Parameters<typeof placementStrategyById>[0], leftMm: number, upMm: number) =>
      placementStrategyById(id).against(at(leftMm, upMm), one, 38.1);
    expect(said('handSpan', 5, 320)).toEqual({ why: 'straightAbove', season: 2026 });
    expect(said('handSpan', 210, 0)).toBeNull();
    expect(said('sixOverTwelve', 100, 200)).toEqual({ why: 'overAndUp', season: 2026 });
    expect(said('sixOverTwelve', 160, 0)).toBeNull();
    expect(said('sixAndSix', 152, 152)).toBeNull();
    expect(said('sixAndSix', 300, 0)).toEqual({ why: 'offStep', strategy: 'sixAndSix', season: 2026 });
    expect(said('sixAndTwentyFour', -152, -600)).toBeNull();
    expect(said('pattern', 40, 230)).toBeNull();
    expect(said('pattern', 300, 0)).toMatchObject({ why: 'offStep', strategy: 'pattern' });
    expect(said('sunny', 0, 200)).toBeNull();
    expect(said('sunny', 500, 0)).toMatchObject({ why: 'notSunny' });
    expect(said('haphazard', 3, 3)).toBeNull();
    // A hole that new wood has buried is no reason any more.
    const buried = trunkToday(400, 1.5, 2027, [hole(1990, 180, 1000)]);
    expect(placementStrategyById('handSpan').against(at(5, 30), buried, 38.1)).toBeNull();
  });
});

describe('ways of placing, compared (self-consistency: in trunks that the model draws)', () => {
  const tree: RuleTree = {
    woodRadiusMm: 160,
    ringMm: 1.3,
    bitMm: 7.9375,
    depthMm: 38.1,
    lowestMm: 600,
    highestMm: 1300,
    taps: 1
  };

  it('the plan loses least and the sunny side most; stopping says nothing', () => {
    const all = compareStrategies(tree, DEFAULT_COLUMNS, { seasons: 40, trees: 40, seed: 2 })!;
    expect(all).toHaveLength(PLACEMENT_STRATEGIES.length);
    expect(all[0]!.id).toBe('rotation');
    expect(all.at(-1)!.id).toBe('sunny');
    for (const { late, lateFrom, lateTo } of all) {
      expect(lateFrom).toBeLessThanOrEqual(late);
      expect(lateTo).toBeGreaterThanOrEqual(late);
    }
    expect(
      compareStrategies(tree, DEFAULT_COLUMNS, { seasons: 5, trees: 2, seed: 2, onProgress: () => false })
    ).toBeNull();
  });

  it('a practice trunk is the same for all who drill it', () => {
    const practice = practiceTrunk(12);
    const spot = { bearingDeg: 30, heightMm: 1000 };
    const lost = () =>
      hiddenTruth(practice, DEFAULT_COLUMNS, 12)
        .drill(0, [spot])
        .map((h) => h.lost);
    expect(lost()).toEqual(lost());
    expect(othersOnPractice('slow', DEFAULT_COLUMNS, 12, () => false)).toBeNull();
  });

  it('a careless hole on a practice trunk costs as it does in the woods, and one lucky trunk does not say otherwise', () => {
    // A trunk tapped without a plan for decades gives up some tenth of its sap: what the practice was to show, by its own model.
    const others = othersOnPractice('yard', DEFAULT_COLUMNS, 12)!;
    const of = (id: PracticeOther) => others.find((each) => each.id === id)!;
    expect(of('anywhere').usual).toBeGreaterThan(0.05);
    expect(of('sunny').usual).toBeGreaterThan(of('anywhere').usual);
    expect(of('handSpan').usual).toBeLessThan(of('anywhere').usual);
    expect(of('rotation').usual).toBeLessThan(0.01);
    for (const { from, usual, to } of others) {
      expect(from).toBeLessThanOrEqual(usual);
      expect(to).toBeGreaterThanOrEqual(from);
    }
    // Luck: some trunk lets a careless driller off.
    expect(of('anywhere').from).toBeLessThan(of('anywhere').usual / 2);
    // What is usual of the kind does not hang on the trunk that was drilled.
    expect(lostBy('anywhere', practiceTrunk(12, 'yard'), DEFAULT_COLUMNS, 12)).toBe(of('anywhere').here);
  });
});

describe('the pace of a crew', () => {
  const at = (minute: number, authorId = 'a', on = '2027-02-20') => ({
    authorId,
    on,
    recordedAt: new Date(Date.UTC(2027, 1, 20, 8, minute)).toISOString()
  });

  it('is the middle of the steps from hole to hole, without rests and without other people’s', () => {
    const holes = [0, 4, 8, 13, 17, 21, 90, 94].map((minute) => at(minute));
    expect(minutesAHole([...holes, ...[2, 6, 11].map((minute) => at(minute, 'b'))])).toBe(4);
  });

  it('is not known from a few holes, or from holes written down all at once', () => {
    expect(minutesAHole([0, 4, 8].map((minute) => at(minute)))).toBeNull();
    expect(minutesAHole(Array.from({ length: 20 }, () => at(3)))).toBeNull();
    expect(minutesAHole([])).toBeNull();
  });
});

it('a mild wish for a side turns equally clear places to it, and never takes a worse one', () => {
  const young = trunkToday(380, 1.4, 2027, []);
  const asked = task(young, { wanted: 1 });
  const [anywhere] = placeHoles(asked).proposals;
  const [warm] = placeHoles({ ...asked, favoured: [180] }).proposals;
  expect(Math.abs(warm!.bearingDeg - 180)).toBeLessThan(15);
  expect(warm!.outlook.pClear).toBeGreaterThan(anywhere!.outlook.pClear - 0.021);
  // With the whole warm side used up, clear wood goes first.
  const used = trunkToday(
    380,
    1.4,
    2027,
    Array.from({ length: 12 }, (_, i) => hole(2026, 150 + 20 * (i % 4), 650 + 250 * Math.floor(i / 4)))
  );
  const [away] = placeHoles(task(used, { wanted: 1, favoured: [180] })).proposals;
  expect(away!.outlook.pClear).toBeGreaterThan(0.97);
});
