import { CHARACTERS, characterById, type AgeClass, type Character, type CharacterId } from './characters.ts';
import { isMaple, SPECIES, speciesById, type SapClass, type SpeciesId } from './species.ts';

/** What was seen: a state for each character looked at. Characters left out were not seen or could not be told. */
export type Evidence = Readonly<Partial<Record<CharacterId, string>>>;

export type Verdict = 'settled' | 'mapleOpen' | 'lookAgain' | 'notMaple';

/** A verdict needs at least this probability. */
export const SETTLED_AT = 0.95;
/** ... and at least this one under a flat prior, so that no maple-rich stand settles a tree by itself. */
export const FLAT_PRIOR_AT = 0.9;
/** All weak clues together may shift the odds between any two species by no more than this factor. */
export const WEAK_CLUES_CAP = 2;
/** A strong clue separates a maple from a look-alike when it is this many times as likely on the maple. */
export const SEPARATES_AT = 3;
/**
 * How much a further character of the same block adds, against an independent one. Working assumption: bark plates and
 * the rub test, or bud shape and colour, are two looks at much the same thing.
 */
export const SAME_BLOCK_WEIGHT = 0.6;

export interface Candidate {
  readonly species: SpeciesId;
  readonly probability: number;
}

/** One clue's word on the leading candidate and its rival. */
export interface ClueReason {
  readonly character: CharacterId;
  readonly state: string;
  /** how many times as likely the clue is on the first candidate as on the rival */
  readonly ratio: number;
  /** the clue speaks against the leading candidate itself: fewer than one in ten of its kind show it */
  readonly contradicts: boolean;
}

export interface Judgement {
  readonly candidates: readonly Candidate[];
  readonly pMaple: number;
  readonly verdict: Verdict;
  /** what the verdict rests on or what keeps it open */
  readonly because: string;
  /** the next candidate that would be treated otherwise: the one the clues are weighed against */
  readonly rival: SpeciesId;
  readonly reasons: readonly ClueReason[];
  /** how far the first candidate leads the rival, in words */
  readonly lead: string;
}

/** Shares of species in a stand, summing to about one. */
export type Prior = Readonly<Partial<Record<SpeciesId, number>>>;

export const REGIONAL_PRIOR: Prior = Object.fromEntries(SPECIES.map((s) => [s.id, s.regionalShare]));

/**
 * A prior from the stand's own settled trees, smoothed with the regional shares as if `weight` more trees had been
 * settled in their proportion.
 */
export function standPrior(settled: Readonly<Partial<Record<SpeciesId, number>>>, weight = 20): Prior {
  const regional = SPECIES.reduce((sum, s) => sum + s.regionalShare, 0);
  const counted = Object.values(settled).reduce((sum, n) => sum + n, 0);
  return Object.fromEntries(
    SPECIES.map((s) => [s.id, ((settled[s.id] ?? 0) + (weight * s.regionalShare) / regional) / (counted + weight)])
  );
}

/** P(state | species), with the character's reliability mixed in. */
export function likelihood(character: Character, state: string, species: SpeciesId): number {
  const even = 1 / character.states.length;
  const shares = character.seen[species];
  const seen = shares ? (shares[state] ?? 0) : even;
  return character.reliability * seen + (1 - character.reliability) * even;
}

/**
 * The standing of all species after what was seen. The order of the clues does not matter; clues that do not hold for
 * the age class are left out.
 */
export function judge(evidence: Evidence, age: AgeClass, prior: Prior = REGIONAL_PRIOR): Judgement {
  const clues = usableClues(evidence, age);
  const logs = logLikelihoods(clues);
  const candidates = posterior(logs, (id) => prior[id] ?? 0);
  const flat = posterior(logs, () => 1);
  const pMaple = mapleShare(candidates);
  const first = candidates[0]!;
  const rival = candidates.find((c) => !sistersOf(first.species).includes(c.species))!;
  const reasons = clues.map(({ character, state }): ClueReason => {
    const own = likelihood(character, state, first.species);
    return {
      character: character.id,
      state,
      ratio: own / likelihood(character, state, rival.species),
      contradicts: character.strength !== 'weak' && own < 0.1
    };
  });
  const { verdict, because } = decide(clues, candidates, flat, pMaple, reasons);
  return { candidates, pMaple, verdict, because, rival: rival.species, reasons, lead: oddsInWords(first, rival) };
}

interface Clue {
  readonly character: Character;
  readonly state: string;
}

function usableClues(evidence: Evidence, age: AgeClass): Clue[] {
  return CHARACTERS.filter((c) => c.age === null || c.age === age).flatMap((character) => {
    const state = evidence[character.id];
    return state !== undefined && character.states.some((s) => s.id === state) ? [{ character, state }] : [];
  });
}

/** log P(all clues | species): blocks tempered, weak clues capped together. */
function logLikelihoods(clues: readonly Clue[]): Map<SpeciesId, number> {
  const strong = clues.filter((clue) => clue.character.strength !== 'weak');
  const weak = clues.filter((clue) => clue.character.strength === 'weak');
  const blocks = new Map<string, Clue[]>();
  for (const clue of strong) {
    const key = clue.character.block ?? clue.character.id;
    blocks.set(key, [...(blocks.get(key) ?? []), clue]);
  }
  const result = new Map<SpeciesId, number>(SPECIES.map((s) => [s.id, 0]));
  for (const block of blocks.values()) {
    // n looks at one thing count as 1 + 0.6 (n - 1) independent ones, spread evenly over them.
    const temper = (1 + SAME_BLOCK_WEIGHT * (block.length - 1)) / block.length;
    for (const { id } of SPECIES) {
      const sum = block.reduce((total, c) => total + Math.log(likelihood(c.character, c.state, id)), 0);
      result.set(id, result.get(id)! + temper * sum);
    }
  }
  if (weak.length > 0) {
    const sums = SPECIES.map(({ id }) => weak.reduce((t, c) => t + Math.log(likelihood(c.character, c.state, id)), 0));
    const range = Math.max(...sums) - Math.min(...sums);
    const scale = Math.min(1, Math.log(WEAK_CLUES_CAP) / Math.max(range, 1e-12));
    SPECIES.forEach(({ id }, i) => result.set(id, result.get(id)! + scale * sums[i]!));
  }
  return result;
}

function posterior(logs: Map<SpeciesId, number>, prior: (id: SpeciesId) => number): Candidate[] {
  const top = Math.max(...logs.values());
  const weights = SPECIES.map(({ id }) => ({ id, weight: prior(id) * Math.exp(logs.get(id)! - top) }));
  const total = weights.reduce((sum, w) => sum + w.weight, 0);
  return weights
    .map(({ id, weight }) => ({ species: id, probability: total > 0 ? weight / total : 1 / SPECIES.length }))
    .sort((a, b) => b.probability - a.probability);
}

function mapleShare(candidates: readonly Candidate[]): number {
  return candidates.reduce((sum, c) => sum + (isMaple(c.species) ? c.probability : 0), 0);
}

function decide(
  clues: readonly Clue[],
  candidates: readonly Candidate[],
  flat: readonly Candidate[],
  pMaple: number,
  reasons: readonly ClueReason[]
): { verdict: Verdict; because: string } {
  const first = candidates[0]!;
  const name = speciesById(first.species).name;
  const gate = clues.find((clue) => clue.character.id === 'arrangement')?.state;
  const strong = clues.filter((clue) => clue.character.strength === 'strong');
  if (clues.length === 0)
    return { verdict: 'lookAgain', because: 'Nothing has been looked at yet. Start with the branching.' };
  if (pMaple <= 1 - SETTLED_AT && 1 - mapleShare(flat) >= FLAT_PRIOR_AT && (gate !== undefined || strong.length > 0))
    return {
      verdict: 'notMaple',
      because:
        first.probability >= SETTLED_AT
          ? `Everything points to ${name}.`
          : gate === 'alternate'
            ? 'Alternate twigs: no maple has them. Which other tree it is stays open.'
            : 'It is no maple. Which other tree it is stays open.'
    };
  const odd = reasons.find((reason) => reason.contradicts);
  if (odd && first.probability < SETTLED_AT) {
    const character = characterById(odd.character);
    const state = character.states.find((s) => s.id === odd.state)!;
    return {
      verdict: 'lookAgain',
      because: `The clues disagree: "${state.label.toLowerCase()}" is rare on ${name}. Look again at ${character.name.toLowerCase()}.`
    };
  }
  if (gate !== 'opposite')
    return {
      verdict: 'lookAgain',
      because: gate
        ? 'Alternate twigs speak against every maple. Look at several twigs.'
        : 'The branching has not been seen. Without it nothing is settled.'
    };
  const separating = separatingClues(strong, candidates);
  if (!separating)
    return {
      verdict: 'lookAgain',
      because: 'Ash, horse-chestnut and dogwood have opposite twigs too. Look at the buds or the bark.'
    };
  if (isMaple(first.species) && first.probability >= SETTLED_AT && withSisters(flat, first.species) >= FLAT_PRIOR_AT)
    return { verdict: 'settled', because: `Opposite twigs, with ${separating}, leave hardly anything but ${name}.` };
  if (pMaple >= SETTLED_AT && mapleShare(flat) >= FLAT_PRIOR_AT)
    return {
      verdict: 'mapleOpen',
      because: 'A maple for certain; which one stays open. It can be tapped; settle the species in leaf.'
    };
  return {
    verdict: 'lookAgain',
    because: 'The clues so far fit a maple and a look-alike. One more strong clue is needed.'
  };
}

/**
 * Sugar and black maple are treated as one by many botanists and are tapped alike; no winter clue tells them apart for
 * certain. Under the flat prior they count together, or nothing could ever be settled as sugar maple before summer.
 */
const SISTERS: readonly SpeciesId[] = ['sugarMaple', 'blackMaple'];

function sistersOf(species: SpeciesId): readonly SpeciesId[] {
  return SISTERS.includes(species) ? SISTERS : [species];
}

function withSisters(candidates: readonly Candidate[], species: SpeciesId): number {
  const group = sistersOf(species);
  return candidates.reduce((sum, c) => sum + (group.includes(c.species) ? c.probability : 0), 0);
}

/**
 * The strong clues that tell the leading maple from the opposite look-alikes, by name; null while one of the look-alikes
 * is not told apart by any of them.
 */
function separatingClues(strong: readonly Clue[], candidates: readonly Candidate[]): string | null {
  const maple = candidates.find((c) => isMaple(c.species))!.species;
  const separates = ({ character, state }: Clue, other: SpeciesId) =>
    likelihood(character, state, maple) >= SEPARATES_AT * likelihood(character, state, other);
  const used = new Set<string>();
  for (const lookAlike of SPECIES.filter((s) => s.opposite && s.sap === 'none')) {
    const clue = strong.find((c) => separates(c, lookAlike.id));
    if (!clue) return null;
    used.add(clue.character.name.toLowerCase());
  }
  return [...used].join(' and ');
}

/** "about 12 times as likely as red maple" */
function oddsInWords(first: Candidate, second: Candidate): string {
  const ratio = first.probability / Math.max(second.probability, 1e-9);
  const other = speciesById(second.species).name;
  if (ratio < 1.5) return `hardly more likely than ${other}`;
  if (ratio > 200) return `far more likely than ${other}`;
  return `about ${ratio < 10 ? Math.round(ratio) : Math.round(ratio / 5) * 5} times as likely as ${other}`;
}

/** A likelihood ratio in words, for the reasons under a verdict. */
export function ratioInWords(
  ratio: number
): 'speaks strongly for it' | 'speaks for it' | 'says little' | 'speaks against it' | 'speaks strongly against it' {
  if (ratio >= 8) return 'speaks strongly for it';
  if (ratio >= 1.8) return 'speaks for it';
  if (ratio > 1 / 1.8) return 'says little';
  if (ratio > 1 / 8) return 'speaks against it';
  return 'speaks strongly against it';
}

/** What a verdict allows. */
export function verdictAllows(verdict: Verdict, sap: SapClass | null): string {
  switch (verdict) {
    case 'settled':
      return sap === 'sweet'
        ? 'Tap by size: sweet sap, the least to boil.'
        : 'Tap by size: a maple with less sugar, more to boil.';
    case 'mapleOpen':
      return 'Tap by size; mark it for a visit in leaf.';
    case 'lookAgain':
      return 'Do not drill yet. Look again, or wait for the leaves.';
    case 'notMaple':
      return 'Leave it untapped.';
  }
}
