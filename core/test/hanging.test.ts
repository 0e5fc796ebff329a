import { describe, expect, it } from 'vitest';

import { dropReach, hangingOf, placementOf, rotationToKeep, settingsAt } from '../src/bush/index.ts';
import { DEFAULT_BUSH_SETTINGS, deriveTree, type WorkRecord } from '../src/records/index.ts';
import { PlacedTrunk } from '../src/rotation/index.ts';
import { recordMaker } from './makeRecord.ts';
import { drops, id, pipe } from './seasonBush.ts';

/* A tree hangs on a line by a tube: holes are where that reaches, and it is said where it does not. */

const TREE = id(1);
const record = recordMaker(TREE);
/** 40 cm thick: half round it are 628 mm. */
const trunk = [
  record({
    kind: 'reading',
    on: '2026-10-01',
    quantity: 'diameter',
    valueMm: 400,
    asWritten: '40',
    method: 'diameterTape',
    heightMm: 1300
  }),
  record({ kind: 'decision', on: '2026-11-01', season: 2027, taps: 1, suggested: 1, binding: 'size' })
];
const passes = record({
  kind: 'trunkFeature',
  on: '2026-11-02',
  what: 'line',
  bearingDeg: 0,
  heightMm: 900,
  since: null,
  note: ''
});
/** What is said of the tree's holes where it hangs on a line by such a tube. */
function placed(book: readonly WorkRecord[], dropMm: number | null) {
  const lines = dropMm === null ? [] : [pipe('Lateral', { drops: [{ treeId: TREE, dropMm }] })];
  const settings = settingsAt(DEFAULT_BUSH_SETTINGS, hangingOf(lines).get(TREE));
  const state = deriveTree(book, { season: 2027, today: '2026-11-23' });
  const placing = placementOf(state, { treeId: TREE, settings, season: 2027, wanted: 2 })!;
  return { state, placing, plan: () => new PlacedTrunk({ ...placing.task, draws: 60, cellMm: 24 }).plan() };
}
/** From where the line passes to a hole over the wood, mm: by hand, with 95 % of the radius as wood at the least. */
const away = ({ bearingDeg, heightMm }: { bearingDeg: number; heightMm: number }) =>
  Math.hypot(((Math.min(bearingDeg, 360 - bearingDeg) * Math.PI) / 180) * 0.93 * 200, heightMm - 900);

describe('a tree that hangs on a line', () => {
  it('has the tube that its line says, the longest of several; the others have what the bush has', () => {
    const lines = [
      pipe('Left', { drops: drops(1, 2) }),
      pipe('Right', { drops: [{ treeId: id(2), dropMm: 900 }] }),
      pipe('Air', { use: 'air' })
    ];
    const hanging = hangingOf(lines);
    expect([...hanging]).toEqual([
      [id(1), { highestMm: null, dropMm: 750 }],
      [id(2), { highestMm: null, dropMm: 900 }]
    ]);
    expect(settingsAt(DEFAULT_BUSH_SETTINGS, hanging.get(id(2)))).toEqual({ ...DEFAULT_BUSH_SETTINGS, ownDropMm: 900 });
    expect(settingsAt(DEFAULT_BUSH_SETTINGS, hanging.get(id(3)))).toBe(DEFAULT_BUSH_SETTINGS);
  });

  it('is given holes within reach of where the line passes it, and others by a longer tube', () => {
    const short = placed([...trunk, passes], 450);
    expect(short.placing.task.line).toMatchObject({ bearingDeg: 0, heightMm: 900, lengthMm: 450 });
    const near = short.plan();
    expect(near.rotation!.plan.length).toBeGreaterThan(10);
    for (const hole of [...near.proposals, ...near.rotation!.plan]) {
      expect(away(hole)).toBeLessThan(350);
      expect(hole.heightMm).toBeGreaterThanOrEqual(900);
    }
    const far = placed([...trunk, passes], 1200).plan();
    expect(far.rotation!.plan.some((hole) => away(hole) > 450)).toBe(true);
    // More wood within reach: less of it is stained.
    const lost = (plan: typeof near) => plan.rotation!.plan.reduce((sum, hole) => sum + hole.lost, 0);
    expect(lost(far)).toBeLessThan(lost(near));
  });

  it('keeps its plan where nobody noted where the line passes it, and looks again where somebody did', () => {
    const bare = placed(trunk, null);
    const keep = rotationToKeep(bare.placing.basis, bare.placing.task.seed, bare.plan())!;
    const book = [...trunk, record({ ...keep, on: '2026-11-23' })];
    expect(placed(book, 750).placing.basis.news).toEqual([]);
    expect(placed([...book, passes], 750).placing.basis.news).toEqual(expect.arrayContaining(['practice', 'trunk']));
    const kept = placed([...book, passes], 750);
    // A new tube is news again.
    const again = rotationToKeep(kept.placing.basis, kept.placing.task.seed, kept.plan())!;
    const later = [...book, passes, record({ ...again, on: '2026-11-24' })];
    expect(placed(later, 750).placing.basis.news).toEqual([]);
    expect(placed(later, 900).placing.basis.news).toEqual(['practice']);
  });
});

describe('how far a drop reaches', () => {
  const { state } = placed([...trunk, passes], null);
  const ring = state.growth.ringMm;
  const halfway = Math.PI * (state.dbhMm! / 2 + 5 * ring);

  it('is told of the girth as it will be when the tube is made new, a hand of it kept for the fittings', () => {
    expect(dropReach(state, 450, 2027)!.share).toBeCloseTo(350 / halfway, 9);
    // 628 mm and five rings half round, and 100 mm: cut to 5 cm.
    expect(ring).toBeGreaterThan(0.5);
    expect(ring).toBeLessThan(4);
    expect(dropReach(state, 450, 2027)!.wantsMm).toBe(750 + (halfway > 650 ? 50 : 0));
    expect(dropReach(state, 900, 2027)).toEqual({ share: 1, missed: [], wantsMm: 900 });
  });

  it('is told of the holes that are planned until then, and of none where nobody knows where the line passes', () => {
    const rotation = {
      ...state.rotation!,
      coming: {
        from: 2026,
        taps: 1,
        ringMm: ring,
        holes: [
          [[180, 1200, 0]],
          [[10, 950, 0]],
          [[180, 1200, 0]],
          [[20, 800, 0]],
          [[30, 1100, 0]],
          [[90, 1500, 0]],
          [[180, 1500, 0]]
        ] as [number, number, number][][]
      }
    };
    const planned = { ...state, rotation };
    // The far side, what lies under the line, and what is too high; not what was before, nor what comes when the tube is new.
    expect(dropReach(planned, 750, 2027)!.missed).toEqual([2028, 2029, 2031]);
    // Half round at 93 % of the radius and 30 cm up, at the least; a quarter round and 60 cm up is nearer.
    expect(dropReach(planned, 750, 2027)!.wantsMm).toBeGreaterThanOrEqual(100 + Math.hypot(584, 300));
    expect(dropReach({ ...planned, trunkFeatures: [] }, 750, 2027)!.missed).toBeNull();
    expect(dropReach({ ...state, dbhMm: null }, 750, 2027)).toBeNull();
  });
});
