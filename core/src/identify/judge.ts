import { conflictsIn, type Conflict } from './conflicts.ts';
import { lookedAt, SHIPPED_TABLE, shareSeen, type Clue, type ClueTable, type Evidence } from './clues.ts';
import { sistersOf } from './species.ts';
import {
  indexOf,
  leader,
  logLikelihoods,
  lookAlikesLeft,
  mapleShare,
  posterior,
  rule,
  SEPARATES_AT,
  separatingClues,
  SETTLED_AT,
  type Open,
  type Verdict
} from './standing.ts';
import { LOOK_SEASONS, SPECIES, type AgeClass, type CharacterId, type LookSeason, type SpeciesId } from './table.ts';

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

/** What a verdict rests on, or what keeps a tree open. */
export type Because =
  /** the strong clues that tell the species from every look-alike */
  | { readonly why: 'settled'; readonly species: SpeciesId; readonly clues: readonly CharacterId[] }
  | { readonly why: 'pointsTo'; readonly species: SpeciesId }
  /** no maple; of which kind stays open */
  | { readonly why: 'noMaple'; readonly alternate: boolean }
  | { readonly why: 'conflict'; readonly conflict: Conflict }
  /** a clue that is rare on the leading species */
  | { readonly why: 'odd'; readonly character: CharacterId; readonly state: string; readonly species: SpeciesId }
  /** @param beside the twigs at hand may be a neighbour's */
  | { readonly why: 'nothing'; readonly looked: boolean; readonly beside: boolean }
  | { readonly why: 'mapleButWhat'; readonly inLeaf: boolean }
  /** opposite twigs are these species' too; the characters not seen yet that tell the maple from them, the best first */
  | { readonly why: 'lookAlikes'; readonly others: readonly SpeciesId[]; readonly lookAt: readonly CharacterId[] }
  | { readonly why: 'gateAlternate' | 'gateUnseen' | 'gateBeside' | 'unsure' };

export interface Judgement {
  readonly candidates: readonly Candidate[];
  readonly pMaple: number;
  readonly verdict: Verdict;
  /** what the verdict rests on or what keeps it open */
  readonly because: Because;
  /** the next candidate that would be treated otherwise: the one the clues are weighed against */
  readonly rival: SpeciesId;
  readonly reasons: readonly ClueReason[];
  /** pairs of clues that no tree on the list shows together */
  readonly conflicts: readonly Conflict[];
  /** how many times as likely as the rival the first candidate is */
  readonly lead: number;
  /** the maple whose sap season is ending, since its own buds were seen to swell; null for other trees */
  readonly seasonEndingFor: SpeciesId | null;
}

/** Shares of species in a stand, summing to about one. */
export type Prior = Readonly<Partial<Record<SpeciesId, number>>>;

const REGIONAL_TOTAL = SPECIES.reduce((sum, s) => sum + s.regionalShare, 0);

/** Chance of each species before a look, for a trunk of the region; they add up to 1. */
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
  const { verdict, open } = rule(clues, age, stand, flat);
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
      ? open === 'lookAlikes'
        ? whatExcludes(clues, stand, { evidence, age, season, table })
        : whyOpen(open, { clues, reasons, conflicts, first, season, beside: evidence.twigsFrom === 'beside' })
      : whyRuled(verdict, clues, age, stand),
    rival: rival.species,
    reasons,
    conflicts,
    lead: first.probability / Math.max(rival.probability, 1e-9),
    seasonEndingFor:
      evidence.budStage === 'swollen' && (verdict === 'settled' || verdict === 'mapleOpen') ? first.species : null
  };
}

function whyRuled(verdict: Verdict, clues: readonly Clue[], age: AgeClass, stand: Float64Array): Because {
  const first = leader(stand);
  const species = SPECIES[first]!.id;
  if (verdict === 'settled')
    return { why: 'settled', species, clues: separatingClues(clues, age, stand).map((clue) => clue.character.id) };
  if (stand[first]! >= SETTLED_AT) return { why: 'pointsTo', species };
  return { why: 'noMaple', alternate: clues.some((clue) => clue.state === 'alternate') };
}

/** A clue is counted on to be met when at least this share of the maple shows it. Working assumption. */
const OFTEN_MET = 0.25;

/** Which look-alikes are left, and which looks that can be had would exclude most of them. */
function whatExcludes(
  clues: readonly Clue[],
  stand: Float64Array,
  {
    evidence,
    age,
    season,
    table
  }: {
    readonly evidence: Evidence;
    readonly age: AgeClass;
    readonly season: LookSeason | null;
    readonly table: ClueTable;
  }
): Because {
  const { maple, others } = lookAlikesLeft(clues, age, stand);
  const looked = lookedAt(evidence, season);
  const seasons = season === null ? LOOK_SEASONS : [season];
  const characters = [...new Set(seasons.flatMap((each) => table.visible(age, each)))];
  const tells = characters
    // What is not there on every tree is nothing to send anybody to.
    .filter(({ id, strength, found, hangs }) => strength === 'strong' && evidence[id] === undefined && !found && !hangs)
    .map((character) => {
      const met = character.states
        .map(({ id }) => table.clue(character, id, looked))
        .filter(({ logs }) => Math.exp(logs[maple]!) >= OFTEN_MET);
      const apart = (other: number) => met.some(({ logs }) => logs[maple]! - logs[other]! >= Math.log(SEPARATES_AT));
      return { id: character.id, many: others.filter(apart).length };
    })
    .filter(({ many }) => many > 0)
    .sort((a, b) => b.many - a.many);
  return {
    why: 'lookAlikes',
    others: others.map((other) => SPECIES[other]!.id),
    lookAt: tells.slice(0, 2).map(({ id }) => id)
  };
}

function whyOpen(
  open: Exclude<Open, 'lookAlikes'>,
  seen: {
    readonly clues: readonly Clue[];
    readonly reasons: readonly ClueReason[];
    readonly conflicts: readonly Conflict[];
    readonly first: Candidate;
    readonly season: LookSeason | null;
    readonly beside: boolean;
  }
): Because {
  const { clues, reasons, conflicts, first, season, beside } = seen;
  if (open === 'conflict' && conflicts[0]) return { why: 'conflict', conflict: conflicts[0] };
  const odd = reasons.find((reason) => reason.contradicts);
  if (odd && clues.length > 1 && open !== 'mapleButWhat')
    return { why: 'odd', character: odd.character, state: odd.state, species: first.species };
  switch (open) {
    case 'nothing':
      return { why: 'nothing', looked: clues.length > 0, beside };
    case 'mapleButWhat':
      return { why: 'mapleButWhat', inLeaf: season === 'leaf' };
    case 'conflict':
      return { why: 'unsure' };
    default:
      return { why: open };
  }
}
