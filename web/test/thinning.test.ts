import { bushSettingsSchema, isOutstanding, STATIONS, type BushRecord } from '@baumkin/core/records';
import {
  cruisedM2PerHa,
  fittingLimits,
  growingArea,
  heldBack,
  limitsOf,
  markingList,
  outlookTrees,
  refusal,
  scoredTrees,
  stillTaken,
  thinStand
} from '@baumkin/core/bush';
import {
  calibrateGrowth,
  chooseCropTrees,
  DEFAULT_GROWTH,
  growStand,
  highsSolver,
  judgeChoice,
  notYet,
  planThinning,
  prepareStand,
  relativeDensity,
  ringWith,
  competitionOf,
  standMetrics
} from '@baumkin/core/thinning';
import loadHighs from 'highs';
import { describe, expect, it } from 'vitest';

import { planByEye } from '../../core/test/byEye.ts';
import { heldBackWords, nearWords } from '../src/lib/labels/thinning.ts';
import { demo, known, rows } from './demoBush.ts';

/* The demo's stands. Their figures are invented; the plan is held against a practised eye. */
const TODAY = '2026-11-23';
const settings = bushSettingsSchema.parse({});
const sugarbushes = demo.stands.filter(({ purpose }) => purpose === 'syrup' || purpose === 'mixed');
const treesOf = (standId: string, crops: ReadonlySet<string>) =>
  outlookTrees(
    known.filter(({ row }) => row.standId === standId && row.cut === null),
    crops,
    { today: TODAY, ashBorer: false }
  );

describe('a thinning of the demo', () => {
  it.each(sugarbushes.map((stand) => [stand.name, stand] as const))(
    'of %s: within all limits, and no worse than a practised eye',
    async (_name, stand) => {
      const solve = highsSolver(await loadHighs());
      const own = rows.filter(({ standId }) => standId === stand.id);
      const wish = { spacingM: settings.cropSpacingM, pinned: new Set<string>(), vetoed: new Set<string>() };
      const crops = new Set(chooseCropTrees(scoredTrees(own), wish, solve).ids);
      const thin = thinStand(stand, { rows, features: demo.features, crops, settings, today: TODAY });
      expect(refusal(stand, thin, TODAY)).toBeNull();
      const limits = fittingLimits(limitsOf(settings), thin.plan, stand);
      const plan = planThinning(thin.plan, limits, solve);
      if ('clash' in plan) {
        // A stand that was never surveyed, or is thin: nothing is taken, and it says why.
        expect(notYet(thin.plan, limits)).not.toBeNull();
        return;
      }
      expect(plan.status).toBe('optimal');
      expect(plan.gap).toBeLessThanOrEqual(0.001);
      expect(plan.judgement.broken).toEqual([]);
      const byEye = judgeChoice(thin.plan, limits, planByEye(thin.plan, limits));
      expect(byEye.broken).toEqual([]);
      expect(plan.judgement.worth).toBeGreaterThanOrEqual(0.999 * byEye.worth);
    },
    120_000
  );

  it('nobody is sent to a tree that was felled, and to a watched one only when it is due', () => {
    const due = (row: (typeof rows)[number]) => isOutstanding('thin', row, '2026-11-23');
    const felled = known.filter(({ row }) => row.cut !== null).map(({ row }) => row);
    expect(felled.length).toBe(4);
    for (const row of felled)
      for (const station of STATIONS) expect(isOutstanding(station, row, '2026-11-23')).toBe(false);
    const braced = rows.find(({ mark }) => mark === 'brace')!;
    const watched = rows.find(({ mark }) => mark === 'watch')!;
    expect([braced.reviewOn! < '2026-11-23', due(braced)]).toEqual([true, true]);
    expect([watched.reviewOn! > '2026-11-23', due(watched)]).toEqual([true, false]);
    expect(rows.filter(({ mark }) => mark === 'take').every(due)).toBe(true);
  });

  it('holds back what is marked where something lives, what is not ours, and all of a stand in which nothing is cut', () => {
    const marked = rows.find((row) => row.mark === 'take' && row.wildlife.length === 0 && row.eastM !== null)!;
    const stand = demo.stands.find(({ id }) => id === marked.standId)!;
    expect(heldBack(marked, stand, TODAY)).toBeNull();
    const lived = { ...marked, wildlife: ['batRoost' as const] };
    expect(heldBackWords(heldBack(lived, stand, TODAY)!)).toBe('it is marked to come down, but bats roost in it');
    expect(heldBack({ ...lived, despite: true }, stand, TODAY)).toBeNull();
    const all = (one: (typeof rows)[number]) => [one, ...rows.filter(({ id }) => id !== marked.id)];
    const boundary = { ...marked, tapBan: { reasons: ['boundary'], until: null } as never };
    expect(heldBack(boundary, stand, TODAY)).toMatchObject({ why: 'clash' });
    const reserve = { ...stand, mayCut: false, byWord: 'the trust', wordUntil: null };
    const forbidden = heldBack(marked, reserve, TODAY)!;
    expect([forbidden.why, heldBackWords(forbidden)]).toEqual([
      'forbidden',
      `Nothing is cut in ${stand.name} (the trust says so)`
    ]);

    // Nor is it taken by a plan that was made before.
    const later = all(lived);
    const after = thinStand(stand, { rows: later, features: demo.features, crops: new Set(), settings, today: TODAY });
    expect(stillTaken(after, [lived.id, 'gone'])).toEqual(new Set());
    const before = thinStand(stand, {
      rows: all(marked),
      features: demo.features,
      crops: new Set(),
      settings,
      today: TODAY
    });
    expect(stillTaken(before, [lived.id, 'gone'])).toEqual(new Set([lived.id]));
    const kept = thinStand(stand, {
      rows: all({ ...marked, mark: 'keep' }),
      features: demo.features,
      crops: new Set(),
      settings,
      today: TODAY
    });
    expect(stillTaken(kept, [lived.id])).toEqual(new Set());

    // It is in no faller's list, and those beside it are told of it as of any other home.
    const beside = { ...marked, id: 'beside', tag: 'beside', wildlife: [], eastM: marked.eastM! + 2, tapBan: null };
    const list = markingList([...later, beside], new Set([lived.id]), demo.features);
    expect(list.some(({ row }) => row.id === lived.id)).toBe(false);
    expect(nearWords(list.find(({ row }) => row.id === 'beside')!.near)).toContain(`${lived.tag} (home)`);
  });

  it('is refused where a stand is kept for something else, and where positions are too rough', () => {
    const ledge = demo.stands.find(({ purpose }) => purpose === 'wildlife')!;
    expect(
      refusal(
        ledge,
        thinStand(ledge, { rows, features: demo.features, crops: new Set(), settings, today: TODAY }),
        TODAY
      )
    ).toMatchObject({
      why: 'otherPurpose'
    });
    const upper = sugarbushes.find(({ purpose }) => purpose === 'syrup')!;
    const rough = rows.map((row) => ({
      ...row,
      positionQuality: 'phone' as const,
      positionAccuracyM: null,
      crownCard: null
    }));
    const crops = new Set(
      rows.filter((row) => row.standId === upper.id && row.species === 'sugarMaple').map(({ id }) => id)
    );
    expect(
      refusal(upper, thinStand(upper, { rows: rough, features: demo.features, crops, settings, today: TODAY }), TODAY)
    ).toMatchObject({
      why: 'roughPositions'
    });
  });

  it.each(sugarbushes.map((stand) => [stand.name, stand] as const))(
    '%s comes to rest when it is left alone',
    (_name, stand) => {
      const trees = treesOf(stand.id, new Set());
      const ground = growingArea(stand);
      const { model, own } = calibrateGrowth(trees, ground);
      const area = [...growStand(prepareStand(trees, ground), model, { years: 200, own })].map(
        ({ dbhMm, alive, young }) =>
          ((Math.PI / 4) *
            (trees.reduce((sum, _, i) => sum + alive[i]! * dbhMm[i]! ** 2, 0) +
              young.reduce((sum, y) => sum + y.many * y.dbhMm ** 2, 0))) /
          1e6 /
          ground.areaHa
      );
      const gains = Array.from({ length: 20 }, (_, k) => area[10 * (k + 1)]! - area[10 * k]!);
      expect(area[60]!).toBeGreaterThan(10);
      expect(Math.max(...area)).toBeLessThan(48);
      // Both fill up first, and lose their beech meanwhile: what a decade brings is most by sixty years, and less from then on.
      const most = gains.indexOf(Math.max(...gains));
      expect(most).toBeLessThanOrEqual(6);
      for (let k = most + 1; k < gains.length; k++) expect(gains[k]!).toBeLessThan(gains[k - 1]!);
      expect(Math.abs(gains.at(-1)!)).toBeLessThan(0.7);
    }
  );

  it('calibrated growth foretells the rings of held-back trees better than the default', () => {
    for (const stand of sugarbushes) {
      const trees = treesOf(stand.id, new Set());
      const ground = growingArea(stand);
      const held = trees.map((tree, i) => (i % 2 === 0 ? { ...tree, observed: null } : tree));
      const { model } = calibrateGrowth(held, ground);
      const pressed = competitionOf(trees, ground.outlines);
      const room = relativeDensity(
        trees.map(({ dbhMm }) => [dbhMm, 1] as const),
        ground.areaHa,
        model.largestSdi
      );
      const error = (by: { level: number; c: number }) =>
        trees.reduce(
          (sum, { species, observed }, i) =>
            i % 2 === 0 && observed && observed.ringMm > 0.3
              ? sum + Math.log(ringWith(by, species, pressed[i]!, room) / observed.ringMm) ** 2
              : sum,
          0
        );
      expect(error(model)).toBeLessThan(error(DEFAULT_GROWTH));
    }
  });

  it('leaves at least 17 m2/ha and 70 % of the ground under crowns by default, or says not yet', async () => {
    const solve = highsSolver(await loadHighs());
    for (const stand of sugarbushes) {
      const own = rows.filter(({ standId }) => standId === stand.id);
      const wish = { spacingM: settings.cropSpacingM, pinned: new Set<string>(), vetoed: new Set<string>() };
      const crops = new Set(chooseCropTrees(scoredTrees(own), wish, solve).ids);
      const { plan } = thinStand(stand, { rows, features: demo.features, crops, settings, today: TODAY });
      const limits = fittingLimits(limitsOf(settings), plan, stand);
      const why = notYet(plan, limits);
      const made = planThinning(plan, limits, solve);
      if ('clash' in made) {
        expect(why).not.toBeNull();
        continue;
      }
      expect(made.judgement.leftM2PerHa).toBeGreaterThanOrEqual(17 - 1e-6);
      expect(
        standMetrics(
          plan.trees.map(({ tree }) => tree),
          plan,
          new Set(made.taken.map(({ id }) => id)),
          plan.around
        ).crownCover!
      ).toBeGreaterThan(0.685);
    }
  }, 120_000);

  it('plots say what stands there with and without a tag', () => {
    // Angle gauge: every counted tree stands for its factor (Avery & Burkhart, Forest Measurements); 7 and 11 trees of 2.
    const plot = (standId: string, many: number): BushRecord => ({
      id: crypto.randomUUID(),
      on: '2026-08-01',
      recordedAt: '2026-08-01T10:00:00.000Z',
      correctsId: null,
      withdrawn: false,
      kind: 'plot',
      standId,
      name: 'a',
      centre: null,
      design: { kind: 'gauge', bafM2PerHa: 2 },
      trees: Array.from({ length: many }, () => ({ species: null, dbhMm: null })),
      note: ''
    });
    const [here, there] = [crypto.randomUUID(), crypto.randomUUID()];
    const plots = [plot(here, 7), plot(here, 11), plot(there, 30)];
    expect(cruisedM2PerHa(plots, here)).toBeCloseTo(18);
    expect(cruisedM2PerHa([], here)).toBeNull();
  });
});
