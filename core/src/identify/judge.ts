import { conflictsIn, type Conflict } from './conflicts.ts';
import { SHIPPED_TABLE, shareSeen, type Clue, type ClueTable, type Evidence } from './clues.ts';
import { sistersOf, speciesById } from './species.ts';
import {
  indexOf,
  leader,
  logLikelihoods,
  mapleShare,
  posterior,
  rule,
  separatingClues,
  SETTLED_AT,
  type Open,
  type Verdict
} from './standing.ts';
import { SPECIES, type AgeClass, type CharacterId, type LookSeason, type SapClass, type SpeciesId } from './table.ts';

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
  /** pairs of clues that no tree on the list shows together */
  readonly conflicts: readonly Conflict[];
  /** how far the first candidate leads the rival, in words */
  readonly lead: string;
  /** the maple whose sap season is ending, since its own buds were seen to swell; null for other trees */
  readonly seasonEndingFor: SpeciesId | null;
}

/** Shares of species in a stand, summing to about one. */
export type Prior = Readonly<Partial<Record<SpeciesId, number>>>;

const REGIONAL_TOTAL = SPECIES.reduce((sum, s) => sum + s.regionalShare, 0);

export const REGIONAL_PRIOR: Prior = Object.fromEntries(SPECIES.map((s) => [s.id, s.regionalShare / REGIONAL_TOTAL]));

/**
 * A prior from the stand's own settled trees, smoothed with the regional shares as if `weight` more trees had been
 * settled in their proportion.
 */
export function standPrior(settled: Readonly<Partial<Record<SpeciesId, number>>>, weight = 20): Prior {
  const counted = Object.values(settled).reduce((sum, n) => sum + n, 0);
  return Object.fromEntries(
    SPECIES.map((s) => [s.id, ((settled[s.id] ?? 0) + weight * REGIONAL_PRIOR[s.id]!) / (counted + weight)])
  );
}

export interface JudgeOptions {
  readonly prior?: Prior;
  readonly table?: ClueTable;
  /** what the year let one see; null where nobody said */
  readonly season?: LookSeason | null;
}

/** A prior in the order of SPECIES. */
export function priorWeights(prior: Prior): number[] {
  return SPECIES.map(({ id }) => prior[id] ?? 0);
}

/**
 * The standing of all species after what was seen, and the verdict. The order of the clues does not matter; clues that
 * do not hold for the age class, and those that could not be told, change nothing.
 */
export function judge(
  evidence: Evidence,
  age: AgeClass,
  { prior = REGIONAL_PRIOR, table = SHIPPED_TABLE, season = null }: JudgeOptions = {}
): Judgement {
  const clues = table.clues(evidence, age, season);
  const logs = logLikelihoods(clues, age);
  const stand = posterior(logs, priorWeights(prior));
  const flat = posterior(logs, null);
  const conflicts = conflictsIn(clues);
  const { verdict, open } = rule(clues, age, stand, flat, conflicts.length > 0);
  const candidates = SPECIES.map(({ id }, i) => ({ species: id, probability: stand[i]! })).sort(
    (a, b) => b.probability - a.probability
  );
  const first = candidates[0]!;
  const rival = candidates.find((c) => !sistersOf(first.species).includes(c.species))!;
  const reasons = clues.map(({ character, state, strength, logs }): ClueReason => {
    return {
      character: character.id,
      state,
      ratio: Math.exp(logs[indexOf(first.species)]! - logs[indexOf(rival.species)]!),
      contradicts: strength !== 'weak' && shareSeen(character, state, first.species) < 0.1
    };
  });
  return {
    candidates,
    pMaple: mapleShare(stand),
    verdict,
    because: open
      ? whyOpen(open, clues, reasons, conflicts, first, table, { season, beside: evidence.twigsFrom === 'beside' })
      : whyRuled(verdict, clues, age, stand, first.probability),
    rival: rival.species,
    reasons,
    conflicts,
    lead: oddsInWords(first, rival),
    seasonEndingFor:
      evidence.budStage === 'swollen' && (verdict === 'settled' || verdict === 'mapleOpen') ? first.species : null
  };
}

function whyRuled(
  verdict: Verdict,
  clues: readonly Clue[],
  age: AgeClass,
  stand: Float64Array,
  probability: number
): string {
  const name = SPECIES[leader(stand)]!.name;
  if (verdict === 'settled') {
    const names = separatingClues(clues, age, stand).map((clue) => clue.character.name.toLowerCase());
    return `Opposite twigs, with ${listed(names)}, leave hardly anything but ${name}.`;
  }
  if (probability >= SETTLED_AT) return `Everything points to ${name}.`;
  return clues.some((clue) => clue.state === 'alternate')
    ? 'Alternate twigs: no maple has them. Which other tree it is stays open.'
    : 'It is no maple. Which other tree it is stays open.';
}

/** What to do where the twigs at hand may be another tree's. */
const OWN_TWIGS = 'Find a branch or a shoot that grows out of this trunk.';

function whyOpen(
  open: Open,
  clues: readonly Clue[],
  reasons: readonly ClueReason[],
  conflicts: readonly Conflict[],
  first: Candidate,
  table: ClueTable,
  { season, beside }: { readonly season: LookSeason | null; readonly beside: boolean }
): string {
  const begin = beside ? OWN_TWIGS : 'Start with the branching.';
  if (open === 'conflict' && conflicts[0]) return conflictInWords(conflicts[0], table);
  const odd = reasons.find((reason) => reason.contradicts);
  if (odd && clues.length > 1 && open !== 'mapleButWhat') {
    const label = stateLabel(table, odd.character, odd.state);
    return `The clues disagree: “${label}” is rare on ${speciesById(first.species).name}. Look again at ${table.character(odd.character).name.toLowerCase()}.`;
  }
  switch (open) {
    case 'nothing':
      return clues.length === 0
        ? `Nothing has been looked at yet. ${begin}`
        : `Weak clues alone never settle a tree. ${begin}`;
    case 'gateAlternate':
      return 'Alternate twigs speak against every maple. Look at several twigs.';
    case 'gateUnseen':
      return 'The branching has not been seen. Without it nothing is settled.';
    case 'gateBeside':
      return `The twigs seen may belong to a neighbour. ${OWN_TWIGS}`;
    case 'lookAlikes':
      return 'Ash, horse-chestnut, dogwood and some shrubs have opposite twigs too. Look at the buds or the bark.';
    case 'mapleButWhat':
      return season === 'leaf'
        ? 'Almost surely a maple; which one stays open. It can be tapped; look at its leaf to settle the species.'
        : 'Almost surely a maple; which one stays open. It can be tapped; settle the species in leaf.';
    default:
      return 'The clues so far fit a maple and a look-alike. One more strong clue is needed.';
  }
}

/** Two clues that exclude each other, as one would say it. */
export function conflictInWords({ a, b }: Conflict, table: ClueTable = SHIPPED_TABLE): string {
  const of = (clue: { character: CharacterId; state: string }) =>
    `${table.character(clue.character).name.toLowerCase()} “${stateLabel(table, clue.character, clue.state)}”`;
  return `No tree on the list shows ${of(a)} with ${of(b)}. Look again at both.`;
}

function stateLabel(table: ClueTable, character: CharacterId, state: string): string {
  return table
    .character(character)
    .states.find((s) => s.id === state)!
    .label.toLowerCase();
}

function listed(names: readonly string[]): string {
  return names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
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
