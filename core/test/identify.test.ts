import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import {
  CHARACTERS,
  isMaple,
  judge,
  likelihood,
  SPECIES,
  standPrior,
  type AgeClass,
  type Evidence
} from '../src/identify/index.ts';

// Described specimens: botany texts as remembered (from memory) and facts of the trade.
const MAPLES: [string, AgeClass, Evidence, string][] = [
  [
    'sugar maple, mature, winter',
    'grown',
    { arrangement: 'opposite', budShape: 'sharpScaly', budColour: 'brown', barkGrown: 'oneEdge', rub: 'holds' },
    'sugarMaple'
  ],
  [
    'young sugar maple by bud and palm',
    'young',
    { arrangement: 'opposite', budShape: 'sharpScaly', budColour: 'brown', barkYoung: 'smoothBumps' },
    'sugarMaple'
  ],
  [
    'red maple, mature',
    'grown',
    { arrangement: 'opposite', budShape: 'roundedClustered', budColour: 'red', barkGrown: 'strips', rub: 'chips' },
    'redMaple'
  ],
  [
    'box elder',
    'grown',
    { arrangement: 'opposite', budShape: 'downy', budColour: 'greenMaroon', barkGrown: 'diamonds' },
    'boxElder'
  ],
  ['striped maple', 'young', { arrangement: 'opposite', budShape: 'stalked', barkYoung: 'stripes' }, 'stripedMaple'],
  [
    'Norway maple',
    'grown',
    { arrangement: 'opposite', budShape: 'largeBlunt', budColour: 'greenMaroon', barkGrown: 'diamonds' },
    'norwayMaple'
  ]
];
const OTHERS: [string, AgeClass, Evidence][] = [
  [
    'ash, the opposite look-alike',
    'grown',
    { arrangement: 'opposite', budShape: 'domed', budColour: 'black', barkGrown: 'diamonds', rub: 'holds' }
  ],
  ['red oak', 'grown', { arrangement: 'alternate', barkGrown: 'furrows', rub: 'holds' }],
  ['beech', 'grown', { arrangement: 'alternate', budShape: 'longSpear', barkGrown: 'smooth' }],
  ['black cherry', 'grown', { arrangement: 'alternate', barkGrown: 'burnt' }],
  ['hophornbeam', 'grown', { arrangement: 'alternate', barkGrown: 'shreds', rub: 'peels' }],
  ['young aspen', 'young', { arrangement: 'alternate', barkYoung: 'greenish' }],
  ['yellow birch', 'grown', { arrangement: 'alternate', barkGrown: 'papery', rub: 'peels' }]
];

describe('described specimens', () => {
  it.each(MAPLES)('%s', (_, age, evidence, species) => {
    const { verdict, candidates } = judge(evidence, age);
    expect(['settled', 'mapleOpen']).toContain(verdict);
    expect(candidates[0]!.species).toBe(species);
  });

  it.each(OTHERS)('%s is never tapped', (_, age, evidence) => {
    expect(judge(evidence, age).verdict).toBe('notMaple');
  });

  it('settles a mature sugar maple seen in full', () => {
    expect(judge(MAPLES[0]![2], 'grown').verdict).toBe('settled');
  });
});

describe('reasons', () => {
  it('weigh sugar maple against the next tree that is treated otherwise, not against its sister', () => {
    const { candidates, rival, reasons } = judge(MAPLES[0]![2], 'grown');
    expect(candidates[1]!.species).toBe('blackMaple');
    expect(rival).not.toBe('blackMaple');
    expect(reasons.some((r) => r.ratio > 2)).toBe(true);
  });
});

describe('what may not settle a tree', () => {
  const mapleStand = standPrior({ sugarMaple: 920, redMaple: 50, beech: 30 });

  it('a maple-rich stand with opposite twigs alone', () => {
    expect(judge({ arrangement: 'opposite' }, 'grown', mapleStand).verdict).toBe('lookAgain');
  });

  it('any combination of weak clues', () => {
    const weak = CHARACTERS.filter((c) => c.strength === 'weak');
    for (const a of weak[0]!.states)
      for (const b of weak[1]!.states)
        for (const gate of [{}, { arrangement: 'opposite' }])
          expect(judge({ ...gate, [weak[0]!.id]: a.id, [weak[1]!.id]: b.id }, 'grown', mapleStand).verdict).toBe(
            'lookAgain'
          );
  });

  it('bark and buds without the branching', () => {
    const { verdict } = judge(
      { budShape: 'sharpScaly', budColour: 'brown', barkGrown: 'oneEdge', rub: 'holds' },
      'grown',
      mapleStand
    );
    expect(verdict).toBe('lookAgain');
  });

  it('opposite twigs with papery bark: the contradiction is named', () => {
    const { verdict, because } = judge({ arrangement: 'opposite', barkGrown: 'papery', rub: 'peels' }, 'grown');
    expect(verdict).toBe('lookAgain');
    expect(because).toMatch(/disagree/);
  });
});

describe('the table', () => {
  it('gives every species a distribution over the states of every character', () => {
    for (const character of CHARACTERS)
      for (const { id } of SPECIES) {
        const shares = character.seen[id];
        if (shares)
          expect([character.id, id, sum(Object.values(shares))]).toEqual([character.id, id, expect.closeTo(1, 9)]);
        expect(sum(character.states.map((s) => likelihood(character, s.id, id)))).toBeCloseTo(1, 9);
      }
  });
});

describe('properties', () => {
  const evidence = fc
    .tuple(...CHARACTERS.map((c) => fc.option(fc.constantFrom(...c.states.map((s) => s.id)), { nil: undefined })))
    .map((states) => CHARACTERS.map((c, i) => [c.id, states[i]] as const).filter(([, state]) => state !== undefined));

  it('the order of clues does not matter', () => {
    fc.assert(
      fc.property(evidence, (clues) => {
        expect(judge(Object.fromEntries([...clues].reverse()), 'grown')).toEqual(
          judge(Object.fromEntries(clues), 'grown')
        );
      })
    );
  });

  it('probabilities sum to one, and a maple verdict always has opposite twigs', () => {
    fc.assert(
      fc.property(evidence, fc.constantFrom<AgeClass>('young', 'grown'), (clues, age) => {
        const seen = Object.fromEntries(clues) as Evidence;
        const { candidates, pMaple, verdict } = judge(seen, age);
        expect(sum(candidates.map((c) => c.probability))).toBeCloseTo(1, 9);
        expect(pMaple).toBeCloseTo(sum(candidates.filter((c) => isMaple(c.species)).map((c) => c.probability)), 9);
        if (verdict === 'settled' || verdict === 'mapleOpen') expect(seen.arrangement).toBe('opposite');
      })
    );
  });

  it('all weak clues together shift no pair of species by more than a factor of 2', () => {
    const strong: Evidence = { arrangement: 'opposite', budColour: 'brown' };
    const odds = (e: Evidence) =>
      Object.fromEntries(judge(e, 'grown').candidates.map((c) => [c.species, c.probability]));
    const base = odds(strong);
    const shifted = odds({ ...strong, staining: 'yes', oldTapholes: 'yes' });
    for (const a of SPECIES)
      for (const b of SPECIES)
        expect(shifted[a.id]! / shifted[b.id]! / (base[a.id]! / base[b.id]!)).toBeLessThanOrEqual(2 + 1e-9);
  });
});

function sum(values: readonly number[]): number {
  return values.reduce((total, value) => total + value, 0);
}
