import { describe, expect, it } from 'vitest';
import {
  closedAfter,
  closingSample,
  closingSpeedOf,
  endOf,
  fencesWorked,
  spoutsStillIn,
  thinnedSap,
  thinningsDone
} from '../src/bush/index.ts';
import { type BushRecord, recordSchema } from '../src/records/index.ts';
import { another, id, SEASON, told, tree, type Told } from './seasonBush.ts';

describe('the end, and the summer after', () => {
  it('names the trees whose spouts are still in', () => {
    const rows = [
      tree(1, { taps: 2, drilledOn: '2027-02-20', pulled: 2 }),
      tree(2, { taps: 2, drilledOn: '2027-02-20', pulled: 1 }),
      tree(3, { drilledOn: '2027-02-20' }),
      tree(4)
    ].map(({ row }) => row);
    const spouts = spoutsStillIn(rows, SEASON);
    expect([spouts.set, spouts.out, spouts.in]).toEqual([5, 3, 2]);
    expect(spouts.rows.map(({ tag }) => tag)).toEqual(['2', '3']);
  });
  it('is called by group, or for all at once', () => {
    const end = (group: 'all' | 'early') => told({ kind: 'seasonEnd', on: '2027-04-02', season: SEASON, group });
    expect(endOf([end('early')], SEASON, 'late')).toBeNull();
    expect(endOf([end('early')], SEASON, 'early')).not.toBeNull();
    expect(endOf([end('all')], SEASON, 'late')).not.toBeNull();
    expect(endOf([end('all')], 2026, 'late')).toBeNull();
  });

  const hole = (season: number) => ({
    kind: 'taphole',
    on: `${season}-02-20`,
    season,
    bearingDeg: 10,
    heightMm: 1000,
    bitMm: 8,
    depthMm: 38,
    id: id(700_000 + season)
  });
  const look = (on: string, state: string, season: number, gapMm: number | null) => ({
    kind: 'closing',
    on,
    holes: [{ tapholeId: id(700_000 + season), state, gapMm }]
  });
  it('tells how holes closed by the summers that had gone over them', () => {
    const { records } = tree(8, {
      more: [hole(2025), look('2025-08-20', 'open', 2025, 5), look('2026-08-20', 'closed', 2025, 0)]
    });
    expect(closedAfter([records])).toEqual([
      { summers: 1, holes: 1, closed: 0, slit: 0 },
      { summers: 2, holes: 1, closed: 1, slit: 0 }
    ]);
    expect(closingSpeedOf(records)).toEqual({ mmASummer: 3, holes: 1, atLeast: false });
    const taken = records.map((record) =>
      record.kind === 'closing'
        ? recordSchema.parse({ ...record, id: another(), correctsId: record.id, withdrawn: true })
        : record
    );
    expect(closedAfter([[...records, ...taken]])).toEqual([]);
    expect(closingSpeedOf([...records, ...taken])).toBeNull();
  });
  it('draws the same sample for everybody, of sixty where there are more', () => {
    const rows = Array.from(
      { length: 150 },
      (_, i) => tree(1000 + i, { more: [{ ...hole(2026), id: id(800_000 + i) }] }).row
    );
    const sample = closingSample(rows, '2026-09-10');
    expect(sample.size).toBe(60);
    expect([...closingSample([...rows].reverse(), '2026-11-10')].sort()).toEqual([...sample].sort());
    expect(closingSample(rows, '2027-09-10')).not.toEqual(sample);
  });
});

describe('what a thinning did', () => {
  const reading = (on: string, mm: number) => ({
    kind: 'reading',
    on,
    quantity: 'diameter',
    valueMm: mm,
    asWritten: `${mm / 10} cm`,
    method: 'diameterTape',
    heightMm: 1300
  });
  /** Grows 2 mm a year in thickness, and those that were freed in 2016 5 mm from then on. */
  const grown = (n: number, at: readonly [number, number], freed: boolean) =>
    tree(n, {
      at,
      dbhMm: null,
      more: [
        reading('2010-10-10', 300),
        reading('2016-10-10', 312 + (n % 3)),
        reading('2024-10-10', 312 + (freed ? 40 : 16) + (n % 3))
      ]
    });
  const cut = (n: number, at: readonly [number, number]) =>
    tree(n, { at, more: [{ kind: 'cut', on: '2016-11-20', what: 'felled' }] });
  const wood = (years: boolean) => [
    ...Array.from({ length: 12 }, (_, i) => grown(2000 + i, [40 * i, 0], years)),
    ...Array.from({ length: 12 }, (_, i) => cut(2100 + i, [40 * i, 3])),
    ...Array.from({ length: 14 }, (_, i) => grown(2200 + i, [40 * i, 300], false))
  ];
  const lived = (trees: ReturnType<typeof wood>) => trees.map(({ row, records }) => ({ tree: row, records }));
  it('is told by freed trees against comparable ones', () => {
    const [done] = thinningsDone(lived(wood(true)), '2027-03-10');
    expect(done).toMatchObject({ year: 2017, taken: 12, years: 10 });
    expect(done!.ring.verdict).toBe('more');
    expect(done!.ring.effect).toBeCloseTo(1.5, 0.2);
    expect(done!.closing.verdict).toBe('tooFew');
    expect(done!.freedIds.size).toBe(12);
  });
  it('is no more than it was, and too early to tell in the years after', () => {
    expect(thinningsDone(lived(wood(false)), '2027-03-10')[0]!.ring.verdict).toBe('cannotTell');
    expect(thinningsDone(lived(wood(true)), '2018-03-10')[0]!.ring.verdict).toBe('tooEarly');
    expect(thinningsDone(lived(wood(true).filter((_, i) => i < 14)), '2027-03-10')).toEqual([]);
  });
});

describe('what a thinning did to the sap, and fences to the seedlings', () => {
  const placeOf = (n: number, freed: number): BushRecord =>
    told({
      kind: 'collectingPlace',
      on: '2015-02-20',
      name: `Place ${n}`,
      vessel: 'bucket',
      litres: 13,
      carrier: 'hand',
      treeIds: Array.from({ length: 10 }, (_, i) => id(300_000 + 100 * n + (i < freed ? i : 50 + i)))
    } as Told);
  const places = [0, 2, 4, 6, 8, 10].map((freed, n) => placeOf(n, freed));
  const freedIds = new Set(
    places.flatMap((place) =>
      place.kind === 'collectingPlace' ? place.treeIds.filter((each) => Number(each.slice(-2)) < 50) : []
    )
  );
  const year = (season: number, place: BushRecord, litresShare: number, brixOver: number) => ({
    season,
    placeId: place.id,
    litresShare,
    brixOver
  });
  const years = (more: number, sweeter: number) =>
    [2015, 2016, 2020, 2021, 2022].flatMap((season) =>
      places.map((place, n) =>
        year(
          season,
          place,
          1 + (season > 2016 ? (more * n) / 5 : 0) + 0.01 * ((n + season) % 3),
          (season > 2016 ? (sweeter * n) / 5 : 0) + 0.02 * ((n * season) % 2)
        )
      )
    );
  const thinning = { year: 2016, years: 10, freedIds };

  it('is told by places that were freed in part, each against what was expected of it', () => {
    const sap = thinnedSap(thinning, years(0.2, -0.3), places);
    expect(sap.litres).toMatchObject({ compared: 6, verdict: 'more' });
    expect(sap.litres.effect).toBeCloseTo(0.2, 1);
    expect(sap.sugar.verdict).toBe('less');
    expect(thinnedSap({ ...thinning, years: 2 }, years(0.2, 0), places).litres.verdict).toBe('tooEarly');
    // A season on either side is too few.
    expect(
      thinnedSap(
        thinning,
        years(0.2, 0).filter(({ season }) => season > 2015),
        places
      ).litres.verdict
    ).toBe('tooFew');
  });
  it('is told of fences by the plots as they were counted last', () => {
    const plot = (name: string, on: string, fenced: boolean, waist: number) =>
      told({
        kind: 'seedlings',
        on,
        standId: id(901),
        name,
        radiusM: 2,
        counts: Object.fromEntries(
          ['maple', 'beech', 'other', 'invasive'].map((group) => [
            group,
            { knee: 3, waist: group === 'maple' ? waist : 0, above: 0 }
          ])
        ),
        fenced
      } as unknown as Told);
    const counted = [
      ...[0, 1, 1].map((waist, i) => plot(`I${i}`, '2020-08-01', true, waist)),
      ...[8, 9, 11].map((waist, i) => plot(`I${i}`, '2026-08-01', true, waist)),
      ...[1, 0, 2].map((waist, i) => plot(`O${i}`, '2026-08-01', false, waist))
    ];
    const worked = fencesWorked(counted, '2027-03-10')!;
    expect(worked).toMatchObject({ plots: [3, 3], verdict: 'more' });
    expect(worked.inside).toBeGreaterThan(7000);
    expect(fencesWorked(counted.slice(6), '2027-03-10')).toBeNull();
  });
});
