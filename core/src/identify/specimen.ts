import type { Rng } from '../math/index.ts';
import { SHIPPED_TABLE, showing, type ClueTable, type Evidence } from './clues.ts';
import { REGIONAL_PRIOR, type Prior } from './judge.ts';
import { SPECIES, type AgeClass, type Character, type CharacterId, type LookSeason, type SpeciesId } from './table.ts';

/** A tree drawn from the clue table: what it is, and what an honest look at each character would report. */
export interface Specimen {
  readonly species: SpeciesId;
  readonly age: AgeClass;
  readonly season: LookSeason;
  /**
   * Every character that can be seen on it this season, with broken twigs and odd bark among them. Some are missing: a
   * plain blade has no notch, and not every tree bears seed.
   */
  readonly seen: Evidence;
}

/**
 * Draws a specimen. The noise is the table's own: atypical trees by the shares, slips and broken twigs by the
 * reliability.
 */
export function drawSpecimen(
  rng: Rng,
  season: LookSeason,
  { prior = REGIONAL_PRIOR, table = SHIPPED_TABLE }: { prior?: Prior; table?: ClueTable } = {}
): Specimen {
  const species = draw(
    SPECIES.map((s) => s.id),
    (id) => prior[id] ?? 0,
    rng
  );
  const age = draw<AgeClass>(['young', 'grown', 'old'], (a) => ({ young: 0.25, grown: 0.55, old: 0.2 })[a], rng);
  const seen: Partial<Record<CharacterId, string>> = {};
  for (const character of table.visible(age, season))
    if (
      (character.strength === 'weak' || character.seen[species]) &&
      rng.uniform() < (character.found ?? 1) * showing(character, species, season)
    )
      seen[character.id] = report(table, character, species, rng);
  return { species, age, season, seen };
}

/** What one honest look at a character reports. */
function report(table: ClueTable, character: Character, species: SpeciesId, rng: Rng): string {
  return draw(
    character.states.map((s) => s.id),
    (state) => table.likelihood(character, state, species),
    rng
  );
}

function draw<T>(values: readonly T[], weight: (value: T) => number, rng: Rng): T {
  let left = rng.uniform() * values.reduce((sum, value) => sum + weight(value), 0);
  for (const value of values) if ((left -= weight(value)) < 0) return value;
  return values.at(-1)!;
}
