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
  SPECIES,
  type PracticeAnswer
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

  it('right, fair, honest or wrong', () => {
    for (const question of questions) {
      const { specimen, shown, choices } = question;
      expect(gradeSpecies(question, specimen.species).answer.outcome).toBe('right');
      const { verdict, candidates } = judge(shown, specimen.age);
      const open = verdict === 'lookAgain' || verdict === 'mapleOpen';
      expect(gradeSpecies(question, null).answer.outcome).toBe(open ? 'honest' : 'wrong');
      const last = SPECIES.map((s) => s.id).find(
        (id) =>
          candidates.findIndex((c) => c.species === id) > 10 &&
          !choices.includes(id) &&
          ![...sistersOf(candidates[0]!.species), ...sistersOf(specimen.species)].includes(id)
      )!;
      expect(gradeSpecies(question, last).answer.outcome).toBe('wrong');
    }
  });

  it('are counted by pairs that were taken for one another, the worst first', () => {
    const said = (truth: PracticeAnswer['truth'], name: PracticeAnswer['said']): PracticeAnswer => ({
      truth,
      said: name,
      outcome: truth === name ? 'right' : name === null ? 'honest' : 'wrong'
    });
    const pairs = confusionPairs([
      said('whiteAsh', 'sugarMaple'),
      said('sugarMaple', 'whiteAsh'),
      said('whiteAsh', 'whiteAsh'),
      said('sugarMaple', 'redMaple'),
      said('redMaple', 'redMaple'),
      said('redMaple', 'redMaple'),
      said('sugarMaple', 'sugarMaple'),
      said('beech', null)
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
