import { describe, expect, it } from 'vitest';
import {
  conditionOf,
  deriveTree,
  drillForbidden,
  fewerSinceDecided,
  isOutstanding,
  recordSchema,
  tapForbidden,
  tapsToHang,
  treeRow,
  type TreeRow
} from '../src/records/index.ts';
import {
  conditionCap,
  conditionEffects,
  growingSeasonsBetween,
  tapGuidelineOf,
  suggestTaps,
  type DefectKind,
  type HazardKind
} from '../src/taps/index.ts';
import { TODAY, LOOK, ID, LINE } from './adviceSupport.ts';
import { MEASURED } from './fixtures.ts';

describe('a look grows old', () => {
  it('stress of one summer is over after two growing seasons', () => {
    const stressed = { ...LOOK, diebackPct: 0, stressed: true, on: '2025-06-01' };
    expect(growingSeasonsBetween('2025-06-01', '2026-06-01')).toBe(1);
    expect(growingSeasonsBetween('2025-10-01', '2026-06-01')).toBe(0);
    expect(conditionCap(stressed, '2026-06-01').taps).toBe(0);
    expect(conditionCap(stressed, '2026-11-23').taps).toBe(Infinity);
  });

  it('an open hole goes on ageing, and somebody is asked to look whether it has closed', () => {
    const seen = { ...LOOK, diebackPct: 0, oldestOpenHoleYears: 2, on: '2025-08-01' };
    expect(conditionCap(seen, '2025-09-01').taps).toBe(Infinity);
    expect(conditionCap(seen, TODAY)).toMatchObject({ taps: 0 });
    expect(conditionCap(seen, TODAY).reason).toEqual({
      why: 'openHole',
      years: 3,
      weak: true,
      seen: { years: 2, on: '2025-08-01' }
    });
    expect(conditionCap({ ...seen, oldestOpenHoleYears: 0 }, TODAY).taps).toBe(Infinity);
  });

  it('bark peeled round the trunk caps the count, and a fresh peel asks for a look at the neighbours', () => {
    const peeled = (peeledPct: number) => conditionCap({ ...LOOK, diebackPct: 0, peeledPct }, TODAY).taps;
    expect([peeled(0), peeled(25), peeled(50)]).toEqual([Infinity, 1, 0]);
    expect(
      conditionEffects({ ...LOOK, diebackPct: 0, peeledPct: 10, peelFresh: true }, TODAY).map((e) => e.reason)
    ).toContainEqual({ why: 'freshPeeling' });
  });
});

describe('signs of decline on trunk and top', () => {
  const seen = (hazards: readonly HazardKind[], defects: readonly DefectKind[]) =>
    conditionCap({ ...LOOK, diebackPct: 0, hazards, defects }, TODAY);

  it('ask for one tap where there is one, and for a rest where there are two', () => {
    expect(seen(['hollowButt', 'deadTop'], ['canker'])).toMatchObject({
      taps: 0,
      reason: { why: 'signs', hazards: ['deadTop', 'hollowButt'], defects: ['canker'], allows: 0 }
    });
    expect(seen([], ['canker'])).toMatchObject({ taps: 1, reason: { allows: 1 } });
    // Written down twice, it is still one hollow.
    expect(seen(['hollowButt'], ['hollow']).taps).toBe(1);
    expect(seen(['lean', 'includedBark'], ['seam', 'metal']).taps).toBe(Infinity);
    const sound = { ...LOOK, diebackPct: 0 };
    const thick = { ...MEASURED, dbhMm: 700, ringMm: 3, ringSeMm: 0.1, seasonsSinceTapped: 1 };
    expect(suggestTaps({ ...thick, condition: sound }).taps).toBe(2);
    expect(suggestTaps({ ...thick, condition: { ...sound, hazards: ['hollowButt', 'deadTop'] } })).toMatchObject({
      taps: 0,
      binding: 'condition'
    });
  });
});

describe('how fast a tree grows', () => {
  const slow = { ...MEASURED, dbhMm: 400, condition: { ...LOOK, diebackPct: 0 }, seasonsSinceTapped: 20 };
  const carried = (ringMm: number, ringSeMm: number, more = {}) => suggestTaps({ ...slow, ringMm, ringSeMm, ...more });
  const enough = carried(1, 0).balance.ringForOneMm;

  it('is not called too slow where it may be fast enough: a reading is asked for', () => {
    const doubtful = carried(1.1 * enough, 0.5 * enough);
    expect(doubtful.balance.suggested).toBe(0);
    expect(doubtful).toMatchObject({ binding: 'growth', reason: { why: 'doubt' }, change: { kind: 'measureAgain' } });
    expect(carried(0.5 * enough, 0.02)).toMatchObject({ reason: { why: 'slow' }, change: { kind: 'carryMore' } });
  });

  it('has its rest rhythm said while the tree may be tapped too, whatever else allows one tap', () => {
    const rested = carried(0.4 * enough, 0.02);
    expect(rested).toMatchObject({ taps: 1, reason: { why: 'slow', everyYears: 3, rested: true } });
    expect(carried(0.4 * enough, 0.02, { seasonsSinceTapped: 1 })).toMatchObject({
      taps: 0,
      reason: { why: 'slow', everyYears: 3, rested: false }
    });
    expect(carried(0.4 * enough, 0.02, { condition: { ...LOOK, diebackPct: 20 } }).reason).toMatchObject({
      why: 'slow'
    });
  });
});

describe('trees that are not tapped', () => {
  const stand = { name: 'Ledge', mayTap: false, byWord: 'the land trust', wordUntil: null };
  it('count nothing, with the reason: sap that is no food, ground that is not ours', () => {
    const ban = (until: string | null) =>
      ({ tapBan: { reasons: ['insecticide'], until } as never, fallen: null }) as Parameters<typeof tapForbidden>[0];
    expect(tapForbidden(ban(null), null, TODAY)).toEqual({ why: 'banned', reasons: ['insecticide'], until: null });
    expect(tapForbidden(ban('2026-01-01'), null, TODAY)).toBeNull();
    expect(tapForbidden({ tapBan: null, fallen: null }, stand, TODAY)).toEqual({
      why: 'stand',
      stand: 'Ledge',
      by: 'the land trust',
      until: null
    });
    expect(tapForbidden({ tapBan: null, fallen: null }, { ...stand, wordUntil: '2026-01-01' }, TODAY)).toBeNull();
    const none = suggestTaps({ ...MEASURED, forbidden: true });
    expect(none).toMatchObject({ taps: 0, binding: 'forbidden', reason: { why: 'forbidden' } });
  });

  it('are not drilled either, though their count was decided before: banned, girdled, doubted, or another’s now', () => {
    const decided: TreeRow = {
      ...treeRow(LINE, deriveTree([], { season: 2027, today: TODAY })),
      verdict: 'settled',
      species: 'sugarMaple',
      dbhMm: 400,
      decidedTaps: 2
    };
    const septic = (until: string | null) => ({ tapBan: { reasons: ['septic'], until } as never });
    const why = (change: Partial<TreeRow>, of: typeof stand | null = null) => {
      const row = { ...decided, ...change };
      const forbidden = drillForbidden(row, of, TODAY);
      expect(isOutstanding('place', row, TODAY, of && { ...of, purpose: 'syrup' })).toBe(forbidden === null);
      return forbidden;
    };
    expect(why({})).toBeNull();
    expect(why({ verdict: 'mapleOpen' })).toBeNull();
    expect(why(septic(null))).toMatchObject({ why: 'banned', reasons: ['septic'] });
    expect(why(septic('2026-01-01'))).toBeNull();
    expect(why({ fallen: { what: 'girdled' } as never })).toEqual({ why: 'girdled' });
    expect(why({ verdict: 'lookAgain' })).toEqual({ why: 'unsettled' });
    expect(why({ verdict: null, species: null })).toEqual({ why: 'unsettled' });
    expect(why({ verdict: 'notMaple', species: 'whiteAsh' })).toEqual({ why: 'notMaple' });
    expect(why({}, stand)).toMatchObject({ why: 'stand', by: 'the land trust' });
  });

  it('get fewer holes where the crown was seen worse after the count', () => {
    const base = { treeId: ID(1), on: '2026-09-01' };
    const look = { ...base, id: ID(3), kind: 'assessment', diebackPct: 60, crownClass: null };
    const said = (lookedAt: string) => {
      const records = [
        { ...base, id: ID(2), kind: 'decision', season: 2027, taps: 2, suggested: 2, binding: 'size' },
        { ...look, oldestOpenHoleYears: 0, stressed: false, recordedAt: lookedAt }
      ].map((r) => recordSchema.parse({ recordedAt: '2026-09-01T10:00:00.000Z', ...r }));
      const row = {
        ...treeRow(LINE, deriveTree(records, { season: 2027, today: TODAY })),
        verdict: 'mapleOpen' as const,
        dbhMm: 400
      };
      // The count waits for another word where the look allows fewer.
      expect(isOutstanding('count', row, TODAY)).toBe(fewerSinceDecided(row, TODAY) !== null);
      expect(tapsToHang(row, null, TODAY)).toBe(fewerSinceDecided(row, TODAY)?.taps ?? 2);
      return fewerSinceDecided(row, TODAY);
    };
    expect(said('2026-09-01T11:00:00.000Z')).toMatchObject({ taps: 0 });
    // Whoever decided knew of it already, and said why.
    expect(said('2026-09-01T09:00:00.000Z')).toBeNull();
  });

  it('a guideline of one’s own above four taps is followed', () => {
    const guideline = tapGuidelineOf({
      tapGuideline: 'own',
      ownGuideline: [
        { diameterMm: 300, taps: 1 },
        { diameterMm: 800, taps: 6 }
      ]
    });
    const giant = { ...MEASURED, guideline, dbhMm: 1200, ringMm: 5, ringSeMm: 0.05, bandMm: 1500 };
    expect(suggestTaps({ ...giant, condition: { ...LOOK, diebackPct: 0 }, room: 8 })).toMatchObject({
      taps: 6,
      binding: 'size'
    });
  });
});

it('a later look that says nothing of the crown forgets nothing of an earlier one, nor its day', () => {
  const look = (on: string, change: object) =>
    recordSchema.parse({
      id: crypto.randomUUID(),
      treeId: '5d2c9f0e-3f0a-4d6a-9d0c-5f4d3c2b1a00',
      on,
      recordedAt: `${on}T10:00:00.000Z`,
      kind: 'assessment',
      diebackPct: null,
      crownClass: null,
      oldestOpenHoleYears: null,
      stressed: null,
      peeledPct: null,
      ...change
    });
  const state = deriveTree(
    [
      look('2024-08-01', { diebackPct: 60, stressed: true, crownClass: 'codominant' }),
      look('2026-08-01', { peeledPct: 20, stressed: false })
    ],
    { season: 2027, today: '2026-11-23' }
  );
  expect(state.assessment).toMatchObject({
    on: '2026-08-01',
    diebackPct: 60,
    crownClass: 'codominant',
    stressed: false,
    peeledPct: 20,
    earlier: { diebackPct: '2024-08-01', crownClass: '2024-08-01' }
  });
  expect(conditionCap(conditionOf(state.line), '2026-11-23').taps).toBe(0);
  // A healthy crown grows old by its own day.
  const healthy = deriveTree([look('2022-08-01', { diebackPct: 5 }), look('2026-08-01', { stressed: false })], {
    season: 2027,
    today: '2026-11-23'
  });
  expect(conditionEffects(conditionOf(healthy.line), '2026-11-23')[0]).toMatchObject({ unknown: true });
});
