import { describe, expect, it } from 'vitest';
import {
  closingSample,
  countable,
  gearFor,
  otherRatio,
  otherSeason,
  otherTrees,
  otherYear,
  placesNow,
  reckonings,
  seasonGroups,
  storedSap,
  suggestionFor,
  tooThinToTap,
  weatherOf
} from '../src/bush/index.ts';
import { otherSapOf, SPECIES } from '../src/identify/index.ts';
import {
  type BushSettings,
  DEFAULT_BUSH_SETTINGS,
  deriveTree,
  drillForbidden,
  isOutstanding,
  sapOf
} from '../src/records/index.ts';
import { courseOf, OTHER_SAP_FACTS, risingDays, yearOf } from '../src/season/index.ts';
import { guidelineTaps, OTHER_GUIDELINES } from '../src/taps/index.ts';
import { MM_PER_INCH } from '../src/units/index.ts';
import { days, knownOn, SEASON, spring, STANDS, told, type Told, tree, weather, YEARS } from './seasonBush.ts';

const TODAY = '2027-03-10';
const TAPS_BIRCH: BushSettings = { ...DEFAULT_BUSH_SETTINGS, alsoTaps: ['birch'] };
const at = (settings = TAPS_BIRCH) => ({ settings, season: SEASON, today: TODAY, stand: STANDS[0]! });

describe('trees that are no maples and are tapped by some', () => {
  it('are birches and walnuts, and no maple is among them', () => {
    const kinds = SPECIES.filter(({ id }) => otherSapOf(id) !== null);
    expect(kinds.map(({ latin }) => latin.split(' ')[0]).sort()).toEqual(['Betula', 'Betula', 'Juglans', 'Juglans']);
    expect(kinds.every(({ sap }) => sap === 'none')).toBe(true);
  });

  it('bear one hole from 8 in and never a second, a birch; a walnut as the most careful rule for maples (common practice)', () => {
    const bears = (kind: 'birch' | 'walnut', inches: number) =>
      guidelineTaps(OTHER_GUIDELINES[kind], inches * MM_PER_INCH);
    expect([7.9, 8, 30].map((inches) => bears('birch', inches))).toEqual([0, 1, 1]);
    expect([11.9, 12, 18.1].map((inches) => bears('walnut', inches))).toEqual([0, 1, 2]);
  });

  it('are suggested a tap where the bush taps their kind, and told why where it does not', () => {
    const { row } = tree(1, { species: 'paperBirch', dbhMm: 420 });
    expect(suggestionFor(row, at(), null)).toMatchObject({ taps: 1, binding: 'size' });
    expect(suggestionFor(row, at(DEFAULT_BUSH_SETTINGS), null).reason).toEqual({ why: 'otherSap', kind: 'birch' });
    const thick = tree(2, { species: 'walnut', dbhMm: 420 }).row;
    expect(suggestionFor(thick, at(), null).reason).toEqual({ why: 'otherSap', kind: 'walnut' });
  });

  it('may be drilled once they are decided, and fewer inches are no ban as they are for a maple', () => {
    const birch = tree(1, { species: 'paperBirch', dbhMm: 230 });
    expect(drillForbidden(birch.row, STANDS[0]!, TODAY)).toBeNull();
    const undecided = (of: ReturnType<typeof tree>) =>
      deriveTree(
        of.records.filter(({ kind }) => kind !== 'decision'),
        { season: SEASON, today: TODAY }
      );
    expect(tooThinToTap(undecided(birch), TAPS_BIRCH)).toBe(false);
    expect(tooThinToTap(undecided(tree(2, { dbhMm: 230 })), TAPS_BIRCH)).toBe(true);
  });

  it('are counted as maple nowhere: not in the groups, the rounds of the maples or the outstanding holes', () => {
    const rows = [tree(1, { drilledOn: '2027-03-01' }), tree(2, { species: 'paperBirch' }), tree(3)].map(
      ({ row }) => row
    );
    expect(rows.map(sapOf)).toEqual(['maple', 'birch', 'maple']);
    expect(seasonGroups(rows, STANDS, TODAY)).toMatchObject([{ taps: 2, drilled: 1 }]);
    expect(rows.map((row) => countable(row, STANDS[0]!))).toEqual([true, false, true]);
    expect(rows.map((row) => isOutstanding('place', row, TODAY, STANDS[0]!))).toEqual([false, false, true]);
    // Holes of a birch tell nothing of how maples close; a tree that was doubted after it was drilled stays where it was.
    const old = (n: number, species: 'sugarMaple' | 'paperBirch') =>
      tree(n, {
        species,
        taps: 0,
        more: [
          {
            kind: 'taphole',
            on: '2026-03-01',
            season: 2026,
            bearingDeg: 0,
            heightMm: 1000,
            bitMm: 7.9375,
            depthMm: 38.1
          }
        ]
      }).row;
    expect([...closingSample([old(8, 'sugarMaple'), old(9, 'paperBirch')], '2026-09-20')]).toHaveLength(1);
    expect(seasonGroups([{ ...rows[0]!, verdict: 'lookAgain' }], STANDS, TODAY)).toMatchObject([{ drilled: 1 }]);
    const trees = otherTrees('birch', rows, { stands: STANDS, settings: TAPS_BIRCH, season: SEASON, today: TODAY });
    expect(trees).toMatchObject([{ suggested: 1, decided: 1 }]);
    // A stand that is kept for something else is not tapped, whatever stands in it.
    const reserve = STANDS.map((stand) => ({ ...stand, purpose: 'wildlife' as const }));
    expect(otherTrees('birch', rows, { stands: reserve, settings: TAPS_BIRCH, season: SEASON, today: TODAY })).toEqual(
      []
    );
  });

  it('have places, a store and batches of their own', () => {
    const birch = tree(2, { species: 'paperBirch', drilledOn: '2027-03-01' });
    const rows = [tree(1, { drilledOn: '2027-03-01' }).row, birch.row];
    const place = (name: string, of: 'maple' | 'birch', treeId: string) =>
      told({
        kind: 'collectingPlace',
        on: '2027-02-20',
        name,
        of,
        vessel: 'bucket',
        litres: 13,
        carrier: 'hand',
        treeIds: [treeId]
      } as Told);
    const [west, brook] = [place('West', 'maple', rows[0]!.id), place('Brook birches', 'birch', birch.row.id)];
    const emptied = (placeId: string, litres: number) =>
      told({
        kind: 'collection',
        on: '2027-03-05',
        placeId,
        hour: 16,
        litres,
        taps: 1,
        drilledOn: '2027-03-01'
      } as Told);
    const batch = told({
      kind: 'batch',
      on: '2027-03-08',
      season: SEASON,
      of: 'birch',
      sapLitres: 60,
      sapBrix: 0.9,
      syrupLitres: 0.6,
      syrupBrix: 66,
      bottles: [{ litres: 0.3, many: 2 }]
    } as Told);
    const records = [west, brook, emptied(west.id, 30), emptied(brook.id, 100), batch];
    expect(placesNow(records, rows, SEASON).map(({ place: { name } }) => name)).toEqual(['West']);
    expect(placesNow(records, rows, SEASON, 'birch')).toMatchObject([{ taps: 1, last: { litres: 100 } }]);
    const mild = weatherOf(weather('thermometer', days('2027-03-01', 12, 0, 8)), TODAY);
    const when = { season: SEASON, today: TODAY, hour: 9 };
    expect(storedSap(records, mild, when)!.litres).toBeCloseTo(30, 6);
    const store = storedSap(records, mild, { ...when, sap: 'birch' })!;
    expect([store.litres, store.brix]).toEqual([expect.closeTo(40, 6), expect.closeTo(0.9, 6)]);
    expect(otherYear('birch', records, SEASON)).toEqual({ sapLitres: 100, syrupLitres: 0.6, ratio: 100 });
    const [maples] = reckonings(records);
    expect(maples).toMatchObject({ sapLitres: 30, syrupLitres: 0, batches: 0, bottled: { kept: 0 } });
    // Their spouts and vessels are gear like any other.
    const gear = gearFor(2, placesNow(records, rows, SEASON), DEFAULT_BUSH_SETTINGS);
    expect(gear.find(({ what }) => what === 'spouts')).toMatchObject({ many: 2 });
  });
});

describe('what their sap comes to', () => {
  it('is near 100 to 1 for birch and near 50 to 1 for walnut (common practice)', () => {
    expect(otherRatio('birch', 66).usual).toBeGreaterThan(90);
    expect(otherRatio('birch', 66).usual).toBeLessThan(105);
    expect(otherRatio('walnut', 66).usual).toBeGreaterThan(40);
    expect(otherRatio('walnut', 66).usual).toBeLessThan(60);
    const { low, usual, high } = otherRatio('birch', 66);
    expect(low < usual && usual < high).toBe(true);
  });
});

describe('when it rises', () => {
  it('goes by warmth for birch, told from the years before and nearer the nearer it comes', () => {
    const early = otherSeason('birch', knownOn('2027-02-01'), { season: SEASON, today: '2027-02-01' })!;
    const late = otherSeason('birch', knownOn('2027-04-10'), { season: SEASON, today: '2027-04-10' })!;
    expect(early.years).toBe(YEARS.length);
    for (const told of [early, late]) expect(told.from!.usual < told.until!.usual).toBe(true);
    const span = ({ from }: typeof early) => Date.parse(from!.late!) - Date.parse(from!.early);
    expect(span(late)).toBeLessThanOrEqual(span(early));
    const truth = risingDays(
      courseOf(yearOf(SEASON, spring(SEASON)), { species: null, sunny: false })!,
      OTHER_SAP_FACTS.birch.risesBetween!
    );
    const day = (on: string) => Math.round((Date.parse(on) - Date.parse('2027-01-01')) / 86_400_000);
    expect(day(late.from!.early)).toBeLessThanOrEqual(truth.from!);
    expect(day(late.from!.late!)).toBeGreaterThanOrEqual(truth.from!);
  });

  it('begins when the sugar maples are about over (common practice), and a year that stays cold has none', () => {
    const course = courseOf(yearOf(2024, spring(2024)), { species: null, sunny: false })!;
    const { from } = risingDays(course, OTHER_SAP_FACTS.birch.risesBetween!);
    const left = course.gives.slice(from!).reduce((sum, each) => sum + each, 0);
    expect(left / course.gives.reduce((sum, each) => sum + each, 0)).toBeLessThan(0.15);
    expect(risingDays({ warmth: new Float64Array(151) }, [70, 170])).toEqual({ from: null, until: null });
  });

  it('is not told without a spring in the book, and for walnut goes with the maples', () => {
    const empty = weatherOf([], TODAY);
    expect(otherSeason('birch', empty, { season: SEASON, today: TODAY })).toEqual({
      from: null,
      until: null,
      years: 0
    });
    expect(otherSeason('walnut', knownOn(TODAY), { season: SEASON, today: TODAY })).toBeNull();
  });
});
