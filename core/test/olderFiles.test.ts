import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

import { readArchive, treesIn } from '../src/exchange/index.ts';
import { deriveTree, effectiveRecords, inOrder } from '../src/records/index.ts';

/**
 * Files that earlier releases wrote. Stewards keep them for decades: they are never written anew, and whatever is renamed
 * in the program reads them as they are.
 */
const written = (name: string) => readFileSync(new URL(`data/${name}`, import.meta.url), 'utf8');

/** Trees of the file, with what its release told of them on 23 November 2026. */
const TOLD: readonly (readonly [tag: string, dbhMm: number | null, holes: number, said: string])[] = [
  ['1', 201, 0, 'sugarMaple, dieback 5'],
  ['u1009', 114, 0, 'beech'],
  ['u993', 154, 0, 'sugarMaple'],
  ['u962', 214, 0, 'basswood'],
  ['u841', 184, 0, 'sugarMaple'],
  ['10', 309, 16, 'sugarMaple, 1 taps, crop, 2 blockers'],
  ['12', 429, 27, 'sugarMaple, 1 taps, dieback 0'],
  ['27', 379, 26, 'sugarMaple, 1 taps, dieback 5'],
  ['32', 403, 27, 'sugarMaple, 1 taps, crop, 1 blockers, dieback 10'],
  ['50', 429, 0, 'whiteAsh, felled, dieback 35'],
  ['57', 480, 37, 'sugarMaple, crop, dieback 0'],
  ['104', 358, 28, 'dieback 5'],
  ['125', 244, 0, 'beech'],
  ['139', 355, 27, 'sugarMaple, dieback 5'],
  ['170', 227, 0, 'sugarMaple'],
  ['175', 428, 27, 'sugarMaple, dieback 10'],
  ['232', 309, 18, 'sugarMaple, boundary, dieback 0'],
  ['249', 396, 12, 'dieback 15'],
  ['249b', 329, 0, 'redMaple'],
  ['292', 621, 24, 'sugarMaple, dieback 10'],
  ['328', 445, 11, 'redMaple, dieback 5'],
  ['342', 572, 0, 'sugarMaple, keep, dieback 0'],
  ['380', 472, 0, 'aspen, keep, dieback 5']
];

describe('an archive of November 2026', () => {
  const archive = readArchive(written('bush-2026-11.json'));

  it('is told in one order, however its records come', () => {
    const backwards = archive.records.toReversed();
    expect(effectiveRecords(backwards)).toEqual(effectiveRecords(archive.records));
    const told = backwards.toSorted(inOrder).map(({ id }) => id);
    const shavings = archive.records.filter((r) => r.kind === 'shavings');
    for (const { id, tapholeId } of shavings) expect(told.indexOf(tapholeId)).toBeLessThan(told.indexOf(id));
    expect(shavings.length).toBeGreaterThan(0);
  });

  it('comes in whole, with every kind of record that there was', () => {
    const kinds = new Set([...archive.records, ...archive.bushRecords].map(({ kind }) => kind));
    expect([...kinds].sort()).toEqual([
      'assessment',
      'cropChoice',
      'crownCard',
      'cut',
      'decision',
      'determination',
      'entry',
      'heightAndCrown',
      'mark',
      'place',
      'planting',
      'plot',
      'reading',
      'scars',
      'seedlings',
      'shavings',
      'tapBan',
      'taphole',
      'thinningPlan',
      'trunkFeature'
    ]);
    expect(archive.walk).toHaveLength(24);
    expect(archive.records).toHaveLength(549);
    expect(effectiveRecords(archive.bushRecords)).toHaveLength(6);
    expect(archive.bush.settings).toMatchObject({
      strategy: 'pattern',
      tapGuideline: 'twelveEighteen',
      stockingGuide: 'timber',
      paints: ['blue', 'white', 'green'],
      paintSince: 2020
    });
    expect(archive.baseMap?.fit.pins[1].eastM).toBe(90);
  });

  it('goes by the names of today', () => {
    expect(archive.version).toBe(2);
    expect(archive.records.filter((record) => record.kind === 'taphole' && record.strategy !== null)).not.toEqual([]);
    expect(JSON.stringify(archive)).not.toMatch(/"(stature|school|ladder|ownLadder|stockingSchool|ground)"/);
  });

  it('tells the same of its trees', () => {
    const lines = treesIn(archive);
    const told = lines.map((line) => {
      const state = deriveTree(
        archive.records.filter((record) => record.treeId === line.id),
        { season: 2027, today: '2026-11-23' }
      );
      const said = [
        state.determination?.species ?? '',
        state.decision ? `${state.decision.taps} taps` : '',
        state.mark?.purpose ?? '',
        state.cut?.what ?? '',
        state.cropChoice?.choice ?? '',
        state.tapBan?.reasons.join('+') ?? '',
        state.crownCard ? `${state.crownCard.blockers.length} blockers` : '',
        state.assessment ? `dieback ${state.assessment.diebackPct}` : ''
      ];
      return [
        line.tag,
        state.dbhMm === null ? null : Math.round(state.dbhMm),
        state.tapholes.length,
        said.filter((word) => word !== '').join(', ')
      ];
    });
    expect(told).toEqual(TOLD);
  });
});
