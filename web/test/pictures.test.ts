import { CHARACTERS } from '@baumkin/core/identify';
import type { Taphole, WorkRecord } from '@baumkin/core/records';
import { DEFAULT_COLUMNS, DEFAULT_PRACTICE, trunkToday } from '@baumkin/core/trunk';
import { landmarkNear } from '@baumkin/core/bush';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { drawingOf } from '../src/lib/identify/drawings/index.ts';
import { describe as inWords } from '../src/lib/labels/records.ts';
import { chanceInWords } from '../src/lib/labels/chance.ts';
import { landmarkWords } from '../src/lib/labels/placement.ts';
import { sheetGeometry, spotAt, xOf, yOf } from '../src/lib/place/sheetGeometry.ts';

const envelope = {
  id: 'a',
  treeId: 't',
  on: '2026-02-12',
  recordedAt: '2026-02-12T10:00:00Z',
  correctsId: null,
  withdrawn: false
};
const hole = (id: string, season: number, bearingDeg: number): Taphole => ({
  ...envelope,
  id,
  kind: 'taphole',
  season,
  bearingDeg,
  heightMm: 1000,
  bitMm: 7.9375,
  depthMm: 38.1,
  predictedClear: null,
  strategy: null
});

describe('drawings', () => {
  it('every state of every character has one of its own, the same each time', () => {
    for (const character of CHARACTERS) {
      const drawn = character.states.map((state) => JSON.stringify(drawingOf(character.id, state.id)));
      expect([character.id, new Set(drawn).size]).toEqual([character.id, character.states.length]);
      character.states.forEach((state, i) => {
        expect(JSON.stringify(drawingOf(character.id, state.id))).toBe(drawn[i]);
        expect(drawn[i]).not.toMatch(/NaN|undefined|Infinity/);
      });
    }
  });
});

describe('the bark sheet', () => {
  const trunk = trunkToday(400, 1.5, 2027, []);
  const geometry = sheetGeometry(trunk, 600, 1500, { width: 700, height: 500 });

  it('fits its room, in true proportion, and finds every spot again', () => {
    expect(geometry.width).toBeLessThanOrEqual(700);
    expect(geometry.height).toBeLessThanOrEqual(500);
    expect(geometry.width / geometry.scale).toBeCloseTo(2 * Math.PI * trunk.woodRadiusMm, 6);
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 359.9, noNaN: true }),
        fc.double({ min: 600, max: 1500, noNaN: true }),
        (bearing, height) => {
          const spot = spotAt(geometry, xOf(geometry, bearing), yOf(geometry, height));
          expect(spot.bearingDeg).toBeCloseTo(bearing, 6);
          expect(spot.heightMm).toBeCloseTo(height, 6);
        }
      )
    );
  });

  it('is seen from outside: facing the south side, west lies to the left', () => {
    expect(xOf(geometry, 270)).toBeLessThan(xOf(geometry, 180));
    expect(xOf(geometry, 180)).toBeLessThan(xOf(geometry, 90));
    expect(yOf(geometry, 1400)).toBeLessThan(yOf(geometry, 700));
  });
});

describe('the landmark', () => {
  const placing = (holes: Taphole[]) => ({
    holes,
    scars: [],
    task: {
      trunk: trunkToday(400, 1.5, 2027, holes),
      practice: DEFAULT_PRACTICE,
      model: DEFAULT_COLUMNS,
      seed: 1,
      draws: 1,
      cellMm: 50,
      ringCv: 0,
      wanted: 1,
      ringMm: 1,
      taps: 1
    }
  });

  const painted = (season: number) => (['green', 'blue', 'orange'] as const)[(season - 2025) % 3] ?? 'white';

  it('names no paint where nobody paints', () => {
    const spot = { bearingDeg: 350, heightMm: 1100 };
    const named = (season: number) =>
      landmarkWords(
        landmarkNear(placing([hole('a', season, 340)]), [], spot, { season: 2027, paintOf: () => null })!.name
      );
    expect([named(2026), named(2027)]).toEqual(['the newest hole', 'this season’s hole']);
  });

  it('is the hole at the newest mark; of two of one season the nearer, named by its side', () => {
    const spot = { bearingDeg: 350, heightMm: 1100 };
    const from = (...holes: Taphole[]) => {
      const mark = landmarkNear(placing(holes), [], spot, { season: 2027, paintOf: painted });
      return mark && [landmarkWords(mark.name), mark.bearingDeg];
    };
    expect(from()).toBeNull();
    expect(from(hole('a', 2024, 340), hole('b', 2026, 90))).toEqual(['the hole at the newest blue mark', 90]);
    // Across north: 10 degrees is nearer to 350 than 200 is.
    expect(from(hole('a', 2026, 200), hole('b', 2026, 10))).toEqual([
      'the hole at the newest blue mark on the N side',
      10
    ]);
    expect(from(hole('a', 2027, 200))).toEqual(['the hole at this season’s orange mark', 200]);
    // Round the trunk from the newest, an older mark that is near is easier to find; without any, compass and height.
    expect(from(hole('a', 2026, 170), hole('b', 2025, 345))).toEqual(['the hole at the 2025 green mark', 345]);
  });
});

describe('words', () => {
  it('chances are never said more exactly than the model knows, and never the wrong way round', () => {
    expect([1, 0.97, 0.9, 0.52, 0.05, 0.01].map(chanceInWords)).toEqual([
      'almost certain',
      'about 19 in 20',
      'about 9 in 10',
      'about 5 in 10',
      'about 1 in 20',
      'almost none'
    ]);
  });

  it('every kind of record has a line in the life of its tree, in the steward’s units', () => {
    const records: WorkRecord[] = [
      {
        ...envelope,
        kind: 'determination',
        verdict: 'settled',
        species: 'sugarMaple',
        probability: 0.97,
        age: 'grown',
        basis: 'clues',
        lookSeason: 'leaf',
        evidence: {},
        note: ''
      },
      {
        ...envelope,
        kind: 'reading',
        quantity: 'girth',
        valueMm: 1000,
        asWritten: '100 cm',
        method: 'girthTape',
        heightMm: 1300,
        confirmed: false,
        note: ''
      },
      {
        ...envelope,
        kind: 'assessment',
        diebackPct: 10,
        crownClass: 'dominant',
        oldestOpenHoleYears: 3,
        stressed: true,
        peeledPct: null,
        peelFresh: false,
        defects: [],
        hazards: [],
        wildlife: [],
        note: ''
      },
      { ...envelope, kind: 'decision', season: 2026, taps: 0, suggested: 1, binding: 'size', reason: 'let it be' },
      hole('a', 2026, 180),
      {
        ...envelope,
        kind: 'shavings',
        tapholeId: 'a',
        seen: 'partly',
        brownShare: 0.25,
        brownFromMm: null,
        othersRan: null
      },
      {
        ...envelope,
        kind: 'mark',
        purpose: 'take',
        reason: 'crowds tree 4',
        despite: false,
        keepFor: null,
        reviewOn: null,
        leanDeg: null
      }
    ];
    const plain = { length: (mm: number) => String(Math.round(mm)), paintOf: () => 'blue' as const };
    expect(records.map((r) => inWords(r, plain))).toEqual([
      'Settled as sugar maple',
      'Measured girth 100 cm with ordinary tape round the trunk: 318 thick',
      'Looked up: 10 % dieback, dominant, a hole open after 3 years, stressed the summer before',
      'Decided for 2026: rest (let it be)',
      'Drilled for 2026 (blue): S side, bearing 180°, 1000 up, 8 by 38',
      'Shavings partly brown, about 25 %',
      'Marked to take: crowds tree 4'
    ]);
  });
});
