import type { Clue, ClueTable, Evidence } from './clues.ts';
import { lookedAt, SHIPPED_TABLE } from './clues.ts';
import { priorWeights, REGIONAL_PRIOR, type Prior } from './judge.ts';
import { logLikelihoods, posterior, rule } from './standing.ts';
import { SPECIES, type AgeClass, type Character, type CharacterId, type LookSeason, type SapClass } from './table.ts';

/** What one more look at a character can be expected to bring. */
export interface Look {
  readonly character: CharacterId;
  /** expected drop in the entropy of the decision (sweet maple, other maple, no maple), bits */
  readonly gainBits: number;
  /** chance that it brings a verdict that is not there yet, 0..1 */
  readonly settles: number;
}

/** How many bits a certain verdict is worth beside the entropy. Chosen by simulation, see docs/decisions.md. */
const VERDICT_WORTH_BITS = 1;
/** A look that promises less than this is not worth the walk round the tree. Chosen by the same simulation. */
export const WORTH_LOOKING_BITS = 0.02;

const CLASSES: readonly SapClass[] = ['sweet', 'other', 'none'];
const CLASS_OF = SPECIES.map((species) => CLASSES.indexOf(species.sap));

export interface LookOptions {
  readonly prior?: Prior;
  readonly table?: ClueTable;
  /** characters that were looked at and could not be told */
  readonly skipped?: readonly CharacterId[];
}

/**
 * The looks that are left, best first: the characters that can be seen this season on bark of this age and were neither
 * seen nor skipped. Each is judged by what it would do to the *decision*: tap as sweet maple, tap as other maple, or leave.
 */
export function nextLooks(
  evidence: Evidence,
  age: AgeClass,
  season: LookSeason,
  { prior = REGIONAL_PRIOR, table = SHIPPED_TABLE, skipped = [] }: LookOptions = {}
): Look[] {
  const clues = table.clues(evidence, age, season);
  const weights = priorWeights(prior);
  const now = standingOf(clues, age, weights);
  const looked = lookedAt(evidence, season);
  return table
    .visible(age, season)
    .filter((c) => c.strength !== 'context' && evidence[c.id] === undefined && !skipped.includes(c.id))
    .map((character) => {
      const met = character.states.map(({ id }) => table.clue(character, id, looked));
      return expected(character, met, now, (clue) => standingOf([...clues, clue], age, weights));
    })
    .sort((a, b) => worth(b) - worth(a));
}

/** The next best look; null when nothing that can be seen this season would change the answer. */
export function nextBestLook(...to: Parameters<typeof nextLooks>): Look | null {
  const best = nextLooks(...to)[0];
  return best && worth(best) >= WORTH_LOOKING_BITS ? best : null;
}

/** What a look is worth, in bits: what it says of the decision, and the verdict that it may bring. */
export function worth(look: Look): number {
  return look.gainBits + VERDICT_WORTH_BITS * look.settles;
}

function expected(
  character: Character,
  met: readonly Clue[],
  now: ReturnType<typeof standingOf>,
  standingAfter: (clue: Clue) => ReturnType<typeof standingOf>
): Look {
  // A state that no candidate shows in this season is not met: such an answer changes nothing.
  let entropyDrop = 0;
  let settles = 0;
  for (const clue of met) {
    let chance = 0;
    for (let i = 0; i < SPECIES.length; i++) chance += now.probabilities[i]! * Math.exp(clue.logs[i]!);
    const after = standingAfter(clue);
    entropyDrop += chance * (now.entropy - after.entropy);
    if (after.done && !now.done) settles += chance;
  }
  const found = character.found ?? 1;
  return {
    character: character.id,
    gainBits: found * Math.max(0, entropyDrop),
    settles: found * settles
  };
}

function standingOf(clues: readonly Clue[], age: AgeClass, weights: readonly number[]) {
  const logs = logLikelihoods(clues, age);
  const probabilities = posterior(logs, weights);
  const { verdict } = rule(clues, age, probabilities, posterior(logs, null));
  return { probabilities, entropy: decisionEntropy(probabilities), done: verdict !== 'lookAgain' };
}

/** Entropy of what is to be done with the tree, bits. */
function decisionEntropy(probabilities: Float64Array): number {
  const classes = [0, 0, 0];
  for (let i = 0; i < probabilities.length; i++) classes[CLASS_OF[i]!]! += probabilities[i]!;
  return classes.reduce((sum, p) => (p > 0 ? sum - p * Math.log2(p) : sum), 0);
}
