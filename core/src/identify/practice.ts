import type { Rng } from '../math/index.ts';
import { SHIPPED_TABLE, type ClueTable, type Evidence } from './clues.ts';
import { judge, type Judgement, type Prior } from './judge.ts';
import type { Verdict } from './standing.ts';
import { nextLooks, worth, WORTH_LOOKING_BITS, type Look } from './nextLook.ts';
import { drawSpecimen, type Specimen } from './specimen.ts';
import { isMaple, sistersOf } from './species.ts';
import { SPECIES, type CharacterId, type LookSeason, type SpeciesId } from './table.ts';

/**
 * Practice in telling trees, on specimens drawn from the clue table with its own noise: broken twigs, odd bark, slips of
 * the eye. It asks what the tree is, or what to look at next.
 */
export type PracticeQuestion = SpeciesQuestion | LookQuestion;

/** A tree, and what was seen of it. */
export interface Shown {
  readonly specimen: Specimen;
  /** the clues that are shown */
  readonly shown: Evidence;
}

export interface SpeciesQuestion extends Shown {
  readonly kind: 'species';
  readonly choices: readonly SpeciesId[];
}

export interface LookQuestion extends Shown {
  readonly kind: 'look';
  readonly choices: readonly CharacterId[];
}

/** What can be said of a tree, beside one of its species. */
export const PRACTICE_WORDS = ['mapleOpen', 'notMaple', 'lookAgain'] as const;
export type PracticeWord = (typeof PRACTICE_WORDS)[number];
export type PracticeSaid = SpeciesId | PracticeWord;

/** What came of a question about a tree. */
export interface PracticeAnswer {
  readonly truth: SpeciesId;
  readonly said: PracticeSaid;
  readonly outcome: Outcome;
  /** the two kinds of the lesson that it was asked in */
  readonly pair?: { readonly a: SpeciesId; readonly b: SpeciesId };
}

/**
 * Held against what the clues allow to say, as in the woods, and not against what the tree turns out to be. sound: as much as they
 * allow; early: more than they allow, lucky or not; late: less; wrong: they point elsewhere.
 */
export type Outcome = 'sound' | 'early' | 'late' | 'wrong';

export interface PracticeOptions {
  readonly table?: ClueTable;
  /** what was answered so far: species that were missed come up more often */
  readonly answers?: readonly PracticeAnswer[];
}

/** Practice draws common and rare trees more evenly than the woods do. */
const EVENNESS = 0.5;
/** A miss makes a species come up this much more often. */
const MISS_WEIGHT = 1;
/** So many names to choose from are offered. */
const CHOICES = 5;
/** How often a weak clue is shown beside the others. */
const WEAK_CLUE_SHOWN = 0.3;
/** A look this near to the best one counts as well chosen. */
export const GOOD_LOOK = 0.8;

/** What the clues of a question come to: each is drawn as often, whatever the woods hold. */
const ASKED: Readonly<Record<Verdict, number>> = { settled: 0.3, notMaple: 0.25, mapleOpen: 0.2, lookAgain: 0.25 };
/** So many trees are drawn at most until one has clues of the kind that is wanted. */
const MOST_TRIES = 60;

/**
 * Draws a tree of which is to be said what its looks allow. Whoever always names something, and whoever never does, is wrong in
 * most of them: what the clues come to is drawn first.
 * @param season of the looks
 */
export function askSpecies(rng: Rng, season: LookSeason, options: PracticeOptions = {}): SpeciesQuestion {
  const wanted = drawn(rng, ASKED);
  let question = drawQuestion(rng, season, options);
  for (let tries = 1; tries < MOST_TRIES && question.verdict !== wanted; tries++)
    question = drawQuestion(rng, season, options);
  const { specimen, shown, choices } = question;
  return { kind: 'species', specimen, shown, choices };
}

/** A tree of those that the prior holds, and what somebody has seen of it after some looks. */
export function drawShown(rng: Rng, season: LookSeason, prior: Prior, table: ClueTable): Shown {
  const specimen = drawSpecimen(rng, season, { table, prior });
  return { specimen, shown: firstLooks(rng, specimen, 2 + Math.floor(rng.uniform() * 5), table) };
}

function drawQuestion(rng: Rng, season: LookSeason, options: PracticeOptions) {
  const { table = SHIPPED_TABLE } = options;
  const { specimen, shown } = drawShown(rng, season, practicePrior(options.answers ?? []), table);
  const { candidates, verdict } = judge(shown, specimen.age, { table, season: specimen.season });
  const others = candidates
    .map((c) => c.species)
    .filter((id) => !sistersOf(specimen.species).includes(id))
    .slice(0, CHOICES - 1);
  const choices = SPECIES.map((s) => s.id).filter((id) => id === specimen.species || others.includes(id));
  return { specimen, shown, choices, verdict };
}

/** One of several, each as often as its share. */
function drawn<T extends string>(rng: Rng, shares: Readonly<Record<T, number>>): T {
  let left = rng.uniform();
  const all = Object.entries(shares) as [T, number][];
  for (const [each, share] of all) {
    left -= share;
    if (left < 0) return each;
  }
  return all.at(-1)![0];
}

/** Asks what to look at next; null when too little is left to see for a fair choice. */
export function askLook(rng: Rng, season: LookSeason, options: PracticeOptions = {}): LookQuestion | null {
  const { table = SHIPPED_TABLE } = options;
  const specimen = drawSpecimen(rng, season, { table, prior: practicePrior(options.answers ?? []) });
  const shown = firstLooks(rng, specimen, 1 + Math.floor(rng.uniform() * 2), table);
  return looksFrom(rng, { specimen, shown }, table);
}

/** What somebody has seen after some looks: the branching, twigs or bark as they caught the eye, now and then a weak clue. */
function firstLooks(rng: Rng, specimen: Specimen, looks: number, table: ClueTable): Evidence {
  const seen = table.visible(specimen.age, specimen.season).filter((c) => specimen.seen[c.id] !== undefined);
  const strong = shuffled(
    rng,
    seen.filter((c) => c.strength === 'strong')
  );
  const weak =
    rng.uniform() < WEAK_CLUE_SHOWN
      ? shuffled(
          rng,
          seen.filter((c) => c.strength === 'weak')
        ).slice(0, 1)
      : [];
  const gate = seen.filter((c) => c.strength === 'gate');
  return Object.fromEntries(
    [...gate, ...strong.slice(0, looks - gate.length), ...weak].map((c) => [c.id, specimen.seen[c.id]!])
  );
}

/** Fisher and Yates 1938. */
function shuffled<T>(rng: Rng, values: readonly T[]): T[] {
  const result = [...values];
  for (let i = result.length - 1; i > 0; i--) {
    const j = Math.floor(rng.uniform() * (i + 1));
    [result[i], result[j]] = [result[j]!, result[i]!];
  }
  return result;
}

/** How an answer stands against the clues that were shown. */
export function gradeSpecies(
  question: SpeciesQuestion,
  said: PracticeSaid,
  table: ClueTable = SHIPPED_TABLE
): { answer: PracticeAnswer; judgement: Judgement } {
  const { specimen, shown } = question;
  const judgement = judge(shown, specimen.age, { table, season: specimen.season });
  return { answer: { truth: specimen.species, said, outcome: outcomeOf(said, judgement) }, judgement };
}

/** A species that the clues give less is not to be thought of. */
const PLAUSIBLE = 0.05;

function outcomeOf(said: PracticeSaid, { verdict, pMaple, candidates }: Judgement): Outcome {
  if (said === 'lookAgain') return verdict === 'lookAgain' ? 'sound' : 'late';
  if (said === 'mapleOpen') {
    if (verdict === 'mapleOpen') return 'sound';
    if (verdict === 'settled') return 'late';
    return verdict === 'lookAgain' && pMaple >= 0.5 ? 'early' : 'wrong';
  }
  if (said === 'notMaple') {
    if (verdict === 'notMaple') return 'sound';
    return verdict === 'lookAgain' && pMaple < 0.5 ? 'early' : 'wrong';
  }
  const meant = sistersOf(said);
  const share = candidates.reduce((sum, c) => sum + (meant.includes(c.species) ? c.probability : 0), 0);
  if (verdict === 'settled') return meant.includes(candidates[0]!.species) ? 'sound' : 'wrong';
  if (share < PLAUSIBLE || (verdict === 'mapleOpen' && !isMaple(said))) return 'wrong';
  if (verdict === 'notMaple' && !isMaple(said)) return share >= 0.5 ? 'sound' : 'early';
  return verdict === 'notMaple' ? 'wrong' : 'early';
}

/** The looks that somebody may choose from before a tree; null where there is no fair choice. */
export function looksFrom(rng: Rng, { specimen, shown }: Shown, table: ClueTable = SHIPPED_TABLE): LookQuestion | null {
  const left = nextLooks(shown, specimen.age, specimen.season, { table });
  const best = left[0];
  if (!best || worth(best) < 5 * WORTH_LOOKING_BITS || left.length < 4) return null;
  const rest = left.slice(1);
  const others = [0, 1, 2].map(() => rest.splice(Math.floor(rng.uniform() * rest.length), 1)[0]!.character);
  const choices = table.characters.map((c) => c.id).filter((id) => id === best.character || others.includes(id));
  return { kind: 'look', specimen, shown, choices };
}

/** How well a look was chosen: all looks that were offered, best first, and whether the chosen one is near the best. */
export function gradeLook(
  question: LookQuestion,
  chosen: CharacterId,
  table: ClueTable = SHIPPED_TABLE
): { good: boolean; looks: readonly Look[] } {
  const { specimen, shown } = question;
  const all = nextLooks(shown, specimen.age, specimen.season, { table });
  const looks = all.filter((look) => question.choices.includes(look.character));
  const own = looks.find((look) => look.character === chosen);
  return { good: own !== undefined && worth(own) >= GOOD_LOOK * worth(looks[0]!), looks };
}

const isSpecies = (said: PracticeSaid): said is SpeciesId => !(PRACTICE_WORDS as readonly string[]).includes(said);

/** Two species and how often one was taken for the other. */
export interface ConfusionPair {
  readonly a: SpeciesId;
  readonly b: SpeciesId;
  /** times one of the two was the tree and somebody named one of the two */
  readonly met: number;
  readonly confused: number;
}

/** The score by confusion pair, the worst first. Trees never taken for another make no pair. */
export function confusionPairs(answers: readonly PracticeAnswer[]): ConfusionPair[] {
  const pairs = new Map<string, { a: SpeciesId; b: SpeciesId }>();
  for (const { truth, said } of answers) {
    if (!isSpecies(said) || sistersOf(truth).includes(said)) continue;
    const [a, b] = [truth, said].sort() as [SpeciesId, SpeciesId];
    pairs.set(`${a}/${b}`, { a, b });
  }
  return [...pairs.values()]
    .map(({ a, b }) => {
      const within = answers.filter(({ truth, said }) => (truth === a || truth === b) && (said === a || said === b));
      return { a, b, met: within.length, confused: within.filter(({ truth, said }) => truth !== said).length };
    })
    .sort((x, y) => y.confused / y.met - x.confused / x.met || y.confused - x.confused);
}

/** Draws rare trees more evenly than the woods do, and what was missed more often. */
function practicePrior(answers: readonly PracticeAnswer[]): Prior {
  return Object.fromEntries(
    SPECIES.map(({ id, regionalShare }) => {
      const misses = answers.filter(
        (a) => (a.outcome === 'wrong' || a.outcome === 'early') && (a.truth === id || a.said === id)
      ).length;
      return [id, regionalShare ** EVENNESS * (1 + MISS_WEIGHT * Math.min(misses, 5))];
    })
  );
}
