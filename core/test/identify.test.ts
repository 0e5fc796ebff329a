import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../../testing/long.ts';
import {
  CHARACTERS,
  isMaple,
  judge,
  likelyAge,
  LOOK_SEASONS,
  nextLooks,
  questionAge,
  SHIPPED_TABLE,
  sistersOf,
  speciesById,
  SPECIES,
  standPrior,
  type AgeClass,
  type CharacterId,
  type Evidence
} from '../src/identify/index.ts';
import { OTHER_SPECIMENS } from './otherSpecimens.ts';
import { MAPLE_SPECIMENS } from './specimens.ts';
import { sum } from './identifySupport.ts';

describe('described specimens', () => {
  it('are told in nine cases of ten; the rest stay open', () => {
    const missed = [
      ...MAPLE_SPECIMENS.filter(({ seen, age, season, species }) => {
        const { verdict, candidates } = judge(seen, age, { season });
        return verdict === 'settled' ? !sistersOf(species).includes(candidates[0]!.species) : verdict !== 'mapleOpen';
      }),
      ...OTHER_SPECIMENS.filter(({ seen, age, season }) => judge(seen, age, { season }).verdict !== 'notMaple')
    ];
    const all = MAPLE_SPECIMENS.length + OTHER_SPECIMENS.length;
    expect(all).toBeGreaterThanOrEqual(52);
    expect(missed.length, missed.map((m) => m.what).join('; ')).toBeLessThanOrEqual(0.1 * all);
    for (const { seen, age, season } of missed) expect(judge(seen, age, { season }).verdict).toBe('lookAgain');
  });

  it.each(OTHER_SPECIMENS.map((s) => [`${s.species}, ${s.what}`, s] as const))('never tapped: %s', (_, s) => {
    for (const prior of [undefined, standPrior({ sugarMaple: 92, redMaple: 5, beech: 3 })])
      expect(judge(s.seen, s.age, { prior, season: s.season }).verdict).toMatch(/notMaple|lookAgain/);
  });

  it('use only what can be seen on them, in their season', () => {
    for (const { seen, age, season } of [...MAPLE_SPECIMENS, ...OTHER_SPECIMENS])
      expect(SHIPPED_TABLE.visible(age, season).map((c) => c.id)).toEqual(expect.arrayContaining(Object.keys(seen)));
  });

  it('name the right tree for most of the others as well', () => {
    const named = OTHER_SPECIMENS.filter(
      (s) => judge(s.seen, s.age, { season: s.season }).candidates[0]!.species === s.species
    );
    expect(named.length).toBeGreaterThanOrEqual(OTHER_SPECIMENS.length - 2);
  });
});

// Mistakes seen in the trade (common practice, no source).
describe('the beginner’s traps', () => {
  it('one clue is never enough: black streaks, checkered bark, or tapholes that somebody else drilled', () => {
    for (const seen of [{ staining: 'yes' }, { barkGrown: 'checkered' }, { oldTapholes: 'yes', lichen: 'yes' }])
      expect(judge(seen, 'grown').verdict).not.toMatch(/settled|mapleOpen/);
    expect(judge({ arrangement: 'opposite', oldTapholes: 'yes', staining: 'yes' }, 'grown').verdict).toBe('lookAgain');
  });

  it('an ash is not taken for a maple because its twigs are opposite', () => {
    const first = judge({ arrangement: 'opposite' }, 'grown');
    expect(first.verdict).toBe('lookAgain');
    expect(first.because).toMatchObject({
      why: 'lookAlikes',
      others: ['whiteAsh', 'blackAsh', 'horseChestnut', 'dogwood'],
      lookAt: expect.arrayContaining(['budShape'])
    });
    // Who has looked at bark and buds is not sent there again, but told what is left and what excludes it.
    const more = { arrangement: 'opposite', barkTone: 'grey', budColour: 'brown', barkGrown: 'smooth' };
    const later = judge(more, 'grown', { season: 'bare' }).because;
    expect(later).toMatchObject({ why: 'lookAlikes', others: ['horseChestnut'] });
    if (later.why === 'lookAlikes') expect(later.lookAt.filter((id) => id in more || id === 'leafForm')).toEqual([]);
    expect(judge({ arrangement: 'opposite', twigStoutness: 'stout', budShape: 'domed' }, 'grown').verdict).toBe(
      'notMaple'
    );
  });

  it('an old tree is judged by old bark: young bark on it is questioned and changes nothing', () => {
    expect(likelyAge(700)).toBe('old');
    expect(questionAge('young', 700)).toMatch(/breast height/);
    expect(questionAge('young', 120)).toBeNull();
    expect(questionAge('grown', 700)).toBeNull();
    const old: Evidence = { arrangement: 'opposite', budShape: 'sharpScaly', budColour: 'brown', barkOld: 'oneEdge' };
    expect(judge({ ...old, barkYoung: 'verySmooth' }, 'old')).toEqual(judge(old, 'old'));
  });

  it('swollen red buds say less of the species, and that the season is ending', () => {
    const seen: Evidence = { arrangement: 'opposite', budColour: 'red' };
    const tight = judge({ ...seen, budStage: 'tight' }, 'grown');
    const swollen = judge({ ...seen, budStage: 'swollen' }, 'grown');
    const red = (j: typeof tight) => j.candidates.find((c) => c.species === 'redMaple')!.probability;
    expect(red(swollen)).toBeLessThan(red(tight));
  });

  it('the season ends at a maple, for its species: nobody pulls spouts because a beech swells', () => {
    const sugar: Evidence = { ...MAPLE_SPECIMENS[0]!.seen, budGrouping: 'threeAtTip', twigStoutness: 'slim' };
    expect(judge({ ...sugar, budStage: 'swollen' }, 'grown').seasonEndingFor).toBe('sugarMaple');
    expect(judge({ ...sugar, budStage: 'tight' }, 'grown').seasonEndingFor).toBeNull();
    const beech = OTHER_SPECIMENS.find((s) => s.species === 'beech')!;
    expect(judge({ ...beech.seen, budStage: 'swollen' }, 'grown').seasonEndingFor).toBeNull();
    expect(judge({ budStage: 'swollen' }, 'grown').seasonEndingFor).toBeNull();
  });
});

describe('reasons', () => {
  it('weigh sugar maple against the next tree that is treated otherwise, not against its sister', () => {
    const { candidates, rival, reasons } = judge(MAPLE_SPECIMENS[0]!.seen, 'grown');
    expect(candidates[1]!.species).toBe('blackMaple');
    expect(rival).not.toBe('blackMaple');
    expect(reasons.some((r) => r.ratio > 2)).toBe(true);
  });

  it('name two clues that no tree shows together', () => {
    const { verdict, because, conflicts } = judge(
      { arrangement: 'opposite', barkGrown: 'papery', rub: 'peels' },
      'grown'
    );
    expect(verdict).toBe('lookAgain');
    expect(conflicts.map((c) => [c.a.character, c.b.character])).toContainEqual(['arrangement', 'barkGrown']);
    expect(because).toEqual({ why: 'conflict', conflict: conflicts[0] });
    expect(judge(MAPLE_SPECIMENS[0]!.seen, 'grown').conflicts).toEqual([]);
  });
});

describe('what may not settle a tree', () => {
  const mapleStand = standPrior({ sugarMaple: 920, redMaple: 50, beech: 30 });

  it('a maple-rich stand with opposite twigs alone', () => {
    expect(judge({ arrangement: 'opposite' }, 'grown', { prior: mapleStand }).verdict).toBe('lookAgain');
  });

  it('any combination of weak clues, with opposite twigs or without', () => {
    const weak = CHARACTERS.filter((c) => c.strength === 'weak');
    expect(weak.length).toBeGreaterThanOrEqual(5);
    const combinations = weak.reduce<Evidence[]>(
      (all, c) => all.flatMap((e) => [e, ...c.states.map((s) => ({ ...e, [c.id]: s.id }))]),
      [{}]
    );
    for (const seen of combinations)
      for (const gate of [{}, { arrangement: 'opposite' }])
        expect(judge({ ...gate, ...seen }, 'grown', { prior: mapleStand }).verdict).toBe('lookAgain');
  });

  // Under every ash in a maple wood lie maple keys (common practice, no source).
  it('opposite twigs and seeds that lie on the ground', () => {
    for (const keys of ['horseshoe', 'vee', 'wide'])
      for (const season of LOOK_SEASONS)
        expect(judge({ arrangement: 'opposite', keys }, 'grown', { prior: mapleStand, season }).verdict).toBe(
          'lookAgain'
        );
    expect(SHIPPED_TABLE.character('keys').strength).toBe('weak');
  });

  it('twigs, buds and leaves of a sapling beside it, however many: they pass no gate', () => {
    // Nobody is sent to the branching of twigs that are not its own.
    expect(judge({}, 'grown').because).toEqual({ why: 'nothing', looked: false, beside: false });
    expect(judge({ twigsFrom: 'beside' }, 'grown').because).toEqual({ why: 'nothing', looked: false, beside: true });
    const judgement = judge({ ...MAPLE_SPECIMENS[1]!.seen, twigsFrom: 'beside' }, 'young', { prior: mapleStand });
    expect(judgement.verdict).toBe('lookAgain');
    expect(judgement.because).toEqual({ why: 'gateBeside' });
    const shoot = judge({ ...MAPLE_SPECIMENS[1]!.seen, twigsFrom: 'own' }, 'young', { prior: mapleStand });
    expect(shoot.verdict).toMatch(/settled|mapleOpen/);
  });

  it('any two clues of which one may come from a neighbour', () => {
    const states = CHARACTERS.filter((c) => c.strength !== 'context').flatMap((c) =>
      c.states.map((s) => ({ id: c.id, state: s.id, foreign: c.fromTwigs === true || c.id === 'keys' }))
    );
    for (const age of ['young', 'grown', 'old'] as const)
      for (const a of states)
        for (const b of states)
          if (a.id !== b.id && (a.foreign || b.foreign)) {
            const seen: Evidence = { [a.id]: a.state, [b.id]: b.state, twigsFrom: 'beside' };
            expect(judge(seen, age, { prior: mapleStand, season: 'fall' }).verdict).not.toMatch(/settled|mapleOpen/);
          }
  });

  it('bark and buds without the branching', () => {
    const { arrangement: _, ...seen } = MAPLE_SPECIMENS[0]!.seen;
    expect(judge(seen, 'grown', { prior: mapleStand }).verdict).toBe('lookAgain');
  });
});

describe('what hangs on the tree', () => {
  it('has a season by species: in October no red maple bears its keys, in May it does', () => {
    const red = (season: 'swelling' | 'fall') =>
      judge({ arrangement: 'opposite', keysHanging: 'vee' }, 'grown', { season }).candidates.find(
        (c) => c.species === 'redMaple'
      )!.probability;
    expect(red('swelling')).toBeGreaterThan(0.5);
    expect(red('fall')).toBeLessThan(0.1);
  });

  it('milky sap in leaf tells Norway maple and its like from sugar maple', () => {
    const milky = judge(
      { arrangement: 'opposite', leafForm: 'five', leafNotch: 'rounded', milkySap: 'milky' },
      'grown'
    );
    expect(milky.verdict).toMatch(/settled|mapleOpen/);
    expect(['norwayMaple', 'hedgeMaple']).toContain(milky.candidates[0]!.species);
    expect(milky.candidates.find((c) => c.species === 'sugarMaple')!.probability).toBeLessThan(0.05);
  });

  it('“settle in leaf” is said while there are no leaves', () => {
    const open = { arrangement: 'opposite', budShape: 'rounded', budColour: 'red', budGrouping: 'bunches' };
    expect(judge(open, 'grown', { season: 'bare' }).because).toEqual({ why: 'mapleButWhat', inLeaf: false });
    expect(judge(open, 'grown', { season: 'leaf' }).because).toEqual({ why: 'mapleButWhat', inLeaf: true });
  });

  it('“no tree on the list” is never said of a common one: alternate twigs with leaves like a hand', () => {
    for (const leafForm of ['five', 'three'])
      expect(judge({ arrangement: 'alternate', leafForm }, 'grown', { season: 'leaf' }).conflicts).toEqual([]);
  });
});

describe('properties', () => {
  const evidence = fc
    .tuple(...CHARACTERS.map((c) => fc.option(fc.constantFrom(...c.states.map((s) => s.id)), { nil: undefined })))
    .map((states) => CHARACTERS.map((c, i) => [c.id, states[i]] as const).filter(([, state]) => state !== undefined));
  const age = fc.constantFrom<AgeClass>('young', 'grown', 'old');

  it('the order of clues does not matter', () => {
    fc.assert(
      fc.property(evidence, age, (clues, a) => {
        expect(judge(Object.fromEntries([...clues].reverse()), a)).toEqual(judge(Object.fromEntries(clues), a));
      })
    );
  });

  it('a clue that could not be told changes nothing', () => {
    fc.assert(
      fc.property(evidence, age, fc.constantFrom(...CHARACTERS.map((c) => c.id)), (clues, a, id) => {
        const without = Object.fromEntries(clues.filter(([character]) => character !== id));
        expect(judge({ ...without, [id]: undefined }, a)).toEqual(judge(without, a));
      })
    );
  });

  it('probabilities sum to one, and a maple verdict always has opposite twigs and a strong clue', () => {
    fc.assert(
      fc.property(evidence, age, (clues, a) => {
        const seen = Object.fromEntries(clues) as Evidence;
        const { candidates, pMaple, verdict } = judge(seen, a);
        expect(sum(candidates.map((c) => c.probability))).toBeCloseTo(1, 9);
        expect(pMaple).toBeCloseTo(sum(candidates.filter((c) => isMaple(c.species)).map((c) => c.probability)), 9);
        if (verdict !== 'settled' && verdict !== 'mapleOpen') return;
        expect(seen.arrangement).toBe('opposite');
        expect(SHIPPED_TABLE.clues(seen, a).some((clue) => clue.character.strength === 'strong')).toBe(true);
      })
    );
  });

  it('the next look is one that can be seen this season, on this bark, and was not seen or skipped', () => {
    fc.assert(
      fc.property(
        fc.subarray([...CHARACTERS]),
        fc.subarray(CHARACTERS.map((c) => c.id)),
        age,
        fc.constantFrom(...LOOK_SEASONS),
        (seenOf, skipped, a, season) => {
          const seen = Object.fromEntries(seenOf.map((c) => [c.id, c.states[0]!.id]));
          for (const { character, gainBits, settles } of nextLooks(seen, a, season, { skipped })) {
            const { seasons, ages } = SHIPPED_TABLE.character(character);
            expect(seasons).toContain(season);
            expect(ages).toContain(a);
            expect([...Object.keys(seen), ...skipped]).not.toContain(character);
            expect(gainBits).toBeGreaterThanOrEqual(0);
            expect(settles).toBeLessThanOrEqual(1 + 1e-9);
          }
        }
      ),
      tries(40)
    );
  });

  it('all weak clues together shift no pair of species by more than a factor of 2', () => {
    const weak = CHARACTERS.filter((c) => c.strength === 'weak');
    const strong: Evidence = { arrangement: 'opposite', budColour: 'brown' };
    const odds = (e: Evidence) =>
      Object.fromEntries(judge(e, 'grown').candidates.map((c) => [c.species, c.probability]));
    const base = odds(strong);
    fc.assert(
      fc.property(fc.tuple(...weak.map((c) => fc.constantFrom(...c.states.map((s) => s.id)))), (states) => {
        const shifted = odds({ ...strong, ...Object.fromEntries(weak.map((c, i) => [c.id, states[i]])) });
        for (const a of SPECIES)
          for (const b of SPECIES)
            expect(shifted[a.id]! / shifted[b.id]! / (base[a.id]! / base[b.id]!)).toBeLessThanOrEqual(2 + 1e-9);
      }),
      tries(30)
    );
  });

  it('a further clue of a block is never worth more than it would be alone', () => {
    const alone = (id: CharacterId, state: string) => SHIPPED_TABLE.clue(SHIPPED_TABLE.character(id), state).range;
    const prior = Object.fromEntries(SPECIES.map((s) => [s.id, s.shrub ? 0 : 1]));
    const spread = (e: Evidence) => {
      const p = judge(e, 'grown', { prior }).candidates.filter(({ species }) => !speciesById(species).shrub);
      return Math.log(p[0]!.probability / p.at(-1)!.probability);
    };
    const both = spread({ barkGrown: 'oneEdge', rub: 'holds' });
    expect(both).toBeLessThan(alone('barkGrown', 'oneEdge') + alone('rub', 'holds'));
    expect(both).toBeGreaterThan(0);
  });
});
