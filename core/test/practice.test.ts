import { describe, expect, it } from 'vitest';

import {
  askLook,
  askSpecies,
  confusionPairs,
  drawSpecimen,
  gradeLook,
  gradeSpecies,
  judge,
  nextLooks,
  SHIPPED_TABLE,
  sistersOf,
  looksFrom,
  PRACTICE_WORDS,
  type PracticeAnswer,
  type PracticeSaid,
  type SpeciesQuestion
} from '../src/identify/index.ts';
import { seededRng } from '../src/math/index.ts';

describe('specimens', () => {
  it('are drawn in the shares and with the noise of the table', () => {
    const rng = seededRng(3);
    const bare = Array.from({ length: 4000 }, () => drawSpecimen(rng, 'bare'));
    const sugar = bare.filter((s) => s.species === 'sugarMaple');
    expect(sugar.length / bare.length).toBeCloseTo(0.35, 1);
    const arrangement = SHIPPED_TABLE.character('arrangement');
    const expected = SHIPPED_TABLE.likelihood(arrangement, 'opposite', 'sugarMaple');
    expect(sugar.filter((s) => s.seen.arrangement === 'opposite').length / sugar.length).toBeCloseTo(expected, 1);
    expect(sugar.some((s) => s.seen.arrangement === 'alternate')).toBe(true);
    for (const s of bare) expect(s.seen.leafForm).toBeUndefined();
  });
});

describe('questions', () => {
  it('offer the truth, a handful of clues and choices that fit the season', () => {
    const rng = seededRng(11);
    for (let i = 0; i < 60; i++) {
      const question = askSpecies(rng, i % 2 ? 'bare' : 'leaf');
      expect(question.choices).toContain(question.specimen.species);
      expect(question.choices.length).toBeGreaterThanOrEqual(4);
      expect(Object.keys(question.shown).length).toBeGreaterThanOrEqual(2);
      expect(question.specimen.seen).toMatchObject(question.shown);
    }
  });

  it('of the next look offer the best one, and grade by what a look would bring', () => {
    const rng = seededRng(5);
    const questions = Array.from({ length: 30 }, () => askLook(rng, 'bare')).filter((q) => q !== null);
    expect(questions.length).toBeGreaterThan(5);
    for (const question of questions) {
      const { age, season } = question.specimen;
      const best = nextLooks(question.shown, age, season)[0]!.character;
      expect(question.choices).toContain(best);
      expect(new Set(question.choices).size).toBe(4);
      expect(gradeLook(question, best).good).toBe(true);
      const { looks } = gradeLook(question, best);
      const poorest = looks.at(-1)!.character;
      if (looks.at(-1)!.gainBits < 0.1 * looks[0]!.gainBits && looks.at(-1)!.settles < 0.1 * looks[0]!.settles)
        expect(gradeLook(question, poorest).good).toBe(false);
    }
  });
});

describe('answers', () => {
  const rng = seededRng(23);
  const questions = Array.from({ length: 80 }, () => askSpecies(rng, 'bare'));

  it('are held against what the clues allow, and not against luck', () => {
    let lucky = 0;
    for (const question of questions) {
      const { specimen, shown } = question;
      const { verdict, candidates } = judge(shown, specimen.age, { season: specimen.season });
      const outcome = (said: PracticeSaid) => gradeSpecies(question, said).answer.outcome;
      expect(outcome('lookAgain')).toBe(verdict === 'lookAgain' ? 'sound' : 'late');
      expect(outcome('mapleOpen') === 'sound').toBe(verdict === 'mapleOpen');
      expect(outcome('notMaple') === 'sound').toBe(verdict === 'notMaple');
      // A name that the clues do not carry is too early, though it be the tree's.
      if (verdict === 'lookAgain' || verdict === 'mapleOpen') {
        expect(['early', 'wrong']).toContain(outcome(specimen.species));
        lucky += 1;
      }
      if (verdict === 'settled') expect(outcome(candidates[0]!.species)).toBe('sound');
      const last = candidates.at(-1)!.species;
      if (!sistersOf(candidates[0]!.species).includes(last)) expect(outcome(last)).toBe('wrong');
    }
    expect(lucky).toBeGreaterThan(10);
  });

  it('leave a guesser, one who never dares and one who knows far apart, in that order', () => {
    const ROUNDS = 500;
    const source = seededRng(41);
    const rounds = Array.from({ length: ROUNDS }, (_, i) =>
      askSpecies(source, (['bare', 'leaf', 'swelling'] as const)[i % 3]!)
    );
    const hand = seededRng(42);
    const guess = ({ choices }: SpeciesQuestion): PracticeSaid => {
      const all: PracticeSaid[] = [...choices, ...PRACTICE_WORDS];
      return all[Math.floor(hand.uniform() * all.length)]!;
    };
    // Knows the clues, and slips once in twenty. It draws from the table that it is tested by: self-consistency.
    const expert = (question: SpeciesQuestion): PracticeSaid => {
      if (hand.uniform() < 0.05) return guess(question);
      const { verdict, candidates } = judge(question.shown, question.specimen.age, {
        season: question.specimen.season
      });
      return verdict === 'settled' ? candidates[0]!.species : verdict;
    };
    const share = (robot: (question: SpeciesQuestion) => PracticeSaid) =>
      rounds.filter((question) => gradeSpecies(question, robot(question)).answer.outcome === 'sound').length / ROUNDS;
    const [guesser, timid, knowing] = [share(guess), share(() => 'lookAgain'), share(expert)];
    const apart = (a: number, b: number) => (b - a) / Math.sqrt((a * (1 - a) + b * (1 - b)) / ROUNDS);
    expect(apart(guesser, timid)).toBeGreaterThan(3);
    expect(apart(timid, knowing)).toBeGreaterThan(3);
    // Never to dare is no way through: it was right in half of all trees once.
    expect(timid).toBeLessThan(0.35);
    expect(knowing).toBeGreaterThan(0.9);
  });

  it('"look again" are asked at what', () => {
    const source = seededRng(9);
    const asked = questions.flatMap((question) => looksFrom(source, question) ?? []);
    expect(asked.length).toBeGreaterThan(5);
    for (const question of asked) {
      const best = nextLooks(question.shown, question.specimen.age, question.specimen.season)[0]!.character;
      expect(gradeLook(question, best).good).toBe(true);
    }
  });

  it('are counted by pairs that were taken for one another, the worst first', () => {
    const said = (truth: PracticeAnswer['truth'], name: PracticeAnswer['said']): PracticeAnswer => ({
      truth,
      said: name,
      outcome: truth === name ? 'sound' : name === 'lookAgain' ? 'late' : 'wrong'
    });
    const pairs = confusionPairs([
      said('whiteAsh', 'sugarMaple'),
      said('sugarMaple', 'whiteAsh'),
      said('whiteAsh', 'whiteAsh'),
      said('sugarMaple', 'redMaple'),
      said('redMaple', 'redMaple'),
      said('redMaple', 'redMaple'),
      said('sugarMaple', 'sugarMaple'),
      said('beech', 'lookAgain')
    ]);
    expect(pairs).toEqual([
      { a: 'sugarMaple', b: 'whiteAsh', met: 4, confused: 2 },
      { a: 'redMaple', b: 'sugarMaple', met: 4, confused: 1 }
    ]);
  });

  it('make what was missed come up more often', () => {
    const missed: PracticeAnswer[] = Array.from({ length: 5 }, () => ({
      truth: 'elm',
      said: 'basswood',
      outcome: 'wrong'
    }));
    const count = (answers: PracticeAnswer[]) => {
      const source = seededRng(2);
      return Array.from({ length: 150 }, () => askSpecies(source, 'bare', { answers })).filter(
        (q) => q.specimen.species === 'elm'
      ).length;
    };
    expect(count(missed)).toBeGreaterThan(count([]));
  });
});
