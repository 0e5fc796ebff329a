import type { Rng } from '../math/index.ts';
import { SHIPPED_TABLE, type ClueTable, type Evidence } from './clues.ts';
import { judge, type Judgement, type Prior } from './judge.ts';
import { nextLooks, worth, WORTH_LOOKING_BITS, type Look } from './nextLook.ts';
import { drawSpecimen, type Specimen } from './specimen.ts';
import { sistersOf } from './species.ts';
import { SPECIES, type CharacterId, type LookSeason, type SpeciesId } from './table.ts';

/**
 * Practice in telling trees, on specimens drawn from the clue table with its own noise: broken twigs, odd bark, slips of
 * the eye. It asks what the tree is, or what to look at next.
 */
export type PracticeQuestion = SpeciesQuestion | LookQuestion;

interface Shown {
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

/** What came of a question about a species. */
export interface PracticeAnswer {
  readonly truth: SpeciesId;
  /** null for "can't tell yet" */
  readonly said: SpeciesId | null;
  readonly outcome: Outcome;
}

/**
 * right: so it is; honest: the clues settle nothing, and that was said; fair: the clues do point there, the tree was an
 * odd one; wrong: the clues point elsewhere.
 */
export type Outcome = 'right' | 'honest' | 'fair' | 'wrong';

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

/** Draws a trunk whose species is to be named from its looks, for practice. @param season of the looks */
export function askSpecies(rng: Rng, season: LookSeason, options: PracticeOptions = {}): SpeciesQuestion {
  const { table = SHIPPED_TABLE } = options;
  const specimen = drawSpecimen(rng, season, { table, prior: practicePrior(options.answers ?? []) });
  const shown = firstLooks(rng, specimen, 3 + Math.floor(rng.uniform() * 3), table);
  const { candidates } = judge(shown, specimen.age, { table, season: specimen.season });
  const others = candidates
    .map((c) => c.species)
    .filter((id) => !sistersOf(specimen.species).includes(id))
    .slice(0, CHOICES - 1);
  const choices = SPECIES.map((s) => s.id).filter((id) => id === specimen.species || others.includes(id));
  return { kind: 'species', specimen, shown, choices };
}

/** Asks what to look at next; null when too little is left to see for a fair choice. */
export function askLook(rng: Rng, season: LookSeason, options: PracticeOptions = {}): LookQuestion | null {
  const { table = SHIPPED_TABLE } = options;
  const specimen = drawSpecimen(rng, season, { table, prior: practicePrior(options.answers ?? []) });
  const shown = firstLooks(rng, specimen, 1 + Math.floor(rng.uniform() * 2), table);
  const left = nextLooks(shown, specimen.age, season, { table });
  const best = left[0];
  if (!best || worth(best) < 5 * WORTH_LOOKING_BITS || left.length < 4) return null;
  const rest = left.slice(1);
  const others = [0, 1, 2].map(() => rest.splice(Math.floor(rng.uniform() * rest.length), 1)[0]!.character);
  const choices = table.characters.map((c) => c.id).filter((id) => id === best.character || others.includes(id));
  return { kind: 'look', specimen, shown, choices };
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

/** How an answer stands against the tree and against the clues that were shown. */
export function gradeSpecies(
  question: SpeciesQuestion,
  said: SpeciesId | null,
  table: ClueTable = SHIPPED_TABLE
): { answer: PracticeAnswer; judgement: Judgement } {
  const { specimen, shown } = question;
  const judgement = judge(shown, specimen.age, { table, season: specimen.season });
  const outcome = ((): Outcome => {
    if (said === null)
      return judgement.verdict === 'lookAgain' || judgement.verdict === 'mapleOpen' ? 'honest' : 'wrong';
    if (sistersOf(specimen.species).includes(said)) return 'right';
    return sistersOf(judgement.candidates[0]!.species).includes(said) ? 'fair' : 'wrong';
  })();
  return { answer: { truth: specimen.species, said, outcome }, judgement };
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
  for (const { truth, said, outcome } of answers) {
    if (said === null || outcome === 'right') continue;
    const [a, b] = [truth, said].sort() as [SpeciesId, SpeciesId];
    pairs.set(`${a}/${b}`, { a, b });
  }
  return [...pairs.values()]
    .map(({ a, b }) => {
      const within = answers.filter(
        ({ truth, said }) => (truth === a || truth === b) && said !== null && (said === a || said === b)
      );
      return { a, b, met: within.length, confused: within.filter(({ truth, said }) => truth !== said).length };
    })
    .sort((x, y) => y.confused / y.met - x.confused / x.met || y.confused - x.confused);
}

/** Draws rare trees more evenly than the woods do, and what was missed more often. */
function practicePrior(answers: readonly PracticeAnswer[]): Prior {
  return Object.fromEntries(
    SPECIES.map(({ id, regionalShare }) => {
      const misses = answers.filter((a) => a.outcome === 'wrong' && (a.truth === id || a.said === id)).length;
      return [id, regionalShare ** EVENNESS * (1 + MISS_WEIGHT * Math.min(misses, 5))];
    })
  );
}
