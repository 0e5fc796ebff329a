import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../../testing/long.ts';
import { seededRng } from '../src/math/index.ts';
import {
  deriveTree,
  cutForbidden,
  notOurs,
  recordSchema,
  tapForbidden,
  treeRow,
  type RecordInput
} from '../src/records/index.ts';
import { conditionCap, suggestTaps, WILDLIFE_KINDS } from '../src/taps/index.ts';
import {
  deathsAYear,
  DEFAULT_LIMITS,
  FEW_OF_A_KIND,
  fateOf,
  fellingCautions,
  girdlingCaution,
  planThinning,
  type PlanTree,
  type TreeStanding
} from '../src/thinning/index.ts';
import { solve, TODAY, LOOK, ID, LINE, at } from './adviceSupport.ts';
import { MEASURED, squareStand } from './fixtures.ts';

const WISHES = { keepMarks: true, takeHazards: true };

const plain: TreeStanding = {
  mark: null,
  markReason: '',
  keepFor: null,
  despite: false,
  wildlife: [],
  notOurs: null,
  threatens: false,
  ofItsKind: 40,
  resistant: false,
  girdled: false
};

describe('who is kept', () => {
  it('a hazard over the path is taken in any case, but never one that somebody keeps, braces or watches', () => {
    expect(fateOf({ ...plain, threatens: true }, WISHES)).toMatchObject({ must: true, hold: null, clash: null });
    for (const mark of ['keep', 'brace', 'watch'] as const) {
      const fate = fateOf({ ...plain, threatens: true, mark }, WISHES);
      expect(fate.must).toBe(false);
      expect(fate.clash).toMatchObject({ going: ['threatens'], hold: { why: expect.stringMatching(/^marked/) } });
    }
  });

  it('every home counts, woodpeckers and bats too; the clash with a mark is named', () => {
    for (const home of WILDLIFE_KINDS) {
      expect(fateOf({ ...plain, wildlife: [home] }, WISHES).hold).not.toBeNull();
      expect(fateOf({ ...plain, wildlife: [home], mark: 'take' }, WISHES)).toMatchObject({ must: false });
      expect(fateOf({ ...plain, wildlife: [home], mark: 'take' }, WISHES).clash).toEqual({
        going: ['marked'],
        hold: { why: 'home', home }
      });
    }
    expect(fateOf({ ...plain, wildlife: ['nest'], mark: 'take', despite: true }, WISHES).must).toBe(true);
  });

  it('the last few of a kind are kept unless she marks them, and so are sound ones of a dying kind', () => {
    expect(fateOf({ ...plain, ofItsKind: FEW_OF_A_KIND }, WISHES).hold).toEqual({ why: 'fewOfItsKind', many: 3 });
    expect(fateOf({ ...plain, ofItsKind: FEW_OF_A_KIND + 1 }, WISHES).hold).toBeNull();
    expect(fateOf({ ...plain, ofItsKind: 1, mark: 'take' }, WISHES).must).toBe(true);
    expect(fateOf({ ...plain, resistant: true }, WISHES).hold).toEqual({ why: 'resistant' });
  });

  it('a tree that is not ours alone stays until somebody decided otherwise, and where nothing is cut that is said', () => {
    const boundary = { tapBan: { reasons: ['salt', 'boundary'], until: null } as never };
    const whose = notOurs(boundary, TODAY);
    expect(whose).toBe('boundary');
    expect(notOurs({ tapBan: { reasons: ['salt'], until: null } as never }, TODAY)).toBeNull();
    expect(notOurs({ tapBan: { reasons: ['noPermission'], until: '2026-01-01' } as never }, TODAY)).toBeNull();
    expect(fateOf({ ...plain, notOurs: whose }, WISHES)).toMatchObject({
      hold: { why: 'notOurs', how: 'boundary' },
      must: false,
      clash: null
    });
    expect(fateOf({ ...plain, notOurs: whose, mark: 'take' }, WISHES).clash).toEqual({
      going: ['marked'],
      hold: { why: 'notOurs', how: 'boundary' }
    });
    expect(fateOf({ ...plain, notOurs: whose, mark: 'take', despite: true }, WISHES).must).toBe(true);
    const reserve = { name: 'Ledge', mayCut: false, byWord: 'the land trust', wordUntil: '2027-05-01' };
    expect(cutForbidden(reserve, TODAY)).toEqual({ stand: 'Ledge', by: 'the land trust', until: '2027-05-01' });
    expect(cutForbidden(reserve, '2027-05-02')).toBeNull();
    expect(cutForbidden({ ...reserve, mayCut: true }, TODAY)).toBeNull();
    expect(cutForbidden(null, TODAY)).toBeNull();
  });

  it('where every tree is to stay there is a plan, and it takes none', () => {
    const trees = Array.from({ length: 12 }, (_, i): PlanTree => ({
      tree: at(`t${i}`, 3 * i, 5, 300),
      crop: false,
      weight: 0,
      hold: { why: 'markedWatch' },
      must: false,
      taps: 0,
      tapsLater: 0,
      dying: 0,
      maple: true
    }));
    const plan = planThinning(squareStand(trees, 30), { ...DEFAULT_LIMITS, residualM2PerHa: 0, cover: 0 }, solve);
    expect('clash' in plan ? plan : plan.taken).toEqual([]);
  });

  it('a stand of maples alone can be thinned by the default limits: no cut brings other species', () => {
    const trees = Array.from({ length: 36 }, (_, i): PlanTree => ({
      tree: at(`t${i}`, 2 + 5 * (i % 6), 2 + 5 * Math.floor(i / 6), 300),
      crop: false,
      weight: 0,
      hold: null,
      must: i === 14,
      taps: 0,
      tapsLater: 0,
      dying: 0,
      maple: true
    }));
    const plan = planThinning(squareStand(trees, 30), { ...DEFAULT_LIMITS, cover: 0 }, solve);
    expect('clash' in plan ? plan : plan.taken.map(({ id }) => id)).toEqual(['t14']);
    expect('clash' in plan ? null : plan.judgement.broken).toEqual([]);
  });

  it('no kept, braced or lived-in tree is in any plan, whatever is marked or hazardous', () => {
    const tree = fc.record({
      mark: fc.constantFrom(null, 'take', 'girdle', 'keep', 'watch', 'brace'),
      wildlife: fc.subarray([...WILDLIFE_KINDS], { maxLength: 2 }),
      threatens: fc.boolean(),
      notOurs: fc.option(fc.constant('boundary' as const)),
      ofItsKind: fc.constantFrom(1, 2, 30)
    });
    fc.assert(
      fc.property(fc.array(tree, { minLength: 25, maxLength: 40 }), fc.integer({ min: 1, max: 1e6 }), (drawn, seed) => {
        const rng = seededRng(seed);
        const trees = drawn.map((standing, i): PlanTree => {
          const fate = fateOf({ ...plain, ...standing }, WISHES);
          const maple = rng.uniform() < 0.8;
          const crop = fate.hold === null && !fate.must && maple && rng.uniform() < 0.3;
          return {
            tree: at(`t${i}`, 30 * rng.uniform(), 30 * rng.uniform(), 120 + 300 * rng.uniform()),
            crop,
            weight: crop ? 0.8 : 0,
            hold: fate.hold,
            must: fate.must,
            taps: 0,
            tapsLater: 0,
            dying: rng.uniform() < 0.3 ? 0.5 : 0,
            maple
          };
        });
        const plan = planThinning(squareStand(trees, 30), { ...DEFAULT_LIMITS, residualM2PerHa: 0, cover: 0 }, solve);
        if ('clash' in plan) return;
        for (const { id } of plan.taken) {
          const { mark, wildlife, notOurs: whose } = drawn[Number(id.slice(1))]!;
          expect(mark === 'keep' || mark === 'brace' || mark === 'watch' || wildlife.length > 0 || whose !== null).toBe(
            false
          );
        }
      }),
      tries(25)
    );
  });
});

describe('a girdled tree, and one that lies alive', () => {
  const life = (cut: Partial<RecordInput> | null) => {
    const base = { treeId: ID(1), recordedAt: '2024-05-01T10:00:00.000Z' };
    const records = [
      { ...base, id: ID(2), on: '2020-05-01', kind: 'entry', tag: '7', standId: null },
      ...(cut ? [{ ...base, id: ID(3), on: '2024-05-01', kind: 'cut', ...cut }] : [])
    ].map((r) => recordSchema.parse(r));
    return treeRow(LINE, deriveTree(records, { season: 2027, today: TODAY }));
  };

  it('are not gone: they stay on the map, with a day to look again', () => {
    const girdled = life({ what: 'girdled', reviewOn: '2027-07-01' } as Partial<RecordInput>);
    expect(girdled.cut).toBeNull();
    expect(girdled.fallen?.what).toBe('girdled');
    expect(girdled.reviewOn).toBe('2027-07-01');
    expect(life({ what: 'felled' } as Partial<RecordInput>).cut).not.toBeNull();
    expect(life(null).fallen).toBeNull();
  });

  it('are not tapped; a lying one is looked at again next summer', () => {
    expect(tapForbidden(life({ what: 'lying' } as Partial<RecordInput>), null, TODAY)).toEqual({ why: 'lies' });
    expect(tapForbidden(life({ what: 'girdled' } as Partial<RecordInput>), null, TODAY)).not.toBeNull();
  });

  it('a girdled tree presses until it dies, and dies within a few years', () => {
    const tree = { species: 'beech' as const, diebackPct: 10 };
    expect(deathsAYear({ ...tree, girdled: true })).toBeGreaterThan(0.3);
    expect(deathsAYear({ ...tree, girdled: true })).toBeLessThan(1);
  });

  it('nobody girdles over a path or among taps without a word', () => {
    const tree = at('a', 0, 0, 400);
    const path = {
      kind: 'path' as const,
      points: [
        [30, -50],
        [30, 50]
      ] as [number, number][]
    };
    expect(girdlingCaution(tree, [path], []).reaches.length).toBe(1);
    expect(girdlingCaution(tree, [], [at('b', 20, 0, 300), at('c', 90, 0, 300)]).taps).toBe(1);
  });
});

describe('what nobody has looked at', () => {
  const quiet = { diebackPct: null, defects: [], hazards: [], wildlife: [] };
  it('is for trained fallers, and so are dying ash and beech', () => {
    expect(fellingCautions({ ...quiet, tree: at('a', 0, 0, 300) }, []).trained).toBe(true);
    const looked = { ...quiet, diebackPct: 5 };
    expect(fellingCautions({ ...looked, tree: at('a', 0, 0, 300) }, []).trained).toBe(false);
    for (const species of ['whiteAsh', 'beech'] as const) {
      const tree = { ...at('a', 0, 0, 300), species };
      expect(fellingCautions({ ...looked, diebackPct: 20, tree }, []).trained).toBe(true);
      expect(fellingCautions({ ...looked, tree }, []).trained).toBe(false);
    }
  });

  it('is never told as “no limit”', () => {
    expect(conditionCap(null, TODAY)).toMatchObject({ unknown: true });
    expect(conditionCap({ ...LOOK, diebackPct: null }, TODAY).unknown).toBe(true);
    expect(conditionCap({ ...LOOK, diebackPct: 5 }, TODAY).unknown).toBe(false);
    expect(conditionCap({ ...LOOK, diebackPct: 5, on: '2022-08-01' }, TODAY).unknown).toBe(true);
    const reason = suggestTaps({ ...MEASURED, condition: null, room: null }).reason;
    expect(reason).toMatchObject({ why: 'size', unseen: true, roomOpen: true, growthOpen: false });
    // One reading is a size: what trees like it lay is no growth of its own.
    const once = { ...MEASURED, ownGrowth: 0, condition: { ...LOOK, diebackPct: 0 }, room: 4 };
    expect(suggestTaps(once)).toMatchObject({ growthMeasured: false, reason: { why: 'size', growthOpen: true } });
    const slow = suggestTaps({ ...once, ringMm: 0.3, ringSeMm: 0.02 });
    expect(slow).toMatchObject({ reason: { why: 'slow', measured: false }, change: { kind: 'measureAgain' } });
    expect(suggestTaps({ ...MEASURED, condition: { ...LOOK, diebackPct: 0 }, room: 4 }).reason).toMatchObject({
      why: 'size',
      unseen: false,
      roomOpen: false,
      growthOpen: false
    });
  });
});
