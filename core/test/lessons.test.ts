import { describe, expect, it } from 'vitest';

import {
  askPair,
  drawSpecimen,
  gradePair,
  isMaple,
  judge,
  lessonsOf,
  LOOK_SEASONS,
  nextPair,
  pairId,
  standings,
  tells,
  type DatedAnswer,
  type Pair,
  type PairQuestion,
  type PracticeAnswer,
  type SpeciesId
} from '../src/identify/index.ts';
import { seededRng } from '../src/math/index.ts';

const DAY_MS = 86_400_000;
const T0 = Date.UTC(2026, 10, 23);
const of = (a: SpeciesId, b: SpeciesId): Pair => ({ a, b });
const answered = (pair: Pair, outcome: PracticeAnswer['outcome'], day: number): DatedAnswer => ({
  at: T0 + day * DAY_MS,
  answer: { truth: pair.a, said: outcome === 'sound' ? pair.a : pair.b, outcome, pair }
});

describe('pairs', () => {
  it('are told by what tells them in the woods', () => {
    // Common practice: opposite twigs part maples from beech and oak; buds part sugar from red maple in winter; in leaf the
    // milky sap of the stalk names Norway maple at once; red and silver maple are not told by bark and bud.
    expect(tells(of('sugarMaple', 'beech'), 'bare').by[0]).toBe('arrangement');
    expect(tells(of('sugarMaple', 'redMaple'), 'bare').by.slice(0, 2)).toEqual(['budShape', 'budColour']);
    expect(tells(of('sugarMaple', 'norwayMaple'), 'leaf').by[0]).toBe('milkySap');
    expect(tells(of('redMaple', 'silverMaple'), 'bare').told).toBe(false);
    expect(tells(of('sugarMaple', 'whiteAsh'), 'leaf').by[0]).toBe('leafForm');
  });

  it('are mistaken no more often than is said, by one who weighs all looks (self-consistency)', () => {
    for (const [pair, season] of [
      [of('sugarMaple', 'redMaple'), 'bare'],
      [of('redMaple', 'silverMaple'), 'bare'],
      [of('sugarMaple', 'norwayMaple'), 'leaf']
    ] as const) {
      const rng = seededRng(7);
      const prior = { [pair.a]: 0.5, [pair.b]: 0.5 };
      let [drawn, wrong] = [0, 0];
      while (drawn < 1500) {
        const specimen = drawSpecimen(rng, season, { prior });
        if (specimen.age !== 'grown') continue;
        drawn += 1;
        const { candidates } = judge(specimen.seen, 'grown', { prior, season });
        if (candidates[0]!.species !== specimen.species) wrong += 1;
      }
      const { mistaken } = tells(pair, season);
      // Three standard errors of the share.
      expect(wrong / drawn, pairId(pair)).toBeLessThan(mistaken + 3 * Math.sqrt((mistaken * (1 - mistaken)) / drawn));
    }
  });

  it('stand in lessons, the easiest first, each once, and of each at least one is a maple', () => {
    for (const season of LOOK_SEASONS) {
      const lessons = lessonsOf(season);
      const looks = lessons.map((lesson) => lesson.looks ?? Infinity);
      expect(looks).toEqual([...looks].sort((a, b) => a - b));
      const all = lessons.flatMap(({ pairs }) => pairs);
      expect(new Set(all.map(pairId)).size).toBe(all.length);
      expect(all.every(({ a, b }) => isMaple(a) || isMaple(b))).toBe(true);
      // Nobody learns two hundred pairs in a winter.
      expect(all.length).toBeGreaterThan(40);
      expect(all.length).toBeLessThan(110);
    }
    // Leaves make it easier.
    const hard = (season: 'bare' | 'leaf') =>
      lessonsOf(season).flatMap(({ looks, pairs }) => (looks === null ? pairs : [])).length;
    expect(hard('leaf')).toBeLessThan(hard('bare'));
  });
});

describe('what comes next', () => {
  const first = lessonsOf('bare')[0]!.pairs;

  it('is the easiest pair where nothing was asked, and then the next', () => {
    const start = nextPair(standings('bare', [], T0), T0);
    expect(pairId(start.pair)).toBe(pairId(first[0]!));
    const after = standings('bare', [answered(first[0]!, 'sound', 0)], T0 + 1000);
    expect(pairId(nextPair(after, T0 + 1000).pair)).toBe(pairId(first[1]!));
  });

  it('follows the published scheduler', () => {
    // FSRS-6, default weights: the first "good" gives a stability S of 2.3065 days; recall after t whole days is (1 + f·t/S)^−0.1542
    // with f so that it is 0.9 after S (open-spaced-repetition, "The Algorithm"; the weights from memory).
    const [stability, decay] = [2.3065, 0.1542];
    const published = (days: number) => (1 + ((0.9 ** (-1 / decay) - 1) * days) / stability) ** -decay;
    expect(published(stability)).toBeCloseTo(0.9, 9);
    const recallAt = (days: number) =>
      standings('bare', [answered(first[0]!, 'sound', 0)], T0 + days * DAY_MS).find(
        ({ pair }) => pairId(pair) === pairId(first[0]!)
      )!.recall!;
    for (const days of [1, 2, 7, 30]) expect(recallAt(days)).toBeCloseTo(published(days), 3);
  });

  it('brings back soon what was missed, in lessons or among all trees, and later what is held', () => {
    const held = Array.from({ length: 5 }, (_, i) => answered(first[0]!, 'sound', [0, 1, 4, 12, 30][i]!));
    const missed = answered(first[1]!, 'early', 30);
    const now = T0 + 31 * DAY_MS;
    const all = standings('bare', [...held, missed], now);
    const find = (pair: Pair) => all.find((each) => pairId(each.pair) === pairId(pair))!;
    expect(find(first[1]!).dueAt!).toBeLessThan(now);
    expect(find(first[0]!).dueAt!).toBeGreaterThan(now + 20 * DAY_MS);
    expect(pairId(nextPair(all, now).pair)).toBe(pairId(first[1]!));
    expect(all.filter((each) => each.held).map(({ pair }) => pairId(pair))).toEqual([pairId(first[0]!)]);
    // Ash taken for maple among all trees is a miss of that pair.
    const loose = { truth: 'whiteAsh', said: 'sugarMaple', outcome: 'wrong' } as const;
    const [ash] = standings('bare', [{ at: T0, answer: loose }], T0 + DAY_MS).filter(({ asked }) => asked > 0);
    expect(pairId(ash!.pair)).toBe('sugarMaple/whiteAsh');
    // A word that names no other kind is about no pair.
    const word = { truth: 'whiteAsh', said: 'lookAgain', outcome: 'late' } as const;
    expect(standings('bare', [{ at: T0, answer: word }], T0).some(({ asked }) => asked > 0)).toBe(false);
  });

  it('spends more of a winter on what is missed: a learner who never tells ash meets it most', () => {
    const rng = seededRng(3);
    const answers: DatedAnswer[] = [];
    for (let day = 0; day < 40; day++)
      for (let n = 0; n < 12; n++) {
        const now = T0 + day * DAY_MS + n * 60_000;
        const { pair } = nextPair(standings('bare', answers, now), now);
        const question = askPair(rng, 'bare', pair);
        expect([pair.a, pair.b]).toContain(question.specimen.species);
        const knows = pairId(pair) !== 'sugarMaple/whiteAsh';
        const outcome = knows ? 'sound' : 'wrong';
        answers.push({ at: now, answer: { truth: pair.a, said: knows ? pair.a : pair.b, outcome, pair } });
      }
    const times = new Map<string, number>();
    for (const { answer } of answers) times.set(pairId(answer.pair!), (times.get(pairId(answer.pair!)) ?? 0) + 1);
    const ash = times.get('sugarMaple/whiteAsh') ?? 0;
    const others = [...times].filter(([id]) => id !== 'sugarMaple/whiteAsh').map(([, n]) => n);
    expect(ash).toBeGreaterThan(2 * Math.max(...others));
    // And all lessons are come to meanwhile.
    expect(times.size).toBeGreaterThan(60);
  });
});

describe('a question of a pair', () => {
  const [sugar, beech, silver] = [
    of('sugarMaple', 'redMaple'),
    of('sugarMaple', 'beech'),
    of('redMaple', 'silverMaple')
  ];

  it('is scored by whether its looks tell the two, and not by luck', () => {
    const rng = seededRng(5);
    let [told, lucky] = [0, 0];
    for (let i = 0; i < 120; i++) {
      const pair = [sugar, beech, silver][i % 3]!;
      const question = askPair(rng, 'bare', pair);
      expect(question.choices).toEqual([pair.a, pair.b]);
      const { specimen, shown } = question;
      const prior = { [pair.a]: 0.5, [pair.b]: 0.5 };
      const [first, second] = judge(shown, specimen.age, { prior, season: 'bare' }).candidates;
      const outcome = (said: SpeciesId | 'lookAgain') => gradePair(question, said).answer.outcome;
      expect(outcome(second!.species)).toBe('wrong');
      if (first!.probability >= 0.95) {
        told += 1;
        expect([outcome(first!.species), outcome('lookAgain')]).toEqual(['sound', 'late']);
      } else {
        if (first!.species === specimen.species) lucky += 1;
        expect([outcome(first!.species), outcome('lookAgain')]).toEqual(['early', 'sound']);
      }
      expect(gradePair(question, pair.a).answer.pair).toEqual(pair);
    }
    expect(told).toBeGreaterThan(50);
    expect(lucky).toBeGreaterThan(10);
  });

  it('leaves one who always names, one who never does and one who weighs the looks far apart', () => {
    const rng = seededRng(17);
    const lesson = lessonsOf('bare')[1]!.pairs;
    const rounds = Array.from({ length: 500 }, (_, i) => askPair(rng, 'bare', lesson[i % lesson.length]!));
    const share = (robot: (question: PairQuestion) => SpeciesId | 'lookAgain') =>
      rounds.filter((question) => gradePair(question, robot(question)).answer.outcome === 'sound').length / 500;
    const hand = seededRng(18);
    const apart = (a: number, b: number) => (b - a) / Math.sqrt((a * (1 - a) + b * (1 - b)) / 500);
    const timid = share(() => 'lookAgain');
    const guesser = share(({ choices }) => choices[hand.uniform() < 0.5 ? 0 : 1]);
    // It weighs by the table that it is tested by, and slips once in twenty: self-consistency.
    const knowing = share((question) => {
      const { species, probability } = gradePair(question, 'lookAgain').ofTwo.candidates[0]!;
      if (hand.uniform() < 0.05) return question.choices[0];
      return probability >= 0.95 ? species : 'lookAgain';
    });
    expect(apart(timid, guesser)).toBeGreaterThan(3);
    expect(apart(guesser, knowing)).toBeGreaterThan(3);
  });
});
