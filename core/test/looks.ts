import {
  drawSpecimen,
  judge,
  nextLooks,
  SHIPPED_TABLE,
  speciesById,
  worth,
  WORTH_LOOKING_BITS,
  type CharacterId,
  type Evidence,
  type LookSeason,
  type Specimen,
  type Verdict
} from '../src/identify/index.ts';
import { seededRng } from '../src/math/index.ts';

/** The order in which the trade goes through the clues: branching, twigs and buds, bark, weak clues and ground, leaves. */
const TRADE_ORDER: readonly CharacterId[] = [
  'arrangement',
  'twigStoutness',
  'budShape',
  'budColour',
  'twigColour',
  'budGrouping',
  'twigSmell',
  'milkySap',
  'barkYoung',
  'barkGrown',
  'barkOld',
  'rub',
  'barkTone',
  'lichen',
  'staining',
  'elbows',
  'oldTapholes',
  'ground',
  'leafForm',
  'leafNotch',
  'leafMargin',
  'leafUnderside',
  'heldLeaves',
  'keysHanging',
  'keys'
];

export interface Walk {
  /** mean number of looks to a tree */
  readonly looks: number;
  /** share of trees whose verdict allows just what may be done with them */
  readonly right: number;
  readonly wrong: number;
}

/** Identifies drawn specimens, asking by next best look or in the trade's order, until there is a verdict. */
export function identifyMany(how: 'best' | 'trade', season: LookSeason, specimens: number, seed: number): Walk {
  const rng = seededRng(seed);
  const known = new Map<string, CharacterId | null>();
  let [looks, right, wrong] = [0, 0, 0];
  for (let i = 0; i < specimens; i++) {
    const specimen = drawSpecimen(rng, season);
    const walk = identify(specimen, how === 'best' ? bestNext(known) : tradeNext);
    looks += walk.looks;
    const outcome = grade(specimen, walk.seen, walk.verdict);
    if (outcome === true) right += 1;
    else if (outcome === false) wrong += 1;
  }
  return { looks: looks / specimens, right: right / specimens, wrong: wrong / specimens };
}

type Next = (specimen: Specimen, seen: Evidence, skipped: readonly CharacterId[]) => CharacterId | null;

function identify(specimen: Specimen, next: Next) {
  const seen: Partial<Record<CharacterId, string>> = {};
  const skipped: CharacterId[] = [];
  for (let looks = 0; ; looks++) {
    const { verdict } = judge(seen, specimen.age, { season: specimen.season });
    const character = verdict === 'lookAgain' ? next(specimen, seen, skipped) : null;
    if (!character) return { looks, seen, verdict };
    const state = specimen.seen[character];
    if (state === undefined) skipped.push(character);
    else seen[character] = state;
  }
}

const tradeNext: Next = ({ age, season }, seen, skipped) =>
  TRADE_ORDER.find(
    (id) =>
      seen[id] === undefined && !skipped.includes(id) && SHIPPED_TABLE.visible(age, season).some((c) => c.id === id)
  ) ?? null;

/** The same trees come up again and again: what was worked out once is kept. */
function bestNext(known: Map<string, CharacterId | null>): Next {
  return ({ age, season }, seen, skipped) => {
    const key = JSON.stringify([age, season, Object.entries(seen).sort(), [...skipped].sort()]);
    let next = known.get(key);
    if (next === undefined) {
      const best = nextLooks(seen, age, season, { skipped })[0];
      next = best && worth(best) >= WORTH_LOOKING_BITS ? best.character : null;
      known.set(key, next);
    }
    return next;
  };
}

/** true right, false wrong, null left open. */
function grade({ species, age, season }: Specimen, seen: Evidence, verdict: Verdict): boolean | null {
  const { sap } = speciesById(species);
  switch (verdict) {
    case 'settled':
      return speciesById(judge(seen, age, { season }).candidates[0]!.species).sap === sap;
    case 'mapleOpen':
      return sap !== 'none';
    case 'notMaple':
      return sap === 'none';
    case 'lookAgain':
      return null;
  }
}
