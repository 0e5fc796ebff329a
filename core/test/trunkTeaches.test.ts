import { describe, expect, it } from 'vitest';

import { asSettings, loggedTree, placementOf, plannedDepth, rotationToKeep, shownBy } from '../src/bush/index.ts';
import { seededRng } from '../src/math/index.ts';
import { conditionOf, DEFAULT_BUSH_SETTINGS, deriveTree, treeRow, type WorkRecord } from '../src/records/index.ts';
import { DrawnWood, LEAST_DEPTH_MM, PlacedTrunk } from '../src/rotation/index.ts';
import { conditionCap } from '../src/taps/index.ts';
import {
  columnsBehind,
  DEFAULT_COLUMNS,
  drawHole,
  judgeSpot,
  learnTrunk,
  trunkToday,
  USUAL_BUSH,
  type SeenShavings
} from '../src/trunk/index.ts';
import { recordMaker } from './makeRecord.ts';

/* What a trunk's own records teach of its wood: dry holes, brown where no column can lie, wounds with their year, cores. */

const TREE = '00000000-0000-4000-8000-00000000000b';
const record = recordMaker(TREE);
const girth = record({
  kind: 'reading',
  on: '2026-10-01',
  quantity: 'girth',
  valueMm: 1200,
  asWritten: '120',
  method: 'girthTape',
  heightMm: 1300
});
const drilled = (season: number, bearingDeg: number, heightMm = 900) =>
  record({ kind: 'taphole', on: `${season}-03-03`, season, bearingDeg, heightMm, bitMm: 7.9375, depthMm: 38.1 });
const SETTINGS = { ...DEFAULT_BUSH_SETTINGS, strategy: 'handSpan' as const };
const at = { season: 2027, today: '2026-11-23' };
function placed(book: readonly WorkRecord[]) {
  const placing = placementOf(deriveTree(book, at), { treeId: TREE, settings: SETTINGS, season: 2027, wanted: 2 })!;
  return { placing, wood: new DrawnWood(placing.task) };
}

const old = (season: number, bearingDeg: number, heightMm: number) => ({
  season,
  bearingDeg,
  heightMm,
  bitMm: 7.9375,
  depthMm: 38.1
});

describe('a dry hole', () => {
  // One hole above and beside an older one: if the grain leans that way, it met its column.
  const trunk = trunkToday(400, 1.2, 2027, [old(2020, 180, 800), old(2026, 184, 960)]);
  const lean = (ran: number | undefined) => {
    const seen: SeenShavings = {
      hole: 1,
      seen: 'dry',
      brownShare: null,
      brownFromMm: null,
      ...(ran !== undefined && { ran })
    };
    const options = { draws: 6000, depthMm: 38.1, seed: 5 };
    return learnTrunk(trunk, [seen], DEFAULT_COLUMNS, options).learned.leanMeanDeg;
  };

  it('teaches as far as sap ran that day, and nothing where none did', () => {
    const [well, little, none, unsaid] = [1, 0.5, 0, undefined].map(lean) as [number, number, number, number];
    expect(well).toBeGreaterThan(0.35);
    expect(Math.abs(none)).toBeLessThan(0.2);
    expect(little).toBeLessThan(0.7 * well);
    expect(unsaid).toBe(little);
  });

  it('is told so by its record', () => {
    const holes = [drilled(2020, 180), drilled(2026, 183, 1000)];
    const dry = (othersRan: 'well' | 'little' | 'none' | null) =>
      placed([
        girth,
        ...holes,
        record({ kind: 'shavings', on: '2026-03-05', tapholeId: holes[1]!.id, seen: 'dry', othersRan })
      ]).placing.task.seen;
    expect(dry('none')).toMatchObject([{ ran: 0 }]);
    expect(dry('well')).toMatchObject([{ ran: 1 }]);
    expect(dry(null)![0]).not.toHaveProperty('ran');
  });
});

describe('brown where no column can lie', () => {
  const hole = drilled(2026, 90);
  const brownFrom = (brownFromMm: number | null, hollow: readonly WorkRecord[] = []) =>
    placed([
      girth,
      hole,
      ...hollow,
      ...(brownFromMm === null
        ? []
        : [
            record({
              kind: 'shavings',
              on: '2026-03-03',
              tapholeId: hole.id,
              seen: 'partly',
              brownShare: 0.25,
              brownFromMm
            })
          ])
    ]);

  it('is how deep this tree carries sap: the next holes are made shallower, and keep it in the book', () => {
    expect(brownFrom(null).wood.task.practice.depthMm).toBe(38.1);
    const { placing, wood } = brownFrom(28);
    const { depthMm } = wood.task.practice;
    expect(depthMm).toBeGreaterThan(LEAST_DEPTH_MM);
    expect(depthMm).toBeLessThan(32);
    const answer = new PlacedTrunk(placing.task, wood).plan();
    const keep = rotationToKeep(placing.basis, 1, answer)!;
    expect(keep.depthMm).toBe(depthMm);
    const state = deriveTree([girth, hole, record({ ...keep, on: '2026-11-23' })], at);
    expect(plannedDepth(state, 2027, SETTINGS)).toBe(depthMm);
    // A season later nobody has planned yet.
    expect(plannedDepth(state, 2028, SETTINGS)).toBe(38.1);
  });

  it('an older hole right behind it explains as well: then nothing is made shallower', () => {
    const older = drilled(2008, 90);
    const shavings = record({
      kind: 'shavings',
      on: '2026-03-03',
      tapholeId: hole.id,
      seen: 'partly',
      brownShare: 0.3,
      brownFromMm: 26
    });
    // Eighteen rings of about 1.4 mm lie over it.
    expect(placed([girth, older, hole, shavings]).wood.task.practice.depthMm).toBe(38.1);
  });

  it('pale shavings to the bottom speak against it', () => {
    const others = [30, 150, 210, 270, 330].map((bearing) => drilled(2026, bearing));
    const pale = others.map(({ id }) => record({ kind: 'shavings', on: '2026-03-03', tapholeId: id, seen: 'pale' }));
    const one = brownFrom(34).wood.known.learned.sapwoodMm!;
    const seen = record({
      kind: 'shavings',
      on: '2026-03-03',
      tapholeId: hole.id,
      seen: 'partly',
      brownShare: 0.1,
      brownFromMm: 34
    });
    const many = placed([girth, hole, ...others, seen, ...pale]).wood.known.learned.sapwoodMm!;
    expect(many.middle).toBeGreaterThan(one.middle + 2);
  });

  it('no hole goes into a hollow that a core met, and the tree bears one tap at the most', () => {
    const core = record({ kind: 'ringCount', on: '2025-10-01', source: 'core', heightMm: 1300, hollowFromMm: 31 });
    const { wood } = brownFrom(null, [core]);
    expect(wood.task.practice.depthMm).toBe(31);
    const tree = {
      id: TREE,
      tag: '1',
      tagged: true,
      standId: null,
      stemOf: null,
      walkOrder: 0,
      eastM: null,
      northM: null
    };
    const row = treeRow({ ...tree, positionQuality: null, positionAccuracyM: null }, deriveTree([girth, core], at));
    expect(conditionCap(conditionOf(row), at.today)).toMatchObject({ taps: 1 });
    const twice = record({
      kind: 'assessment',
      on: '2026-05-01',
      diebackPct: 5,
      crownClass: null,
      oldestOpenHoleYears: 0,
      stressed: false,
      defects: [{ kind: 'hollow', bearingDeg: null, heightMm: null }]
    });
    const seen = treeRow(
      { ...tree, positionQuality: null, positionAccuracyM: null },
      deriveTree([girth, core, twice], at)
    );
    // A hollow is one sign, whoever saw it.
    expect(conditionOf(seen)!.defects).toEqual(['hollow']);
    expect(conditionCap(conditionOf(seen), at.today)).toMatchObject({ taps: 1 });
  });
});

describe('a wound with its year', () => {
  const wound = (since: number | null, what: 'wound' | 'seam' | 'limb' = 'wound') =>
    record({ kind: 'trunkFeature', on: '2026-05-01', what, bearingDeg: 90, heightMm: 900, since });
  const stained = (feature: WorkRecord, heightMm: number, bearingDeg = 90) => {
    const { wood } = placed([girth, feature]);
    return judgeSpot(wood.drawn, { bearingDeg, heightMm }).stained;
  };

  it('is a column of its own, wider than a taphole’s and less sure; wood laid since is clear', () => {
    expect(stained(wound(null), 1100)).toBe(0);
    const recent = stained(wound(2024), 1100);
    expect(recent).toBeGreaterThan(0.3);
    // Beside it as far as it was wide; not on the other side of the trunk.
    expect(stained(wound(2024), 1000, 94)).toBeGreaterThan(0.2);
    expect(stained(wound(2024), 1000, 200)).toBe(0);
    // Behind some 65 mm of wood, give or take what its growth may be, the path seldom meets it.
    expect(stained(wound(1980), 1100)).toBeLessThan(0.05);
    expect(stained(wound(2010), 1100)).toBeLessThan(recent);
  });

  it('a seam is narrower than a wound; of another season nothing is known yet', () => {
    const [seam, broken] = [stained(wound(2024, 'seam'), 1100), stained(wound(2024, 'limb'), 1100)];
    expect(seam).toBeLessThan(broken);
    expect(placed([girth, wound(2028)]).placing.task.trunk.holes).toEqual([]);
  });

  it('its drawn columns have the median length that the model says', () => {
    const rng = seededRng(1);
    const hole = { ...old(2020, 0, 900), bitMm: 60, depthMm: 150, buriedMm: 9, wound: 'wound' as const };
    const drawn = Array.from({ length: 4001 }, () => drawHole(hole, DEFAULT_COLUMNS, rng));
    const middle = (of: (each: (typeof drawn)[number]) => number) => drawn.map(of).sort((a, b) => a - b)[2000]!;
    const { volumeRatioMedian, sideMarginMedianMm } = columnsBehind(hole, DEFAULT_COLUMNS);
    expect(middle(({ ratio }) => ratio) / volumeRatioMedian).toBeCloseTo(1, 1);
    expect(middle(({ halfWidthMm }) => halfWidthMm)).toBeCloseTo(30 + sideMarginMedianMm, 0);
  });
});

describe('whoever drilled a hole', () => {
  it('more loosely than others leaves its column less sure', () => {
    const spread = (hand: number) => {
      const rng = seededRng(2);
      const hole = { ...old(2020, 0, 900), buriedMm: 9, hand };
      const left = Array.from({ length: 4000 }, () => drawHole(hole, DEFAULT_COLUMNS, rng).leftMm);
      return Math.sqrt(left.reduce((sum, mm) => sum + mm * mm, 0) / left.length);
    };
    expect(spread(2) / spread(1)).toBeCloseTo(2, 1);
  });
});

describe('what the bush has shown, once it is accepted', () => {
  const [STAND, HAND] = ['00000000-0000-4000-8000-0000000000d1', '00000000-0000-4000-8000-0000000000d2'];
  const entry = record({ kind: 'entry', on: '2009-05-02', tag: '7', standId: STAND });
  const hole = { ...drilled(2020, 90), authorId: HAND } as WorkRecord;
  const shavings = record({ kind: 'shavings', on: '2020-03-03', tapholeId: hole.id, seen: 'pale' });
  const state = deriveTree([girth, entry, hole, shavings], at);
  const taught = {
    ...SETTINGS,
    ...asSettings({ ...USUAL_BUSH, sizeFactor: 1.5, hands: { [HAND]: 2 }, leanDeg: 1, leanStands: { [STAND]: 3 } })
  };
  const placedBy = (settings: typeof taught) =>
    placementOf(state, { treeId: TREE, settings, season: 2027, wanted: 1 })!;

  it('is what a trunk of that stand, and a hole of that hand, begin with', () => {
    const { task } = placedBy(taught);
    expect(task.model).toMatchObject({ grainMeanDeg: 4, volumeRatioMedian: 1.5 * DEFAULT_COLUMNS.volumeRatioMedian });
    expect(task.trunk.holes[0]).toMatchObject({ hand: 2 });
    expect(shownBy(taught)).toMatchObject({ sizeFactor: 1.5, leanStands: { [STAND]: 3 } });
  });

  it('has a plan looked at anew, and says that the columns are others', () => {
    const usual = placedBy(SETTINGS);
    const keep = rotationToKeep(usual.basis, 1, new PlacedTrunk(usual.task).plan())!;
    const planned = deriveTree([girth, entry, hole, shavings, record({ ...keep, on: '2026-11-23' })], at);
    const news = (settings: typeof taught) =>
      placementOf(planned, { treeId: TREE, settings, season: 2027, wanted: 1 })!.basis.news;
    expect(news(SETTINGS)).toEqual([]);
    expect(news(taught)).toEqual(['columns']);
    // Another hand alone is another trunk.
    expect(news({ ...SETTINGS, hands: { [HAND]: 2 } })).toEqual(['columns']);
  });

  it('is learned from what the book holds of the tree, and from its log once it is down', () => {
    const face = record({ kind: 'sawnColumn', on: '2026-08-22', tapholeId: hole.id, widthMm: 15, lengthMm: 300 });
    const row = { id: TREE, standId: STAND };
    const told = loggedTree(row, deriveTree([girth, entry, hole, shavings, face], at), SETTINGS, 2027)!;
    expect(told.holes).toHaveLength(1);
    expect(told.tree).toMatchObject({
      standId: STAND,
      seen: [{ hole: 0, seen: 'pale' }],
      sawn: [{ widthMm: 15, lengthMm: 300, leanDeg: null, bitMm: 7.9375 }]
    });
    expect(told.tree.trunk.holes[0]).toMatchObject({ authorId: HAND });
    expect(loggedTree(row, deriveTree([girth, entry, hole], at), SETTINGS, 2027)).toBeNull();
  });
});

describe('what cannot be so is refused', () => {
  const counted = { kind: 'ringCount', on: '2025-10-01', source: 'core', heightMm: 1300 } as const;
  const sawn = { kind: 'sawnColumn', on: '2025-10-01', tapholeId: '00000000-0000-4000-8000-0000000000aa' } as const;

  it.each([
    [{ ...counted }, /neither rings nor widths/],
    [{ ...counted, last5Mm: 12, last10Mm: 9 }, /narrower/],
    [{ ...counted, rings: 8, last10Mm: 20 }, /more rings were measured/],
    [{ ...counted, rings: 40, toPith: true, hollowFromMm: 90 }, /no pith/],
    [{ ...sawn, widthMm: 40, lengthMm: 30 }, /longer than it is wide/]
  ])('%j', (said, why) => expect(() => record(said)).toThrow(why));

  it('and what can is not', () => {
    record({ ...counted, rings: 10, last5Mm: 9, last10Mm: 20, hollowFromMm: 90 });
    record({ ...counted, rings: 84, toPith: true });
    record({ ...sawn, widthMm: 14 });
  });
});
