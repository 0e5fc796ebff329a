import type { SpeciesId } from '../identify/index.ts';
import { insideBark } from '../measure/index.ts';
import { knownMaple, type TreeRow } from '../records/index.ts';

/** What a visitor is told of a tree. */
export interface ShownTree {
  readonly tag: string;
  /** null for a maple of which kind nobody is sure */
  readonly species: SpeciesId | null;
  /** mm; null where nobody measured it */
  readonly dbhMm: number | null;
  /** years, least and most; null where nobody measured it */
  readonly age: readonly [number, number] | null;
  /** holes of this season: drilled, or else decided */
  readonly holes: number;
  /** has it a hole of this season? */
  readonly isDrilled: boolean;
  /** the season in which it was tapped last before this one; null where it never was, as far as is known */
  readonly lastTapped: number | null;
}

/** What a visitor is told of a bush: nothing of people, and no place on earth. */
export interface ShownBush {
  readonly season: number;
  readonly maples: number;
  readonly tapped: number;
  readonly holes: number;
  /** maples without a hole this season, as far as it is decided */
  readonly without: number;
  /** of maples that bear a hole, now or before, in walking order */
  readonly trees: readonly ShownTree[];
}

/** A tree's rings over its life against those of today, least and most. Working assumption: trees of one size are often decades apart. */
const LIFE_RINGS = [0.7, 1.5] as const;
/** An age that nobody counted is told in steps of so many years. */
const AGE_STEP = 10;

/**
 * How old a tree may be by its thickness and its rings of today: no more than a span, since trees of one size are often decades apart.
 * @param ringMm wood that it lays in a year
 */
export function ageSpan(dbhMm: number, ringMm: number): readonly [number, number] {
  const [wide, narrow] = [LIFE_RINGS[1] * ringMm, LIFE_RINGS[0] * ringMm];
  const years = (ring: number) => AGE_STEP * Math.max(1, Math.round(insideBark(dbhMm) / 2 / ring / AGE_STEP));
  return [years(wide), years(narrow)];
}

/** The lines that a visitor's page is made of. */
export type VisitorRow = Pick<
  TreeRow,
  'tag' | 'tagged' | 'species' | 'verdict' | 'dbhMm' | 'ringMm' | 'decidedTaps' | 'drilled' | 'lastTappedSeason' | 'cut'
>;

/** What a visitor is told of a bush. @param rows standing and fallen trees, in walking order */
export function shownBush(rows: readonly VisitorRow[], season: number): ShownBush {
  const maples = rows.filter((row) => row.cut === null && knownMaple(row));
  const trees = maples.flatMap((row): ShownTree[] => {
    const holes = row.drilled > 0 ? row.drilled : (row.decidedTaps ?? 0);
    if (!row.tagged || (holes === 0 && row.lastTappedSeason === null)) return [];
    return [
      {
        tag: row.tag,
        species: row.verdict === 'settled' ? row.species : null,
        dbhMm: row.dbhMm,
        age: row.dbhMm === null ? null : ageSpan(row.dbhMm, row.ringMm),
        holes,
        isDrilled: row.drilled > 0,
        lastTapped: row.lastTappedSeason !== null && row.lastTappedSeason < season ? row.lastTappedSeason : null
      }
    ];
  });
  const bearing = trees.filter(({ holes }) => holes > 0);
  return {
    season,
    maples: maples.length,
    tapped: bearing.length,
    holes: bearing.reduce((sum, { holes }) => sum + holes, 0),
    without: maples.length - bearing.length,
    trees
  };
}
