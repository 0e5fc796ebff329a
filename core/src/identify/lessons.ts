import { createEmptyCard, fsrs, Rating, State, type Card } from 'ts-fsrs';

import type { Rng } from '../math/index.ts';
import { SHIPPED_TABLE, showing, type ClueTable } from './clues.ts';
import { judge, type Judgement } from './judge.ts';
import { drawShown, type PracticeAnswer, type Shown } from './practice.ts';
import { isMaple, sistersOf } from './species.ts';
import { SPECIES, type AgeClass, type Character, type CharacterId, type LookSeason, type SpeciesId } from './table.ts';

/*
 * Trees that are taken for one another, learned two by two: those that one look tells apart first, and each pair again when it is
 * about to be forgotten.
 */

/** Two kinds that are to be told apart. */
export interface Pair {
  readonly a: SpeciesId;
  readonly b: SpeciesId;
}

/** A pair, and what tells it in a season. */
export interface PairToTell extends Pair {
  /** the looks that tell the two, the best first: as many as it takes */
  readonly by: readonly CharacterId[];
  /** whether they do: a pair that this season does not tell is one to look at again */
  readonly told: boolean;
  /** share of such trees that all looks of the season would leave mistaken, at most, 0..0.5 */
  readonly mistaken: number;
}

/** A lesson: pairs that take as many looks. */
export interface Lesson {
  /** looks that it takes; null where the season does not tell them */
  readonly looks: number | null;
  readonly pairs: readonly PairToTell[];
}

/** Two kinds count as told once looks would leave fewer than this share of them mistaken. Working assumption. */
export const TOLD_BELOW = 0.05;
/** Pairs that take this many looks or more are one lesson. */
const MOST_LOOKS = 4;
/** Kinds that are rarer than this are left to practice on all trees, per cent of the trees in and beside a bush. Working assumption. */
const MET_OFTEN = 0.5;
/** Bark on which the pairs are judged: that of most trees that are tapped. */
const JUDGED_AT: AgeClass = 'grown';

/**
 * How far two kinds overlap in what a look at a character reports: the sum over its states of √(p·q) (Bhattacharyya 1943), 1 where
 * it tells nothing.
 */
function overlap(table: ClueTable, character: Character, { a, b }: Pair, season: LookSeason): number {
  const share = (species: SpeciesId) => {
    const found = (character.found ?? 1) * showing(character, species, character.hangs ? season : null);
    return character.states.map(({ id }) => found * table.likelihood(character, id, species));
  };
  const [p, q] = [share(a), share(b)];
  // What is not there to be seen is a report too, and both give it.
  const unseen = (shares: readonly number[]) => Math.max(0, 1 - shares.reduce((sum, each) => sum + each, 0));
  return p.reduce((sum, each, i) => sum + Math.sqrt(each * q[i]!), Math.sqrt(unseen(p) * unseen(q)));
}

/**
 * What tells two kinds in a season, on grown bark. The chance that somebody who knows the table mistakes one for the other is at
 * most half the product of the overlaps (Kailath 1967, for looks that are independent given the kind, as the table takes them).
 */
export function tells(pair: Pair, season: LookSeason, table: ClueTable = SHIPPED_TABLE): PairToTell {
  const looks = table
    .visible(JUDGED_AT, season)
    .filter(
      (c) =>
        (c.strength === 'gate' || c.strength === 'strong') &&
        c.seen[pair.a] !== undefined &&
        c.seen[pair.b] !== undefined
    )
    .map((c) => ({ id: c.id, left: overlap(table, c, pair, season) }))
    .sort((x, y) => x.left - y.left);
  const by: CharacterId[] = [];
  let mistaken = 0.5;
  for (const { id, left } of looks) {
    if (mistaken >= TOLD_BELOW) by.push(id);
    mistaken *= left;
  }
  const told = mistaken < TOLD_BELOW;
  return { ...pair, by: told ? by : by.slice(0, MOST_LOOKS), told, mistaken };
}

/** Kinds that a maple is taken for: other maples, and what is opposite like them; sugar maple, which is looked for, beside all. */
const PAIRS: readonly Pair[] = SPECIES.flatMap((first, i) =>
  SPECIES.slice(i + 1).flatMap((second) => {
    const [a, b] = [first.id, second.id];
    const maples = [first, second].filter(({ id }) => isMaple(id)).length;
    if (maples === 0 || sistersOf(a).includes(b) || Math.min(first.regionalShare, second.regionalShare) < MET_OFTEN)
      return [];
    const sugar = a === 'sugarMaple' || b === 'sugarMaple';
    return sugar || maples === 2 || (first.opposite && second.opposite) ? [{ a, b }] : [];
  })
);

/** Milliseconds in a day, by definition. */
const DAY_MS = 86_400_000;

/** The name of a pair, whichever way round it is. */
export const pairId = ({ a, b }: Pair): string => [a, b].sort().join('/');

/**
 * The lessons of a season, the easiest first: pairs that one look tells, then those that take more, last what the season does not
 * tell. Within a lesson the trees that are met most come first.
 */
export function lessonsOf(season: LookSeason, table: ClueTable = SHIPPED_TABLE): readonly Lesson[] {
  const lessons = new Map<number | null, PairToTell[]>();
  for (const pair of PAIRS.map((each) => tells(each, season, table))) {
    const looks = pair.told ? Math.min(pair.by.length, MOST_LOOKS) : null;
    lessons.set(looks, [...(lessons.get(looks) ?? []), pair]);
  }
  const share = (id: SpeciesId) => SPECIES.find((each) => each.id === id)!.regionalShare;
  return [...lessons]
    .sort(([x], [y]) => (x ?? Infinity) - (y ?? Infinity))
    .map(([looks, pairs]) => ({
      looks,
      pairs: pairs.sort((x, y) => share(y.a) * share(y.b) - share(x.a) * share(x.b))
    }));
}

/** An answer with its day and hour. */
export interface DatedAnswer {
  readonly at: number;
  readonly answer: PracticeAnswer;
}

/** How well somebody has a pair. */
export interface PairStanding {
  readonly pair: PairToTell;
  readonly looks: number | null;
  /** how often it was asked */
  readonly asked: number;
  /** chance that she still has it, 0..1; null where it was never asked */
  readonly recall: number | null;
  /** when it is to come again, and when it came last; null where it was never asked */
  readonly dueAt: number | null;
  readonly askedAt: number | null;
  /** past its first steps, and likely to be told now */
  readonly held: boolean;
}

/**
 * The scheduler: FSRS-6 with its published weights (Ye, Su and Cao 2022, "A stochastic shortest path algorithm for optimizing spaced
 * repetition scheduling", KDD; the package ts-fsrs), without its random spread, so that a history always gives the same plan.
 */
const scheduler = fsrs({ enable_fuzz: false });
/** Too early is as good as not known: a hole would have been drilled. Too late drilled none. */
const RATED = { sound: Rating.Good, late: Rating.Hard, early: Rating.Again, wrong: Rating.Again } as const;

/** The pair that an answer is about: the one that was asked, or the tree and what it was taken for. */
function pairOf({ truth, said, pair }: PracticeAnswer): string | null {
  if (pair) return pairId(pair);
  const isSpecies = SPECIES.some(({ id }) => id === said);
  return isSpecies && said !== truth ? pairId({ a: truth, b: said as SpeciesId }) : null;
}

/** A pair is held as long as this share of its trees would be told. */
const HELD_AT = 0.9;

/** How each pair of the season's lessons stands, in the order of the lessons. */
export function standings(
  season: LookSeason,
  answers: readonly DatedAnswer[],
  now: number,
  table: ClueTable = SHIPPED_TABLE
): readonly PairStanding[] {
  const cards = new Map<string, { card: Card; asked: number }>();
  for (const { at, answer } of [...answers].sort((x, y) => x.at - y.at)) {
    const id = pairOf(answer);
    if (id === null) continue;
    const { card, asked } = cards.get(id) ?? { card: createEmptyCard(new Date(at)), asked: 0 };
    const next = scheduler.next(card, new Date(at), RATED[answer.outcome]).card;
    cards.set(id, { card: next, asked: asked + 1 });
  }
  return lessonsOf(season, table).flatMap(({ looks, pairs }) =>
    pairs.map((pair) => {
      const known = cards.get(pairId(pair));
      const recall = known ? scheduler.get_retrievability(known.card, new Date(now), false) : null;
      return {
        pair,
        looks,
        asked: known?.asked ?? 0,
        recall,
        held: known?.card.state === State.Review && recall! >= HELD_AT,
        dueAt: known ? known.card.due.getTime() : null,
        askedAt: known?.card.last_review?.getTime() ?? null
      };
    })
  );
}

/** Pairs that are new at once: more than this are not begun while some are still being learned. */
const MOST_UNDER_WAY = 5;

/** So many others come between two questions of one pair: what was said a moment ago is no learning. */
const BETWEEN = 3;

/**
 * Which pair is to come next: one that is due, the least sure first; else a new one, in the order of the lessons, while few are
 * under way; else the one that is least sure. None of the last few of this hour comes again at once.
 */
export function nextPair(all: readonly PairStanding[], now: number): PairStanding {
  const begun = all.filter(({ askedAt }) => askedAt !== null);
  const just = begun
    .filter(({ askedAt }) => now - askedAt! < DAY_MS / 24)
    .sort((x, y) => y.askedAt! - x.askedAt!)
    .slice(0, BETWEEN);
  const asked = begun.filter((each) => !just.includes(each)).sort((x, y) => x.recall! - y.recall!);
  const due = asked.find(({ dueAt }) => dueAt! <= now);
  if (due) return due;
  const fresh = all.find(({ recall }) => recall === null);
  const underWay = begun.filter(({ dueAt }) => dueAt! - now < DAY_MS).length;
  return fresh && underWay < MOST_UNDER_WAY ? fresh : (asked[0] ?? just.at(-1) ?? all[0]!);
}

/** A tree of one of two kinds: which of the two do its looks make it, and do they? */
export interface PairQuestion extends Shown {
  readonly kind: 'pair';
  readonly choices: readonly [SpeciesId, SpeciesId];
  readonly pair: Pair;
}

/** So many of the trees of a lesson show what tells them, where that can be had. Working assumption. */
const SHOWN_TOLD = 0.8;
/** So many trees are drawn at most until one shows as much as is wanted. */
const MOST_TRIES = 40;

/** How sure the looks make the likelier of the two, 0.5..1. */
const sureOf = (shown: Shown, pair: Pair, table: ClueTable): Judgement =>
  judge(shown.shown, shown.specimen.age, {
    table,
    season: shown.specimen.season,
    prior: { [pair.a]: 0.5, [pair.b]: 0.5 }
  });

/** Draws a tree of one of two kinds. In some of them the looks do not tell: to see that is learned too. */
export function askPair(rng: Rng, season: LookSeason, { a, b }: Pair, table: ClueTable = SHIPPED_TABLE): PairQuestion {
  const wanted = rng.uniform() < SHOWN_TOLD;
  const prior = { [a]: 0.5, [b]: 0.5 };
  const isTold = (shown: Shown) => sureOf(shown, { a, b }, table).candidates[0]!.probability >= 1 - TOLD_BELOW;
  let shown = drawShown(rng, season, prior, table);
  for (let tries = 1; tries < MOST_TRIES && isTold(shown) !== wanted; tries++)
    shown = drawShown(rng, season, prior, table);
  return { kind: 'pair', ...shown, choices: [a, b], pair: { a, b } };
}

/**
 * How an answer stands against the looks that were shown, of the two kinds alone.
 * @returns with the judgement among the two and the one of the woods, where other trees stand as well
 */
export function gradePair(
  question: PairQuestion,
  said: SpeciesId | 'lookAgain',
  table: ClueTable = SHIPPED_TABLE
): { readonly answer: PracticeAnswer; readonly ofTwo: Judgement; readonly judgement: Judgement } {
  const { specimen, shown, pair } = question;
  const ofTwo = sureOf(question, pair, table);
  const [first] = ofTwo.candidates;
  const isTold = first!.probability >= 1 - TOLD_BELOW;
  const outcome =
    said === 'lookAgain' ? (isTold ? 'late' : 'sound') : said !== first!.species ? 'wrong' : isTold ? 'sound' : 'early';
  const judgement = judge(shown, specimen.age, { table, season: specimen.season });
  return { answer: { truth: specimen.species, said, outcome, pair }, ofTwo, judgement };
}
