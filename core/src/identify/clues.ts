import {
  CHARACTERS,
  SPECIES,
  type AgeClass,
  type Character,
  type CharacterId,
  type CharacterStrength,
  type LookSeason,
  type SpeciesId
} from './table.ts';

/** What was seen: a state for each character looked at. Characters left out were not seen or could not be told. */
export type Evidence = Readonly<Partial<Record<CharacterId, string>>>;

/** What a bush has changed in the shares of the clue table: per cent by character, species and state. */
export type Adjustments = Readonly<
  Partial<Record<CharacterId, Readonly<Partial<Record<SpeciesId, Readonly<Record<string, number>>>>>>>
>;

/** One character's state, ready to be counted. */
export interface Clue {
  readonly character: Character;
  readonly state: string;
  /** how far it may be trusted here: what may come from a neighbour is a weak clue, whatever its character */
  readonly strength: CharacterStrength;
  /** log P(state | species), in the order of SPECIES */
  readonly logs: Float64Array;
  /** how far the clue parts the species at its best: the range of `logs` */
  readonly range: number;
}

/**
 * When the buds swell, those of every tree grow plump and redden: their shape and colour are trusted this much of their
 * usual reliability. Working assumption.
 */
export const SWOLLEN_TRUST = 0.5;
const BLURRED_BY_SWELLING: readonly CharacterId[] = ['budShape', 'budColour'];

/** A look made outside the season in which a species shows the thing reports it this often. Working assumption. */
const OUT_OF_SEASON = 0.02;

/** The circumstances of a look. */
export interface LookedAt {
  /** what the year lets one see; null where nobody said */
  readonly season?: LookSeason | null;
  /** the buds were swelling */
  readonly swollen?: boolean;
  /** the twigs, buds and leaves may be a neighbour's */
  readonly beside?: boolean;
}

/** The clue table as one bush uses it: the shipped shares with the bush's own in their place. */
export class ClueTable {
  readonly characters: readonly Character[];
  readonly #byId: ReadonlyMap<CharacterId, Character>;
  readonly #clues = new Map<string, Clue>();
  readonly #slips = new Map<CharacterId, Readonly<Record<string, number>>>();

  constructor(adjustments: Adjustments = {}) {
    this.characters = CHARACTERS.map((character) => {
      const own = adjustments[character.id];
      return own ? { ...character, seen: { ...character.seen, ...own } } : character;
    });
    this.#byId = new Map(this.characters.map((character) => [character.id, character]));
    for (const character of this.characters) this.#slips.set(character.id, slipsOf(character));
  }

  character(id: CharacterId): Character {
    return this.#byId.get(id)!;
  }

  /** Characters that hold for an age class. */
  forAge(age: AgeClass): readonly Character[] {
    return this.characters.filter((character) => character.ages.includes(age));
  }

  /** Characters that hold for an age class and can be seen in a season. */
  visible(age: AgeClass, season: LookSeason): readonly Character[] {
    return this.forAge(age).filter((character) => character.seasons.includes(season));
  }

  /** The clues of a look: known states of characters that hold for the age; context is left out. */
  clues(evidence: Evidence, age: AgeClass, season: LookSeason | null = null): readonly Clue[] {
    const looked = lookedAt(evidence, season);
    return this.forAge(age).flatMap((character) => {
      const state = evidence[character.id];
      return state === undefined || character.strength === 'context' || !character.states.some((s) => s.id === state)
        ? []
        : [this.clue(character, state, looked)];
    });
  }

  clue(character: Character, state: string, { season = null, swollen = false, beside = false }: LookedAt = {}): Clue {
    const blurred = swollen && BLURRED_BY_SWELLING.includes(character.id);
    const strength = beside && character.fromTwigs ? 'weak' : character.strength;
    const when = character.hangs ? season : null;
    const key = `${character.id}/${state}/${blurred}/${strength}/${when}`;
    let clue = this.#clues.get(key);
    if (!clue) {
      const trust = blurred ? SWOLLEN_TRUST : 1;
      const logs = Float64Array.from(SPECIES, ({ id }) =>
        Math.log(this.likelihood(character, state, id, trust) * showing(character, id, when))
      );
      clue = { character, state, strength, logs, range: Math.max(...logs) - Math.min(...logs) };
      this.#clues.set(key, clue);
    }
    return clue;
  }

  /**
   * P(state is reported | species): the share seen, with the character's reliability mixed in. A slip reports what one
   * is used to seeing, so it spreads over the states as they are met in the woods.
   * @param trust share of the usual reliability, 0..1
   */
  likelihood(character: Character, state: string, species: SpeciesId, trust = 1): number {
    const reliability = character.reliability * trust;
    return (
      reliability * shareSeen(character, state, species) + (1 - reliability) * this.#slips.get(character.id)![state]!
    );
  }
}

/** The rarest state still draws this share of the slips before they are evened out. Working assumption. */
const RARE_SLIP = 0.02;

/** How slips spread over a character's states: as the states are met over all species, none of them never. */
function slipsOf(character: Character): Readonly<Record<string, number>> {
  const met = character.states.map(({ id: state }): [string, number] => [
    state,
    RARE_SLIP + SPECIES.reduce((sum, s) => sum + (s.regionalShare / 100) * shareSeen(character, state, s.id), 0)
  ]);
  const total = met.reduce((sum, [, share]) => sum + share, 0);
  return Object.fromEntries(met.map(([state, share]) => [state, share / total]));
}

/** The circumstances of a look, from what was written down with it. */
export function lookedAt(evidence: Evidence, season: LookSeason | null = null): LookedAt {
  return { season, swollen: evidence.budStage === 'swollen', beside: evidence.twigsFrom === 'beside' };
}

/** How much of a character a species shows in a season, 0..1; 1 where the table says nothing, or the season is open. */
export function showing(character: Character, species: SpeciesId, season: LookSeason | null): number {
  const seasons = season === null ? undefined : character.hangs?.[species];
  return seasons ? (seasons[season!] ?? OUT_OF_SEASON) : 1;
}

/** The table as it ships. */
export const SHIPPED_TABLE = new ClueTable();

/** Share of a species that shows a state, 0..1; even where the table says nothing of the species. */
export function shareSeen(character: Character, state: string, species: SpeciesId): number {
  const shares = character.seen[species];
  return shares ? (shares[state] ?? 0) / 100 : 1 / character.states.length;
}

/**
 * What the year lets one see on a day, in a north-country sugarbush. Working assumption; a steward who stands under the
 * tree knows better and may say so.
 * @param isoDate yyyy-mm-dd
 */
export function lookSeasonOf(isoDate: string): LookSeason {
  const day = isoDate.slice(5);
  if (day < '03-20' || day >= '11-06') return 'bare';
  if (day < '05-15') return 'swelling';
  return day < '09-20' ? 'leaf' : 'fall';
}

/** Bark of a trunk thinner than this still looks young. Working assumption. */
export const YOUNG_BELOW_MM = 180;
/** Bark of a trunk thicker than this looks old. Working assumption. */
export const OLD_ABOVE_MM = 550;

/** The age class to begin with. @param dbhMm diameter outside bark, mm; null while unknown */
export function likelyAge(dbhMm: number | null): AgeClass {
  if (dbhMm === null) return 'grown';
  return dbhMm < YOUNG_BELOW_MM ? 'young' : dbhMm > OLD_ABOVE_MM ? 'old' : 'grown';
}

/**
 * A question about judging a trunk by bark of another age, or null. The trade's common slip: an old tree judged by young
 * bark. Vigorous trees stay smooth longer, so it is asked only where size and age lie far apart.
 */
export function questionAge(age: AgeClass, dbhMm: number | null): string | null {
  if (dbhMm === null) return null;
  if (age === 'young' && dbhMm > 2 * YOUNG_BELOW_MM)
    return 'A trunk of this size rarely has young bark still. Judge the bark at breast height, not up in the crown.';
  if (age === 'old' && dbhMm < YOUNG_BELOW_MM)
    return 'A trunk this thin rarely has old bark. Slow trees in deep shade may; look at the base as well.';
  return null;
}
